import { bothHeats, fahrenheitToMilliCelsius, type MilliCelsius, micrometresToInches } from '../units/index.ts';
import { fullPress, saySeconds, type Behaviour } from './behaviour.ts';
import type { FabricTrait } from './facts.ts';
import { leafletDefaults } from './leaflet.ts';
import type { Tip } from './tips.ts';

/**
 * What is decorated. Fabrics take what is pressed, hard smooth surfaces take what sticks; wood, cork, card and faux leather
 * take both with care. Source of every value: common practice, no published source.
 */
export type Blank = {
  /** What it is known by: what shape and surface decide is asked by it, never by the word that is shown. */
  key: string;
  word: string;
  kind: 'fabric' | 'hard';
  traits: readonly FabricTrait[];
  /** Hottest press it takes; undefined where it may not be pressed at all. */
  heat: MilliCelsius | undefined;
  /** How long it is pressed bare and dry first, s, where that is not as usual; 0: never. Common practice, no source. */
  bare?: number;
  /** How many full presses it bears in all; undefined where nobody says. */
  bears?: number;
  /** Whether film that sticks by itself holds on it. */
  sticks: boolean;
  /** Whether its shape fights a stiff film. */
  curved?: boolean;
  /** Why everything that is pressed on it wants care. */
  care?: string;
  /** What speaks for a film that goes on it. */
  suits?: string;
  /** What to do about the blank itself, each at its moment. */
  tips: readonly Tip[];
};

const f = fahrenheitToMilliCelsius;
const described = {
  'plain-cloth': {
    word: 'plain cloth: cotton, polyester, mixed, canvas, flat tea towel',
    kind: 'fabric',
    traits: [],
    heat: f(380),
    sticks: false,
    tips: [
      {
        key: 'lint',
        at: 'bare',
        says: 'Roll the lint off and lay it flat: a fold or a second layer of cloth under the press burns a mark.',
        basis: 'common practice',
      },
    ],
  },
  'short-fur': {
    word: 'short pile: fleece, velvet, terry, short fur',
    kind: 'fabric',
    traits: ['short pile'],
    heat: f(330),
    sticks: false,
    suits: 'Short pile lies down under it.',
    tips: [
      {
        key: 'flatten',
        at: 'bare',
        says: 'Press it flat first: it takes film well once the pile lies down.',
        basis: 'common practice',
      },
    ],
  },
  'long-fur': {
    word: 'long pile: fur, plush',
    kind: 'fabric',
    traits: ['long pile'],
    heat: f(320),
    sticks: false,
    tips: [
      {
        key: 'trim close',
        at: 'press',
        says: 'Trim the carrier close: it then does not comb the fur up.',
        basis: 'common practice',
      },
      {
        key: 'with the pile',
        at: 'peel',
        says: 'Peel with the pile, rolling the carrier back on itself.',
        basis: 'common practice',
      },
    ],
  },
  mesh: {
    word: 'mesh: jersey with holes, net bags',
    kind: 'fabric',
    traits: ['mesh'],
    heat: f(320),
    sticks: false,
    suits: 'It sits on top of the holes.',
    tips: [
      {
        key: 'pillow',
        at: 'press',
        says: 'Put a pillow or the like inside, so that front and back do not stick together.',
        basis: 'common practice',
        notFaces: ['relief'],
      },
      { key: 'tearing noise', at: 'peel', says: 'A tearing noise while you peel is normal.', basis: 'common practice' },
    ],
  },
  stretch: {
    word: 'cloth that stretches: sportswear, socks',
    kind: 'fabric',
    traits: ['stretch'],
    heat: f(310),
    sticks: false,
    tips: [
      { key: 'no pulling', at: 'press', says: 'Lay it without pulling.', basis: 'judgement' },
      { key: 'cracks', at: 'design', says: 'Big closed areas crack when it stretches.', basis: 'judgement' },
    ],
  },
  nylon: {
    word: 'nylon: jackets, umbrellas, bags',
    kind: 'fabric',
    traits: ['nylon'],
    heat: f(285),
    sticks: false,
    care: 'Some products never hold on nylon.',
    tips: [
      {
        key: 'hidden place',
        at: 'blank',
        says: 'Try a hidden place first: some products never hold on nylon.',
        basis: 'common practice',
      },
    ],
  },
  cap: {
    word: 'cap',
    bare: 0,
    kind: 'fabric',
    traits: ['pressed in parts'],
    heat: f(330),
    sticks: false,
    curved: true,
    care: 'At most 3 in (76 mm) wide, pressed part by part.',
    tips: [
      {
        key: 'stiffener',
        at: 'blank',
        says: 'Take out a stiffener that melts; press from outside, against a mitt or a pad inside.',
        basis: 'common practice',
      },
      {
        key: 'cap width',
        at: 'design',
        says: 'At most 3 in (76 mm) wide; split a wider design over front and brim.',
        basis: 'common practice',
      },
    ],
  },
  'thin-bag': {
    word: 'thin cotton bag',
    kind: 'fabric',
    traits: [],
    heat: f(330),
    sticks: false,
    tips: [
      {
        key: 'no fold',
        at: 'press',
        says: 'Smooth it out: a fold or a second layer under the press burns a mark.',
        basis: 'common practice',
      },
      {
        key: 'ordinary film',
        at: 'design',
        says: 'It takes ordinary film and many presses.',
        basis: 'common practice',
      },
    ],
  },
  silk: {
    word: 'silk, viscose',
    kind: 'fabric',
    traits: ['heat shy'],
    heat: f(280),
    bears: 3,
    sticks: false,
    tips: [
      {
        key: 'low and few',
        at: 'press',
        says: 'Low heat, few presses, no fold and no second layer under the press.',
        basis: 'common practice',
      },
    ],
  },
  foam: {
    word: 'foam holder for bottles',
    bare: 0,
    kind: 'fabric',
    traits: [],
    heat: f(320),
    sticks: false,
    care: 'It gives under the press: medium pressure by hand; about 18 s at 320 °F (160 °C) did well.',
    tips: [
      {
        key: 'gives',
        at: 'press',
        says: 'It gives under the press: medium pressure, by hand.',
        basis: 'common practice',
      },
      { key: 'foam width', at: 'design', says: 'At most 6 in (15 cm) wide.', basis: 'common practice' },
    ],
  },
  wood: {
    word: 'wood',
    kind: 'hard',
    traits: [],
    heat: f(320),
    sticks: true,
    tips: [
      {
        key: 'raw or sealed',
        at: 'design',
        says: 'Raw wood takes what is pressed, sealed wood what sticks.',
        basis: 'judgement',
      },
      {
        key: 'short and covered',
        at: 'press',
        says: 'Press short and covered: wood may bow or scorch.',
        basis: 'judgement',
      },
    ],
  },
  cork: {
    word: 'cork',
    kind: 'hard',
    traits: [],
    heat: f(305),
    sticks: false,
    tips: [
      { key: 'crumbs', at: 'design', says: 'Crumbs come off with tape: press rather than stick.', basis: 'judgement' },
      { key: 'short and covered', at: 'press', says: 'Press short and covered: cork may scorch.', basis: 'judgement' },
    ],
  },
  card: {
    word: 'card, paper',
    kind: 'hard',
    traits: [],
    heat: f(300),
    bears: 3,
    sticks: true,
    tips: [
      {
        key: 'short and covered',
        at: 'press',
        says: 'Press short and covered: card bows with heat.',
        basis: 'judgement',
      },
      { key: 'under a weight', at: 'peel', says: 'Let it cool under a weight.', basis: 'judgement' },
    ],
  },
  leather: {
    word: 'faux leather',
    kind: 'hard',
    traits: [],
    heat: f(270),
    sticks: true,
    tips: [
      {
        key: 'hold it flat',
        at: 'peel',
        says: 'Hold it flat while you peel; it cools after the last layer.',
        basis: 'common practice',
      },
    ],
  },
  glass: {
    word: 'glass, glazed pottery',
    kind: 'hard',
    traits: [],
    heat: undefined,
    sticks: true,
    tips: [],
  },
  plastic: {
    word: 'hard plastic, painted metal',
    kind: 'hard',
    traits: [],
    heat: undefined,
    sticks: true,
    tips: [],
  },
  balloon: {
    word: 'balloon',
    kind: 'hard',
    traits: ['stretch'],
    heat: undefined,
    sticks: true,
    curved: true,
    tips: [
      { key: 'blow it up', at: 'blank', says: 'Blow it up first.', basis: 'judgement' },
      {
        key: 'small words',
        at: 'design',
        says: 'It is hard to make anything stick here: small words only.',
        basis: 'common practice',
      },
    ],
  },
} satisfies Record<string, Omit<Blank, 'key'>>;
export type BlankKey = keyof typeof described;
export const blanks = Object.fromEntries(
  Object.entries(described).map(([key, blank]) => [key, { key, ...blank }]),
) as unknown as Record<BlankKey, Blank>;
export const blankKeys = Object.keys(blanks) as BlankKey[];

export type Suits = {
  verdict: 'suits' | 'care' | 'not';
  /** The weightiest first. Never empty. */
  reasons: string[];
  /** What the verdict rests on: what crafters say, or a figure of this vinyl against one of the blank. */
  rests: 'common practice' | 'heat';
};

const wide = (um: number) => `${um / 1000} mm (${Number(micrometresToInches(um).toFixed(2))} in)`;
const traitWords: Record<FabricTrait, string> = {
  'long pile': 'wrinkles on long pile and sinks into it',
  'short pile': 'does not hold on pile',
  mesh: 'lies on holes and comes off',
  stretch: 'cracks where the cloth stretches',
  nylon: 'does not hold on nylon, or only some products do',
  coated: 'does not hold on a coated face',
  'heat shy': 'needs more heat than this cloth takes',
  'pressed in parts': 'cannot be pressed in parts, and this has to be',
};
/** A line thinner than this gets lost in a pile, µm. */
const LOST_IN_PILE = 2000;

type Film = Pick<Behaviour, 'bond' | 'heat' | 'notOn' | 'press' | 'minFeatureUm' | 'face'>;

const practice = (verdict: Suits['verdict'], ...reasons: string[]): Suits => ({
  verdict,
  reasons,
  rests: 'common practice',
});

/**
 * Whether a vinyl suits a blank, and why: for a crafter's reason, never for want of one. What must not be comes before what needs care.
 * A heat forbids only where somebody said it of this vinyl; heats nearer than presses differ are the same heat.
 * Source: common practice, no published source; heats are compared as numbers.
 * @example suitsBlank(behaviourOf('smooth'), blanks['long-fur']).verdict // 'not'
 */
export function suitsBlank(b: Film, blank: Blank): Suits {
  if (b.bond === 'sticks' || b.heat === undefined) return stuckOn(blank);
  if (b.bond === 'glue')
    return blank.kind === 'fabric'
      ? practice('not', 'Nothing bonds it to cloth: it is glued to itself, or sewn on.')
      : practice('care', 'It is glued, under a weight for an hour.');
  if (blank.heat === undefined)
    return { verdict: 'not', reasons: ['It must be pressed, and this cannot be.'], rests: 'heat' };
  const over = (heat: MilliCelsius) => heat > blank.heat! + leafletDefaults.heat;
  const { said, from } = b.heat;
  if (said && over(from))
    return {
      verdict: 'not',
      reasons: [`It wants at least ${bothHeats(from)}; this takes ${bothHeats(blank.heat)} at most, we think.`],
      rests: 'heat',
    };
  // A heat that was said and fits outweighs the rule of thumb for cloth that takes little.
  const trait = blank.traits.find((t) => b.notOn.includes(t) && !(t === 'heat shy' && said));
  if (trait) return practice('not', `It ${traitWords[trait]}.`);
  return pressedOn(b, blank, over);
}

function stuckOn(blank: Blank): Suits {
  if (!blank.sticks)
    return practice(
      'not',
      blank.kind === 'fabric'
        ? 'It sticks to smooth hard surfaces; on cloth it comes off.'
        : 'It sticks to smooth surfaces; this one crumbles under it.',
    );
  if (blank.curved)
    return practice('care', 'A curved or stretchy surface fights a film that sticks: small pieces only.');
  return practice('suits', 'It sticks to a clean, smooth surface.');
}

function pressedOn(b: Film, blank: Blank, over: (heat: MilliCelsius) => boolean): Suits {
  const leather = blank.key === 'leather' && b.press.find((w) => w.purpose === 'on faux leather');
  if (leather)
    return practice(
      'care',
      `${bothHeats(leather.heat!)}, ${saySeconds(leather.seconds)} a layer, covered; peel each at once, holding it flat.`,
    );
  const usual = fullPress(b.press)?.heat;
  const tooHot = usual !== undefined && over(usual);
  const pile = blank.traits.find((t) => t === 'long pile' || t === 'short pile');
  const overPile = b.face === 'grain' || b.face === 'pile';
  const care = [
    tooHot
      ? `Its usual ${bothHeats(usual)} is more than we think this takes, ${bothHeats(blank.heat!)}: try a scrap.`
      : '',
    blank.care ?? '',
    blank.curved
      ? overPile
        ? 'Unlike smooth film it may cross the centre seam.'
        : 'It shows the marks of the press; keep it off the centre seam.'
      : '',
    blank.key === 'thin-bag' && b.face === 'relief'
      ? 'Heavy pressure on thin cloth: a hard board inside, and no fold under it.'
      : '',
    pile && !overPile && b.minFeatureUm < LOST_IN_PILE ? 'Thin lines get lost in the pile: keep them wide.' : '',
    blank.kind === 'hard' ? 'Press short and covered: what is under it may bow or scorch.' : '',
  ].filter(Boolean);
  if (care.length > 0) return { ...practice('care', ...care), rests: tooHot ? 'heat' : 'common practice' };
  if (pile === 'long pile')
    return practice(
      'suits',
      b.face === 'pile' ? 'Its own pile lies over the fur.' : 'Its grain lies over the fur and does not wrinkle.',
    );
  return practice('suits', ...(blank.suits ? [blank.suits] : []), `Good for lines from ${wide(b.minFeatureUm)} up.`);
}
