import type { Leaflet, Overrides } from '#core/vinyls/index.ts';
import { one, type Query, many } from '#store/base/db.ts';
import type { Size } from '#core/catalogue/index.ts';
import type { CutterModel, Setting } from '#core/controls/index.ts';
import type { ShownFit } from '#core/window/index.ts';

export type VinylRow = {
  id: string;
  brand: string;
  name: string;
  type: string;
  /** A type of somebody's own that inherits from `type`: its word and what it says. */
  own_type: string | null;
  own_word: string | null;
  own_behaviour: Overrides | null;
  behaviour: Overrides;
  nicknames: string[];
  codes: string[];
  sizes: Size[];
  note: string;
  person_id: string;
  visibility: string;
  colour_id: string | null;
  colour: string | null;
  hex: string | null;
};

const vinylColumns = `v.id, v.brand, v.name, v.type, v.own_type, t.word as own_word, t.behaviour as own_behaviour, v.behaviour,
  v.nicknames, v.codes, v.sizes, v.note, v.person_id, v.visibility, c.id as colour_id, c.name as colour, c.hex`;
const vinylJoins = `left join vinyl_type t on t.id = v.own_type
  left join lateral (select id, name, hex from colour where vinyl_id = v.id and retired_at is null order by id limit 1) c on true`;

export type NewVinyl = {
  id: string;
  brand: string;
  name: string;
  type: string;
  ownType?: string | null;
  personId: string;
  visibility: string;
  behaviour?: Overrides;
  nicknames?: string[];
  codes?: string[];
  sizes?: Size[];
  note?: string;
};
export const insertVinyl = (q: Query, v: NewVinyl) =>
  q.query(
    `insert into vinyl (id, brand, name, type, own_type, person_id, visibility, behaviour, nicknames, codes, sizes, note)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12)`,
    [
      v.id,
      v.brand,
      v.name,
      v.type,
      v.ownType ?? null,
      v.personId,
      v.visibility,
      v.behaviour ?? {},
      v.nicknames ?? [],
      v.codes ?? [],
      JSON.stringify(v.sizes ?? []),
      v.note ?? '',
    ],
  );

export const updateVinyl = (q: Query, v: Omit<NewVinyl, 'personId' | 'visibility'>) =>
  q.query(
    `update vinyl set brand = $2, name = $3, type = $4, own_type = $5, behaviour = $6, nicknames = $7, codes = $8, sizes = $9,
       note = $10 where id = $1`,
    [
      v.id,
      v.brand,
      v.name,
      v.type,
      v.ownType ?? null,
      v.behaviour ?? {},
      v.nicknames ?? [],
      v.codes ?? [],
      JSON.stringify(v.sizes ?? []),
      v.note ?? '',
    ],
  );

export const insertColour = (q: Query, c: { id: string; vinylId: string; name: string; hex: string }) =>
  q.query('insert into colour (id, vinyl_id, name, hex) values ($1, $2, $3, $4)', [c.id, c.vinylId, c.name, c.hex]);

/** The vinyl, or where the entry was merged into another, that other one. */
export const vinylById = (q: Query, id: string) =>
  one<VinylRow>(q, `select ${vinylColumns} from vinyl v ${vinylJoins} where v.id = vinyl_root($1)`, [id]);
/** Several at once; what was merged is left out. */
export const vinylsByIds = (q: Query, ids: readonly string[]) =>
  many<VinylRow>(q, `select ${vinylColumns} from vinyl v ${vinylJoins} where v.id = any($1::uuid[])`, [ids]);
/** An entry by itself, merged or not. */
export const entryById = (q: Query, id: string) =>
  one<VinylRow>(q, `select ${vinylColumns} from vinyl v ${vinylJoins} where v.id = $1`, [id]);

export type ColourRow = { id: string; name: string; hex: string };
/** Colours of a vinyl under all its entries, one of a name; not those that were put away. */
export const coloursOf = (q: Query, vinylId: string) =>
  many<ColourRow>(
    q,
    `select id, name, hex from (
       select distinct on (lower(name)) id, name, hex from colour
        where vinyl_id = any(array(select vinyl_kin($1))) and retired_at is null order by lower(name), id) x
     order by id`,
    [vinylId],
  );
/** Colours of many vinyls at once, each under its root entry. */
export const coloursOfMany = (q: Query, vinylIds: readonly string[]) =>
  many<ColourRow & { vinyl_id: string }>(
    q,
    `select distinct on (v.id, lower(c.name)) v.id as vinyl_id, c.id, c.name, c.hex
       from unnest($1::uuid[]) as v(id) join colour c on c.vinyl_id = any(array(select vinyl_kin(v.id))) and c.retired_at is null
      order by v.id, lower(c.name), c.id`,
    [vinylIds],
  );
/** The colour of a name that an entry has, put away or not. */
export const colourNamed = (q: Query, vinylId: string, name: string) =>
  one<ColourRow & { retired_at: Date | null }>(
    q,
    'select id, name, hex, retired_at from colour where vinyl_id = $1 and lower(name) = lower($2) order by retired_at nulls first limit 1',
    [vinylId, name],
  );
export const updateColour = (q: Query, c: ColourRow) =>
  q.query('update colour set name = $2, hex = $3, retired_at = null where id = $1', [c.id, c.name, c.hex]);
export const colourIn = (q: Query, vinylId: string, colourId: string) =>
  one<ColourRow>(
    q,
    'select id, name, hex from colour where id = colour_root($2) and vinyl_id = any(array(select vinyl_kin($1)))',
    [vinylId, colourId],
  );

export type BatchRow = { id: string; label: string; colour_id: string | null };
/** Whether a batch is for a person ($2) to see: their own, or one that an account named and no steward took away. */
const seenBatch = `(b.person_id = $2 or (b.hidden_at is null and (b.person_id is null
    or exists (select 1 from person p where p.id = b.person_id and p.email is not null))))`;
/** Batches of a vinyl that a person sees. */
export const batchesOf = (q: Query, vinylId: string, personId: string) =>
  many<BatchRow & { mine: boolean }>(
    q,
    `select b.id, b.label, b.colour_id, coalesce(b.person_id = $2, false) as mine from batch b
      where b.vinyl_id = any(array(select vinyl_kin($1))) and ${seenBatch} and b.retired_at is null order by b.label, b.id`,
    [vinylId, personId],
  );
/** A batch of the same vinyl and colour that is called so, other than this one. */
export const batchCalled = (q: Query, id: string, label: string) =>
  one<{ id: string }>(
    q,
    `select o.id from batch b join batch o on o.vinyl_id = b.vinyl_id and o.colour_id is not distinct from b.colour_id and o.id <> b.id
      where b.id = $1 and lower(o.label) = lower($2) limit 1`,
    [id, label],
  );
export const renameBatch = (q: Query, id: string, label: string) =>
  q.query('update batch set label = $2 where id = $1', [id, label]);

/** The batch of that label that a person sees, made where it is new. */
export const batchOf = async (
  q: Query,
  b: { id: string; vinylId: string; colourId: string | null; label: string; personId: string },
) =>
  (await one<{ id: string }>(
    q,
    `select b.id from batch b where b.vinyl_id = $1 and ${seenBatch} and b.colour_id is not distinct from $3 and lower(b.label) = lower($4)
      order by b.id limit 1`,
    [b.vinylId, b.personId, b.colourId, b.label],
  )) ??
  (await one<{ id: string }>(
    q,
    'insert into batch (id, vinyl_id, colour_id, label, person_id) values ($1, $2, $3, $4, $5) returning id',
    [b.id, b.vinylId, b.colourId, b.label, b.personId],
  ))!;

/** Best fits of a search among what a person may see. */
export const foundVinyls = async (q: Query, personId: string, words: string[], thorough: boolean, limit: number) =>
  (
    await many<{ vinyl_id: string }>(q, 'select vinyl_id, fit from vinyls_found($1, $2, $3, $4)', [
      words,
      personId,
      thorough,
      limit,
    ])
  ).map((r) => r.vinyl_id);

/** What somebody has in hand, pinned first, then used last first. */
export const myVinyls = async (q: Query, personId: string, limit: number) =>
  (
    await many<{ vinyl_id: string }>(
      q,
      `select m.vinyl_id from vinyl_mine m where m.person_id = $1 and m.away_at is null and not exists (select 1 from vinyl_alias a where a.alias_id = m.vinyl_id)
        order by m.pinned_at desc nulls last, m.used_at desc nulls last, m.vinyl_id limit $2`,
      [personId, limit],
    )
  ).map((r) => r.vinyl_id);
/** What everybody may see and a person did not put away, by name. */
export const openVinyls = async (q: Query, personId: string, limit: number) =>
  (
    await many<{ vinyl_id: string }>(
      q,
      `select w.vinyl_id from vinyl_words w
        where w.open and not exists (
          select 1 from vinyl_mine m where m.person_id = $1 and m.vinyl_id = w.vinyl_id and m.away_at is not null)
        order by w.name, w.vinyl_id limit $2`,
      [personId, limit],
    )
  ).map((r) => r.vinyl_id);

export type ListedVinyl = VinylRow & {
  result: ShownFit | null;
  /** The blade and its wear that the reading was made for. */
  read_blade: string | null;
  read_wear: number | null;
  wanted: 'clean' | 'through';
  /** What the public evidence for this model says, and from how many crafters. */
  shared: ShownFit | null;
  crafters: number | null;
  kept: Setting | null;
  standing: string | null;
  adopted: boolean;
  imported: boolean;
  pinned: boolean;
};

/**
 * The rows of a list, in the order of the ids: each vinyl with the current reading and setting for one cutter of a person's, and
 * what others found on that model. Reads posterior rows only. `throughTypes`: the vinyl types wanted through.
 */
export const listedVinyls = (
  q: Query,
  personId: string,
  cutter: { id: string; model: string; version: number } | null,
  ids: readonly string[],
  throughTypes: readonly string[],
) =>
  many<ListedVinyl>(
    q,
    `select ${vinylColumns}, coalesce(p.shown, p.result) as result,
        r.blade_id as read_blade, r.wear as read_wear, w.wanted, coalesce(sp.shown, sp.result) as shared, sr.crafters, s.controls as kept, s.standing, s.source_card is not null as adopted, s.import_id is not null as imported, m.pinned_at is not null as pinned
       from unnest($3::uuid[]) with ordinality as wanted_ids(id, place)
       join vinyl v on v.id = wanted_ids.id ${vinylJoins}
       cross join lateral (select case when v.type = any($4) then 'through' else 'clean' end as wanted) w
       left join vinyl_mine m on m.person_id = $1 and m.vinyl_id = v.id
       left join reading r on r.person_id = $1 and r.vinyl_id = v.id and r.cutter_id = $2 and r.wanted = w.wanted
       left join posterior p on p.input_hash = r.input_hash
       left join shared_reading sr on (sr.vinyl_id, sr.model_key, sr.model_version, sr.wanted) = (v.id, $5, $6, w.wanted)
       left join posterior sp on sp.input_hash = sr.input_hash
       left join lateral (select controls, standing, source_card, import_id from setting
          where person_id = $1 and vinyl_id = any(array(select vinyl_kin(v.id))) and cutter_id = $2 and wanted = w.wanted and replaced_at is null
          order by coalesce(colour_root(colour_id) = c.id, false) desc, colour_id is null desc, kept_at desc limit 1) s
         on m.vinyl_id is not null
      order by wanted_ids.place`,
    [personId, cutter?.id ?? null, ids, throughTypes, cutter?.model ?? null, cutter?.version ?? null],
  );

/** A vinyl that is shared by link or with everybody is found by those it is shared with; it is never hidden again by that. */
export const raiseVisibility = (q: Query, id: string, visibility: 'link' | 'public') =>
  q.query(
    `update vinyl set visibility = $2 where id = $1 and (visibility = 'private' or (visibility = 'link' and $2 = 'public'))`,
    [id, visibility],
  );

export const setPin = (q: Query, personId: string, vinylId: string, pinned: boolean) =>
  q.query(
    `insert into vinyl_mine (person_id, vinyl_id, pinned_at) values ($1, $2, case when $3 then now() end)
     on conflict (person_id, vinyl_id) do update set pinned_at = excluded.pinned_at, away_at = null`,
    [personId, vinylId, pinned],
  );
export const isPinned = async (q: Query, personId: string, vinylId: string) =>
  (await one(q, 'select 1 from vinyl_mine where person_id = $1 and vinyl_id = $2 and pinned_at is not null', [
    personId,
    vinylId,
  ])) !== undefined;

// Two entries of one vinyl --------------------------------------------------------------------------------------------------

export const lockAliases = (q: Query) => q.query(`select pg_advisory_xact_lock(hashtext('vinyl_alias'))`);
export const rootOf = async (q: Query, id: string) =>
  (await one<{ root: string }>(q, 'select vinyl_root($1) as root', [id]))!.root;
export const insertAlias = (q: Query, aliasId: string, vinylId: string, personId: string) =>
  q.query('insert into vinyl_alias (alias_id, vinyl_id, person_id) values ($1, $2, $3)', [aliasId, vinylId, personId]);
/** @param personId who merged them; anybody where that is null */
export const deleteAlias = async (q: Query, aliasId: string, personId: string | null) =>
  (
    await q.query('delete from vinyl_alias where alias_id = $1 and ($2::uuid is null or person_id = $2)', [
      aliasId,
      personId,
    ])
  ).rowCount === 1;
/** Entries that were merged into a vinyl, straight or by way of another, with who did it. */
export const aliasesOf = (q: Query, vinylId: string) =>
  many<{ id: string; brand: string; name: string; person_id: string; made_at: Date }>(
    q,
    `select v.id, v.brand, v.name, a.person_id, a.made_at from vinyl_alias a join vinyl v on v.id = a.alias_id
      where a.alias_id = any(array(select vinyl_kin($1))) order by a.made_at`,
    [vinylId],
  );

// Types of one's own --------------------------------------------------------------------------------------------------------

export type OwnTypeRow = {
  id: string;
  word: string;
  parent: string;
  behaviour: Overrides;
  vinyls: number;
  away: boolean;
};
export const ownTypes = (q: Query, personId: string) =>
  many<OwnTypeRow>(
    q,
    `select t.id, t.word, t.parent, t.behaviour, (select count(*)::int from vinyl v where v.own_type = t.id) as vinyls,
        t.retired_at is not null as away
       from vinyl_type t where t.person_id = $1 order by lower(t.word)`,
    [personId],
  );
export const insertOwnType = (
  q: Query,
  t: { id: string; personId: string; word: string; parent: string; behaviour: Overrides },
) =>
  q.query('insert into vinyl_type (id, person_id, word, parent, behaviour) values ($1, $2, $3, $4, $5)', [
    t.id,
    t.personId,
    t.word,
    t.parent,
    t.behaviour,
  ]);

export const ownTypeById = (q: Query, id: string) =>
  one<{ person_id: string; word: string; parent: string; behaviour: Overrides }>(
    q,
    'select person_id, word, parent, behaviour from vinyl_type where id = $1',
    [id],
  );
export const updateOwnType = (q: Query, t: { id: string; word: string; behaviour: Overrides }) =>
  q.query('update vinyl_type set word = $2, behaviour = $3 where id = $1', [t.id, t.word, t.behaviour]);

// Schools -------------------------------------------------------------------------------------------------------------------

export const followSchool = (q: Query, personId: string, vinylId: string, topic: string, way: string) =>
  q.query(
    `insert into school (person_id, vinyl_id, topic, way) values ($1, $2, $3, $4)
     on conflict (person_id, vinyl_id, topic) do update set way = excluded.way, at = now()`,
    [personId, vinylId, topic, way],
  );
export const leaveSchool = (q: Query, personId: string, vinylId: string, topic: string) =>
  q.query('delete from school where person_id = $1 and vinyl_id = $2 and topic = $3', [personId, vinylId, topic]);

/** The ways to press that a person follows, by vinyl. */
export const followedPress = (q: Query, personId: string, ids: readonly string[]) =>
  many<{ vinyl_id: string; way: string }>(
    q,
    `select vinyl_id, way from school where person_id = $1 and topic = 'press' and vinyl_id = any($2::uuid[])`,
    [personId, ids],
  );

/** What a person does by habit at some vinyls, beside their figures. */
export const handHabits = (q: Query, personId: string, ids: readonly string[]) =>
  many<{ vinyl_id: string; topic: string; way: string }>(
    q,
    `select vinyl_id, topic, way from school
      where person_id = $1 and topic not in ('press', 'cut') and vinyl_id = any($2::uuid[])`,
    [personId, ids],
  );

/** How each crafter with an account presses and peels a vinyl, nameless, as far as they said: guests are made too easily to be counted. */
export const pressVoices = (q: Query, vinylId: string, personId: string) =>
  many<{ press: string | null; peel: string | null; mine: boolean }>(
    q,
    `select max(way) filter (where topic = 'press') as press, max(way) filter (where topic = 'peel') as peel, bool_or(person_id = $2) as mine
       from school s join person p on p.id = s.person_id and (p.email is not null or p.id = $2)
      where topic in ('press', 'peel') and vinyl_id = any(array(select vinyl_kin($1))) group by person_id`,
    [vinylId, personId],
  );

/**
 * What everybody who shared a number for a vinyl, or said how a shared one came out, cut it with last: angle of the blade in degrees, and
 * the setting with the model whose terms it is in. Of private cuts nothing; of cards the newest.
 */
export const cutVoices = (q: Query, vinylId: string, cards: number) =>
  many<{ blade: number | null; setting: Setting; model: CutterModel }>(
    q,
    `with shared as materialized (
       select id, person_id from card
        where vinyl_id = any(array(select vinyl_kin($1))) and visibility = 'public' and hidden_at is null order by made_at desc limit $2
     )
     select distinct on (person_id) blade, setting, model from (
       select c.person_id, v.published_at as at, (v.content #>> '{evidence,-1,angle}')::float::integer as blade,
           v.content -> 'controls' as setting, v.content -> 'model' as model
         from shared c join lateral (select * from card_version x where x.card_id = c.id order by x.number desc limit 1) v on true
       union all
       select n.person_id, n.made_at, b.angle_degrees, e.setting, d.definition
         from shared c join confirmation n on n.card_id = c.id join cut k on k.id = n.cut_id and k.left_out_at is null join cell e on e.cut_id = k.id
           join mounting m on m.id = k.mounting_id join blade b on b.id = m.blade_id
           join cutter_model d on d.key = e.setting ->> 'model' and d.version = (e.setting ->> 'version')::integer
     ) x order by person_id, at desc`,
    [vinylId, cards],
  );

/**
 * Who follows which way for a vinyl, and what speaks for it: how many, the names of those who share this vinyl under their name,
 * and of the ordinary cuts they graded in public how many came out as wanted.
 */
export const schoolsOf = (q: Query, vinylId: string, personId: string) =>
  many<{
    topic: string;
    way: string;
    followers: number;
    mine: boolean;
    names: string[];
    cuts: number;
    good: number;
  }>(
    q,
    `select s.topic, s.way, count(*)::int as followers, bool_or(s.person_id = $2) as mine,
        coalesce(array_agg(distinct p.name) filter (where k.id is not null), '{}') as names,
        coalesce(sum(f.cuts), 0)::int as cuts, coalesce(sum(f.good), 0)::int as good
       from school s join person p on p.id = s.person_id and (p.email is not null or p.id = $2)
       left join lateral (select c.id from card c where c.person_id = s.person_id and c.visibility = 'public'
          and c.vinyl_id = any(array(select vinyl_kin($1))) limit 1) k on true
       left join lateral (select count(*) as cuts, count(*) filter (where e.grade = c.wanted) as good
          from confirmation n join card c on c.id = n.card_id and c.visibility = 'public' join cut k on k.id = n.cut_id and k.left_out_at is null
          join cell on cell.cut_id = n.cut_id and cell.number = 1
          join lateral (select grade from grade_event g where g.cell_id = cell.id and g.kind = 'grade'
            and not exists (select 1 from grade_event x where x.cell_id = g.cell_id and x.retracts = g.id)
            order by g.device_at desc, g.id desc limit 1) e on true
         where n.person_id = s.person_id and c.vinyl_id = any(array(select vinyl_kin($1)))) f on true
      where s.topic <> 'peel' and s.vinyl_id = any(array(select vinyl_kin($1))) group by s.topic, s.way order by followers desc, s.way`,
    [vinylId, personId],
  );

// Leaflets -------------------------------------------------------------------------------------------------------------------

export const insertLeaflet = (
  q: Query,
  l: { id: string; vinylId: string; content: Leaflet; personId: string; sourceId?: string },
) =>
  q.query('insert into leaflet (id, vinyl_id, content, person_id, source_id) values ($1, $2, $3, $4, $5)', [
    l.id,
    l.vinylId,
    l.content,
    l.personId,
    l.sourceId ?? null,
  ]);
/** The leaflet that counts comes first: one copied here before one that came from elsewhere, then the newest. */
const leafletFirst = '(l.source_id is null) desc, l.at desc, l.id desc';

/** The leaflets of some vinyls, the newest of each; one copied here before one that came from elsewhere. */
export const leafletsOf = (q: Query, vinylIds: readonly string[]) =>
  many<{ asked: string; content: Leaflet }>(
    q,
    `select a.id as asked, x.content from unnest($1::uuid[]) as a(id) cross join lateral (
       select l.content from leaflet l where l.vinyl_id = any(array(select vinyl_kin(a.id)))
        order by ${leafletFirst} limit 1) x`,
    [vinylIds],
  );
export const leafletOf = (q: Query, vinylId: string) =>
  one<{ content: Leaflet; who: string; at: Date; home: string | null }>(
    q,
    `select l.content, p.name as who, l.at, s.home from leaflet l join person p on p.id = l.person_id left join source s on s.id = l.source_id
      where l.vinyl_id = any(array(select vinyl_kin($1))) order by ${leafletFirst} limit 1`,
    [vinylId],
  );
