/** Accents, apostrophes and punctuation mean nothing to a search: the words as `plain_words` in the database writes them. */
export const searchWords = (search: string): string[] =>
  search
    .slice(0, 200)
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/['’]/g, '')
    .replace(/[\p{Cc}\u2028\u2029\s!-/:-@[-`{-~·–—]+/gu, ' ')
    .split(' ')
    .filter(Boolean)
    .map((w) => w.slice(0, 40))
    .slice(0, 8);
