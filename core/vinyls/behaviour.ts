import { fahrenheitToMilliCelsius, type MilliCelsius } from '../units/index.ts';
import { typeFacts, type Facts } from './facts.ts';
import { typeTips, type Tip } from './tips.ts';
import { vinylTypes, type VinylTypeKey } from './types.ts';

/**
 * How a vinyl type lies, cuts and presses, as far as it is known before anybody looked at the one in hand.
 * Source of every value: common practice, no published source. The maker's leaflet comes first; where crafters do it in two
 * ways, both stand here.
 */
export type Behaviour = Facts & {
  /** Back: the artwork is mirrored. */
  cutFrom: 'back' | 'face';
  /** How the vinyl lies on the mat. */
  side: 'carrier down' | 'backing down' | 'face down';
  /** What the carrier usually looks like. */
  carrier: 'shiny' | 'dull' | 'unknown';
  mat: 'ordinary' | 'high grip' | 'none';
  /** What carries loose pieces to their place, where nothing sticks to them by itself. */
  carry: 'none' | 'tape' | 'mask';
  /** What holds it on what it decorates. */
  bond: 'heat' | 'sticks' | 'glue';
  /**
   * Ways to press, each with its purpose; of the full ones the usual one first. Who follows one follows its key, not its place.
   */
  press: PressWay[];
  /** What to watch, the costliest first, each at its moment. */
  tips: readonly Tip[];
  /** Why these values. */
  because: string;
};

/**
 * What a press is for. Full: it holds, worn and washed. Tack: a base layer held just so far that its carrier comes off, and the full
 * press of the layers above presses it too. Raise: it rises, and is pressed on already. On faux leather: there alone.
 */
export const purposes = ['full', 'tack', 'raise', 'on faux leather'] as const;
type Purpose = (typeof purposes)[number];

/** What lies under the blank at the press. */
export const supports = ['as usual', 'hard board', 'pad', 'pillow', 'mitt'] as const;
export type Support = (typeof supports)[number];

export type PressWay = {
  /** What people follow it by; of what somebody wrote without one it is its place, see `keyOf`. */
  key?: string | undefined;
  /** Full when left out. */
  purpose?: Purpose | undefined;
  heat?: MilliCelsius | undefined;
  /** With an iron: the word on its dial, where nobody says degrees. Such a way is for irons alone. */
  word?: string | undefined;
  /** The hottest of a range that starts at `heat`. */
  upTo?: MilliCelsius | undefined;
  /** From, to; left out where nobody says. */
  seconds?: [number, number] | undefined;
  pressure?: 'light' | 'medium' | 'heavy' | undefined;
  cover: string;
  peel: 'hot' | 'warm' | 'lukewarm' | 'cool' | 'cold' | 'by the leaflet';
  /** What follows the peel, as somebody wrote it. */
  then?: string | undefined;
  /** The presses that follow this one by the same source, in order: each with all its own figures. */
  next?: PressWay[] | undefined;
  /** A question before it whose yes leaves it out. */
  ask?: string | undefined;
  /** The bare blank before it, s. */
  before?: number | undefined;
  /** What lies under the blank. */
  support?: Support | undefined;
  /** From the end of the press to the peel, s, where it is known better than its word says. */
  wait?: number | undefined;
  /** Covered once more after the peel, and from the back, s. */
  after?: number | undefined;
  back?: number | undefined;
  /** Share of its width that it loses in the first full press, as somebody measured it. */
  shrink?: number | undefined;
  /** Whether the carrier is left wide or trimmed close. */
  margin?: 'kept' | 'trimmed' | undefined;
};

/** What a way in a list is known by: its key, else its place among them, from 1. */
const keyOf = (way: PressWay, place: number): string => way.key ?? `way ${place + 1}`;

/** The ways that press a film on for good, each with what it is known by: those of presses, or those in the words of an iron's dial. */
export const fullWays = (press: readonly PressWay[], iron = false): { way: PressWay; key: string }[] =>
  press.flatMap((way, place) =>
    (way.purpose ?? 'full') === 'full' && (way.word !== undefined) === iron ? [{ way, key: keyOf(way, place) }] : [],
  );

/**
 * The press of a vinyl: the full one that is followed, else the usual full one; undefined where none is known. A tack or a press on
 * faux leather is never the press.
 * @param followed the key of the way that is followed
 * @example fullPress(behaviourOf('reflective').press) // undefined
 * @example fullPress(behaviourOf('smooth').press, '350 30').seconds // [30, 30]
 */
export function fullPress(press: readonly PressWay[], followed?: string): PressWay | undefined {
  const full = fullWays(press);
  return (full.find((w) => w.key === followed) ?? full[0])?.way;
}

/** The presses that are not the press: tacks, raising, on faux leather, with an iron. */
export const otherPresses = (press: readonly PressWay[]): PressWay[] =>
  press.filter((way) => (way.purpose ?? 'full') !== 'full' || way.word !== undefined);

const f = fahrenheitToMilliCelsius;
const open = 'its own carrier';
const paper = 'baking paper';

const ironOn = {
  side: 'carrier down',
  carrier: 'shiny',
  mat: 'ordinary',
  carry: 'none',
  bond: 'heat',
} as const;
const stuck = { side: 'backing down', carrier: 'unknown', mat: 'ordinary', carry: 'tape', bond: 'sticks' } as const;
const printed = { side: 'backing down', carrier: 'unknown', mat: 'ordinary', carry: 'none', bond: 'heat' } as const;
/** A base layer is only tacked: its full press is that of the layers over it, or the leaflet's. */
const tack = (more: Partial<PressWay> = {}): PressWay => ({
  purpose: 'tack',
  heat: f(300),
  seconds: [10, 10],
  pressure: 'medium',
  cover: open,
  peel: 'by the leaflet',
  ...more,
});
/** Plain, glitter and foil film go on faux leather like this. */
const onLeather: PressWay = {
  purpose: 'on faux leather',
  heat: f(265),
  seconds: [10, 10],
  cover: paper,
  peel: 'hot',
  then: 'Peel each layer at once, holding it flat; let it cool after the last one.',
};
const printedPress: PressWay = {
  key: 'cover cools',
  heat: f(374),
  seconds: [12, 12],
  cover: 'a cover sheet',
  peel: 'cool',
  then: 'Let the cover cool for 30 to 60 s before you lift it.',
};
const coverAtOnce: PressWay = { ...printedPress, key: 'cover at once', peel: 'hot', then: 'Lift the cover at once.' };

const ways: Record<VinylTypeKey, Omit<Behaviour, keyof Facts | 'cutFrom' | 'tips'>> = {
  smooth: {
    ...ironOn,
    press: [
      { key: '305 10-15', heat: f(305), seconds: [10, 15], cover: open, peel: 'by the leaflet' },
      { key: '350 30', heat: f(350), seconds: [30, 30], cover: open, peel: 'by the leaflet' },
      { key: '315 30', heat: f(315), seconds: [30, 30], cover: open, peel: 'by the leaflet' },
      onLeather,
      { key: '330 30', heat: f(330), seconds: [30, 30], cover: open, peel: 'by the leaflet' },
      { key: 'iron 15', word: 'cotton', seconds: [15, 15], cover: open, peel: 'by the leaflet' },
      { key: 'iron 30-45', word: 'cotton', seconds: [30, 45], cover: open, peel: 'by the leaflet' },
    ],
    because: 'the plain film that other types are measured by',
  },
  glitter: {
    ...ironOn,
    press: [
      { key: '325', heat: f(325), cover: open, peel: 'by the leaflet' },
      onLeather,
      {
        key: 'iron 30 twice',
        word: 'wool, blend',
        seconds: [30, 30],
        cover: open,
        peel: 'by the leaflet',
        next: [{ word: 'wool, blend', seconds: [30, 30], cover: paper, peel: 'by the leaflet' }],
      },
    ],
    because: 'thicker than plain film; crafters say the heat, and leave the time to the leaflet',
  },
  'smooth-glitter': {
    ...ironOn,
    press: [tack({ peel: 'warm' })],
    because: 'crafters say how they tack it as a base; nobody here has said a full press',
  },
  flock: {
    ...ironOn,
    mat: 'high grip',
    press: [{ key: 'iron 30', word: 'wool, blend', seconds: [30, 30], cover: paper, peel: 'cool' }],
    because: 'a thick, soft pile on a carrier that barely tacks',
  },
  puff: {
    ...ironOn,
    carrier: 'dull',
    press: [
      {
        key: '280 8 once',
        heat: f(280),
        seconds: [8, 8],
        pressure: 'heavy',
        cover: open,
        peel: 'by the leaflet',
        support: 'hard board',
      },
    ],
    because: 'it swells with heat, and is pressed once only',
  },
  'metallic-puff': {
    ...ironOn,
    carrier: 'dull',
    press: [
      {
        key: 'tack-cold-raise',
        heat: f(300),
        seconds: [10, 10],
        pressure: 'heavy',
        cover: open,
        peel: 'cold',
        support: 'hard board',
        next: [
          {
            purpose: 'raise',
            heat: f(300),
            seconds: [10, 10],
            pressure: 'heavy',
            cover: paper,
            peel: 'by the leaflet',
          },
        ],
      },
      {
        key: 'short-warm-raise',
        heat: f(280),
        seconds: [8, 8],
        pressure: 'heavy',
        cover: open,
        peel: 'warm',
        support: 'hard board',
        next: [
          { purpose: 'raise', heat: f(280), seconds: [8, 8], pressure: 'heavy', cover: paper, peel: 'by the leaflet' },
          {
            purpose: 'raise',
            heat: f(280),
            seconds: [8, 8],
            pressure: 'heavy',
            cover: paper,
            peel: 'by the leaflet',
            ask: 'Risen all over?',
          },
        ],
      },
    ],
    because: 'two ways are followed, and products differ',
  },
  holographic: {
    ...ironOn,
    press: [
      { key: '320 15-20', heat: f(320), seconds: [15, 20], pressure: 'medium', cover: open, peel: 'cold' },
      { key: '330 30', heat: f(330), seconds: [30, 30], cover: open, peel: 'cool' },
    ],
    because: 'two products, each with its own figures',
  },
  foil: {
    ...ironOn,
    press: [onLeather],
    because: 'cuts like plain film; nobody here has said a full press on cloth',
  },
  reflective: {
    ...ironOn,
    press: [tack()],
    because: 'crafters say how they tack it as a base; nobody here has said a full press',
  },
  printable: {
    ...printed,
    press: [printedPress, coverAtOnce],
    because: 'printed on its face, so it is neither mirrored nor pressed through its backing',
  },
  'glitter-printable': {
    ...printed,
    press: [
      {
        key: '310-330 15-20',
        heat: f(310),
        upTo: f(330),
        seconds: [15, 20],
        cover: 'a cover sheet',
        peel: 'cool',
        then: 'Let the cover cool for 30 to 60 s before you lift it.',
      },
    ],
    because: 'a print film with a grain: pressed cooler than the smooth one',
  },
  matless: {
    ...ironOn,
    mat: 'none',
    press: [{ key: '315 30', heat: f(315), seconds: [30, 30], cover: open, peel: 'cool' }],
    because: 'plain film on a carrier stiff enough to go without a mat; the 30 s are all presses together',
  },
  'low-heat': {
    ...ironOn,
    press: [
      {
        key: '265 5 and covered',
        heat: f(265),
        seconds: [5, 5],
        cover: open,
        peel: 'lukewarm',
        next: [{ heat: f(265), cover: paper, peel: 'by the leaflet', then: 'Longer on a big design.' }],
      },
    ],
    because: 'taken for cloth that bears no heat, and on ordinary cloth because it is quick',
  },
  adhesive: {
    ...stuck,
    press: [],
    because: 'sticks by itself; cut from the face and never pressed',
  },
  'budget-adhesive': {
    ...stuck,
    press: [],
    because: 'thinner than other adhesive films',
  },
  'glitter-adhesive': {
    ...stuck,
    press: [],
    because: 'an adhesive film with a grain',
  },
  'faux-leather': {
    side: 'face down',
    carrier: 'unknown',
    mat: 'high grip',
    carry: 'none',
    bond: 'glue',
    press: [onLeather],
    because: 'cut through from the back; by itself it is not pressed, the figure is for film laid on it',
  },
  stencil: {
    ...stuck,
    press: [],
    because: 'an adhesive film that is taken off again',
  },
};

const known = new Map<VinylTypeKey, Behaviour>();

/** How a type behaves. Lists ask it of every row: the same answer is handed out, and nobody changes it. */
export function behaviourOf(type: VinylTypeKey): Behaviour {
  let behaviour = known.get(type);
  if (!behaviour) {
    behaviour = Object.freeze({
      ...typeFacts[type],
      ...ways[type],
      tips: typeTips[type],
      cutFrom: vinylTypes[type].cutFrom,
    });
    known.set(type, behaviour);
  }
  return behaviour;
}

/**
 * Seconds as people say them: "10 s", "15 to 20 s"; "time not said" where nobody says.
 * @example saySeconds([15, 20]) // '15 to 20 s'
 */
export const saySeconds = (seconds: readonly [number, number] | undefined): string =>
  seconds === undefined
    ? 'time not said'
    : seconds[0] === seconds[1]
      ? `${seconds[0]} s`
      : `${seconds[0]} to ${seconds[1]} s`;
