import { many, one, type Query } from '#store/base/db.ts';
import { ageBlade } from '#store/cuts/cuts.ts';

/** What a person can put right, put away and take up again. */
export const thingKinds = [
  'vinyl',
  'colour',
  'cutter',
  'blade',
  'mat',
  'press',
  'piece',
  'type',
  'coupon',
  'cut',
  'remark',
  'batch',
] as const;
export type ThingKind = (typeof thingKinds)[number];

/** What can rest on a thing, in the order in which it is said. */
export const restKinds = [
  'cuts',
  'numbers',
  'cards',
  'pieces',
  'vinyls',
  'offcuts',
  'strips',
  'batches',
  'leaflets',
  'merges',
  'others',
  'answers',
  'cells',
  'runs',
] as const;
export type RestKind = (typeof restKinds)[number];

export type ThingRow = {
  id: string;
  person_id: string;
  visibility: string;
  name: string;
  /** What it belongs to: the vinyl of a colour, the card of a remark. */
  of: string | null;
  away: boolean;
  /** What rests on it, kinds of which there is something. */
  rests: Partial<Record<RestKind, number>>;
};

type Thing = {
  /** Columns person_id, name, of and away of the thing $1, as the person $2 has it. */
  from: string;
  rests: Partial<Record<RestKind, string>>;
  /** Puts the thing $1 of the person $2 away where $3, else takes it up again. */
  away: string;
  /** Takes it away for good, with what is only a part of it: statements on $1, in this order. None where it always stays. */
  remove: readonly string[];
};

const cutSelect = `select cut.person_id, 'private' as visibility, btrim(v.brand || ' ' || v.name) as name, null::uuid as of, cut.left_out_at is not null as away
  from cut join vinyl v on v.id = vinyl_root(cut.vinyl_id)`;
const leaveOut =
  'update cut set left_out_at = case when $3 then now() end where id = $1 and person_id = $2 and (left_out_at is null) = $3';

/** Each kind of thing: where it stands, what rests on it, and how it is put away and taken from the world. */
const editable: Record<ThingKind, Thing> = {
  vinyl: {
    from: `select v.person_id, v.visibility, btrim(v.brand || ' ' || v.name) as name, null::uuid as of, m.away_at is not null as away
       from vinyl v left join vinyl_mine m on m.vinyl_id = v.id and m.person_id = $2 where v.id = $1`,
    rests: {
      cuts: 'cut where vinyl_id = $1',
      numbers: 'setting where vinyl_id = $1',
      cards: 'card where vinyl_id = $1',
      pieces: 'stock where vinyl_id = $1',
      leaflets: 'leaflet where vinyl_id = $1',
      merges: 'vinyl_alias where $1 in (alias_id, vinyl_id)',
      others: 'vinyl_mine where vinyl_id = $1 and person_id <> (select person_id from vinyl where id = $1)',
    },
    away: `insert into vinyl_mine (person_id, vinyl_id, away_at) values ($2, $1, case when $3 then now() end)
       on conflict (person_id, vinyl_id) do update set away_at = excluded.away_at, pinned_at = case when $3 then null else vinyl_mine.pinned_at end`,
    remove: [
      'delete from reading where vinyl_id = $1',
      'delete from school where vinyl_id = $1',
      'delete from follow where vinyl_id = $1',
      'delete from translation where vinyl_id = $1',
      'delete from batch where vinyl_id = $1',
      'delete from colour where vinyl_id = $1',
      'delete from vinyl_mine where vinyl_id = $1',
      'delete from vinyl_words where vinyl_id = $1',
      'delete from vinyl where id = $1',
    ],
  },
  colour: {
    from: `select v.person_id, v.visibility, c.name, c.vinyl_id as of, c.retired_at is not null as away
       from colour c join vinyl v on v.id = c.vinyl_id where c.id = $1`,
    rests: {
      cuts: 'cut where colour_id = $1',
      numbers: 'setting where colour_id = $1',
      pieces: 'stock where colour_id = $1',
      batches: 'batch where colour_id = $1',
    },
    away: `update colour c set retired_at = case when $3 then now() end from vinyl v
       where c.id = $1 and v.id = c.vinyl_id and v.person_id = $2`,
    remove: ['delete from colour where id = $1'],
  },
  cutter: {
    from: `select person_id, 'private' as visibility, name, null::uuid as of, retired_at is not null as away from cutter where id = $1`,
    rests: {
      cuts: 'cut where cutter_id = $1',
      numbers: 'setting where cutter_id = $1',
      cards: '(select distinct card_id from card_version where cutter_id = $1) c',
    },
    // Another of the person's cutters comes onto the bench in its place.
    away: `with gone as (update cutter set retired_at = case when $3 then now() end where id = $1 and person_id = $2 returning id)
       update bench set cutter_id = case when $3 and cutter_id = $1
           then (select id from cutter where person_id = $2 and retired_at is null and id <> $1 order by created_at desc limit 1)
           else coalesce(cutter_id, $1) end
        where person_id = $2 and exists (select 1 from gone)`,
    remove: [
      'update bench set cutter_id = null where cutter_id = $1',
      'delete from translation where cutter_id = $1',
      'delete from scale_reading where cutter_id = $1',
      'delete from reading where cutter_id = $1',
      'delete from mounting where cutter_id = $1',
      'delete from cutter where id = $1',
    ],
  },
  blade: {
    from: `select person_id, 'private' as visibility, name, null::uuid as of, retired_at is not null as away from blade where id = $1`,
    rests: {
      cuts: 'cut join mounting n on n.id = cut.mounting_id where n.blade_id = $1',
      numbers: 'setting where blade_id = $1',
      cards: '(select distinct card_id from card_version where blade_id = $1) c',
    },
    away: `with gone as (update blade set retired_at = case when $3 then now() end where id = $1 and person_id = $2 returning id)
       update mounting set removed_at = now() where $3 and removed_at is null and blade_id in (select id from gone)`,
    remove: [
      'update reading set blade_id = null where blade_id = $1',
      'delete from mounting where blade_id = $1',
      'delete from blade_run where blade_id = $1',
      'delete from blade where id = $1',
    ],
  },
  mat: {
    from: `select person_id, 'private' as visibility, name, null::uuid as of, retired_at is not null as away from mat where id = $1`,
    rests: { cuts: 'cut where mat_id = $1' },
    away: `with gone as (update mat set retired_at = case when $3 then now() end where id = $1 and person_id = $2 returning id)
       update bench set mat_id = null where $3 and mat_id in (select id from gone)`,
    remove: ['update bench set mat_id = null where mat_id = $1', 'delete from mat where id = $1'],
  },
  press: {
    from: `select person_id, 'private' as visibility, name, null::uuid as of, retired_at is not null as away from press where id = $1`,
    rests: {},
    away: 'update press set retired_at = case when $3 then now() end where id = $1 and person_id = $2',
    remove: ['delete from press where id = $1'],
  },
  piece: {
    from: `select person_id, 'private' as visibility, code as name, null::uuid as of, gone_at is not null as away from stock where id = $1`,
    rests: {
      strips: '(select stock_id from stock_take union all select stock_id from stock_area_take) t where stock_id = $1',
      offcuts: 'stock where from_id = $1',
    },
    away: 'update stock set gone_at = case when $3 then now() end where id = $1 and person_id = $2',
    remove: ['delete from stock where id = $1'],
  },
  type: {
    from: `select person_id, 'private' as visibility, word as name, null::uuid as of, retired_at is not null as away from vinyl_type where id = $1`,
    rests: { vinyls: 'vinyl where own_type = $1' },
    away: 'update vinyl_type set retired_at = case when $3 then now() end where id = $1 and person_id = $2',
    remove: ['delete from vinyl_type where id = $1'],
  },
  coupon: {
    from: `${cutSelect} join coupon on coupon.cut_id = cut.id where cut.id = $1`,
    rests: {
      cells: `cell where cut_id = $1 and (exists (select 1 from cell_cut_event e where e.cell_id = cell.id)
        or exists (select 1 from grade_event e where e.cell_id = cell.id) or exists (select 1 from weed_event e where e.cell_id = cell.id))`,
      runs: 'device_run where cut_id = $1',
    },
    away: leaveOut,
    remove: [
      'delete from stock_take where cut_id = $1',
      'delete from cell where cut_id = $1',
      'delete from coupon where cut_id = $1',
      'delete from cut where id = $1',
    ],
  },
  // What was cut stays on record, counted or not.
  cut: {
    from: `${cutSelect} join ordinary_cut o on o.cut_id = cut.id where cut.id = $1`,
    rests: {},
    away: leaveOut,
    remove: [],
  },
  batch: {
    from: `select b.person_id, 'private' as visibility, b.label as name, b.vinyl_id as of, b.retired_at is not null as away
       from batch b where b.id = $1 and b.person_id is not null`,
    rests: { cuts: 'cut where batch_id = $1', pieces: 'stock where batch_id = $1' },
    away: 'update batch set retired_at = case when $3 then now() end where id = $1 and person_id = $2',
    remove: ['delete from batch_report where batch_id = $1', 'delete from batch where id = $1'],
  },
  remark: {
    from: `select person_id, 'private' as visibility, body as name, card_id as of, taken_back_at is not null as away
       from remark where id = $1 and hidden_at is null`,
    rests: { answers: 'remark where answers = $1' },
    away: 'update remark set taken_back_at = case when $3 then now() end where id = $1 and person_id = $2',
    remove: ['delete from remark where id = $1'],
  },
};

/** A thing as a person has it, with what rests on it. */
export const thingById = (q: Query, kind: ThingKind, id: string, personId: string) => {
  const { from, rests } = editable[kind];
  const counts = Object.entries(rests).map(([what, where]) => `'${what}', nullif((select count(*) from ${where}), 0)`);
  // $2 is used by some kinds only; a parameter needs a type in all.
  return one<ThingRow>(
    q,
    `select $1::uuid as id, x.*, jsonb_strip_nulls(jsonb_build_object(${counts.join(', ')})) as rests
       from (${from}) x where $2::uuid is not null`,
    [id, personId],
  );
};

/** Puts a thing away, or takes it up again. */
export const setAway = (q: Query, kind: ThingKind, id: string, personId: string, away: boolean) =>
  q.query(editable[kind].away, [id, personId, away]);

/** Whether a thing of a kind can go for good at all. */
export const canGo = (kind: ThingKind): boolean => editable[kind].remove.length > 0;

/** Takes a thing away for good, with what is only a part of it. The keys of what rests on it keep it there. */
export async function removeThing(q: Query, kind: ThingKind, id: string): Promise<void> {
  for (const statement of editable[kind].remove) await q.query(statement, [id]);
}

/** What a person put away, latest last. */
export const awayOf = (q: Query, personId: string, kinds: readonly ThingKind[]) =>
  many<{ kind: ThingKind; id: string; name: string }>(
    q,
    `select kind, id, name from (
       select 'vinyl' as kind, v.id, btrim(v.brand || ' ' || v.name) as name, m.away_at as at
         from vinyl_mine m join vinyl v on v.id = m.vinyl_id where m.person_id = $1 and m.away_at is not null
       union all select 'cutter', id, name, retired_at from cutter where person_id = $1 and retired_at is not null
       union all select 'blade', id, name, retired_at from blade where person_id = $1 and retired_at is not null
       union all select 'mat', id, name, retired_at from mat where person_id = $1 and retired_at is not null
       union all select 'press', id, name, retired_at from press where person_id = $1 and retired_at is not null
       union all select 'piece', s.id, btrim(v.brand || ' ' || v.name) || ' ' || s.code, s.gone_at
         from stock s join vinyl v on v.id = vinyl_root(s.vinyl_id) where s.person_id = $1 and s.gone_at is not null
       union all select 'type', id, word, retired_at from vinyl_type where person_id = $1 and retired_at is not null
     ) x where kind = any($2) order by at desc limit 100`,
    [personId, kinds],
  );
/** Colours of a vinyl that were put away. */
export const awayColours = (q: Query, vinylId: string) =>
  many<{ id: string; name: string }>(
    q,
    'select id, name from colour where vinyl_id = any(array(select vinyl_kin($1))) and retired_at is not null order by name',
    [vinylId],
  );

/** Says that a cut was of another vinyl: its metres count for what the blade really ran in. */
export async function moveCut(q: Query, cutId: string, vinylId: string): Promise<void> {
  await ageBlade(q, cutId, -1);
  await q.query('update cut set vinyl_id = $2, colour_id = null, batch_id = null where id = $1', [cutId, vinylId]);
  await ageBlade(q, cutId, 1);
}
/** Whether somebody's card is confirmed by a cut. */
export const confirms = async (q: Query, cutId: string): Promise<boolean> =>
  (await one(q, 'select 1 from confirmation where cut_id = $1', [cutId])) !== undefined;

/** Says another colour of a cut; null where it has none. */
export const setCutColour = (q: Query, cutId: string, colourId: string | null) =>
  q.query('update cut set colour_id = $2 where id = $1', [cutId, colourId]);
export const cutPlace = (q: Query, cutId: string) =>
  one<{ vinyl_id: string; cutter_id: string; colour_id: string | null }>(
    q,
    'select vinyl_root(vinyl_id) as vinyl_id, cutter_id, colour_id from cut where id = $1',
    [cutId],
  );
