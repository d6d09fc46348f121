import type { Catalogue, Kind } from "../api/types";

/** The kinds of riding as a choice. */
export const kindsOf = (catalogue: Catalogue): { key: Kind; label: string }[] =>
  catalogue.kinds.map(({ kind, word }) => ({ key: kind, label: word }));
