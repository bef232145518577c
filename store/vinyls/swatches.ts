import type { SwatchInput } from '#core/press/index.ts';
import type { PressWay } from '#core/vinyls/index.ts';
import { many, one, type Query } from '#store/base/db.ts';

type Said = Pick<SwatchInput['cells'][number], 'bond' | 'harm' | 'washed'>;
/** A square of a card: how it was pressed, and how it came out as far as somebody looked. */
export type SwatchCellRow = {
  id: string;
  heat: number;
  seconds: number;
  /** What the press was set to, where its dial has words. */
  word?: string;
  bond?: Said['bond'];
  harm?: Said['harm'];
  washed?: Said['washed'];
};
export type SwatchRow = {
  id: string;
  person_id: string;
  vinyl_id: string;
  surface: string;
  press_id: string | null;
  cells: SwatchCellRow[];
  made_at: Date;
};
const columns = 'id, person_id, vinyl_id, surface, press_id, cells, made_at';

export const insertSwatch = (q: Query, s: Omit<SwatchRow, 'made_at' | 'person_id'> & { personId: string }) =>
  q.query(
    'insert into press_swatch (id, person_id, vinyl_id, surface, press_id, cells) values ($1, $2, $3, $4, $5, $6)',
    [s.id, s.personId, s.vinyl_id, s.surface, s.press_id, JSON.stringify(s.cells)],
  );
/** The newest cards of a vinyl on a fabric, the oldest of them first. */
export const swatchesOf = (q: Query, personId: string, vinylId: string, surface: string) =>
  many<SwatchRow>(
    q,
    `select * from (
       select ${columns} from press_swatch
        where person_id = $1 and vinyl_id = any(array(select vinyl_kin($2))) and surface = $3 and away_at is null
        order by made_at desc, id desc limit 20) x
      order by made_at, id`,
    [personId, vinylId, surface],
  );
/** Cards of other vinyls that were pressed with a press, the newest first: they tell of its words. */
export const swatchesWith = (q: Query, pressId: string, besides: string) =>
  many<SwatchRow>(
    q,
    `select ${columns} from press_swatch
      where press_id = $1 and vinyl_id <> all(array(select vinyl_kin($2))) and away_at is null order by made_at desc limit 20`,
    [pressId, besides],
  );
export const swatchById = (q: Query, id: string) =>
  one<SwatchRow>(q, `select ${columns} from press_swatch where id = $1 for update`, [id]);
export const gradeSwatch = (q: Query, id: string, cells: readonly SwatchCellRow[]) =>
  q.query('update press_swatch set cells = $2 where id = $1', [id, JSON.stringify(cells)]);
export const setSwatchAway = (q: Query, id: string) =>
  q.query('update press_swatch set away_at = now() where id = $1', [id]);

export type FoundRow = { vinyl_id: string; press_id: string | null; way: PressWay | null };
/** What a person's squares found for some vinyls on a surface. */
export const foundBySwatches = (q: Query, personId: string, vinylIds: readonly string[], surface: string) =>
  many<FoundRow & { asked: string }>(
    q,
    `select a.id as asked, f.vinyl_id, f.press_id, f.way from unnest($2::uuid[]) as a(id)
       join swatch_found f on f.vinyl_id = any(array(select vinyl_kin(a.id)))
      where f.person_id = $1 and f.surface = $3 and f.way is not null order by f.read_at desc`,
    [personId, vinylIds, surface],
  );
export const keepFound = (q: Query, f: FoundRow & { personId: string; surface: string }) =>
  q.query(
    `insert into swatch_found (person_id, vinyl_id, surface, press_id, way) values ($1, $2, $3, $4, $5)
     on conflict (person_id, vinyl_id, surface) do update set press_id = excluded.press_id, way = excluded.way, read_at = now()`,
    [f.personId, f.vinyl_id, f.surface, f.press_id, f.way && JSON.stringify(f.way)],
  );
/** Graded cards that nobody has read yet for what they found: of a time before that was kept, or cut off. */
export const unreadSwatches = (q: Query, limit: number) =>
  many<{ person_id: string; vinyl_id: string; surface: string }>(
    q,
    `select distinct s.person_id, s.vinyl_id, s.surface from press_swatch s
      where s.away_at is null and jsonb_path_exists(s.cells, '$[*].bond')
        and not exists (select 1 from swatch_found f where (f.person_id, f.vinyl_id, f.surface) = (s.person_id, s.vinyl_id, s.surface))
      limit $1`,
    [limit],
  );
