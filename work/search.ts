/** The words of a search: lower case, at most eight of forty characters, control characters and wildcards dropped. */
export const searchWords = (search: string): string[] =>
  search
    .normalize('NFC')
    .toLowerCase()
    .replace(/[\p{Cc}\u2028\u2029%_\\]+/gu, ' ')
    .slice(0, 200)
    .split(/[\s,;·]+/)
    .filter(Boolean)
    .map((w) => w.slice(0, 40))
    .slice(0, 8);
