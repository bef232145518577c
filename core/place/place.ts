import { z } from 'zod';
import type { Micrometres } from '../units/index.ts';
import { shapeKeys, shapes, type PlaceTopic, type Shape } from './shapes.ts';

const um = (from: number, to: number) => z.int().min(from).max(to);

/** What a design is laid on: its measures, and what it keeps off. */
export const blankSchema = z.strictObject({
  width: um(10_000, 3_000_000).describe('µm, as measured'),
  height: um(10_000, 3_000_000),
  margins: z
    .strictObject({ side: um(0, 1_000_000), top: um(0, 1_000_000), bottom: um(0, 1_000_000) })
    .describe('µm that a design keeps off: seams, handles, zips; `side` on each side'),
});
export type MeasuredBlank = z.infer<typeof blankSchema>;

/** Where a design goes: one point of it, and where on the blank that point comes to lie. */
export const spotSchema = z.strictObject({
  from: z
    .enum(['below', 'centred', 'edge'])
    .describe(
      'below: so far below the top edge, in the middle; centred: in the middle both ways; edge: from the left and the top edge',
    ),
  down: um(0, 3_000_000).describe('µm from the top edge to the anchor; taken for `below` and `edge`'),
  across: um(0, 3_000_000).default(0).describe('µm from the left edge to the anchor; taken for `edge`'),
  anchor: z
    .strictObject({ x: z.number().min(0).max(1), y: z.number().min(0).max(1) })
    .describe('the point of the design that is laid there, shares of its width and height'),
});
export type Spot = z.infer<typeof spotSchema>;

export const placeInputSchema = z.strictObject({
  format: z.literal('versipel-place/1'),
  blank: blankSchema,
  design: z.strictObject({ width: um(1_000, 3_000_000), height: um(1_000, 3_000_000) }),
  spot: spotSchema,
  shape: z.enum(shapeKeys).optional().describe('for the usual width'),
  size: z.string().max(20).optional().describe('its size name, as M'),
  side: z.string().max(30).optional().describe('which side of it, as front'),
  habits: z
    .strictObject({ drop: z.string().max(20).optional(), width: z.string().max(20).optional() })
    .optional()
    .describe('which way somebody follows where crafters go several'),
});
export type PlaceInput = z.infer<typeof placeInputSchema>;

export type Placed = {
  format: 'versipel-place-result/1';
  /** From each edge of the blank to the design, µm; negative where it hangs over. */
  left: Micrometres;
  right: Micrometres;
  top: Micrometres;
  bottom: Micrometres;
  /** Where the anchor lies, µm from the left top corner. */
  anchor: { x: Micrometres; y: Micrometres };
  /** Edges whose margin it does not keep. */
  over: ('left' | 'right' | 'top' | 'bottom')[];
  /** The widest a design of these proportions may be, µm. */
  widest: Micrometres;
  /** The usual width for the shape and size, no wider than that; undefined where no shape is named. */
  usual: Micrometres | undefined;
};

/** The widest a design may be on a blank, µm: its margins on both sides, and its height by its proportions. Never below 0. */
export function widestDesign(blank: MeasuredBlank, design: { width: number; height: number }): Micrometres {
  const across = blank.width - 2 * blank.margins.side;
  const down = blank.height - blank.margins.top - blank.margins.bottom;
  return Math.max(0, Math.floor(Math.min(across, (down * design.width) / design.height)));
}

/** A length by size, `all` for any other. µm. */
export const bySize = (um: Readonly<Record<string, Micrometres>>, size: string | undefined): Micrometres =>
  Object.entries(um).find(([name]) => name.toLowerCase() === size?.trim().toLowerCase())?.[1] ?? um.all!;

/** What somebody follows where crafters go several ways, by topic. */
export type PlaceHabits = Partial<Record<PlaceTopic, string>>;

const wayOf = (shape: Pick<Shape, 'ways'>, topic: PlaceTopic, habits: PlaceHabits) =>
  shape.ways?.[topic]?.find((w) => w.key === habits[topic]);

/**
 * How wide crafters make a design for a shape, a side and a size, or as a person follows it; no wider than fits.
 * @example usualWidth(shapes.shirt, { size: 'M' }, { width: 508000, height: 660400, margins: shapes.shirt.margins }, { width: 2, height: 1 }) // 254000
 */
export function usualWidth(
  shape: Pick<Shape, 'designs' | 'bySide' | 'ways'>,
  on: { size?: string | undefined; side?: string | undefined },
  blank: MeasuredBlank,
  design: { width: number; height: number },
  habits: PlaceHabits = {},
): Micrometres {
  const box = on.side === undefined ? undefined : shape.bySide?.[on.side];
  const wide = box?.width ?? bySize(wayOf(shape, 'width', habits)?.um ?? shape.designs, on.size);
  const high = box?.height === undefined ? Infinity : Math.floor((box.height * design.width) / design.height);
  return Math.min(wide, high, widestDesign(blank, design));
}

/**
 * Lays a design on a blank by its anchor, with the sums a crafter does on paper: (garment − design) / 2 on each side.
 * Source: common practice, no published source; plain geometry.
 */
export function place({ blank, design, spot, shape, size, side, habits }: PlaceInput): Placed {
  const x = spot.from === 'edge' ? spot.across : Math.round(blank.width / 2);
  const y = spot.from === 'centred' ? Math.round(blank.height / 2) : spot.down;
  const left = Math.round(x - spot.anchor.x * design.width);
  const top = Math.round(y - spot.anchor.y * design.height);
  const gaps = { left, top, right: blank.width - design.width - left, bottom: blank.height - design.height - top };
  const keep: Record<keyof typeof gaps, number> = {
    left: blank.margins.side,
    right: blank.margins.side,
    top: blank.margins.top,
    bottom: blank.margins.bottom,
  };
  return {
    format: 'versipel-place-result/1',
    ...gaps,
    anchor: { x, y },
    over: (['left', 'right', 'top', 'bottom'] as const).filter((edge) => gaps[edge] < keep[edge]),
    widest: widestDesign(blank, design),
    usual: shape && usualWidth(shapes[shape], { size, side }, blank, design, habits),
  };
}

/** A length a hand sets, no more than what is asked for: steps of a quarter inch, or of five millimetres. µm. */
export const evenLength = (um: Micrometres, unit: 'mm' | 'in'): Micrometres => {
  const step = unit === 'in' ? 6_350 : 5_000;
  return um < step ? um : Math.floor(um / step + 1e-9) * step;
};

/** Where a design usually sits on a shape, or as somebody follows it. */
export const usualSpot = (shape: Pick<Shape, 'place' | 'drop' | 'ways'>, habits: PlaceHabits = {}): Spot =>
  shape.place === 'below'
    ? { from: 'below', down: wayOf(shape, 'drop', habits)?.um.all ?? shape.drop, across: 0, anchor: { x: 0.5, y: 0 } }
    : { from: 'centred', down: 0, across: 0, anchor: { x: 0.5, y: 0.5 } };
