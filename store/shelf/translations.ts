import type { Grade } from '#core/grades/index.ts';
import type { CutterModel, Setting } from '#core/controls/index.ts';
import type { CampCause, StandingResult } from '#core/proof/index.ts';
import type { ShelfInput, Translated } from '#core/transfer/index.ts';
import type { ShownSummary } from '#core/window/index.ts';
import { elsewhere } from './cards.ts';
import type { Wanted } from '#store/coupons/coupons.ts';
import { many, one, type Query } from '#store/base/db.ts';

// What goes in --------------------------------------------------------------------------------------------------------

export type SharedCard = {
  card_id: string | null;
  /** Who speaks, and what it counts against what was found here. */
  voice: string;
  weight: number;
  hearsay: boolean;
  cutter_id: string | null;
  blade_id: string | null;
  vinyl_id: string;
  type: string;
  model: CutterModel;
  controls: Setting;
  edges: ShownSummary['edges'];
  /** The batch it was found on, where it was one alone. */
  batch: string | null;
};
/** What every public card says, one row each, oldest first: a shelf that grew by one is the old one and a row. */
export const sharedCards = (q: Query, wanted: Wanted) =>
  many<SharedCard>(
    q,
    `select c.id as card_id, ${elsewhere('c')}, v.cutter_id, v.blade_id, vinyl_root(c.vinyl_id) as vinyl_id, y.type,
        v.content -> 'model' as model,
        v.content -> 'controls' as controls, v.content #> '{result,summary,edges}' as edges,
        (select case when count(distinct e.batch) = 1 then nullif(min(e.batch), '') end
           from jsonb_to_recordset(v.content -> 'evidence') as e(batch text)) as batch
       from card c join card_version v on v.card_id = c.id join vinyl y on y.id = vinyl_root(c.vinyl_id)
       left join source src on src.id = c.source_id
      where c.wanted = $1 and c.visibility = 'public' and c.hidden_at is null
        and v.number = (select max(number) from card_version where card_id = c.id)
        and (v.content #>> '{result,evidence,cells}')::int > 0
      order by v.published_at, c.id`,
    [wanted],
  );

export type SharedCut = {
  made_at: Date;
  voice: string;
  weight: number;
  hearsay: boolean;
  cutter_id: string;
  blade_id: string;
  vinyl_id: string;
  type: string;
  model: CutterModel;
  setting: Setting;
  grade: Grade;
  outcome: string | null;
  better: number | null;
  batch: string | null;
};
/** Cuts made with a public card by others, with what came of them. */
export const sharedCuts = (q: Query, wanted: Wanted) =>
  many<SharedCut>(
    q,
    `select n.made_at, ${elsewhere('n')}, cut.cutter_id, t.blade_id, vinyl_root(cut.vinyl_id) as vinyl_id, y.type, m.definition as model, cell.setting,
        g.grade, n.outcome, n.better, h.label as batch
       from confirmation n join card c on c.id = n.card_id and c.visibility = 'public' and c.hidden_at is null and c.wanted = $1
       left join source src on src.id = n.source_id
       join cut on cut.id = n.cut_id and cut.left_out_at is null join vinyl y on y.id = vinyl_root(cut.vinyl_id)
       join cell on cell.cut_id = cut.id and cell.number = 1
       join cutter_model m on m.key = cell.setting ->> 'model' and m.version = (cell.setting ->> 'version')::int
       join mounting t on t.id = cut.mounting_id left join batch h on h.id = cut.batch_id
       cross join lateral (select e.grade from grade_event e where e.cell_id = cell.id and e.kind = 'grade'
         and not exists (select 1 from grade_event x where x.cell_id = e.cell_id and x.retracts = e.id)
         order by e.device_at desc, e.id desc limit 1) g
      order by n.made_at, n.cut_id`,
    [wanted],
  );

/** Readings of people who lend their private grades, nameless. */
export const lentReadings = (q: Query, wanted: Wanted) =>
  many<SharedCard>(
    q,
    `select null::uuid as card_id, r.person_id as voice, 1 as weight, false as hearsay, r.cutter_id, n.blade_id, vinyl_root(r.vinyl_id) as vinyl_id, y.type, m.definition as model, null as controls,
        p.result #> '{summary,edges}' as edges, null as batch
       from reading r join person w on w.id = r.person_id and w.lends_private and w.deleted_at is null
       join posterior p on p.input_hash = r.input_hash and (p.result #>> '{evidence,cells}')::int > 0
       join vinyl y on y.id = vinyl_root(r.vinyl_id) and y.visibility = 'public'
       join cutter k on k.id = r.cutter_id join cutter_model m on (m.key, m.version) = (k.model_key, k.model_version)
       left join mounting n on n.cutter_id = k.id and n.removed_at is null
      where r.wanted = $1 and not exists (select 1 from card c where c.person_id = r.person_id and c.vinyl_id = any(array(select vinyl_kin(r.vinyl_id)))
        and c.model_key = k.model_key and c.wanted = $1 and c.visibility = 'public' and c.hidden_at is null)
      order by r.person_id, r.vinyl_id, r.cutter_id`,
    [wanted],
  );

/** What kitchen scales showed on the cutters of people who share something. */
export const sharedScales = (q: Query) =>
  many<{ cutter_id: string; model: CutterModel; position: number; milligrams: number }>(
    q,
    `select s.cutter_id, m.definition as model, s.position, s.milligrams
       from scale_reading s join cutter k on k.id = s.cutter_id
       join cutter_model m on (m.key, m.version) = (k.model_key, k.model_version)
      where exists (select 1 from card c where c.person_id = k.person_id and c.visibility = 'public' and c.hidden_at is null)
      order by s.at, s.id`,
  );

// What came out --------------------------------------------------------------------------------------------------------

export type ShelfSummary = {
  settings: number;
  cutters: number;
  vinyls: number;
  crafters: number;
  /** Settings that contradict all others. */
  wild: { vinyl: string; cutter: string; off: number }[];
};
export type FitRow = {
  id: number;
  wanted: Wanted;
  version: string;
  input_hash: Buffer;
  summary: ShelfSummary;
  made_at: Date;
};

export const newestFit = (q: Query, wanted: Wanted) =>
  one<FitRow>(
    q,
    'select id, wanted, version, input_hash, summary, made_at from shelf_fit where wanted = $1 order by made_at desc, id desc limit 1',
    [wanted],
  );
export const fitInput = (q: Query, id: number) =>
  one<{ input: Pick<ShelfInput, 'settings' | 'scales'> }>(q, 'select input from shelf_fit where id = $1', [id]);
export const insertFit = (
  q: Query,
  f: { wanted: Wanted; version: string; hash: Buffer; input: object; summary: ShelfSummary },
) =>
  one<{ id: number }>(
    q,
    `insert into shelf_fit (wanted, version, input_hash, input, summary) values ($1, $2, $3, $4, $5)
     on conflict (wanted, input_hash, version) do update set summary = excluded.summary, made_at = now() returning id`,
    [f.wanted, f.version, f.hash, f.input, f.summary],
  );
/** Older fits go once the newest has its translations; two are kept. */
export const dropOldFits = (q: Query, wanted: Wanted) =>
  q.query(
    `delete from shelf_fit where wanted = $1
       and id not in (select id from shelf_fit where wanted = $1 order by made_at desc, id desc limit 2)`,
    [wanted],
  );

export type TranslationRow = {
  vinyl_id: string;
  basis: Translated['basis'] | 'not comparable' | 'nothing';
  result: Translated | null;
  crafters: number;
  models: number;
  fit_id: number;
};
export const insertTranslations = (q: Query, fitId: number, cutterId: string, rows: Omit<TranslationRow, 'fit_id'>[]) =>
  q.query(
    `insert into translation (fit_id, cutter_id, vinyl_id, basis, result, crafters, models)
     select $1, $2, x.vinyl_id, x.basis, x.result, x.crafters, x.models
       from jsonb_to_recordset($3::jsonb) as x(vinyl_id uuid, basis text, result jsonb, crafters int, models int)
     on conflict (cutter_id, vinyl_id, fit_id) do update set basis = excluded.basis, result = excluded.result`,
    [fitId, cutterId, JSON.stringify(rows)],
  );
/** What the newest fit says of some vinyls: in the terms of one cutter, if one is named, and where they fall into camps. */
export const saidOf = (q: Query, wanted: Wanted, cutterId: string | null, vinylIds: readonly string[]) =>
  one<{
    fit_id: number;
    input_hash: Buffer;
    /** Whether this fit was ever translated to the cutter. */
    translated: boolean;
    translations: TranslationRow[];
    splits: { vinyl_id: string; result: SplitRow }[];
  }>(
    q,
    `with fit as (select id, input_hash from shelf_fit where wanted = $1 order by made_at desc, id desc limit 1)
     select fit.id as fit_id, fit.input_hash,
        exists (select 1 from translation where fit_id = fit.id and cutter_id = $2) as translated,
        coalesce((select jsonb_agg(to_jsonb(t)) from (select vinyl_id, basis, result, crafters, models, fit_id from translation
          where fit_id = fit.id and cutter_id = $2 and vinyl_id = any($3::uuid[])) t), '[]') as translations,
        coalesce((select jsonb_agg(to_jsonb(s)) from (select vinyl_id, result from split
          where fit_id = fit.id and vinyl_id = any($3::uuid[])) s), '[]') as splits
       from fit`,
    [wanted, cutterId, vinylIds],
  );
/** Vinyls somebody shared something about. */
export const vinylsOfFit = (q: Query, ids: readonly string[]) =>
  many<{ id: string; type: string }>(q, 'select id, type from vinyl where id = any($1)', [ids]);

export type SplitRow = {
  by: CampCause;
  chance: number;
  camps: {
    /** Against what all say together, in log load. */
    off: number;
    people: number;
    settings: number;
    /** What tells it apart: models, batches or blades. */
    values: string[];
  }[];
};
export const insertSplits = (q: Query, fitId: number, splits: { vinyl: string; result: SplitRow }[]) =>
  q.query(
    `insert into split (fit_id, vinyl_id, result) select $1, x.vinyl, x.result from jsonb_to_recordset($2::jsonb) as x(vinyl uuid, result jsonb)
     on conflict (fit_id, vinyl_id) do nothing`,
    [fitId, JSON.stringify(splits)],
  );
export const insertPlaces = (q: Query, fitId: number, places: { card: string; off: number }[]) =>
  q.query(
    `insert into card_place (fit_id, card_id, off) select $1, x.card, x.off from jsonb_to_recordset($2::jsonb) as x(card uuid, off real)
     on conflict (fit_id, card_id) do nothing`,
    [fitId, JSON.stringify(places)],
  );
export const placesOf = (q: Query, fitId: number, cardIds: readonly string[]) =>
  many<{ card_id: string; off: number }>(
    q,
    'select card_id, off from card_place where fit_id = $1 and card_id = any($2)',
    [fitId, cardIds],
  );

/** Cutters that are on a bench of somebody who was here lately. */
export const cuttersInUse = (q: Query, limit: number) =>
  many<{ id: string; definition: CutterModel; blade_id: string | null }>(
    q,
    `select k.id, m.definition, n.blade_id from bench b join cutter k on k.id = b.cutter_id
       join cutter_model m on (m.key, m.version) = (k.model_key, k.model_version)
       left join mounting n on n.cutter_id = k.id and n.removed_at is null
       join lateral (select max(seen_at) as seen from session where person_id = b.person_id) s on s.seen > now() - interval '30 days'
      order by s.seen desc limit $1`,
    [limit],
  );

// Standing -------------------------------------------------------------------------------------------------------------

export const setCardStanding = (q: Query, cardId: string, proof: StandingResult, day: string) =>
  q.query(
    `insert into card_standing (card_id, standing, proof, on_day) values ($1, $2, $3, $4)
     on conflict (card_id) do update set standing = excluded.standing, proof = excluded.proof, on_day = excluded.on_day`,
    [cardId, proof.standing, proof, day],
  );
export const cardStanding = (q: Query, cardId: string) =>
  one<{ standing: StandingResult['standing']; proof: StandingResult }>(
    q,
    'select standing, proof from card_standing where card_id = $1',
    [cardId],
  );
/** Cards whose standing was last asked on an earlier day: evidence fades. */
export const fadedStandings = (q: Query, day: string, limit: number) =>
  many<{ card_id: string }>(q, 'select card_id from card_standing where on_day < $1 order by on_day limit $2', [
    day,
    limit,
  ]);

export const currentSettings = (q: Query, personId: string, vinylId: string, cutterId: string) =>
  many<{ id: string; controls: Setting; wanted: Wanted; colour: string | null }>(
    q,
    `select s.id, s.controls, s.wanted, c.name as colour from setting s left join colour c on c.id = s.colour_id
      where s.person_id = $1 and s.vinyl_id = any(array(select vinyl_kin($2))) and s.cutter_id = $3 and s.replaced_at is null`,
    [personId, vinylId, cutterId],
  );
/** Kept numbers of which nobody has said yet where they stand. */
export const unproven = (q: Query, limit: number) =>
  many<{ person_id: string; zone: string; vinyl_id: string; cutter_id: string }>(
    q,
    `select distinct s.person_id, p.zone, s.vinyl_id, s.cutter_id from setting s join person p on p.id = s.person_id
      where s.proof is null and s.replaced_at is null limit $1`,
    [limit],
  );
export const setProof = (q: Query, settingId: string, proof: StandingResult) =>
  q.query('update setting set standing = $2, proof = $3 where id = $1', [settingId, proof.standing, proof]);
