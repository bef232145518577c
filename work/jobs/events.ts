import { createHash } from 'node:crypto';
import {
  cellId,
  cutId,
  jobEventSchema,
  jobLimits,
  placeOnRoll,
  loadsOf,
  type LoadPart,
  planSchema,
  standingEvents,
  type JobEvent,
  type Plan,
} from '#core/job/index.ts';
import { cutLength } from '#core/coupon/index.ts';
import { passesOf, SettingError, AxisError, validateSetting } from '#core/controls/index.ts';
import { wantedOfType } from '#core/vinyls/index.ts';
import { v5 as uuidv5 } from 'uuid';
import * as coupons from '#store/coupons/coupons.ts';
import * as eventStore from '#store/coupons/events.ts';
import * as cutStore from '#store/cuts/cuts.ts';
import * as recipeStore from '#store/vinyls/recipes.ts';
import * as stockStore from '#store/vinyls/stock.ts';
import { afterCommit, db, type Query } from '#store/base/db.ts';
import * as habitStore from '#store/jobs/habits.ts';
import * as store from '#store/jobs/jobs.ts';
import * as workshopStore from '#store/workshop/workshop.ts';
import { notYet, subjectOf, type Outcome } from '#work/people/delivery.ts';
import { LINE_DEVICE } from '#work/cuts/line.ts';
import { wearOf } from '#work/coupons/evidence.ts';
import { insertMarks } from '#work/cuts/cuts.ts';
import { Invalid } from '#work/base/errors.ts';
import { can } from '#work/people/permissions.ts';
import type { Person } from '#work/people/person.ts';
import { evidenceChanged } from '#work/shelf/evidence.ts';
import { pieceOf, type Piece } from '#work/vinyls/stock.ts';
import { vinylOf } from '#work/vinyls/vinyls.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { tellStandIn } from '#work/workshop/livePresses.ts';
import { underBlade } from '#work/workshop/mats.ts';
import { artworksOf, filmFor, lostOnly, shownOf } from './film.ts';
import { keepOutcome, outcomeIds } from './keepOutcome.ts';

/**
 * What hands did at jobs. Most taps change nothing that the plan says: those of one job are stored in one go. What has consequences is stored
 * alone, with all that follows from it, or not at all.
 */
export const jobEvents = subjectOf<JobEvent>({
  about: 'job',
  schema: jobEventSchema,
  together: (event) => (hasConsequences(event) ? undefined : event.job),
  take: (person, events) => storeEvents(db(), person, events),
});

async function storeEvents(q: Query, person: Person, events: readonly JobEvent[]): Promise<Outcome[]> {
  const [first] = events as [JobEvent];
  const job = await store.lockOwnJob(q, first.job, person.id);
  if (!job || !can(person, 'change', { owner: job.person_id }))
    return events.map((e) => notYet(e.id, 'There is no such job among yours.'));
  // Looked for under the lock: of two processes that bring one at one moment one stores it.
  const before = await store.beforeEvents(q, events, hasConsequences(first));
  const fresh: JobEvent[] = [];
  const outcomes: Outcome[] = [];
  for (const event of events) {
    const { id } = event;
    const told = before.there.includes(id) || fresh.some((e) => e.id === id);
    const missing = told ? undefined : await missingFor(q, person, event, before, fresh.length);
    if (!told && !missing) {
      fresh.push(event);
      if (event.step.startsWith('press/')) await afterCommit(() => atThePress(person, event));
    }
    outcomes.push(missing ?? { id, outcome: told ? 'already' : 'stored' });
  }
  await store.insertEvents(q, person.id, fresh);
  return outcomes;
}

/** Does what follows from an event; answers what became of it where it cannot be taken, or not yet. */
async function missingFor(
  q: Query,
  person: Person,
  event: JobEvent,
  before: store.BeforeEvents,
  more: number,
): Promise<Outcome | undefined> {
  const { id } = event;
  if (before.n + more >= jobLimits.events)
    return { id, outcome: 'refused', why: 'This job has as many events as one may have.' };
  if (!before.revs.includes(event.rev)) return notYet(id, 'It speaks of a plan that is not here.');
  if (event.kind === 'undo') return undo(q, event);
  if (event.kind === 'helped') {
    const told = await store.eventById(q, event.event);
    if (told?.job_id !== event.job || told.kind !== 'wrong') return notYet(id, 'What it speaks of is not here.');
  }
  const missing = before.plan ? await followPlan(q, person, event, planSchema.parse(before.plan)) : undefined;
  return missing === undefined ? undefined : notYet(id, missing);
}

/** Whether something follows from an event, beyond that it is told. */
const hasConsequences = (event: JobEvent): boolean =>
  speaksOfPlan(event) || event.kind === 'undo' || event.kind === 'helped';

/** Whether an event names something that only its plan has, or does something that follows from it. */
const speaksOfPlan = (event: JobEvent): boolean =>
  event.kind === 'cut' ||
  event.kind === 'outcome' ||
  event.kind === 'lost' ||
  event.kind === 'note' ||
  (event.kind === 'wrong' && event.vinyl !== undefined);

/** Does what follows from an event and its plan; answers what is missing where it cannot be taken yet. */
async function followPlan(q: Query, person: Person, event: JobEvent, plan: Plan): Promise<string | undefined> {
  const unknown = notInPlan(event, plan);
  if (unknown) return unknown;
  if (event.kind === 'cut') {
    const events = await store.eventsOf(q, [event.job]);
    const part = loadsOf(plan, standingEvents(events))
      .flatMap((l) => l.parts)
      .find((p) => p.id === event.part);
    // The word that something was lost may still be on its way from another device.
    if (!part) return 'The plan has no such part.';
    await makeCut(q, person, event, plan, part);
  }
  if (event.kind === 'outcome') await keepOutcome(q, person, event, plan);
  if (event.kind === 'note') await keepNote(q, person, event, plan);
  return undefined;
}

/** What an event names that its plan does not have; undefined where all of it is there. */
function notInPlan(event: JobEvent, plan: Plan): string | undefined {
  const pieces = new Set(plan.pieces.map((p) => p.id));
  if ((event.kind === 'outcome' || event.kind === 'lost') && !event.pieces.every((p) => pieces.has(p)))
    return 'The plan has no such piece.';
  const layers = new Set(plan.layers.map((l) => l.id));
  if (event.kind === 'outcome' && event.presses?.some((p) => !p.layers.every((l) => layers.has(l))))
    return 'The plan has no such layer.';
  const parts = new Set(plan.loads.flatMap((l) => l.parts.map((p) => p.id)));
  if (event.kind === 'lost' && !parts.has(event.part)) return 'The plan has no such part.';
  if (
    (event.kind === 'wrong' || event.kind === 'note') &&
    event.vinyl &&
    !plan.layers.some((l) => l.vinyl === event.vinyl)
  )
    return 'The plan has no such vinyl.';
  return undefined;
}

/** A note is about the vinyl of its step, or about the blank, and comes again with that in the next job. */
const keepNote = (q: Query, person: Person, event: JobEvent & { kind: 'note' }, plan: Plan) =>
  habitStore.insertNote(q, {
    eventId: event.id,
    personId: person.id,
    jobId: event.job,
    step: event.step.slice(0, event.step.indexOf('/')),
    vinylId: event.vinyl ?? null,
    blank: plan.blank,
    says: event.text,
    at: new Date(Math.min(Date.now(), Date.parse(event.deviceAt))),
  });

/** Takes back what an event did. Undefined where it may be stored; a cut that was graded is not taken back. */
async function undo(q: Query, event: JobEvent & { kind: 'undo' }): Promise<Outcome | undefined> {
  const what = await store.eventById(q, event.event);
  if (!what || what.job_id !== event.job) return notYet(event.id, 'What it takes back is not here.');
  if (what.kind === 'undo') throw new Invalid({ form: 'What was taken back is said again, not taken back twice.' });
  if (what.kind === 'outcome')
    for (const id of outcomeIds(what.id, what.body.pieces as string[])) await recipeStore.undoPressOutcome(q, id);
  if (what.kind === 'note') await habitStore.undoNote(q, what.id);
  if (what.kind !== 'cut') return undefined;
  const cut = (await store.cutsOf(q, [event.job])).find((c) => c.event_id === event.event);
  // Another device told the same cut: it stands by that.
  if (!cut || cut.undone) return undefined;
  const other = await store.otherCutEvent(q, event.job, cut.part_id, cut.attempt, event.event);
  if (other) {
    await store.setCutEvent(q, cut.cut_id, other.id);
    return undefined;
  }
  if (await store.isGraded(q, cut.cut_id))
    throw new Invalid({ form: 'It was graded: it is cut. Put it right at the cut itself, or cut it anew.' });
  await store.undoCut(q, cut.cut_id, true);
  return undefined;
}

/** The cut of a part: a cut like every other, with its true length, its film off the roll, and the passes that were run by hand. */
async function makeCut(
  q: Query,
  person: Person,
  event: JobEvent & { kind: 'cut' },
  plan: Plan,
  part: LoadPart,
): Promise<void> {
  const layer = plan.layers.find((l) => l.id === part.layer);
  if (!layer?.vinyl || !plan.design) throw new Invalid({ form: 'The plan has no such part, or no vinyl for it.' });
  const mounting = await store.mountingOf(q, event.mounting, person.id);
  if (!mounting) throw new Invalid({ form: 'No such blade on a cutter of yours.' });
  const model = (await workshopStore.modelByVersion(q, event.setting.model, event.setting.version))?.definition;
  if (!model || model.key !== mounting.model_key) throw new Invalid({ form: 'That is no setting of this cutter.' });
  try {
    validateSetting(model, event.setting);
  } catch (error) {
    if (error instanceof SettingError || error instanceof AxisError) throw new Invalid({ form: `${error.message}.` });
    throw error;
  }
  const id = cutId(part.id, event.attempt);
  const before = (await store.cutsOf(q, [event.job])).find((c) => c.cut_id === id);
  if (before) {
    // The same tap on another device; or a cut that was taken back and is made after all.
    if (!before.undone || !(await store.undoCut(q, id, false))) return;
    await store.setCutEvent(q, id, event.id);
    const area = await stockStore.stockOfArea(q, id);
    if (area)
      await takeFilm(q, await pieceOf(person, area.stock_id), id, { width: before.width_um, height: before.height_um });
    return;
  }
  const [vinyl, artworks, bench, under] = await Promise.all([
    vinylOf(person, layer.vinyl, layer.colour),
    artworksOf(plan),
    benchOf(person),
    underBlade(person),
  ]);
  // What was lost is cut for the pieces that lost it.
  const these = { ...plan, pieces: plan.pieces.filter((p) => part.pieces.includes(p.id)) };
  const shown = lostOnly(shownOf(these, layer.path, artworks), part.shapes, under.mat.widthUm);
  if (shown.length === 0) throw new Invalid({ form: 'The drawing has no such layer.' });
  const drawn = filmFor(these, layer, shown, vinyl, under);
  const [film, paths] = [drawn.film, drawn.paths()];
  const from = event.stock ? await pieceOf(person, event.stock) : undefined;
  await coupons.insertCut(q, {
    id,
    batchId: from?.batchId ?? null,
    kind: 'ordinary',
    personId: person.id,
    vinylId: vinyl.id,
    colourId: vinyl.colour?.id ?? null,
    cutterId: mounting.cutter_id,
    mountingId: mounting.id,
    wear: bench?.blade?.mounting === mounting.id ? wearOf(bench.blade.wear.share) : 0,
    // It was cut when the hand said so, not when the line came back; no clock of a device is ahead of ours.
    createdAt: new Date(Math.min(Date.now(), Date.parse(event.deviceAt))),
  });
  await cutStore.insertOrdinaryCut(q, id, wantedOfType(vinyl.type), event.witness);
  const cell = cellId(id);
  await coupons.insertCell(q, { id: cell, cutId: id, number: 1, setting: event.setting, lengthUm: cutLength(paths) });
  const marks = event.witness ? await insertMarks(q, id, model, event.setting, vinyl) : [];
  await store.insertJobCut(q, {
    partId: part.id,
    attempt: event.attempt,
    jobId: event.job,
    cutId: id,
    eventId: event.id,
    hash: createHash('sha256').update(JSON.stringify(paths)).digest(),
    widthUm: film.width,
    heightUm: film.height,
  });
  if (from) await takeFilm(q, from, id, film);
  // What the line sends it counts itself, pass by pass.
  if (event.device !== LINE_DEVICE) {
    const passes = passesOf(model, event.setting);
    await eventStore.insertEvents(
      q,
      person.id,
      [cell, ...marks].map((done) => ({
        id: uuidv5(`${done} ${passes}`, LINE_DEVICE),
        kind: 'cut' as const,
        cell: done,
        passes,
        device: event.device,
        deviceAt: event.deviceAt,
      })),
    );
  }
  await afterCommit(() => evidenceChanged(person, [{ vinylId: vinyl.id, cutterId: mounting.cutter_id }], [id]));
}

/** The simulated press does what hands say they did. */
function atThePress(person: Person, event: JobEvent): Promise<void> {
  if (event.kind === 'plate') tellStandIn(person, undefined, `set ${Math.round(event.heat / 1000)}`);
  if (event.kind === 'start') tellStandIn(person, undefined, 'close');
  if (event.kind === 'opened') tellStandIn(person, undefined, 'open');
  return Promise.resolve();
}

/** The film of a cut leaves its roll: beside what was cut of it before, where there is room. */
async function takeFilm(q: Query, piece: Piece, cut: string, film: { width: number; height: number }): Promise<void> {
  await stockStore.lockStock(q, piece.id);
  await stockStore.takeArea(
    q,
    cut,
    piece.id,
    placeOnRoll(piece.widthUm, await stockStore.areasOf(q, [piece.id]), film),
  );
}
