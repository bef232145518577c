import { fahrenheitToMilliCelsius, type MilliCelsius } from '../units/index.ts';
import { fabricTraits, typeFacts, type Facts } from './facts.ts';
import { vinylTypeKeys, vinylTypes, type VinylTypeKey } from './types.ts';

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
  /** Ways to press, the usual one first; none where nothing is pressed. */
  press: PressWay[];
  /** What goes wrong, the costliest first. */
  warnings: string[];
  /** Why these values. */
  because: string;
};

export type PressWay = {
  heat?: MilliCelsius;
  /** From, to. */
  seconds: [number, number];
  pressure?: 'light' | 'medium' | 'heavy';
  cover: string;
  peel: 'hot' | 'warm' | 'lukewarm' | 'cool' | 'cold' | 'by the leaflet';
  /** What follows the peel. */
  then?: string;
};

const f = fahrenheitToMilliCelsius;
const open = 'its own carrier';
const paper = 'baking paper';

const ironOn = {
  side: 'carrier down',
  carrier: 'shiny',
  mat: 'ordinary',
  carry: 'none',
} as const;
const stuck = { side: 'backing down', carrier: 'unknown', mat: 'ordinary', carry: 'tape' } as const;
const printed = {
  side: 'backing down',
  carrier: 'unknown',
  mat: 'ordinary',
  carry: 'mask',
} as const;
const printedPress: PressWay[] = [
  {
    heat: f(374),
    seconds: [12, 12],
    pressure: 'medium',
    cover: 'a cover sheet',
    peel: 'cool',
    then: 'Leave the cover on for up to a minute before you lift it.',
  },
  { heat: f(320), seconds: [15, 20], pressure: 'medium', cover: 'a mask sheet', peel: 'cold' },
];

const ways: Record<VinylTypeKey, Omit<Behaviour, keyof Facts | 'cutFrom'>> = {
  smooth: {
    ...ironOn,
    press: [
      { heat: f(305), seconds: [10, 15], pressure: 'medium', cover: open, peel: 'by the leaflet' },
      { heat: f(350), seconds: [30, 30], pressure: 'medium', cover: open, peel: 'by the leaflet' },
    ],
    warnings: ['Thin lines want longer heat than wide ones: press a thin corner once more if it lifts.'],
    because: 'the plain film that other types are measured by',
  },
  glitter: {
    ...ironOn,
    press: [{ heat: f(325), seconds: [15, 15], pressure: 'medium', cover: open, peel: 'by the leaflet' }],
    warnings: [
      'Fine parts get lost in the grain: leave lines and gaps wide.',
      'It weeds hard: go slowly from a corner.',
    ],
    because: 'thicker than plain film, the grain takes force and heat',
  },
  'smooth-glitter': {
    ...ironOn,
    press: [{ heat: f(300), seconds: [10, 10], pressure: 'medium', cover: open, peel: 'warm' }],
    warnings: ['As a base under other layers keep to short presses.'],
    because: 'between plain film and glitter',
  },
  flock: {
    ...ironOn,
    mat: 'high grip',
    press: [{ seconds: [30, 30], pressure: 'medium', cover: paper, peel: 'cool' }],
    warnings: [
      'The pile hides detail: thick outlines only.',
      'The carrier hardly sticks: hold it down while you lay the piece.',
    ],
    because: 'a thick, soft pile on a carrier that barely tacks',
  },
  puff: {
    ...ironOn,
    carrier: 'dull',
    press: [{ seconds: [8, 10], pressure: 'heavy', cover: open, peel: 'by the leaflet' }],
    warnings: [
      'It rises under the press: nothing can lie on top of it afterwards.',
      'It grows: leave gaps open, and do not shrink the design much.',
      'The support must be hard, flat and dry.',
    ],
    because: 'it swells with heat, so cut, gaps and pressing all differ',
  },
  'metallic-puff': {
    ...ironOn,
    carrier: 'dull',
    press: [
      {
        heat: f(300),
        seconds: [10, 10],
        pressure: 'heavy',
        cover: open,
        peel: 'cold',
        then: 'Cover it and press once more, 10 s, to raise it.',
      },
      {
        heat: f(280),
        seconds: [8, 8],
        pressure: 'heavy',
        cover: open,
        peel: 'warm',
        then: 'It is still flat: 8 s more raises it.',
      },
    ],
    warnings: [
      'A wrinkle cannot be mended: the whole piece must lie well inside the plate.',
      'Let it get fully cold before you peel, if you go the first way.',
    ],
    because: 'two ways are followed, and products differ',
  },
  holographic: {
    ...ironOn,
    press: [
      { heat: f(320), seconds: [15, 20], pressure: 'medium', cover: paper, peel: 'cold' },
      { heat: f(330), seconds: [30, 30], pressure: 'medium', cover: open, peel: 'cool' },
    ],
    warnings: [
      'Pressed again, it must be cold again before you peel.',
      'It tears at thin joints: weed outward, slowly.',
      'The clear kind takes the colour of what is under it.',
    ],
    because: 'a stiff film that holds its heat and its carrier loosely',
  },
  foil: {
    ...ironOn,
    press: [{ heat: f(300), seconds: [10, 10], pressure: 'medium', cover: open, peel: 'by the leaflet' }],
    warnings: ['Scratches and finger marks stay: touch the carrier, not the face.'],
    because: 'cuts like plain film; the short press is that of a base layer',
  },
  reflective: {
    ...ironOn,
    press: [{ heat: f(300), seconds: [10, 10], pressure: 'medium', cover: open, peel: 'by the leaflet' }],
    warnings: ['Creases show as dark lines when light falls on it.'],
    because: 'cuts like plain film; the short press is that of a base layer',
  },
  printable: {
    ...printed,
    press: printedPress,
    warnings: [
      'Take the film off its backing before you press: pressed with it, both are lost.',
      'Lay it on the mat at the place where the screen has it, or print and cut part.',
      'The ink scratches until it is pressed.',
    ],
    because: 'printed on its face, so it is neither mirrored nor pressed through its backing',
  },
  'glitter-printable': {
    ...printed,
    press: printedPress,
    warnings: [
      'Take the film off its backing before you press: pressed with it, both are lost.',
      'Lay it on the mat at the place where the screen has it, or print and cut part.',
      'It wants the force of glitter, not that of a print film.',
    ],
    because: 'a print film with a grain',
  },
  matless: {
    ...ironOn,
    mat: 'none',
    press: [{ heat: f(305), seconds: [10, 15], pressure: 'medium', cover: open, peel: 'cool' }],
    warnings: [
      'A short piece slips out of the rollers: keep to its least length.',
      'Tacking takes longer: 5 s, not 2.',
    ],
    because: 'plain film on a carrier stiff enough to go without a mat',
  },
  'low-heat': {
    ...ironOn,
    press: [
      {
        heat: f(265),
        seconds: [5, 5],
        pressure: 'medium',
        cover: open,
        peel: 'lukewarm',
        then: 'Cover it and press once more.',
      },
    ],
    warnings: ['Ordinary heat ruins it, and what it lies on was chosen for low heat.'],
    because: 'made for cloth that takes no heat',
  },
  adhesive: {
    ...stuck,
    press: [],
    warnings: [
      'Grease or dust under it shows as bubbles: clean the surface first.',
      'Curved and stretchy surfaces fight it.',
    ],
    because: 'sticks by itself; cut from the face and never pressed',
  },
  'budget-adhesive': {
    ...stuck,
    press: [],
    warnings: ['On a dark surface it shows through.', 'Thin: it bubbles, and a force for plain film cuts its backing.'],
    because: 'thinner than other adhesive films',
  },
  'glitter-adhesive': {
    ...stuck,
    press: [],
    warnings: ['Transfer tape hardly holds on the grain: press the tape down hard.'],
    because: 'an adhesive film with a grain',
  },
  'faux-leather': {
    side: 'face down',
    carrier: 'unknown',
    mat: 'high grip',
    carry: 'none',
    press: [
      {
        heat: f(265),
        seconds: [10, 10],
        pressure: 'medium',
        cover: paper,
        peel: 'cool',
        then: 'That is for film laid on it. By itself it is not pressed.',
      },
    ],
    warnings: [
      'Tape all four edges down before it goes in: it creeps under the blade.',
      'Check before unloading, and run it again where it holds.',
      'Fuzz along the edge is trimmed by hand.',
    ],
    because: 'cut through from the back; the press figure is for film laid on it',
  },
  stencil: {
    ...stuck,
    press: [],
    warnings: ['Paint that does not suit the surface comes off with the film: try a corner.'],
    because: 'an adhesive film that is taken off again',
  },
};

/** How a type behaves. */
export const behaviourOf = (type: VinylTypeKey): Behaviour => ({
  ...typeFacts[type],
  ...ways[type],
  cutFrom: vinylTypes[type].cutFrom,
});

/** Seconds as people say them: "10 s", "15 to 20 s". */
export const saySeconds = ([from, to]: readonly [number, number]): string =>
  from === to ? `${from} s` : `${from} to ${to} s`;

const table = (head: string[], rows: string[][]) =>
  [head, head.map(() => '---'), ...rows].map((cells) => `| ${cells.join(' | ')} |`).join('\n');
const mm = (um: number) => `${um / 1000} mm`;

/** The types in Markdown, for docs/vinyl-types.md: how each lies and is pressed, and what its film is like, with why. */
export function behaviourTable(heat: (mc: MilliCelsius) => string): string {
  const way = (w: PressWay) =>
    [w.heat === undefined ? '' : heat(w.heat), saySeconds(w.seconds), w.pressure, `${w.peel} peel`]
      .filter(Boolean)
      .join(', ');
  const types = vinylTypeKeys.map((key) => [key, behaviourOf(key)] as const);
  const lies = table(
    ['type', 'lies', 'mirrored', 'carrier', 'mat', 'carried by', 'press', 'watch', 'why'],
    types.map(([key, b]) => [
      key,
      b.side,
      b.cutFrom === 'back' ? 'yes' : 'no',
      b.carrier,
      b.mat,
      b.carry,
      b.press.map(way).join('; or ') || 'not pressed',
      b.warnings.join(' '),
      b.because,
    ]),
  );
  const film = table(
    [
      'type',
      'film',
      'carrier',
      'least line',
      'least gap',
      'grows',
      'opacity',
      'blade wear',
      'tack',
      'heat',
      'not on',
      'why',
    ],
    types.map(([key, b]) => [
      key,
      `${b.filmUm} µm`,
      b.carrierUm === 0 ? 'none' : `${b.carrierUm} µm`,
      mm(b.minFeatureUm),
      mm(b.minGapUm),
      b.growthUm === 0 ? 'no' : mm(b.growthUm),
      b.opacity,
      `× ${b.wear}`,
      b.tack,
      b.heat ? `${heat(b.heat.from)} to ${heat(b.heat.to)}` : 'none',
      b.notOn.length === fabricTraits.length ? 'any cloth' : b.notOn.join(', '),
      b.factsBecause,
    ]),
  );
  return `${lies}\n\n## The film itself\n\n${film}`;
}
