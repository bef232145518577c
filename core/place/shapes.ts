import { inchesToMicrometres, type Micrometres } from '../units/index.ts';
import type { BlankKey } from '../vinyls/index.ts';

const inch = inchesToMicrometres;

/** Free room at the edges that a design keeps off: seams, zips, handles. µm. */
export type Margins = { side: Micrometres; top: Micrometres; bottom: Micrometres };

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
};

const described = {
  shirt: {
    word: 'shirt',
    measures: 'across the chest, and from the collar down to the hem',
    surface: 'plain-cloth',
    sides: ['front', 'back', 'sleeve'],
    width: inch(20),
    height: inch(26),
    margins: { side: inch(1), top: inch(1), bottom: inch(2) },
    place: 'below',
    drop: inch(3),
    designs: { XS: inch(8), S: inch(9), M: inch(10), L: inch(10), XL: inch(11), '2XL': inch(11), all: inch(9.5) },
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
  },
  cap: {
    word: 'cap',
    measures: 'the front panel above the brim',
    surface: 'cap',
    sides: ['front'],
    width: inch(5),
    height: inch(3.5),
    margins: { side: inch(0.75), top: inch(0.5), bottom: inch(0.5) },
    place: 'centred',
    drop: 0,
    designs: { all: inch(3) },
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
  },
} satisfies Record<string, Shape>;
export type ShapeKey = keyof typeof described;
export const shapes: Record<ShapeKey, Shape> = described;
export const shapeKeys = Object.keys(shapes) as ShapeKey[];
