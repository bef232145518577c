import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { inchesToMicrometres as inch } from '../units/index.ts';
import { behaviourOf } from '../vinyls/index.ts';
import { bedOf, filmOn, tooLarge, type Asked, type Under } from './bed.ts';
import { cornersOf, filmPieceDefaults, quarterTurned } from './filmPiece.ts';

const small: Under = { mat: { widthUm: inch(12), lengthUm: inch(12) }, usableUm: undefined };
const long: Under = { mat: { widthUm: inch(12), lengthUm: inch(24) }, usableUm: undefined };
const puff = behaviourOf('puff');
const asked = (width: number, height: number, copies = 1): Asked => ({ design: { width, height }, copies, film: puff });

describe('what lies under the blade', () => {
  it('a mat of 12 in cuts 11 (common practice, no source); a cutter that cuts less decides, a roll has no end', () => {
    expect(bedOf(puff, small)).toEqual({ widthUm: inch(11), lengthUm: inch(11), by: 'mat' });
    expect(bedOf(puff, { ...small, usableUm: inch(8) })).toMatchObject({ widthUm: inch(8), by: 'cutter' });
    expect(bedOf({ mat: 'none', rollUm: inch(13) }, small)).toEqual({
      widthUm: inch(12),
      lengthUm: undefined,
      by: 'roll',
    });
  });
  it('360 mm on a mat of 305: not even one, and at which size one fits', () => {
    const large = tooLarge(asked(360_000, 300_000), small);
    expect(large).toMatchObject({ fits: 0, rounds: undefined, by: 'mat', mats: [] });
    expect(tooLarge(asked(360_000 * large!.share!, 300_000 * large!.share!), small)).toBeUndefined();
  });
  it('227 × 654 mm in a batch: none on a short mat, nor on a long one that is too short by a little', () => {
    expect(tooLarge(asked(227_000, 654_000, 4), long)?.fits).toBe(0);
    // 227 × 160 four times is too much for a mat of 12 × 12, and two at a time are not.
    expect(tooLarge(asked(227_000, 130_000, 4), small)).toMatchObject({ fits: 2, rounds: 2, share: undefined });
    expect(
      tooLarge(asked(227_000, 130_000, 4), small, [{ id: 'long', widthUm: inch(12), lengthUm: inch(24) }])?.mats,
    ).toEqual(['long']);
  });
  it('what is too wide upright and not lengthwise is laid a quarter turned', () => {
    const piece = filmOn(asked(500_000, 200_000), long);
    expect(piece.turned).toBe(true);
    expect(piece.over).toBeUndefined();
    expect(filmOn(asked(200_000, 500_000), long).turned).toBe(false);
  });
  it('whatever fits lies within the mat once it is laid as it goes under the blade; what does not is told, and its rounds fit', () => {
    const um = fc.integer({ min: 5_000, max: 700_000 });
    fc.assert(
      fc.property(
        um,
        um,
        fc.integer({ min: 1, max: 30 }),
        fc.boolean(),
        fc.constantFrom(small, long),
        (w, h, n, frame, under) => {
          const it: Asked = { ...asked(w, h, n), waste: { mark: 'cheap', frame } };
          const piece = filmOn(it, under);
          const large = tooLarge(it, under);
          expect(large === undefined).toBe(piece.over === undefined);
          if (large?.rounds !== undefined) {
            expect(large.fits).toBeGreaterThan(0);
            expect(tooLarge({ ...it, copies: Math.ceil(n / large.rounds) }, under)?.fits ?? n).toBeGreaterThan(0);
          }
          if (large) return;
          const corners = piece.copies.flatMap((c) => cornersOf({ ...c, width: w, height: h }));
          const laid = piece.turned ? quarterTurned({ closed: true, points: corners }, piece).points : corners;
          const [xs, ys] = [laid.map((p) => p[0]), laid.map((p) => p[1])];
          const bed = bedOf(puff, under);
          expect(Math.max(...xs) - Math.min(...xs)).toBeLessThanOrEqual(bed.widthUm);
          expect(Math.max(...ys) - Math.min(...ys)).toBeLessThanOrEqual(bed.lengthUm!);
          expect(Math.min(...xs, ...ys)).toBeGreaterThanOrEqual(filmPieceDefaults.margin);
        },
      ),
    );
  });
});
