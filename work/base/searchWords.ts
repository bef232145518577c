/** Accents, apostrophes and punctuation mean nothing to a search: the words as `plain_words` in the database writes them. */
export function searchWords(search: string): string[] {
  const words = search
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
  // "Ferrule and Sons" is looked for as "Ferrule & Sons" is.
  const telling = words.filter((w) => w !== 'and');
  return telling.length > 0 ? telling : words;
}
