import { escapeFormula } from '#core/catalogue/index.ts';
import { formatSetting, sayStrength, strengthAxis } from '#core/controls/index.ts';
import * as cardStore from '#store/shelf/cards.ts';
import { db } from '#store/base/db.ts';
import { writeCsv } from '#core/tables/index.ts';
import { searchWords } from '#work/base/searchWords.ts';

const headings = [
  'brand',
  'vinyl',
  'type',
  'colour',
  'cutter model',
  'wanted',
  'strength',
  'controls',
  'standing',
  'why',
  'window from',
  'window to',
  'cells',
  'author',
  'licence',
  'version',
  'published',
  'address',
];

/** What a search finds on the shelf as a table for spreadsheets (RFC 4180). */
export async function shelfTable(params: URLSearchParams, home: string): Promise<string> {
  const q = (params.get('q') ?? '').slice(0, 200);
  const rows = await cardStore.newestCards(db(), null, searchWords(q), 2000);
  return writeCsv([
    headings,
    ...rows.map((row) => {
      const { vinyl, model, controls, result } = row.content;
      const axis = strengthAxis(model);
      const { window } = result.summary;
      return [
        vinyl.brand,
        vinyl.name,
        vinyl.type,
        vinyl.colour,
        model.name,
        row.wanted,
        sayStrength(axis, controls.steps[axis.key]!),
        formatSetting(model, controls)
          .map(({ word, value }) => `${word} ${value}`)
          .join('; '),
        row.standing ?? row.content.standing,
        row.why ?? '',
        window ? sayStrength(axis, window.low) : '',
        window ? sayStrength(axis, window.high) : '',
        String(result.evidence.cells),
        row.author,
        row.licence,
        String(row.number),
        row.published_at.toISOString(),
        `${home}/cards/${row.id}`,
      ].map(escapeFormula);
    }),
  ]);
}
