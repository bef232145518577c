import { type Query, many, one } from '#store/base/db.ts';
import type { Setting } from '#core/controls/index.ts';
import type { StandingResult } from '#core/proof/index.ts';
import type { FitResult, ShownFit } from '#core/window/index.ts';
import type { Wanted } from './coupons.ts';

export const posteriorByHash = (q: Query, hash: Buffer) =>
  one<{ result: FitResult }>(q, 'select result from posterior where input_hash = $1', [hash]);

export const insertPosterior = (q: Query, hash: Buffer, result: FitResult, shown: ShownFit) =>
  q.query(
    `insert into posterior (input_hash, model_version, prior_version, result, shown) values ($1, $2, $3, $4, $5)
     on conflict (input_hash) do nothing`,
    [hash, result.modelVersion, result.priorVersion, result, shown],
  );

export const setReading = (
  q: Query,
  r: {
    personId: string;
    vinylId: string;
    cutterId: string;
    wanted: string;
    hash: Buffer;
    blade: string | undefined;
    wear: number | undefined;
  },
) =>
  q.query(
    `insert into reading (person_id, vinyl_id, cutter_id, wanted, input_hash, blade_id, wear) values ($1, $2, $3, $4, $5, $6, $7)
     on conflict (person_id, vinyl_id, cutter_id, wanted)
       do update set input_hash = excluded.input_hash, blade_id = excluded.blade_id, wear = excluded.wear, read_at = now()`,
    [r.personId, r.vinylId, r.cutterId, r.wanted, r.hash, r.blade ?? null, r.wear ?? null],
  );

export const readingHash = (q: Query, personId: string, vinylId: string, cutterId: string, wanted: Wanted) =>
  one<{ input_hash: Buffer }>(
    q,
    'select input_hash from reading where person_id = $1 and vinyl_id = $2 and cutter_id = $3 and wanted = $4',
    [personId, vinylId, cutterId, wanted],
  );

/** Readings of a cutter, of what was cut there, that were made for another blade, or for this one before it wore on. */
export const readingsBehind = (
  q: Query,
  personId: string,
  cutterId: string,
  bladeId: string,
  wear: number,
  limit: number,
) =>
  many<{ vinyl_id: string; wanted: Wanted }>(
    q,
    `select r.vinyl_id, r.wanted from reading r join posterior p on p.input_hash = r.input_hash
      where r.person_id = $1 and r.cutter_id = $2 and (coalesce(p.shown, p.result) #>> '{evidence,cells}')::int > 0
        and (r.blade_id is distinct from $3 or r.wear is null or abs(r.wear - $4) > 0.001)
      order by r.read_at desc limit $5`,
    [personId, cutterId, bladeId, wear, limit],
  );

/** Readings made by another version of the model or prior, to be made again in the background; the old rows serve until then. */
export const staleReadings = (q: Query, modelVersion: string, priorVersion: string, limit: number) =>
  many<{ person_id: string; vinyl_id: string; cutter_id: string; wanted: Wanted }>(
    q,
    `select r.person_id, r.vinyl_id, r.cutter_id, r.wanted from reading r join posterior p on p.input_hash = r.input_hash
      where p.model_version <> $1 or p.prior_version <> $2 limit $3`,
    [modelVersion, priorVersion, limit],
  );

/**
 * Readings that are behind: graded after they were made (what a crash between grade and fit leaves), or made before the blade
 * that is now on the cutter was mounted.
 */
export const overdueReadings = (q: Query, limit: number) =>
  many<{ person_id: string; vinyl_id: string; cutter_id: string; wanted: Wanted }>(
    q,
    `select distinct cut.person_id, vinyl_root(cut.vinyl_id) as vinyl_id, cut.cutter_id, coalesce(r.wanted, coupon.wanted, o.wanted, 'clean') as wanted
       from grade_event e join cell on cell.id = e.cell_id join cut on cut.id = cell.cut_id
       left join coupon on coupon.cut_id = cut.id left join ordinary_cut o on o.cut_id = cut.id
       left join reading r on (r.person_id, r.vinyl_id, r.cutter_id) = (cut.person_id, vinyl_root(cut.vinyl_id), cut.cutter_id)
      where r.read_at is null or e.received_at > r.read_at
     union
     select r.person_id, r.vinyl_id, r.cutter_id, r.wanted
       from reading r join mounting n on n.cutter_id = r.cutter_id and n.removed_at is null
      where n.mounted_at > r.read_at
      limit $1`,
    [limit],
  );

export type SettingRow = {
  id: string;
  colour_id: string | null;
  colour: string | null;
  controls: Setting;
  standing: string;
  proof: StandingResult | null;
  note: string;
  kept_at: Date;
  blade_name: string;
  source_card: string | null;
  import_id: string | null;
  source_version: number | null;
  result: FitResult;
};

const settingSelect = `select s.id, s.colour_id, c.name as colour, s.controls, s.standing, s.proof, s.note, s.kept_at, b.name as blade_name,
    s.source_card, s.source_version, s.import_id, p.result
  from setting s join blade b on b.id = s.blade_id join posterior p on p.input_hash = s.input_hash
  left join colour c on c.id = s.colour_id`;

/**
 * The number kept for a vinyl on a cutter: the one of the colour asked for, else one for all colours, else the latest of another
 * colour; under whichever of its entries it was kept.
 */
export const currentSetting = (
  q: Query,
  personId: string,
  vinylId: string,
  cutterId: string,
  wanted: Wanted,
  colourId: string | null = null,
) =>
  one<SettingRow>(
    q,
    `${settingSelect} where s.person_id = $1 and s.vinyl_id = any(array(select vinyl_kin($2))) and s.cutter_id = $3 and s.wanted = $4
       and s.replaced_at is null
     order by coalesce(colour_root(s.colour_id) = $5, false) desc, s.colour_id is null desc, s.kept_at desc limit 1`,
    [personId, vinylId, cutterId, wanted, colourId],
  );

/** Makes room for a new number of a colour (null: of all colours). */
export const replaceSetting = (
  q: Query,
  personId: string,
  vinylId: string,
  cutterId: string,
  wanted: Wanted,
  colourId: string | null,
) =>
  q.query(
    `update setting set replaced_at = now()
      where person_id = $1 and vinyl_id = any(array(select vinyl_kin($2))) and cutter_id = $3 and wanted = $4 and replaced_at is null
        and colour_root(colour_id) is not distinct from colour_root($5)`,
    [personId, vinylId, cutterId, wanted, colourId],
  );

export const insertSetting = (
  q: Query,
  s: {
    id: string;
    personId: string;
    vinylId: string;
    colourId: string | null;
    cutterId: string;
    bladeId: string;
    wanted: Wanted;
    controls: Setting;
    standing: string;
    hash: Buffer;
    note: string;
    source?: { card: string; version: number };
  },
) =>
  q.query(
    `insert into setting (id, person_id, vinyl_id, colour_id, cutter_id, blade_id, controls, standing, input_hash, note, wanted,
       source_card, source_version)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13)`,
    [
      s.id,
      s.personId,
      s.vinylId,
      s.colourId,
      s.cutterId,
      s.bladeId,
      s.controls,
      s.standing,
      s.hash,
      s.note,
      s.wanted,
      s.source?.card ?? null,
      s.source?.version ?? null,
    ],
  );

/** Readings that are there for any entry of a vinyl: they are made again when entries are merged or parted. */
export const readingsOfKin = (q: Query, vinylId: string) =>
  many<{ person_id: string; cutter_id: string }>(
    q,
    'select distinct person_id, cutter_id from cut where vinyl_id = any(array(select vinyl_kin($1)))',
    [vinylId],
  );
