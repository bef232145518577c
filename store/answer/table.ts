import { many, one, type Query } from '#store/base/db.ts';
import type { VinylRow } from '#store/vinyls/vinyls.ts';

/** Columns a table can be sorted by, each with an index behind it; by last use only what is in hand. */
const sortable = { name: 'w.name', type: 'w.type', used: 'm.used_at', made: 'w.made_at' } as const;
export type SortKey = keyof typeof sortable;

export type TableFilter = {
  personId: string;
  /** Only these vinyls, those a search found; all when left out. */
  ids: readonly string[] | undefined;
  /** Only what is in hand; else what everybody may see, too. */
  mine: boolean;
  type: string | undefined;
};

export type TableRow = VinylRow & {
  colours: { name: string; hex: string }[];
  used_at: Date | null;
  created_at: Date;
};

function where({ personId, ids, mine, type }: TableFilter): { text: string; values: unknown[] } {
  const values: unknown[] = [personId];
  const put = (value: unknown) => `$${values.push(value)}`;
  const text = [
    mine ? 'm.vinyl_id is not null' : '(w.open or m.vinyl_id is not null)',
    'm.away_at is null',
    ids && `w.vinyl_id = any(${put(ids)}::uuid[])`,
    type && `w.type = ${put(type)}`,
  ]
    .filter(Boolean)
    .join(' and ');
  return { text, values };
}
const from = `from vinyl_words w left join vinyl_mine m on m.person_id = $1 and m.vinyl_id = w.vinyl_id`;
const fromMine = `from vinyl_mine m join vinyl_words w on w.vinyl_id = m.vinyl_id and m.person_id = $1`;

/** What was never used comes last; the other columns have no gaps, and an index runs the plain way. */
const nulls = ({ by }: { by: SortKey }) => (by === 'used' ? 'nulls last' : '');

/** One page of the table. */
export const tablePage = (
  q: Query,
  filter: TableFilter,
  sort: { by: SortKey; down: boolean },
  offset: number,
  limit: number,
) => {
  const { text, values } = where(filter);
  return many<TableRow>(
    q,
    `with page as (
       select w.vinyl_id, ${sortable[sort.by]} as by, w.name, m.used_at ${filter.mine ? fromMine : from} where ${text}
        order by ${sortable[sort.by]} ${sort.down ? 'desc' : 'asc'} ${nulls(sort)}, w.vinyl_id ${sort.down ? 'desc' : 'asc'}
        limit $${values.length + 1} offset $${values.length + 2})
     select v.id, v.brand, v.name, v.type, v.own_type, t.word as own_word, t.behaviour as own_behaviour, v.behaviour, v.nicknames,
        v.codes, v.sizes, v.note, v.person_id, v.visibility, v.created_at, page.used_at,
        first.id as colour_id, first.name as colour, first.hex,
        coalesce((select jsonb_agg(jsonb_build_object('name', c.name, 'hex', c.hex) order by c.id) from colour c
          where c.vinyl_id = v.id and c.retired_at is null), '[]') as colours
       from page join vinyl v on v.id = page.vinyl_id left join vinyl_type t on t.id = v.own_type
       left join lateral (select id, name, hex from colour where vinyl_id = v.id and retired_at is null order by id limit 1) first on true
      order by page.by ${sort.down ? 'desc' : 'asc'} ${nulls(sort)}, v.id ${sort.down ? 'desc' : 'asc'}`,
    [...values, limit, offset],
  );
};

export const tableCount = async (q: Query, filter: TableFilter) => {
  const { text, values } = where(filter);
  return (await one<{ n: number }>(
    q,
    `select count(*)::int as n ${filter.mine ? fromMine : from} where ${text}`,
    values,
  ))!.n;
};

/** When some vinyls were last cut on a cutter of a person's. */
export const lastCuts = (q: Query, personId: string, cutterId: string, ids: readonly string[]) =>
  many<{ vinyl_id: string; at: Date }>(
    q,
    `select vinyl_root(vinyl_id) as vinyl_id, max(created_at) as at from cut
      where person_id = $1 and cutter_id = $2 and left_out_at is null and vinyl_root(vinyl_id) = any($3::uuid[]) group by 1`,
    [personId, cutterId, ids],
  );
