import { milliCelsiusToFahrenheit, fahrenheitToMilliCelsius, type MilliCelsius } from '../units/index.ts';
import type { Behaviour } from './behaviour.ts';
import type { FabricTrait } from './facts.ts';

/**
 * What is decorated. Fabrics take what is pressed, hard smooth surfaces take what sticks; wood, cork, card and faux leather
 * take both with care. Source of every value: common practice, no published source.
 */
export type Blank = {
  word: string;
  kind: 'fabric' | 'hard';
  traits: readonly FabricTrait[];
  /** Hottest press it takes; undefined where it may not be pressed at all. */
  heat: MilliCelsius | undefined;
  /** Whether film that sticks by itself holds on it. */
  sticks: boolean;
  /** Whether its shape fights a stiff film. */
  curved?: boolean;
  /** What to do about the blank itself. */
  tip: string;
};

const f = fahrenheitToMilliCelsius;
export const blanks = {
  'plain-cloth': {
    word: 'plain cloth: cotton, mixed, canvas',
    kind: 'fabric',
    traits: [],
    heat: f(350),
    sticks: false,
    tip: 'Roll the lint off and press it for a few seconds first, dry and flat.',
  },
  'short-fur': {
    word: 'short pile: fleece, velvet, towel',
    kind: 'fabric',
    traits: ['short pile'],
    heat: f(330),
    sticks: false,
    tip: 'Press it flat first; it takes film well once the pile lies down.',
  },
  'long-fur': {
    word: 'long pile: fur, plush',
    kind: 'fabric',
    traits: ['long pile'],
    heat: f(320),
    sticks: false,
    tip: 'Peel with the pile. Trim the carrier close so that it does not comb the fur up.',
  },
  mesh: {
    word: 'mesh: jersey with holes, net bags',
    kind: 'fabric',
    traits: ['mesh'],
    heat: f(320),
    sticks: false,
    tip: 'Put something inside so that front and back do not stick together. A tearing noise on peeling is normal.',
  },
  stretch: {
    word: 'cloth that stretches: sportswear, socks',
    kind: 'fabric',
    traits: ['stretch'],
    heat: f(310),
    sticks: false,
    tip: 'Lay it without pulling. Big closed areas crack when it stretches.',
  },
  nylon: {
    word: 'nylon: jackets, umbrellas, bags',
    kind: 'fabric',
    traits: ['nylon'],
    heat: f(285),
    sticks: false,
    tip: 'Try a hidden place: some films never hold on it.',
  },
  cap: {
    word: 'cap',
    kind: 'fabric',
    traits: [],
    heat: f(320),
    sticks: false,
    curved: true,
    tip: 'Keep to three inches (76 mm) in height and off the centre seam; press from outside against a pad.',
  },
  'thin-bag': {
    word: 'thin bag, silk, viscose',
    kind: 'fabric',
    traits: ['heat shy'],
    heat: f(280),
    sticks: false,
    tip: 'Few presses, and short ones: a fold or a second layer under the press burns a mark.',
  },
  foam: {
    word: 'foam holder for bottles',
    kind: 'fabric',
    traits: ['coated'],
    heat: f(300),
    sticks: false,
    tip: 'It gives under the press: medium pressure by hand, short.',
  },
  wood: {
    word: 'wood',
    kind: 'hard',
    traits: [],
    heat: f(320),
    sticks: true,
    tip: 'Sand and wipe it. Raw wood takes what is pressed, sealed wood what sticks.',
  },
  cork: {
    word: 'cork',
    kind: 'hard',
    traits: [],
    heat: f(305),
    sticks: false,
    tip: 'Crumbs come off with tape: press rather than stick.',
  },
  card: {
    word: 'card, paper',
    kind: 'hard',
    traits: [],
    heat: f(300),
    sticks: true,
    tip: 'Short presses; it bows with heat. Let it cool under a weight.',
  },
  leather: {
    word: 'faux leather',
    kind: 'hard',
    traits: ['heat shy'],
    heat: f(270),
    sticks: true,
    tip: 'Covered, short and low; let it cool flat.',
  },
  glass: {
    word: 'glass, glazed pottery',
    kind: 'hard',
    traits: [],
    heat: undefined,
    sticks: true,
    tip: 'Wipe it free of grease. Wash by hand afterwards.',
  },
  plastic: {
    word: 'hard plastic, painted metal',
    kind: 'hard',
    traits: [],
    heat: undefined,
    sticks: true,
    tip: 'Wipe it free of grease; on a curve cut small slits or choose a thin film.',
  },
  balloon: {
    word: 'balloon',
    kind: 'hard',
    traits: ['stretch'],
    heat: undefined,
    sticks: true,
    curved: true,
    tip: 'Blow it up first, lay small pieces only.',
  },
} as const satisfies Record<string, Blank>;
export type BlankKey = keyof typeof blanks;
export const blankKeys = Object.keys(blanks) as BlankKey[];

export type Suits = {
  verdict: 'suits' | 'care' | 'not';
  /** The weightiest first. Never empty. */
  reasons: string[];
  /** What the verdict rests on: what crafters say, or a figure of this vinyl against one of the blank. */
  rests: 'common practice' | 'heat';
};

const both = (mc: MilliCelsius) => `${Math.round(milliCelsiusToFahrenheit(mc))} °F (${Math.round(mc / 1000)} °C)`;
const traitWords: Record<FabricTrait, string> = {
  'long pile': 'wrinkles on long pile and sinks into it',
  'short pile': 'does not hold on pile',
  mesh: 'lies on holes and comes off',
  stretch: 'cracks where the cloth stretches',
  nylon: 'does not hold on nylon, or only some products do',
  coated: 'does not hold on a coated face',
  'heat shy': 'needs more heat than this cloth takes',
};

/**
 * Whether a vinyl suits a blank, and why. What must not be comes before what needs care.
 * Source: common practice, no published source; heats are compared as numbers.
 */
export function suitsBlank(
  b: Pick<Behaviour, 'carry' | 'heat' | 'notOn' | 'press' | 'minFeatureUm'>,
  blank: Blank,
): Suits {
  const sticky = b.carry === 'tape' || b.heat === undefined;
  if (sticky) {
    if (!blank.sticks)
      return {
        verdict: 'not',
        reasons: [
          blank.kind === 'fabric'
            ? 'It sticks to smooth hard surfaces; on cloth it comes off.'
            : 'It sticks to smooth surfaces; this one crumbles under it.',
        ],
        rests: 'common practice',
      };
    if (blank.curved)
      return {
        verdict: 'care',
        reasons: ['A curved or stretchy surface fights a film that sticks: small pieces only.'],
        rests: 'common practice',
      };
    return { verdict: 'suits', reasons: ['It sticks to a clean, smooth surface.'], rests: 'common practice' };
  }
  if (blank.heat === undefined)
    return { verdict: 'not', reasons: ['It must be pressed, and this cannot be.'], rests: 'heat' };
  const lowest = b.heat!.from;
  if (lowest > blank.heat)
    return {
      verdict: 'not',
      reasons: [`It wants at least ${both(lowest)}; this takes ${both(blank.heat)} at most.`],
      rests: 'heat',
    };
  // A heat that fits was compared as a number: it outweighs the rule of thumb for cloth that takes no heat.
  const trait = blank.traits.find((t) => t !== 'heat shy' && b.notOn.includes(t));
  if (trait) return { verdict: 'not', reasons: [`It ${traitWords[trait]}.`], rests: 'common practice' };
  const reasons: string[] = [];
  const usual = b.press.find((w) => w.heat !== undefined)?.heat;
  if (usual !== undefined && usual > blank.heat)
    reasons.push(`Its usual ${both(usual)} is too much here: stay under ${both(blank.heat)}.`);
  if (blank.curved) reasons.push('The shape fights it: small pieces, pressed part by part.');
  if (blank.traits.some((t) => t.endsWith('pile')) && b.minFeatureUm < 2000)
    reasons.push('Thin lines get lost in the pile: keep them wide.');
  if (blank.kind === 'hard') reasons.push('Press short and covered: what is under it may bow or scorch.');
  if (reasons.length > 0)
    return { verdict: 'care', reasons, rests: reasons[0]!.startsWith('Its usual') ? 'heat' : 'common practice' };
  return {
    verdict: 'suits',
    reasons: [
      blank.traits.includes('long pile')
        ? 'Thick enough to lie over the pile.'
        : `Its heat is within what this takes (${both(blank.heat)}).`,
    ],
    rests: blank.traits.includes('long pile') ? 'common practice' : 'heat',
  };
}
