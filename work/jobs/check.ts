import { slowToWeed, type FilmNeeds } from '#core/artwork/index.ts';
import type { LaidFilm } from '#core/press/index.ts';
import { behaviourOf, vinylTypeKeys, vinylTypes, type Behaviour, type VinylTypeKey } from '#core/vinyls/index.ts';
import type { LearntLeast } from '#core/weed/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/jobs/jobs.ts';
import * as vinylStore from '#store/vinyls/vinyls.ts';
import { NotFound } from '#work/base/errors.ts';
import { learntLeasts } from '#work/coupons/learnt.ts';
import type { Person } from '#work/people/person.ts';
import { behaviourOfRow } from '#work/vinyls/vinyls.ts';
import { needsOf } from './jobs.ts';
import { jobOf } from './view.ts';

/** A film that a drawing can be judged for: a vinyl in hand, or what is known of a type. */
export type CheckFilm = {
  key: string;
  name: string;
  own: boolean;
  type: VinylTypeKey;
  needs: FilmNeeds;
  slow: number;
  /** By how many cells of one's own coupons its least line or gap was learnt; 0 where a leaflet or its type says them. */
  learntFrom: number;
  /** How often a metre of it counts for the blade, against plain film. */
  dulls: number;
  /** How it holds on its carrier, looks on a blank and lies on other films. */
  tack: Behaviour['tack'];
  shifts: boolean;
  stack: Omit<LaidFilm, 'id' | 'name'>;
};

/** What a drawing is judged by in a film. */
const judgedBy = (type: VinylTypeKey, b: Behaviour, learnt?: LearntLeast) => ({
  type,
  needs: needsOf(b, learnt),
  learntFrom: learnt && (learnt.line ?? learnt.gap) !== undefined ? learnt.cells : 0,
  slow: slowToWeed(type),
  dulls: b.wear,
  tack: b.tack,
  shifts: b.shifts ?? false,
  stack: {
    bond: b.bond,
    heat: b.heat,
    notOn: b.notOn,
    // How it is pressed is asked at the press.
    press: [],
    minFeatureUm: b.minFeatureUm,
    face: b.face,
    side: b.side,
    ...(b.shifts ? { shifts: true } : {}),
    filmUm: b.filmUm,
    opacity: b.opacity,
  },
});

/** Vinyls in hand that are offered. */
const OFFERED = 40;

/**
 * Films that a drawing can be judged for: those of a job, what is in hand, then every type.
 * @param wanted vinyls that are offered whether or not they were ever in hand
 */
export async function checkFilms(person: Person | undefined, wanted: readonly string[] = []): Promise<CheckFilm[]> {
  const ids = [...new Set([...wanted, ...(person ? await vinylStore.myVinyls(db(), person.id, OFFERED) : [])])];
  const rows = ids.length > 0 ? await vinylStore.vinylsByIds(db(), ids) : [];
  const learnt = await learntLeasts(person, ids);
  const own = ids.flatMap((id): CheckFilm[] => {
    const row = rows.find((r) => r.id === id);
    if (!row) return [];
    const type = row.type as VinylTypeKey;
    const name = `${row.brand} ${row.name}`.trim();
    return [{ key: id, name, own: true, ...judgedBy(type, behaviourOfRow(row), learnt.get(id)) }];
  });
  const types = vinylTypeKeys.map((type): CheckFilm => ({
    key: type,
    name: vinylTypes[type].word,
    own: false,
    ...judgedBy(type, behaviourOf(type)),
  }));
  return [...own, ...types];
}

/** The drawing of a job with the films chosen for it, to be looked at by itself. @throws NotFound where it has none */
export async function drawingOfJob(person: Person | undefined, id: string) {
  const job = await jobOf(person, id);
  const { design } = job.plan;
  if (!design) throw new NotFound('There is no drawing on this job.');
  const bytes = await store.artworkBytes(db(), design.artwork);
  return {
    id,
    name: job.name,
    hex: job.plan.blank.hex,
    drawing: { name: design.name, svg: bytes!.bytes.toString('utf8'), widthUm: design.widthUm },
    films: job.layers.flatMap((l) => (l.vinyl ? [{ hex: l.drawn, vinyl: l.vinyl.id }] : [])),
  };
}
