/**
 * What the browser keeps between visits. Where it may not keep anything, as people can
 * say and some windows do, nothing is kept, and everything works for this window.
 */

/** Return what is kept under a name; null where nothing is. */
export function kept(name: string): string | null {
  try {
    return localStorage.getItem(name);
  } catch {
    return null;
  }
}

/** Keep something under a name, or with null nothing; false where that cannot be. */
export function keep(name: string, value: string | null): boolean {
  try {
    if (value === null) localStorage.removeItem(name);
    else localStorage.setItem(name, value);
    return true;
  } catch {
    return false;
  }
}

/** Return all names under which something is kept, in their order. */
export function keptNames(): readonly string[] {
  try {
    return Object.keys(localStorage).sort();
  } catch {
    return [];
  }
}
