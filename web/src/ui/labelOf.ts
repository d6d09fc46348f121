/** The fitter's word for a key; the key itself where there is none. */
export const labelOf = (words: { key: string; label: string }[], key: string): string =>
  words.find((word) => word.key === key)?.label ?? key;
