import type { Artwork, ArtLayer, FilmNeeds } from '#core/artwork/index.ts';
import type { Setting } from '#core/controls/index.ts';
import { currentGrades, type GradeEvent } from '#core/grades/index.ts';
import {
  type Asked,
  isEnough,
  missing,
  runSheet,
  takesOf,
  type CutFact,
  type FilmPiece,
  type JobEvent,
  type LoadPart,
  type Plan,
  type Sheet,
} from '#core/job/index.ts';
import { place, type Placed } from '#core/place/index.ts';
import { stackTroubles, type HandHabits, type Trouble } from '#core/press/index.ts';
import { suitsBlank, type Suits } from '#core/vinyls/index.ts';
import { db } from '#store/base/db.ts';
import { NotFound } from '#work/base/errors.ts';
import * as store from '#store/jobs/jobs.ts';
import * as eventStore from '#store/coupons/events.ts';
import { learntLeasts } from '#work/coupons/learnt.ts';
import type { Person } from '#work/people/person.ts';
import { underBlade, type UnderBlade } from '#work/workshop/mats.ts';
import { vinylOf, type Vinyl } from '#work/vinyls/vinyls.ts';
import { artworksOf, filmFor, lostOnly, partsOf, shownOf, sumsOf, type Shown } from './film.ts';
import { needsOf, ownJob, planOf } from './jobs.ts';
import { habitsOf, handsOf, pressOf, type PressHabits } from './press.ts';
import type { PressPlanView, PressStepView } from './pressView.ts';

export type JobLayer = {
  id: string;
  /** The colour it is drawn in: that of its vinyl once one is chosen. */
  hex: string;
  /** The colour of the drawing. */
  drawn: string;
  art: ArtLayer;
  vinyl: Vinyl | undefined;
  suits: Suits | undefined;
  /** What its vinyl asks of the drawing. */
  needs: FilmNeeds | undefined;
  part: string;
  /** Whether it was lost and is cut again; of several rounds which, from 1. */
  again: boolean;
  round: { at: number; of: number } | undefined;
  /** What is asked of the film for its pieces, and the piece to trim; undefined until a vinyl, and a size, is said. */
  asked: Asked | undefined;
  film: FilmPiece | undefined;
  /** What the pieces show of it: one entry for all, or one for each. */
  shown: Shown[];
  /** What these hands do at it, by topic; how wide the carrier is left also as a recipe of one's own says. */
  hands: HandHabits;
  /** Of all pieces together: inner pieces, pieces of film, and the length of the cut in one pass, µm. */
  holes: number;
  pieces: number;
  lengthUm: number;
};

export type JobView = {
  id: string;
  name: string;
  archived: boolean;
  rev: number;
  plan: Plan;
  missing: ReturnType<typeof missing>;
  artwork: Artwork | undefined;
  layers: JobLayer[];
  /** What of a layer is cut by itself: each of several rounds, and what was lost and is cut again for the pieces that lost it. */
  parts: JobLayer[];
  /** Layers of the drawing that were left out. */
  leftOut: { path: string; hex: string }[];
  placed: Placed | undefined;
  troubles: Trouble[];
  press: PressStepView[];
  /** How its layers are planned at the press. */
  pressPlan: PressPlanView;
  /** When it may be washed first: at once only where the leaflet of every film says so. */
  wash: 'a day later' | 'at once';
  /** How wide the design was in each revision. */
  widths: (number | undefined)[];
  sheet: Sheet;
  facts: JobCut[];
  events: JobEvent[];
  /** What lies under the blade now. */
  under: UnderBlade;
};

/** The cut of a part, as it stands: its cell is graded like every other, and so are those of its test mark. */
export type JobCut = CutFact & {
  undone: boolean;
  wanted: 'clean' | 'through';
  setting: Setting;
  /** Cells of its test mark, lightest first. */
  marks: string[];
  /** The batch of its film, where that is known. */
  batch: string | undefined;
  events: GradeEvent[];
};

/** What cuts of some jobs say of themselves. */
export async function factsOf(jobIds: readonly string[]): Promise<(JobCut & { job: string })[]> {
  const cuts = await store.cutsOf(db(), jobIds);
  const cells = cuts.flatMap((c) => [c.cell_id, ...c.marks]);
  const [passes, events] = await Promise.all([store.passesOfCells(db(), cells), eventStore.eventsOfCells(db(), cells)]);
  const grades = currentGrades(events);
  return cuts.map((c) => {
    const run = passes.find((p) => p.cell_id === c.cell_id)?.passes ?? 0;
    const grade = grades.find((g) => g.cell === c.cell_id && g.passes === Math.max(1, run))?.grade;
    return {
      job: c.job_id,
      part: c.part_id,
      attempt: c.attempt,
      cut: c.cut_id,
      cell: c.cell_id,
      passes: run,
      grade,
      enough: isEnough(grade, c.wanted),
      undone: c.undone,
      wanted: c.wanted,
      setting: c.setting,
      marks: c.marks,
      batch: c.batch ?? undefined,
      events: events.filter((e) => e.cell === c.cell_id || c.marks.includes(e.cell)),
    };
  });
}

/** The vinyls of a plan by layer. One that is gone, or no longer seen, is not among them. */
export async function vinylsOfPlan(person: Person | undefined, plan: Plan): Promise<Map<string, Vinyl>> {
  const found = new Map<string, Vinyl>();
  const look = async ({ id, vinyl, colour }: Plan['layers'][number]) => {
    if (vinyl) found.set(id, await vinylOf(person, vinyl, colour));
  };
  await Promise.all(
    plan.layers.map((l) =>
      look(l).catch((error: unknown) => {
        if (!(error instanceof NotFound)) throw error;
      }),
    ),
  );
  return found;
}

/** A job with everything its pages say. */
export async function jobOf(person: Person | undefined, id: string, now = Date.now()): Promise<JobView> {
  const row = await ownJob(person, id);
  const [{ plan, rev, widths }, events, facts, under] = await Promise.all([
    planOf(id),
    store.eventsOf(db(), [id]),
    factsOf([id]),
    underBlade(person),
  ]);
  const known = vinylsOfPlan(person, plan);
  const [artworks, vinyls, learnt] = await Promise.all([
    artworksOf(plan),
    known,
    known.then((found) =>
      learntLeasts(
        person,
        [...found.values()].map((v) => v.id),
      ),
    ),
  ]);
  const habits = await habitsOf(person, [...vinyls.values()], plan.blank.surface);
  const artwork = plan.design && artworks.get(plan.design.artwork);
  const blank = takesOf(plan.blank);
  /** A layer as it is cut for some pieces of the job: all of them, or those that lost it. */
  const layerOf = (
    l: Plan['layers'][number],
    part: Pick<LoadPart, 'id' | 'shapes'>,
    pieces: Plan['pieces'],
    of: Partial<Pick<JobLayer, 'again' | 'round'>> = {},
  ): JobLayer[] => {
    const art = artwork?.layers.find((a) => a.id === l.path);
    if (!artwork || !art) return [];
    const vinyl = vinyls.get(l.id);
    const these = { ...plan, pieces };
    const shown = lostOnly(shownOf(these, l.path, artworks), part.shapes, under.mat.widthUm);
    const drawn = vinyl && filmFor(these, l, shown, vinyl, under);
    return [
      {
        id: l.id,
        hex: vinyl?.colour?.hex ?? art.hex,
        drawn: art.hex,
        art,
        vinyl,
        suits: vinyl && suitsBlank(vinyl.behaviour, blank),
        needs: vinyl && needsOf(vinyl.behaviour, learnt.get(vinyl.id)),
        part: part.id,
        again: of.again ?? false,
        round: of.round,
        asked: drawn?.asked,
        film: plan.design!.sized ? drawn?.film : undefined,
        shown,
        hands: vinyl ? handsOf(vinyl, habits, plan.blank.surface) : {},
        ...sumsOf(these, shown),
      },
    ];
  };
  const layers = plan.layers.flatMap((l) =>
    layerOf(l, plan.loads.find((o) => o.parts[0]!.layer === l.id)!.parts[0]!, plan.pieces),
  );
  const press = pressOf(plan, vinyls, habits);
  return {
    id,
    name: row.name,
    archived: row.archived_at !== null,
    rev,
    plan,
    missing: missingOf(plan, vinyls),
    artwork,
    layers,
    parts: partsOf(plan, events).flatMap(({ layer, part, ...of }) =>
      layerOf(
        layer,
        part,
        plan.pieces.filter((p) => part.pieces.includes(p.id)),
        of,
      ),
    ),
    leftOut:
      artwork?.layers
        .filter((a) => !plan.layers.some((l) => l.path === a.id))
        .map(({ id: path, hex }) => ({ path, hex })) ?? [],
    placed: artwork && plan.design && placedOf(plan, artwork),
    troubles: stackTroubles(press.films, blank, (a, b) => overlap(layers, a.id, b.id)),
    press: press.steps,
    pressPlan: press.plan,
    wash: washOf(press.films, vinyls, habits),
    widths,
    sheet: runSheet(
      plan,
      widths,
      events,
      facts.filter((f) => !f.undone),
      press.steps,
      now,
    ),
    facts,
    events,
    under,
  };
}

const washOf = (
  films: readonly { id: string; bond: string }[],
  vinyls: ReadonlyMap<string, Vinyl>,
  { said }: PressHabits,
): JobView['wash'] => {
  const pressed = films.filter((f) => f.bond === 'heat');
  const atOnce = pressed.every((f) => said.get(vinyls.get(f.id)!.id)?.wash === 'at once');
  return pressed.length > 0 && atOnce ? 'at once' : 'a day later';
};

/** A vinyl that is gone, or no longer seen, is missing again. */
export const missingOf = (plan: Plan, vinyls: ReadonlyMap<string, Vinyl>) =>
  missing({ ...plan, layers: plan.layers.map((l) => (l.vinyl && !vinyls.has(l.id) ? { id: l.id, path: l.path } : l)) });

/** Where a design of a plan comes to lie. */
const placedOf = (plan: Plan, artwork: Pick<Artwork, 'width' | 'height'>): Placed =>
  place({
    format: 'versipel-place/1',
    blank: { width: plan.blank.width, height: plan.blank.height, margins: plan.blank.margins },
    design: {
      width: plan.design!.widthUm,
      height: Math.max(1_000, Math.round((plan.design!.widthUm * artwork.height) / artwork.width)),
    },
    spot: plan.design!.spot,
    shape: plan.blank.shape,
    size: plan.blank.size,
    side: plan.blank.side,
  });

/** Whether a layer that comes after this one may lie on it. */
export const isCovered = (layers: readonly JobLayer[], i: number): boolean =>
  layers.slice(i + 1).some((above) => overlap(layers, layers[i]!.id, above.id));

/** Whether a layer lies within one that is below it. */
export const isOnFilm = (layers: readonly JobLayer[], i: number): boolean => {
  const { box: q } = layers[i]!.art;
  return layers
    .slice(0, i)
    .some(
      ({ art: { box: p } }) =>
        p.x <= q.x && p.y <= q.y && p.x + p.width >= q.x + q.width && p.y + p.height >= q.y + q.height,
    );
};

/** Whether the boxes of two layers overlap: what lies apart does not meet. */
function overlap(layers: readonly JobLayer[], a: string, b: string): boolean {
  const [p, q] = [layers.find((l) => l.id === a)?.art.box, layers.find((l) => l.id === b)?.art.box];
  return !!p && !!q && p.x < q.x + q.width && q.x < p.x + p.width && p.y < q.y + q.height && q.y < p.y + p.height;
}
