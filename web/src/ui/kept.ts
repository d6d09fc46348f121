/** What is kept in this browser under a name; nothing where that does not read: it is nobody's words. */
export function kept(name: string): unknown {
  try {
    return JSON.parse(localStorage.getItem(name) ?? "null");
  } catch {
    return null;
  }
}
