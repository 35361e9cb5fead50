/** What jsdom lacks and React Aria asks for. */

Object.assign(globalThis, {
  CSS: { escape: (name: string) => name.replace(/["\\\]]/g, "\\$&") },
});
