/** Numbers and times as people read them. */

const DAY_MS = 86_400_000;

/** Say when something was: "just now", "today", "yesterday", "on 3 June". */
export function sayWhen(iso: string, now: Date = new Date()): string {
  if (now.getTime() - new Date(iso).getTime() < 90_000) return "just now";
  const day = sayDay(iso, now);
  return /^\d/.test(day) ? `on ${day}` : day;
}

/** Say on which day something was: "today", "yesterday", "3 June". */
export function sayDay(iso: string, now: Date = new Date()): string {
  const then = new Date(iso);
  const midnight = new Date(now.getFullYear(), now.getMonth(), now.getDate()).getTime();
  if (then.getTime() >= midnight) return "today";
  if (then.getTime() >= midnight - DAY_MS) return "yesterday";
  const sameYear = then.getFullYear() === now.getFullYear();
  return then.toLocaleDateString("en-GB", {
    day: "numeric",
    month: "long",
    ...(sameYear ? {} : { year: "numeric" }),
  });
}

/** Say how many there are of something. */
export function sayCount(count: number, one: string, many = `${one}s`): string {
  return `${count} ${count === 1 ? one : many}`;
}

/** Say a length with at most one decimal. */
export function sayLength(length: number): string {
  return String(Math.round(length * 10) / 10);
}

/** Make a project's name from a day. */
export function nameForToday(now: Date = new Date()): string {
  return `Picture of ${now.toLocaleDateString("en-GB", { day: "numeric", month: "long" })}`;
}
