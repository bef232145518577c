import type { StepKind } from './steps.ts';

/** What is seen when something went wrong, and the steps at which it is seen first. */
export const symptoms = {
  'holds at corners': ['lift', 'cut'],
  'holds everywhere': ['lift', 'cut'],
  'scored all over': ['lift', 'cut', 'weed'],
  shifted: ['lift', 'cut', 'press'],
  tears: ['weed', 'lift'],
  'waste clings': ['weed'],
  'came up': ['press'],
  'edges lift': ['press', 'wash'],
  'shine mark': ['press'],
  'not raised': ['press'],
  wrinkled: ['press'],
  scorched: ['press'],
  'plate mark': ['press'],
  mirrored: ['press'],
  lost: ['press', 'weed', 'lift'],
} as const satisfies Record<string, readonly StepKind[]>;
export type Symptom = keyof typeof symptoms;
export const symptomKeys = Object.keys(symptoms) as [Symptom, ...Symptom[]];

/** What can be done about a cause: one button each. */
export const remedies = [
  'run again',
  'new blade',
  'wash mat',
  'other mat',
  'cut anew',
  'make larger',
  'plan coupon',
  'wait and peel',
  'press again',
  'press covered',
  'press cooler',
  'smooth warm',
  // What was done in older records.
  'damp cloth',
  'remove it',
  'check the display',
  'dry it',
  'lay it flat',
  'cut for piece',
] as const;
export type Remedy = (typeof remedies)[number];

/** What was set: where on the strength axis and on the speed axis, and how the crafter reads it. */
export type SetSo = { strength: number; speed?: number | undefined; word: string };

/** What the record knows of the part it happened to. What is undefined is not known, and speaks for nothing. */
export type WrongRecord = {
  /** Share of its life that the blade has run; 1 is all of it. */
  blade?: number | undefined;
  /** Loads since the mat was washed; undefined where none is on the bench. */
  matLoads?: number | undefined;
  /** Whether the number on the bench card is proven. */
  proven: boolean;
  set?: SetSo | undefined;
  /** The last setting that came out clean with this vinyl on this cutter. */
  good?: SetSo | undefined;
  /** Whether the film comes from another batch than the last that came out clean. */
  otherBatch?: boolean | undefined;
  /** Places of this part that are finer than the vinyl takes, at this size. */
  thin?: number | undefined;
  /** Passes it was run. */
  passes?: number | undefined;
  /** Whether one piece of several can be cut again by itself: at the press, or where a sheet holds several. */
  byPiece?: boolean | undefined;
  /** Whether it lies on the mat still. */
  onMat: boolean;
  /** Seconds by which the press was opened too early; 0 where it was not. */
  openedEarly?: number | undefined;
  /** Seconds by which it was opened too late; 0 where it was not. */
  openedLate?: number | undefined;
  /** Whether it was peeled before it had cooled as it should. */
  peeledEarly?: boolean | undefined;
  covered?: boolean | undefined;
  /** How this very film is peeled, by the source that is followed. */
  peel?: 'hot' | 'warm' | 'lukewarm' | 'cool' | 'cold' | 'by the leaflet' | undefined;
  /** How long it waited for its peel beyond what it wants, s. */
  peeledLate?: number | undefined;
  /** What these hands do when film comes up with its carrier: wait, or press again. */
  lifts?: 'wait' | 'again' | undefined;
  /** How often a cause was acted on by this person, and whether that helped. */
  tried?: Partial<Record<CauseKey, { helped: number; not: number }>> | undefined;
};

/** Something in the record that speaks for or against a cause: whether it holds, and how it is said. */
const clues = {
  'you wait': (r) => (r.lifts === 'wait' ? 'You wait when it comes up.' : undefined),
  'you press again': (r) => (r.lifts === 'again' ? 'You press a few seconds more when it comes up.' : undefined),
  'blade spent': (r) =>
    r.blade !== undefined && r.blade >= 0.9
      ? `The blade has run ${Math.round(r.blade * 100)} % of the life you expect of it.`
      : undefined,
  'blade past half': (r) =>
    r.blade !== undefined && r.blade >= 0.5 && r.blade < 0.9
      ? `The blade has run ${Math.round(r.blade * 100)} % of the life you expect of it.`
      : undefined,
  'blade fresh': (r) => (r.blade !== undefined && r.blade < 0.25 ? 'The blade is nearly new.' : undefined),
  'mat tired': (r) =>
    r.matLoads !== undefined && r.matLoads >= 30 ? `The mat took ${r.matLoads} loads since it was washed.` : undefined,
  'mat fresh': (r) => (r.matLoads !== undefined && r.matLoads <= 8 ? 'The mat was washed not long ago.' : undefined),
  'softer than good': (r) =>
    r.good && r.set && r.set.strength < r.good.strength
      ? `It was set to ${r.set.word}; ${r.good.word} came out clean last time.`
      : undefined,
  'harder than good': (r) =>
    r.good && r.set && r.set.strength > r.good.strength
      ? `It was set to ${r.set.word}; ${r.good.word} came out clean last time.`
      : undefined,
  'as good': (r) =>
    r.good && r.set && r.set.strength === r.good.strength
      ? `${r.set.word} came out clean last time: the number is not to blame.`
      : undefined,
  'faster than good': (r) =>
    r.good?.speed !== undefined && r.set?.speed !== undefined && r.set.speed > r.good.speed
      ? 'It ran faster than the last clean cut.'
      : undefined,
  'number not proven': (r) => (r.proven ? undefined : 'The number is not proven on your cutter yet.'),
  'other batch': (r) =>
    r.otherBatch === true ? 'This film is of another batch than the last that came out clean.' : undefined,
  'same batch': (r) => (r.otherBatch === false ? 'The film is of the batch that came out clean last time.' : undefined),
  'thin places': (r) =>
    r.thin !== undefined && r.thin > 0
      ? `${r.thin} ${r.thin === 1 ? 'place' : 'places'} of it ${r.thin === 1 ? 'is' : 'are'} finer than this vinyl takes.`
      : undefined,
  'nothing thin': (r) => (r.thin === 0 ? 'Nothing in it is finer than this vinyl takes.' : undefined),
  'run more than once': (r) => (r.passes !== undefined && r.passes > 1 ? `It was run ${r.passes} times.` : undefined),
  'opened early': (r) =>
    r.openedEarly ? `The press was opened ${Math.round(r.openedEarly)} s before its time.` : undefined,
  'opened late': (r) =>
    r.openedLate ? `The press stayed closed ${Math.round(r.openedLate)} s longer than planned.` : undefined,
  'peeled early': (r) => (r.peeledEarly ? 'It was peeled before it had cooled.' : undefined),
  'cooled as it should': (r) => (r.peeledEarly === false ? 'It had cooled as it should.' : undefined),
  'peeled cold': (r) =>
    r.peel === 'hot' && r.peeledLate !== undefined && r.peeledLate > 0
      ? `It is peeled hot, and it waited ${Math.round(r.peeledLate)} s.`
      : undefined,
  'peeled hot': (r) => (r.peel === 'hot' ? 'This film is peeled hot: waiting does not help it.' : undefined),
  'peeled cold by the source': (r) =>
    r.peel === 'cold' || r.peel === 'cool' ? `This film is peeled ${r.peel}.` : undefined,
  'pressed bare': (r) => (r.covered === false ? 'Nothing covered it in the press.' : undefined),
} as const satisfies Record<string, (r: WrongRecord) => string | undefined>;
type Clue = keyof typeof clues;

type Cause = {
  /** As it is said to the crafter. */
  word: string;
  /** How often it is behind what is seen where nothing else is known: shares against the other causes, not percent. */
  behind: Partial<Record<Symptom, number>>;
  /** By how many times each clue makes it likelier (above 1) or less likely (below). */
  clues: Partial<Record<Clue, number>>;
  remedy: Remedy;
};

/**
 * The table of causes. That these are the causes is common practice; the shares and the weight of each clue are set by hand, by judgement,
 * no source: answers to "did it help?" move them for each person.
 */
export const causes = {
  soft: {
    word: 'It was cut too softly',
    behind: { 'holds everywhere': 3, 'holds at corners': 1, 'waste clings': 1, tears: 0.7 },
    clues: { 'softer than good': 4, 'as good': 0.2, 'number not proven': 2, 'harder than good': 0.2 },
    remedy: 'run again',
  },
  hard: {
    word: 'It was cut too hard',
    behind: { 'scored all over': 3, tears: 0.5, shifted: 0.5 },
    clues: {
      'harder than good': 4,
      'run more than once': 2,
      'number not proven': 2,
      'as good': 0.3,
      'softer than good': 0.2,
    },
    remedy: 'plan coupon',
  },
  blade: {
    word: 'The blade is dull or dirty',
    behind: { 'holds at corners': 2, tears: 2, 'waste clings': 1, 'holds everywhere': 1, shifted: 0.4 },
    clues: { 'blade spent': 5, 'blade past half': 2, 'blade fresh': 0.2, 'as good': 1.5 },
    remedy: 'new blade',
  },
  mat: {
    word: 'The mat is tired',
    behind: { shifted: 2, 'holds at corners': 0.7, tears: 0.6, 'scored all over': 0.1 },
    clues: { 'mat tired': 5, 'mat fresh': 0.2 },
    remedy: 'wash mat',
  },
  grip: {
    word: 'The mat does not grip this film',
    behind: { shifted: 1, 'holds at corners': 0.4 },
    clues: { 'mat fresh': 1.5 },
    remedy: 'other mat',
  },
  flat: {
    word: 'It did not lie flat',
    behind: { shifted: 1, 'holds at corners': 1, 'holds everywhere': 0.3 },
    clues: { 'as good': 1.5 },
    remedy: 'cut anew',
  },
  fast: {
    word: 'It was cut too fast',
    behind: { 'holds at corners': 0.7, tears: 0.5, shifted: 0.5 },
    clues: { 'faster than good': 5 },
    remedy: 'plan coupon',
  },
  batch: {
    word: 'This batch cuts otherwise',
    behind: { 'holds everywhere': 0.7, 'scored all over': 0.7, 'waste clings': 0.6, tears: 0.4 },
    clues: { 'other batch': 5, 'same batch': 0.1 },
    remedy: 'plan coupon',
  },
  fine: {
    word: 'The drawing is too fine for this vinyl',
    behind: { tears: 1, 'holds at corners': 0.5, 'edges lift': 0.7, shifted: 0.2 },
    clues: { 'thin places': 5, 'nothing thin': 0.1 },
    remedy: 'make larger',
  },
  warm: {
    word: 'It was too warm to peel',
    behind: { 'came up': 1 },
    clues: {
      'peeled early': 4,
      'cooled as it should': 0.3,
      'peeled hot': 0.1,
      'peeled cold by the source': 2,
      'you wait': 3,
    },
    remedy: 'wait and peel',
  },
  short: {
    word: 'It was pressed too short',
    behind: { 'came up': 2, 'edges lift': 2, 'not raised': 1.5 },
    clues: { 'opened early': 5, 'cooled as it should': 1.5, 'peeled hot': 1.5, 'you press again': 3 },
    remedy: 'press again',
  },
  'gone cold': {
    word: 'It is peeled hot and was left to go cold',
    behind: { 'came up': 0.5, 'edges lift': 0.2 },
    clues: { 'peeled cold': 9 },
    remedy: 'press again',
  },
  light: {
    word: 'It was pressed too lightly',
    behind: { 'not raised': 1, 'edges lift': 1, 'came up': 0.4 },
    clues: {},
    remedy: 'press again',
  },
  flipped: {
    word: 'The display had flipped between °F and °C',
    behind: { scorched: 0.5, 'not raised': 0.3, 'came up': 0.2 },
    clues: {},
    remedy: 'check the display',
  },
  humid: {
    word: 'The room, or the blank, was damp',
    behind: { 'not raised': 0.7, wrinkled: 1.5, 'holds everywhere': 0.2 },
    clues: {},
    remedy: 'dry it',
  },
  fold: {
    word: 'Cloth lay double, or in a fold, under the press',
    behind: { scorched: 1, 'shine mark': 0.7, 'plate mark': 0.7 },
    clues: {},
    remedy: 'lay it flat',
  },
  shrank: {
    word: 'It wrinkled as it rose: that cannot be mended',
    behind: { wrinkled: 2 },
    clues: {},
    remedy: 'cut anew',
  },
  support: {
    word: 'What lay below was not hard and even',
    behind: { 'not raised': 2, 'edges lift': 0.7 },
    clues: { 'opened early': 0.5 },
    remedy: 'press again',
  },
  bare: {
    word: 'The press touched the cloth bare',
    behind: { 'shine mark': 2 },
    clues: { 'pressed bare': 3 },
    remedy: 'press covered',
  },
  hot: {
    word: 'It was too hot, or pressed too long',
    behind: { scorched: 3, 'plate mark': 0.7, 'shine mark': 0.7 },
    clues: { 'opened late': 5, 'pressed bare': 1.5 },
    remedy: 'press cooler',
  },
  edge: {
    word: 'The edge of the plate pressed into the cloth',
    behind: { 'plate mark': 2 },
    clues: { 'pressed bare': 1.5 },
    remedy: 'smooth warm',
  },
  turned: {
    word: 'It was cut, or laid, the wrong way round',
    behind: { mirrored: 1 },
    clues: {},
    remedy: 'remove it',
  },
  gone: {
    word: 'A part of it is gone',
    behind: { lost: 1, scorched: 0.5, mirrored: 0.3, tears: 0.3 },
    clues: {},
    remedy: 'cut for piece',
  },
} as const satisfies Record<string, Cause>;
export type CauseKey = keyof typeof causes;
export const causeKeys = Object.keys(causes) as [CauseKey, ...CauseKey[]];

export type RankedCause = { cause: CauseKey; word: string; because: string[]; remedy: Remedy };

/**
 * What may be behind something that went wrong, the likeliest first, with what in the record speaks for it. A naive Bayes classifier: the
 * share of each cause times the weight of each clue that holds, times how often acting on it helped this person before (Laplace's rule of
 * succession, against one half).
 *
 * @example causesOf('holds at corners', { blade: 1.1, proven: true, onMat: true })[0].cause // 'blade'
 */
export function causesOf(seen: Symptom, record: WrongRecord): RankedCause[] {
  const ranked = causeKeys.flatMap((key) => {
    const cause: Cause = causes[key];
    let weight = cause.behind[seen] ?? 0;
    // Without a mat no mat is tired.
    if (weight === 0 || (key === 'mat' && record.matLoads === undefined)) return [];
    // Where all of it is one piece, the film is cut anew.
    if (cause.remedy === 'cut for piece' && !record.byPiece && seen !== 'lost') return [];
    const because: string[] = [];
    for (const [clue, times] of Object.entries(cause.clues) as [Clue, number][]) {
      const says = clues[clue](record);
      if (says === undefined) continue;
      weight *= times;
      if (times > 1) because.push(says);
    }
    const tried = record.tried?.[key];
    if (tried) {
      weight *= (2 * (tried.helped + 1)) / (tried.helped + tried.not + 2);
      if (tried.helped > tried.not) because.push('That helped you before.');
    }
    // Off the mat nothing can be run again in register: the number is what can be mended.
    const remedy = cause.remedy === 'run again' && !record.onMat ? 'plan coupon' : cause.remedy;
    return [{ weight, cause: key, word: cause.word, because, remedy }];
  });
  return ranked.toSorted((a, b) => b.weight - a.weight).map(({ weight: _, ...cause }) => cause);
}

/** The table as it is read in docs/causes.md. */
export function causesTable(): string {
  const line = (cells: readonly string[]) => `| ${cells.join(' | ')} |`;
  const rows = causeKeys.map((key) => {
    const cause: Cause = causes[key];
    const list = (o: Partial<Record<string, number>>, of: (k: string, n: number) => string) =>
      Object.entries(o)
        .map(([k, n]) => of(k, n!))
        .join(', ');
    return line([
      cause.word,
      list(cause.behind, (k, n) => `${k} ${n}`),
      list(cause.clues, (k, n) => `${k} ×${n}`),
      cause.remedy,
    ]);
  });
  return [
    line(['Cause', 'Behind what is seen, share', 'Clues', 'Remedy']),
    line(['---', '---', '---', '---']),
    ...rows,
  ].join('\n');
}
