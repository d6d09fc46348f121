/** What is kept in this browser under a name; nothing where that does not read: it is nobody's words. */
export function kept(name: string): unknown {
  try {
    return JSON.parse(localStorage.getItem(name) ?? "null");
  } catch {
    return null;
  }
}

/** The same where it must be an object; nothing where it is none. */
export function keptObject(name: string): object | undefined {
  const found = kept(name);
  return typeof found === "object" && found !== null && !Array.isArray(found) ? found : undefined;
}
