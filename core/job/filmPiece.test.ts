import { describe, expect, it } from 'vitest';
import { inchesToMicrometres as inch } from '../units/index.ts';
import { behaviourOf } from '../vinyls/index.ts';
import { shippedModels, startingSetting } from '../controls/index.ts';
import { cutLength, HANDLING, layCoupon } from '../coupon/index.ts';
import { filmPiece, filmPieceDefaults, partPaths } from './filmPiece.ts';

const design = { width: inch(11), height: inch(6.79) };
const { margin, gap, matEdge } = filmPieceDefaults;
/** A mat so wide, as long as it takes. */
const mat = (width: number) => ({ widthUm: width - 2 * matEdge, lengthUm: undefined });

describe('the piece of film to trim', () => {
  it('is a bit larger than the design', () => {
    const piece = filmPiece(design, 1, behaviourOf('smooth'), mat(inch(12)));
    expect([piece.width, piece.height]).toEqual([design.width + 2 * margin, design.height + 2 * margin]);
    expect(piece.over).toBeUndefined();
  });
  it('without a mat: 8.5 in for a design 6.79 in high (common practice, no source)', () => {
    const piece = filmPiece(design, 1, behaviourOf('matless'), mat(inch(13)));
    // 1.7 in in all, borders included.
    expect(piece.height - design.height).toBe(43_000);
    expect(piece.height / 25_400).toBeCloseTo(8.5, 1);
    expect(piece.because).toContain('lead');
  });
  it('faux leather has a border for tape on four sides', () => {
    const piece = filmPiece(design, 1, behaviourOf('faux-leather'), mat(inch(15)));
    expect(piece.width - design.width).toBe(2 * filmPieceDefaults.tape);
  });
  it('a mat of 12 in cuts 11, not more (common practice, no source)', () => {
    const on = { widthUm: inch(12) - 2 * matEdge, lengthUm: inch(4) - 2 * matEdge };
    const over = (width: number) => filmPiece({ width, height: inch(2) }, 1, behaviourOf('smooth'), on).over;
    expect(over(inch(11))?.fits).toBeUndefined();
    expect(over(inch(11.1))?.fits).toBe(0);
  });
  it('copies lie in rows as wide as the mat takes, none on another', () => {
    const small = { width: inch(3), height: inch(2) };
    const piece = filmPiece(small, 7, behaviourOf('smooth'), mat(inch(12)));
    expect(new Set(piece.copies.map((c) => c.y)).size).toBe(3);
    for (const [i, a] of piece.copies.entries())
      for (const b of piece.copies.slice(i + 1))
        expect(Math.abs(a.x - b.x) >= small.width + gap || Math.abs(a.y - b.y) >= small.height + gap).toBe(true);
  });
  it('a part of six copies is cut six times as long', () => {
    const square = [
      {
        closed: true as const,
        points: [
          [0, 0],
          [10, 0],
          [10, 10],
          [0, 10],
        ] as [number, number][],
      },
    ];
    const copies = [
      { x: 0, y: 0 },
      { x: 50, y: 0 },
      { x: 0, y: 50 },
    ];
    expect(cutLength(square)).toBe(40);
    expect(cutLength(partPaths([square], { copies }))).toBe(120);
    expect(cutLength(partPaths([square], { copies, frame: { x: -5, y: -5, width: 70, height: 70 } }))).toBe(400);
  });
  it('a test mark takes a strip below, or a place that a row has free: never on a copy, never off the film', () => {
    const within = (piece: ReturnType<typeof filmPiece>, of: { width: number; height: number }) => {
      const m = piece.mark!;
      expect(m.x >= 0 && m.y >= 0 && m.x + m.width <= piece.width && m.y + m.height <= piece.height).toBe(true);
      for (const c of piece.copies)
        expect(m.x + m.width <= c.x || c.x + of.width <= m.x || m.y + m.height <= c.y || c.y + of.height <= m.y).toBe(
          true,
        );
    };
    const one = filmPiece(design, 1, behaviourOf('smooth'), mat(inch(12)), { mark: true });
    expect(one.height).toBe(design.height + 2 * margin + one.mark!.height);
    expect(one.because).toContain('mark');
    // Where nobody asked for it, it is left out if it costs more than a tenth of the film (common practice, no source).
    const cheap = (d: typeof design) => filmPiece(d, 1, behaviourOf('smooth'), mat(inch(12)), { mark: 'cheap' }).mark;
    expect(cheap({ width: inch(10), height: inch(9) })).toBeDefined();
    expect(cheap({ width: inch(3), height: inch(1) })).toBeUndefined();
    within(one, design);
    const small = { width: inch(3), height: inch(2) };
    const [with7, plain7] = [{ mark: true }, {}].map((w) =>
      filmPiece(small, 7, behaviourOf('smooth'), mat(inch(12)), w),
    );
    expect(with7!.height).toBe(plain7!.height);
    within(with7!, small);
    within(filmPiece({ width: 9_000, height: 5_000 }, 1, behaviourOf('matless'), mat(inch(12)), { mark: true }), {
      width: 9_000,
      height: 5_000,
    });
  });
  it('a frame goes round everything, on film with a lead behind it', () => {
    const piece = filmPiece(design, 1, behaviourOf('matless'), mat(inch(13)), { mark: true, frame: true });
    const f = piece.frame!;
    expect(f.y).toBeGreaterThan(piece.height - f.height - f.y);
    for (const box of [{ ...piece.copies[0]!, ...design }, piece.mark!]) {
      expect(f.x <= box.x && f.y <= box.y).toBe(true);
      expect(f.x + f.width >= box.x + box.width && f.y + f.height >= box.y + box.height).toBe(true);
    }
  });
  it('room for a test cut: as large as six squares are, in the corner, and nothing lies on it', () => {
    const axes = shippedModels.find((m) => m.key === 'marlow-24')!;
    const sheet = layCoupon({
      format: 'versipel-coupon/1',
      model: axes,
      title: 'six',
      cutFrom: 'face',
      cells: Array.from({ length: 6 }, (_, i) => ({ number: i + 1, setting: startingSetting(axes) })),
    });
    const piece = filmPiece({ width: inch(3), height: inch(2) }, 4, behaviourOf('smooth'), mat(inch(12)), {
      test: true,
      mark: true,
      frame: true,
    });
    const room = piece.test!;
    expect([room.width, room.height]).toEqual([sheet.width + HANDLING, sheet.height + HANDLING]);
    expect(piece.because).toContain('test');
    for (const box of [
      ...piece.copies.map((c) => ({ ...c, width: inch(3), height: inch(2) })),
      piece.mark!,
      piece.frame!,
    ])
      expect(box.y).toBeGreaterThanOrEqual(room.y + room.height - 5_000);
    expect(room.x + room.width).toBeLessThanOrEqual(piece.width);
    // A roll has its lead there.
    expect(filmPiece(design, 1, behaviourOf('matless'), mat(inch(13)), { test: true }).test).toBeUndefined();
  });
});
