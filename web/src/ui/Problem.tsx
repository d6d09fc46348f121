/** What went wrong, in words; nothing when nothing did. */
export function Problem({ words }: { words: string | undefined }) {
  if (words === undefined) return null;
  return (
    <p className="number-error" role="alert">
      {words}
    </p>
  );
}
