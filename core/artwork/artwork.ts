import type { Narrow } from './narrow.ts';

/** What one vinyl of a drawing is to show. Lengths in units of which the drawing's longer side has a million. */
export type ArtLayer = {
  id: string;
  hex: string;
  /** Its outlines, closed, as SVG path data; what is inside and what is a hole follows from the non-zero rule. */
  d: string;
  /** Pieces of film that stay, and holes in them: each hole is a piece of waste to lift. */
  pieces: number;
  holes: number;
  /** Length of the cut, and the area that stays. */
  length: number;
  area: number;
  box: { x: number; y: number; width: number; height: number };
  narrow: Narrow[];
  /** Corners of film so sharp that they lift with the waste, the sharpest first; `out` is the way they point, degrees from the right downwards. */
  tips: { x: number; y: number; degrees: number; out: number }[];
  /** Small pieces of film: as large as a square with this side. The smallest first. */
  bits: { x: number; y: number; side: number }[];
};

export type Artwork = {
  format: 'versipel-artwork/1';
  /** In units; one of them is a million. */
  width: number;
  height: number;
  /** As wide as the file says it is, µm; undefined where it does not say. */
  naturalWidthUm: number | undefined;
  /** In the order they lie, the lowest first. */
  layers: ArtLayer[];
  /** What of the file could not be used. */
  notes: string[];
};
