import type { ShapeKey } from '#core/place/index.ts';

/**
 * Outlines of blanks, each in a box that the measured part fills: 0 to 100 across and down is what was measured, what hangs over it is the
 * rest of the thing. Drawn by hand for this product.
 */
const outlines: Record<
  ShapeKey,
  { body: string; lines?: string; over: [left: number, top: number, right: number, bottom: number] }
> = {
  shirt: {
    body: 'M22 -4C34 6 66 6 78 -4L102 4L124 34L108 44L100 30V100H0V30L-8 44L-24 34L-2 4Z',
    lines: 'M22 -4C32 12 68 12 78 -4',
    over: [25, 6, 25, 2],
  },
  tote: { body: 'M0 0H100L97 100H3Z', lines: 'M26 0C26 -34 74 -34 74 0M32 0C32 -26 68 -26 68 0', over: [2, 34, 2, 2] },
  apron: { body: 'M8 0H92L100 60V100H0V60Z', lines: 'M20 0C20 -26 80 -26 80 0', over: [2, 26, 2, 2] },
  band: { body: 'M-6 0H106V100H-6Z', lines: 'M-6 0L-2 50L-6 100M106 0L102 50L106 100', over: [8, 4, 8, 4] },
  cap: {
    body: 'M0 100C-4 30 20 0 50 0S104 30 100 100Z',
    lines: 'M50 0V100M-4 100C20 88 80 88 104 100L112 124C70 108 30 108 -12 124Z',
    over: [14, 6, 14, 28],
  },
  toy: {
    body: 'M10 20C0 -6 26 -10 34 2C44 -4 56 -4 66 2C74 -10 100 -6 90 20C108 50 96 100 50 100S-8 50 10 20Z',
    over: [8, 10, 8, 4],
  },
  stocking: {
    body: 'M0 0H100V100H0Z',
    lines: 'M8 100V170C8 190 60 210 84 196C96 186 88 166 78 160V100',
    over: [4, 4, 8, 104],
  },
  holder: { body: 'M0 0H100L94 100H6Z', lines: 'M0 0C20 12 80 12 100 0', over: [2, 4, 2, 2] },
  cup: { body: 'M-14 -8H114L104 112H-4Z', lines: 'M114 14C140 14 140 78 108 78', over: [16, 12, 34, 14] },
  coaster: {
    body: 'M10 0H90Q100 0 100 10V90Q100 100 90 100H10Q0 100 0 90V10Q0 0 10 0Z',
    lines: 'M14 6H86Q94 6 94 14V86',
    over: [3, 3, 3, 3],
  },
  panel: { body: 'M0 0H100V100H0Z', over: [3, 3, 3, 3] },
};

/** A shape as a small picture. */
export function ShapeDrawing({ shape, hex, size }: { shape: ShapeKey; hex: string; size: number }) {
  const { body, lines, over } = outlines[shape];
  const [l, t, r, b] = over;
  return (
    <svg
      viewBox={`${-l - 4} ${-t - 4} ${108 + l + r} ${108 + t + b}`}
      width={size}
      height={size}
      aria-hidden="true"
      focusable="false"
    >
      <path d={body} fill={hex} stroke="var(--ink)" strokeWidth={3} strokeLinejoin="round" />
      {lines && (
        <path d={lines} fill="none" stroke="var(--ink)" strokeWidth={3} strokeLinejoin="round" strokeLinecap="round" />
      )}
    </svg>
  );
}

/** A shape at its measures: an outline to draw on, and the box that holds all of it. Units as those of width and height. */
export function shapeAt(shape: ShapeKey, width: number, height: number) {
  const { body, lines, over } = outlines[shape];
  const [l, t, r, b] = over;
  const [sx, sy] = [width / 100, height / 100];
  return {
    body,
    lines,
    transform: `scale(${sx} ${sy})`,
    box: [-l * sx, -t * sy, (100 + l + r) * sx, (100 + t + b) * sy] as const,
  };
}
