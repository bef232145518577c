import { parse } from 'csv-parse/browser/esm/sync';
import { letteringLimits } from '#core/artwork/index.ts';

/** Names out of what was pasted or a table: one a line, or the first column; a heading "name" is none. */
export function textsIn(text: string): string[] {
  const rows = (
    parse(text, {
      relax_column_count: true,
      relax_quotes: true,
      skip_empty_lines: true,
      delimiter: [',', ';', '\t'],
      bom: true,
    }) as string[][]
  )
    .map((row) => (row[0] ?? '').normalize('NFC').replace(/\s+/g, ' ').trim().slice(0, letteringLimits.letters))
    .filter((name) => name !== '');
  return /^(names?|numbers?)$/i.test(rows[0] ?? '') ? rows.slice(1) : rows;
}
