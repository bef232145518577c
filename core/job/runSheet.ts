import { v5 as uuidv5 } from 'uuid';
import { standingOf } from '../events/index.ts';
import type { Grade } from '../grades/index.ts';
import { shapes } from '../place/index.ts';
import type { CauseKey, Remedy, Symptom } from './causes.ts';
import type { JobEvent } from './events.ts';
import type { Plan } from './plan.ts';
import type { StepId, StepKind } from './steps.ts';

/** What is known of the cut of a part: it owns its grade and its passes, the sheet only reads them. */
export type CutFact = {
  part: string;
  attempt: number;
  cut: string;
  cell: string;
  /** Passes run so far, and what was seen after the last of them. */
  passes: number;
  grade?: Grade | undefined;
  /** Whether nothing is to be done about it: `isEnough`. */
  enough: boolean;
};

export type SheetStep = {
  id: StepId;
  kind: StepKind;
  /** The part, load or piece it is about. */
  about: string;
  /** The layer, where it is about one (the first of those that are pressed on at once); the place among the steps at the press. */
  layer: string | undefined;
  press: number | undefined;
  attempt: number;
  state: 'done' | 'skipped' | 'open';
  /** Steps that come before it by their nature. */
  needs: StepId[];
  /** Whether everything it needs is done or skipped. */
  ready: boolean;
  /** The event that would be taken back. */
  by: string | undefined;
  /** Seconds that hands were at it, overlaps counted once. */
  seconds: number;
  /** When the clock was started that runs for it now, by the device that started it; undefined where none runs. */
  since: string | undefined;
  /** When it was done, by the device that said so. */
  at: string | undefined;
  /** When the press was closed on it last, and opened again since. */
  closed: string | undefined;
  opened: string | undefined;
  /** How often it was closed since it was opened last: a design larger than the plate is pressed part by part. 0 where it is not closed. */
  part: number;
  /** How long it cools from then, s, where somebody said so at the press. */
  cools: number | undefined;
  /** How long is left of its time, s, where it was opened early and nobody has closed it again; of the part it stands at. */
  rest: number | undefined;
  /** How long it is closed this time, s; undefined where it is not, or nobody says. */
  closesFor: number | undefined;
};

export type Sheet = {
  steps: SheetStep[];
  /** The first step that can be done now; undefined where all is done. */
  next: StepId | undefined;
  done: number;
  /** Steps of an older plan that were done and that this plan no longer has. */
  past: { id: StepId; rev: number }[];
  /** Parts that were cut at another width than the plan now says. */
  otherSize: { part: string; widthUm: number }[];
  /** What the plate was set to last, m°C, and the scale its display reads. */
  plate: { heat: number; shows: 'C' | 'F' } | undefined;
  /** What somebody was warned of and does all the same. */
  agreed: string[];
  notes: { step: string; text: string; at: string }[];
  outcomes: { step: string; pieces: string[]; word: string; at: string }[];
  /** What went wrong, what was done about it, and whether it helped; undefined until somebody says. */
  wrongs: {
    id: string;
    step: string;
    attempt: number;
    seen: Symptom;
    cause: CauseKey;
    remedy: Remedy;
    at: string;
    helped: boolean | undefined;
    /** Whether what was to be done about it is done: before that nobody can say whether it helped. */
    acted: boolean;
  }[];
};

/** Whether a cut need not be run again: it is as was wanted, or further. */
export const isEnough = (grade: Grade | undefined, wanted: 'clean' | 'through'): boolean =>
  grade === 'through' || (wanted === 'clean' && (grade === 'clean' || grade === 'scored'));

/** The id of a cut: the same tap on two devices is one cut. */
export const cutId = (part: string, attempt: number): string => uuidv5(`cut ${attempt}`, part);
/** The id of the one cell of a cut. */
export const cellId = (cut: string): string => uuidv5('cell', cut);
/** The part that is cut again for what was lost: the same word on two devices is one part. */
export const recutId = (part: string, event: string): string => uuidv5(`again ${event}`, part);
/** The load on which such a part is cut. */
export const recutLoad = (part: string): string => uuidv5('load', part);
/** A step at the press of one piece: the bare blank, a layer, the last press. */
export const pressId = (piece: string, what: string): string => uuidv5(`press ${what}`, piece);

/** What is pressed or applied of each piece, in order. */
export type PressPlan = {
  what: string;
  layers: readonly string[];
  /** Apply: stuck on, painted through or glued, by hand. */
  kind?: 'press' | 'apply' | undefined;
  /** How long it is pressed, s; undefined where nobody says. */
  seconds?: number | undefined;
  /** What hands do before the press that follows: it is over once that is. */
  byHand?: boolean | undefined;
}[];

/** Length of the union of stretches of time, ms. */
function together(stretches: [number, number][]): number {
  let sum = 0;
  let until = -Infinity;
  for (const [from, to] of stretches.toSorted((a, b) => a[0] - b[0])) {
    sum += Math.max(0, to - Math.max(from, until));
    until = Math.max(until, to);
  }
  return sum;
}

/** How long hands were at a step: from each start to the next pause or end on the same device, none longer than `most`. */
function timeAt(events: readonly JobEvent[], now: number, most = 3_600_000): { ms: number; since: string | undefined } {
  const stretches: [number, number][] = [];
  let since: number | undefined;
  for (const device of new Set(events.map((e) => e.device))) {
    let from: number | undefined;
    for (const e of events.filter((x) => x.device === device)) {
      const at = Date.parse(e.deviceAt);
      if (e.kind === 'start') from ??= at;
      else if (from !== undefined && (e.kind === 'pause' || e.kind === 'done' || e.kind === 'skip')) {
        stretches.push([from, Math.min(at, from + most)]);
        from = undefined;
      }
    }
    // Whoever ended it elsewhere has ended it here: a clock that nobody stopped runs on only while the step is open.
    const ended = events.some((e) => e.kind === 'done' || e.kind === 'skip');
    if (from !== undefined) {
      const end = ended
        ? Math.max(...events.filter((e) => e.kind === 'done' || e.kind === 'skip').map((e) => Date.parse(e.deviceAt)))
        : now;
      stretches.push([from, Math.max(from, Math.min(end, from + most))]);
      if (!ended && now - from < most) since = Math.max(since ?? 0, from);
    }
  }
  return { ms: together(stretches), since: since === undefined ? undefined : new Date(since).toISOString() };
}

type PlannedPart = Plan['loads'][number]['parts'][number];
/** A part of a load; `shapes`: the pieces of film of its layer that are cut, where that is not all of it. */
export type LoadPart = PlannedPart & { shapes?: { artwork: string; ids: string[] } | undefined };

/** A layer as it is cut under the id of a part: by itself, or all of it at once. */
export const layerOfPart = <L extends { part: string }>(
  { parts, layers }: { parts: readonly L[]; layers: readonly L[] },
  part: string,
): L | undefined => [...parts, ...layers].find((l) => l.part === part);

/** The loads of a plan, with those of what was lost and is cut again: a part of its own for the pieces that lost it. */
export function loadsOf(plan: Pick<Plan, 'loads'>, standing: readonly JobEvent[]): { id: string; parts: LoadPart[] }[] {
  const parts = plan.loads.flatMap((l) => l.parts);
  return [
    ...plan.loads,
    ...standing.flatMap((e) => {
      const part = e.kind === 'lost' ? parts.find((p) => p.id === e.part) : undefined;
      if (!part || e.kind !== 'lost') return [];
      const pieces = part.pieces.filter((p) => e.pieces.includes(p));
      const id = recutId(part.id, e.id);
      return pieces.length > 0
        ? [{ id: recutLoad(id), parts: [{ id, layer: part.layer, pieces, shapes: e.shapes }] }]
        : [];
    }),
  ];
}

/** A press is opened early where so much of its time is left, ms: hands are not quicker than that. Common practice, no source. */
const EARLY = 1_000;

/**
 * What the press did at a step, in the order it happened. Opened before its time it is left open with the rest of it, until it is closed again for
 * that or somebody says that it is enough. Each part of what is larger than the plate has its time for itself. What was paused is not closed.
 * @param seconds how long it is pressed, each part of it; undefined where nobody says
 * @param enough is told the events that say of a press opened early that it is enough: they agree to nothing else
 */
function pressed(
  here: readonly JobEvent[],
  seconds: number | undefined,
  enough: Set<string>,
): Pick<SheetStep, 'closed' | 'opened' | 'part' | 'cools' | 'rest' | 'closesFor'> {
  let closed: { at: string; needs: number | undefined } | undefined;
  let opened: { first: string; last: string; wait: number | undefined } | undefined;
  let last: string | undefined;
  let early: string | undefined;
  let [part, rest] = [0, 0];
  for (const e of here) {
    switch (e.kind) {
      case 'start':
        part = e.part ?? (rest > 0 ? part : opened ? 1 : part + 1);
        closed = { at: e.deviceAt, needs: e.rest ?? (rest > 0 ? rest : seconds) };
        last = e.deviceAt;
        [opened, rest] = [undefined, 0];
        break;
      case 'pause':
        [closed, opened, part, rest] = [undefined, undefined, 0, 0];
        break;
      case 'opened': {
        if (opened) {
          // What was laid back to cool once more cools from then on.
          opened = { ...opened, last: e.deviceAt, wait: e.wait };
          break;
        }
        if (!closed) break;
        const left = (closed.needs ?? 0) * 1000 - (Date.parse(e.deviceAt) - Date.parse(closed.at));
        if (closed.needs !== undefined && left > EARLY) {
          rest = Math.ceil(left / 1000);
          early = e.deviceAt;
          closed = undefined;
        } else opened = { first: e.deviceAt, last: e.deviceAt, wait: e.wait };
        break;
      }
      case 'agreed':
        // Opened early, and that is enough for whoever saw it.
        if (rest > 0) {
          enough.add(e.id);
          closed = { at: last!, needs: undefined };
          // It cools since it was opened, not since somebody said that this is enough.
          opened = { first: early!, last: early!, wait: undefined };
          rest = 0;
        }
        break;
    }
  }
  const later = opened ? (Date.parse(opened.last) - Date.parse(opened.first)) / 1000 : 0;
  return {
    closed: closed?.at,
    opened: opened?.first,
    part: opened ? 0 : part,
    cools: opened?.wait === undefined ? undefined : later + opened.wait,
    rest: rest > 0 ? rest : undefined,
    closesFor: closed && !opened ? closed.needs : undefined,
  };
}

type Known = { byStep: Map<string, JobEvent[]>; attempts: Map<string, number>; standing: JobEvent[] };

/** Events without repeats and without what was taken back, in the order of the devices' clocks. */
export const standingEvents = (events: readonly JobEvent[]): JobEvent[] =>
  standingOf(events, (e) => (e.kind === 'undo' ? e.event : undefined));

function known(events: readonly JobEvent[]): Known {
  const standing = standingEvents(events);
  const byStep = new Map<string, JobEvent[]>();
  const attempts = new Map<string, number>();
  for (const e of standing) {
    const key = `${e.step} ${e.attempt}`;
    byStep.set(key, [...(byStep.get(key) ?? []), e]);
    const about = e.step.slice(e.step.indexOf('/') + 1);
    attempts.set(about, Math.max(attempts.get(about) ?? 1, e.attempt));
  }
  return { byStep, attempts, standing };
}

/**
 * The run sheet: every step of the newest plan with its state, and the next one. It follows from plans and events alone, whatever the order
 * or number of times in which they arrived, and from what cuts say of themselves.
 *
 * @param plan the newest revision
 * @param widths how wide the design was in each revision, the oldest first
 * @param press what is pressed of each piece of the newest plan, in order
 * @param now ms since 1970: for clocks that run
 */
export function runSheet(
  plan: Plan,
  widths: readonly (number | undefined)[],
  events: readonly JobEvent[],
  facts: readonly CutFact[],
  press: PressPlan,
  now: number,
): Sheet {
  const { byStep, attempts, standing } = known(events);
  const steps: SheetStep[] = [];
  const enough = new Set<string>();

  const add = (
    kind: StepKind,
    about: string,
    more: {
      attempt?: number;
      needs?: StepId[];
      layer?: string;
      press?: number;
      seconds?: number | undefined;
      fact?: CutFact | undefined;
    },
  ) => {
    const id: StepId = `${kind}/${about}`;
    const attempt = more.attempt ?? 1;
    const here = byStep.get(`${id} ${attempt}`) ?? [];
    const ends = here.filter((e) => e.kind === 'done' || e.kind === 'skip' || e.kind === 'cut');
    // A cut that was sent by the line is made when the line says so.
    const sent = kind === 'cut' && more.fact !== undefined && more.fact.passes === 0;
    const done = sent ? undefined : ends.findLast((e) => e.kind !== 'skip');
    const skipped = ends.find((e) => e.kind === 'skip');
    const lifted = kind === 'lift' && more.fact?.grade !== undefined && more.fact.enough;
    const time = timeAt(here, now);
    steps.push({
      id,
      kind,
      about,
      layer: more.layer,
      press: more.press,
      attempt,
      state: done || lifted ? 'done' : skipped ? 'skipped' : 'open',
      needs: more.needs ?? [],
      ready: false,
      by: (done ?? skipped)?.id,
      seconds: Math.round(time.ms / 1000),
      since: time.since,
      at: (done ?? skipped)?.deviceAt,
      ...pressed(here, more.seconds, enough),
    });
    return id;
  };

  const lastOfLayer = new Map<string, StepId[]>();
  for (const load of loadsOf(plan, standing)) {
    const parts = load.parts.map((part) => {
      const attempt = attempts.get(part.id) ?? 1;
      return { part, attempt, fact: facts.find((f) => f.part === part.id && f.attempt === attempt) };
    });
    const again = Math.max(...parts.map((p) => p.attempt));
    const trims = parts.map(({ part, attempt }) => add('trim', part.id, { attempt, layer: part.layer }));
    const mat = add('mat', load.id, { attempt: again, needs: trims, layer: load.parts[0]!.layer });
    for (const { part, attempt, fact } of parts) {
      const cut = add('cut', part.id, { attempt, needs: [mat], layer: part.layer, fact });
      const lift = add('lift', part.id, { attempt, needs: [cut], layer: part.layer, fact });
      const weed = add('weed', part.id, { attempt, needs: [lift], layer: part.layer });
      for (const piece of part.pieces) {
        const key = `${part.layer} ${piece}`;
        lastOfLayer.set(key, [...(lastOfLayer.get(key) ?? []), weed]);
      }
    }
  }
  for (const piece of plan.pieces) {
    let before: StepId[] = [];
    const first = steps.length;
    press.forEach(({ what, layers, kind = 'press', seconds }, i) => {
      const weeded = layers.flatMap((layer) => lastOfLayer.get(`${layer} ${piece.id}`) ?? []);
      before = [
        add(kind, pressId(piece.id, what), {
          needs: [...before, ...weeded],
          press: i,
          seconds,
          ...(layers[0] === undefined ? {} : { layer: layers[0] }),
        }),
      ];
    });
    const here = steps.slice(first);
    // What hands do before a press is done where that press was: a plan of an older version had no step for it.
    here.forEach((step, i) => {
      const next = here[i + 1];
      if (press[i]!.byHand && step.state === 'open' && (next?.state === 'done' || next?.closed)) step.state = 'done';
    });
    const own = [...lastOfLayer].flatMap(([key, weeded]) => (key.endsWith(piece.id) ? weeded : []));
    const all = press.length > 0 ? before : own;
    // What was never pressed is not washed; a cap, a cup and a panel never are.
    const laid = here.filter((_, i) => press[i]!.layers.length > 0 && !press[i]!.byHand);
    if (!isWashed(plan) || (laid.length > 0 && laid.every((step) => step.state === 'skipped'))) continue;
    add('wash', piece.id, { needs: all });
  }

  const over = new Set(steps.filter((s) => s.state !== 'open').map((s) => s.id));
  for (const s of steps) s.ready = s.needs.every((n) => over.has(n));
  const here = new Set<string>(steps.map((s) => s.id));
  const pastSteps = new Map<string, number>();
  for (const e of standing)
    if (!here.has(e.step) && (e.kind === 'done' || e.kind === 'cut'))
      pastSteps.set(e.step, Math.max(pastSteps.get(e.step) ?? 1, e.rev));
  return {
    steps,
    next: steps.find((s) => s.state === 'open' && s.ready)?.id,
    done: over.size,
    past: [...pastSteps].map(([id, rev]) => ({ id: id as StepId, rev })),
    otherSize: otherSizes(widths, plan, standing, attempts),
    plate: standing.flatMap((e) => (e.kind === 'plate' ? [{ heat: e.heat, shows: e.shows }] : [])).at(-1),
    agreed: standing.flatMap((e) =>
      e.kind === 'agreed' && !enough.has(e.id) && !e.step.startsWith('cut/') ? [e.to] : [],
    ),
    notes: standing.flatMap((e) => (e.kind === 'note' ? [{ step: e.step, text: e.text, at: e.deviceAt }] : [])),
    outcomes: standing.flatMap((e) =>
      e.kind === 'outcome' ? [{ step: e.step, pieces: e.pieces, word: e.word, at: e.deviceAt }] : [],
    ),
    wrongs: standing.flatMap((e) =>
      e.kind === 'wrong'
        ? [
            {
              id: e.id,
              step: e.step,
              attempt: e.attempt,
              seen: e.seen,
              cause: e.cause,
              remedy: e.remedy,
              at: e.deviceAt,
              helped: helped(standing, e.id),
              acted: isActedOn(steps, e),
            },
          ]
        : [],
    ),
  };
}

/** Whether what is decorated is washed at all. Common practice, no source. */
const isWashed = ({ blank }: Plan): boolean => shapes[blank.shape].then.endsWith('washed');

/** Whether the step at which something went wrong was done since, or what was lost there was cut again and weeded. */
function isActedOn(steps: readonly SheetStep[], { step, deviceAt }: Pick<JobEvent, 'step' | 'deviceAt'>): boolean {
  const since = ({ state, at }: SheetStep) =>
    state !== 'open' && at !== undefined && Date.parse(at) > Date.parse(deviceAt);
  const seen = steps.find((s) => s.id === step);
  if (!seen) return true;
  return steps.some(
    (s) => since(s) && (s.id === step || ((s.kind === 'weed' || s.kind === 'lift') && s.layer === seen.layer)),
  );
}

/** What was said last about whether it helped. */
const helped = (standing: readonly JobEvent[], wrong: string): boolean | undefined =>
  standing.flatMap((e) => (e.kind === 'helped' && e.event === wrong ? [e.helped] : [])).at(-1);

/** What somebody agrees to who keeps what was cut, though the design is this wide now, µm. */
export const keptAt = (widthUm: number): string => `kept, design ${widthUm} µm wide`;

/** Parts whose cut in hand was made when the design was of another width, and of which nobody has said that they stay. */
function otherSizes(
  widths: readonly (number | undefined)[],
  plan: Plan,
  standing: readonly JobEvent[],
  attempts: ReadonlyMap<string, number>,
) {
  const now = plan.design?.widthUm;
  const parts = new Set(loadsOf(plan, standing).flatMap((l) => l.parts.map((p) => p.id)));
  return standing.flatMap((e) => {
    if (e.kind !== 'cut' || !parts.has(e.part) || e.attempt !== (attempts.get(e.part) ?? 1)) return [];
    const then = widths[e.rev - 1];
    const kept = standing.some((k) => k.kind === 'agreed' && k.step === `cut/${e.part}` && k.to === keptAt(now ?? 0));
    return then === undefined || then === now || kept ? [] : [{ part: e.part, widthUm: then }];
  });
}
