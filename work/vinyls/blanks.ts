import { blankKeys, blanks, type Blank, type BlankKey } from '#core/vinyls/index.ts';

/** The blank of a key; undefined for one nobody knows. */
export const blankOf = (key: string | null): { key: BlankKey; blank: Blank } | undefined => {
  const known = blankKeys.find((k) => k === key);
  return known && { key: known, blank: blanks[known] };
};
