import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { atStrength, shippedModel, startingSetting } from '../controls/index.ts';
import { layCoupon, type Path, type Point } from '../coupon/index.ts';
import {
  HPGL_UNIT,
  hpglComment,
  HpglError,
  piecesOf,
  readHpgl,
  writeDxf,
  writeHpgl,
  type CutDrawing,
} from './index.ts';

const marlow = shippedModel('marlow-24', 2)!;
const oxbow = shippedModel('oxbow-dial', 1)!;
const sheet = (model = marlow, strengths = [90, 105, 122]) =>
  layCoupon({
    format: 'versipel-coupon/1',
    model,
    title: 'Starling',
    cutFrom: 'back',
    cells: strengths.map((s, i) => ({ number: i + 1, setting: atStrength(model, startingSetting(model), s) })),
  });

const point: fc.Arbitrary<Point> = fc.tuple(fc.integer({ min: 0, max: 300_000 }), fc.integer({ min: 0, max: 300_000 }));
const path: fc.Arbitrary<Path> = fc
  .record({ points: fc.uniqueArray(point, { minLength: 4, maxLength: 30, selector: String }), closed: fc.boolean() })
  // Points closer than a plotter unit fall together, and an open path that ends where it began is a closed one.
  .filter(({ points }) => {
    const units = points.map(([x, y]) => `${Math.round(x / HPGL_UNIT)} ${Math.round((300_000 - y) / HPGL_UNIT)}`);
    return new Set(units).size === units.length;
  });
const drawing: fc.Arbitrary<CutDrawing> = fc
  .array(
    fc.record({
      paths: fc.array(path, { minLength: 1, maxLength: 4 }),
      force: fc.option(fc.integer({ min: 1, max: 900 }), { nil: undefined }),
      speed: fc.option(fc.integer({ min: 1, max: 60 }), { nil: undefined }),
      passes: fc.integer({ min: 1, max: 3 }),
    }),
    { minLength: 1, maxLength: 4 },
  )
  .map((pieces) => ({
    width: 300_000,
    height: 300_000,
    pieces: pieces.map((p, i) => ({
      number: i + 1,
      label: `cell ${i + 1}`,
      paths: p.paths,
      passes: p.passes,
      ...(p.force === undefined ? {} : { force: p.force }),
      ...(p.speed === undefined ? {} : { speed: p.speed }),
    })),
  }));

describe('HP-GL', () => {
  test('what is written is read back: every path within half a plotter unit, with its force, speed and passes', () => {
    fc.assert(
      fc.property(drawing, (d) => {
        const back = readHpgl(writeHpgl(d));
        expect(back.unknown).toEqual({});
        const wanted = d.pieces.flatMap((piece) =>
          Array.from({ length: piece.passes }, () => piece.paths.map((p) => ({ piece, p }))).flat(),
        );
        expect(back.strokes).toHaveLength(wanted.length);
        let force: number | undefined;
        let speed: number | undefined;
        wanted.forEach(({ piece, p }, i) => {
          const { path: read, ...rest } = back.strokes[i]!;
          // FS and VS stay in force until the next one.
          force = piece.force ?? force;
          speed = piece.speed ?? speed;
          expect([rest.force, rest.speed, rest.comment]).toEqual([force, speed, piece.label]);
          expect(read.closed).toBe(p.closed);
          expect(read.points).toHaveLength(p.points.length);
          read.points.forEach(([x, y], k) => {
            expect(Math.abs(x - p.points[k]![0])).toBeLessThanOrEqual(HPGL_UNIT / 2);
            expect(Math.abs(d.height - y - p.points[k]![1])).toBeLessThanOrEqual(HPGL_UNIT / 2);
          });
        });
      }),
      { numRuns: 60 },
    );
  });
  test('a coupon sets force and speed before each cell where the model takes them, else neither', () => {
    const taken = writeHpgl(piecesOf(sheet(), marlow));
    expect(taken.match(/FS\d+;/g)).toEqual(['FS90;', 'FS105;', 'FS122;']);
    expect(taken.match(/VS4;/g)).toHaveLength(3);
    const byHand = writeHpgl(piecesOf(sheet(oxbow, [7, 8]), oxbow));
    expect(byHand).not.toMatch(/FS|VS/);
    expect(byHand).toContain('CO"cell 2, dial 5";');
  });
  test('two passes are two runs of the same paths', () => {
    const twice = sheet();
    twice.cells[0]!.setting.steps.passes = 2;
    const one = readHpgl(writeHpgl(piecesOf(sheet(), marlow, 1))).strokes.map((s) => s.path);
    const two = readHpgl(writeHpgl(piecesOf(twice, marlow, 1))).strokes.map((s) => s.path);
    expect(two).toEqual([...one, ...one]);
  });
  test('relative moves, arcs, circles, rectangles and scaling', () => {
    // One inch is 1016 plotter units; a circle of radius 1000 units is 25 mm.
    const { strokes, bounds } = readHpgl('IN;SP1;PU2000,2000;CI1000;');
    expect(bounds).toEqual({ left: 25_000, right: 75_000, bottom: 25_000, top: 75_000 });
    const circle = strokes[0]!.path;
    expect(circle.closed).toBe(true);
    for (const [x, y] of circle.points) expect(Math.abs(Math.hypot(x - 50_000, y - 50_000) - 25_000)).toBeLessThan(20);
    expect(readHpgl('PU0,0;PR;PD100,0,0,100,-100,0,0,-100;PU;').strokes[0]!.path).toEqual({
      points: [
        [0, 0],
        [2500, 0],
        [2500, 2500],
        [0, 2500],
      ],
      closed: true,
    });
    expect(readHpgl('PU0,0;EA40,80;').bounds).toEqual({ left: 0, bottom: 0, right: 1000, top: 2000 });
    expect(readHpgl('IP0,0,4000,4000;SC0,100,0,100;PA10,10;PD90,10;PU;').bounds).toMatchObject({
      left: 10_000,
      right: 90_000,
    });
    const quarter = readHpgl('PU1000,0;PD;AA0,0,90;PU;').strokes[0]!.path.points.at(-1)!;
    expect(quarter).toEqual([0, 25_000]);
  });
  test('what it does not know is passed over and counted; labels and device control are no drawing', () => {
    const { strokes, unknown } = readHpgl('\u001b.I81;;17:IN;LBPD0,0,100,100;\u0003WU0;PW.3;PU0,0;PD40,0;WU;');
    expect(strokes).toHaveLength(1);
    expect(unknown).toEqual({ LB: 1, WU: 2, PW: 1 });
  });
  test.each([
    ['<svg/>', 'not an HP-GL instruction: "<svg/>" (character 1)'],
    ['IN;PD1,2,3;', 'PD has an x without a y (character 4)'],
    ['IN;PD1,2é;', 'PD has something that is no number'],
    ['LBno end', 'a label (LB) is not ended (character 1)'],
    ['CO no quotes;', 'a comment (CO) is not in quotes'],
    ['SC1,1,0,5;', 'SC has no width or no height'],
    ['AA1,1;', 'AA needs 3 numbers, has 2'],
  ])('%j is refused with its place', (source, message) => {
    expect(() => readHpgl(source)).toThrow(HpglError);
    expect(() => readHpgl(source)).toThrow(message);
  });
  test('any text at all: read or refused, never anything else', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string({ maxLength: 200 }),
          fc
            .array(
              fc.constantFrom(
                'PU',
                'PD',
                'PA',
                'PR',
                'AA',
                'CI',
                'SC',
                'IP',
                'LB',
                'CO"',
                ';',
                '1',
                '-2.5',
                ',',
                '9e9',
              ),
            )
            .map((parts) => parts.join('')),
        ),
        (source) => {
          try {
            const { strokes } = readHpgl(source);
            for (const s of strokes) for (const [x, y] of s.path.points) expect(Number.isNaN(x + y)).toBe(false);
          } catch (error) {
            expect(error).toBeInstanceOf(HpglError);
          }
        },
      ),
    );
  });
  test('a comment cannot break out of its quotes', () => {
    expect(hpglComment('a";FS900;PD0,0;CO"\u0003½−é')).toBe('CO"a??FS900?PD0,0?CO??.5-?";');
  });
});

describe('DXF', () => {
  const dxf = writeDxf(piecesOf(sheet(), marlow));
  const pairs = dxf
    .trimEnd()
    .split('\r\n')
    .reduce<[number, string][]>((all, line, i, lines) => (i % 2 ? all : [...all, [Number(line), lines[i + 1]!]]), []);
  test('is release 12 with a layer a cell and a polyline a path', () => {
    expect(pairs).toContainEqual([1, 'AC1009']);
    expect(pairs.at(-1)).toEqual([0, 'EOF']);
    const layers = pairs.flatMap(([code, value], i) => (pairs[i - 1]?.[1] === 'LAYER' && code === 2 ? [value] : []));
    expect(layers.filter((l) => l.startsWith('CELL_'))).toEqual(['CELL_1', 'CELL_2', 'CELL_3']);
    const paths = sheet().cells.reduce((s, c) => s + c.paths.length, 0);
    expect(pairs.filter(([, v]) => v === 'POLYLINE')).toHaveLength(paths);
    expect(pairs.filter(([, v]) => v === 'SEQEND')).toHaveLength(paths);
  });
  test('one cell alone keeps its place on the sheet', () => {
    const single = writeDxf(piecesOf(sheet(), marlow, 2));
    expect(single).not.toContain('CELL_1');
    const first = sheet().cells[1]!.paths[0]!.points[0]!;
    expect(single).toContain(`\r\n 10\r\n${(first[0] / 1000).toFixed(4)}\r\n`);
  });
});
