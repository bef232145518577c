import { inchesToMicrometres, type Micrometres } from '../units/index.ts';
import type { Basis, BlankKey, Tip } from '../vinyls/index.ts';

const inch = inchesToMicrometres;

/** Free room at the edges that a design keeps off: seams, zips, handles. µm. */
type Margins = { side: Micrometres; top: Micrometres; bottom: Micrometres };

/**
 * What is decorated, by its shape: how it is measured, what crafters make on it, where the design sits. What its cloth or face takes is
 * its surface (`blanks` of core/vinyls). Source of every value: common practice, no published source.
 */
export type Shape = {
  word: string;
  /** What its width and height are measured of. */
  measures: string;
  surface: BlankKey;
  sides: readonly string[];
  width: Micrometres;
  height: Micrometres;
  margins: Margins;
  /** Where the design usually sits, and how far from the top edge of what is decorated. */
  place: 'below' | 'centred';
  drop: Micrometres;
  /** How wide designs are made, by size where sizes have names; `all` for any other. */
  designs: Readonly<Record<string, Micrometres>>;
  /** What sides have that are decorated otherwise: a box that the design fits in. */
  bySide?: Readonly<Record<string, { width: Micrometres; height?: Micrometres; basis: Basis }>>;
  /** Where crafters go several ways: how far below the top edge, how wide. */
  ways?: Partial<Record<PlaceTopic, readonly PlaceWay[]>>;
  /** How long the bare blank is pressed, s, where its shape decides that; 0: never. */
  bare?: number;
  /** Round: what is laid on it by hand bends. */
  round?: boolean;
  /** What becomes of it: worn or used, washed or not. */
  then: 'worn and washed' | 'used and washed' | 'worn' | 'used';
  tips: readonly Tip[];
};

/** What crafters do in several ways where a design goes. */
export const placeTopics = ['drop', 'width'] as const;
export type PlaceTopic = (typeof placeTopics)[number];
/** One way: a length by size, `all` for any other. Of a range its middle. µm. */
type PlaceWay = { key: string; says: string; um: Readonly<Record<string, Micrometres>> };

const shirtWays: Record<PlaceTopic, readonly PlaceWay[]> = {
  drop: [
    { key: '3', says: '3 in below the collar', um: { all: inch(3) } },
    { key: '2.5-3', says: '2½ to 3 in', um: { all: inch(2.75) } },
    { key: '4.5-5', says: '4½ to 5 in', um: { all: inch(4.75) } },
  ],
  width: [
    {
      key: 'by size',
      says: '10 in on M and L, 11 in from XL on',
      um: { XS: inch(8), S: inch(9), M: inch(10), L: inch(10), XL: inch(11), '2XL': inch(11), all: inch(9.5) },
    },
    { key: '9-9.5', says: '9 to 9½ in on any', um: { all: inch(9.25) } },
    { key: '8', says: 'small: 8 in', um: { all: inch(8) } },
  ],
};
/** A seam or a zip where the design goes. Common practice, no source. */
const seam: Tip = {
  key: 'seam',
  at: 'press',
  says: 'A seam or a zip there? A folded towel or a pad inside lifts the place above it.',
  basis: 'common practice',
  notFaces: ['relief'],
};

const described = {
  shirt: {
    word: 'shirt',
    measures: 'across the chest, and from the collar down to the hem',
    surface: 'plain-cloth',
    sides: ['front', 'back', 'name on the back', 'number on the back', 'sleeve'],
    width: inch(20),
    height: inch(26),
    margins: { side: inch(1), top: inch(1), bottom: inch(2) },
    place: 'below',
    drop: inch(3),
    designs: shirtWays.width[0]!.um,
    bySide: {
      'name on the back': { width: inch(8), height: inch(3), basis: 'common practice' },
      'number on the back': { width: inch(10), height: inch(7.5), basis: 'common practice' },
      sleeve: { width: inch(3), basis: 'judgement' },
    },
    ways: shirtWays,
    then: 'worn and washed',
    tips: [],
  },
  tote: {
    word: 'tote bag',
    measures: 'the flat bag without its handles',
    surface: 'plain-cloth',
    sides: ['front', 'back'],
    width: inch(14),
    height: inch(15),
    margins: { side: inch(1.5), top: inch(1.5), bottom: inch(1.5) },
    place: 'centred',
    drop: 0,
    designs: { all: inch(11) },
    then: 'used and washed',
    tips: [seam],
  },
  apron: {
    word: 'apron',
    measures: 'the bib, edge to edge',
    surface: 'plain-cloth',
    sides: ['bib', 'skirt'],
    width: inch(12),
    height: inch(14),
    margins: { side: inch(1), top: inch(1.5), bottom: inch(1) },
    place: 'centred',
    drop: 0,
    designs: { all: inch(9.5) },
    then: 'worn and washed',
    tips: [],
  },
  band: {
    word: 'sash or band',
    measures: 'the stretch that is decorated, laid flat',
    surface: 'plain-cloth',
    sides: ['front'],
    width: inch(28),
    height: inch(4),
    margins: { side: inch(2), top: inch(0.5), bottom: inch(0.5) },
    place: 'centred',
    drop: 0,
    designs: { all: inch(11) },
    then: 'worn and washed',
    tips: [],
  },
  cap: {
    word: 'cap',
    measures: 'the front panel above the brim',
    surface: 'cap',
    sides: ['front', 'brim'],
    width: inch(5),
    height: inch(3.5),
    margins: { side: inch(0.75), top: inch(0.5), bottom: inch(0.5) },
    place: 'centred',
    drop: 0,
    designs: { all: inch(3) },
    bySide: { brim: { width: inch(3), basis: 'common practice' } },
    then: 'worn',
    tips: [],
  },
  toy: {
    word: 'soft toy',
    measures: 'the flat part that is decorated',
    surface: 'short-fur',
    sides: ['front', 'foot', 'ear'],
    width: inch(7),
    height: inch(4),
    margins: { side: inch(0.5), top: inch(0.5), bottom: inch(0.5) },
    place: 'centred',
    drop: 0,
    designs: { all: inch(5) },
    bare: 0,
    then: 'used and washed',
    tips: [seam],
  },
  stocking: {
    word: 'stocking',
    measures: 'the cuff',
    surface: 'plain-cloth',
    sides: ['cuff'],
    width: inch(8),
    height: inch(4),
    margins: { side: inch(0.5), top: inch(0.5), bottom: inch(0.5) },
    place: 'centred',
    drop: 0,
    designs: { all: inch(6.5) },
    then: 'used and washed',
    tips: [seam],
  },
  holder: {
    word: 'bottle or can holder',
    measures: 'one face, laid flat',
    surface: 'foam',
    sides: ['front', 'back'],
    width: inch(7),
    height: inch(4),
    margins: { side: inch(0.5), top: inch(0.5), bottom: inch(0.5) },
    place: 'centred',
    drop: 0,
    designs: { all: inch(5.5) },
    then: 'used',
    tips: [],
  },
  cup: {
    word: 'cup or jar',
    measures: 'the face between the handles',
    surface: 'glass',
    sides: ['front'],
    width: inch(4),
    height: inch(3.5),
    margins: { side: inch(0.5), top: inch(0.5), bottom: inch(0.5) },
    place: 'centred',
    drop: 0,
    designs: { all: inch(3) },
    round: true,
    then: 'used',
    tips: [],
  },
  coaster: {
    word: 'coaster',
    measures: 'its flat face',
    surface: 'glass',
    sides: ['front'],
    width: inch(4),
    height: inch(4),
    margins: { side: inch(0.25), top: inch(0.25), bottom: inch(0.25) },
    place: 'centred',
    drop: 0,
    designs: { all: inch(3) },
    then: 'used',
    tips: [],
  },
  panel: {
    word: 'board, panel or card',
    measures: 'the whole face',
    surface: 'wood',
    sides: ['front'],
    width: inch(12),
    height: inch(12),
    margins: { side: inch(1), top: inch(1), bottom: inch(1) },
    place: 'centred',
    drop: 0,
    designs: { all: inch(10) },
    then: 'used',
    tips: [],
  },
} satisfies Record<string, Shape>;
export type ShapeKey = keyof typeof described;
export const shapes: Record<ShapeKey, Shape> = described;
export const shapeKeys = Object.keys(shapes) as ShapeKey[];
