import { execFileSync, spawnSync } from 'node:child_process';
import { closeSync, mkdtempSync, openSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, test } from 'vitest';
import { cutPaths, designs, layerSize, readArtwork, weedingLines } from '#core/artwork/index.ts';
import { atStrength, shippedModel, startingSetting } from '#core/controls/index.ts';
import { couponSvg, layCoupon, type Path, type Point } from '#core/coupon/index.ts';
import { pieceAt, piecesOf, readHpgl, writeDxf, writeHpgl } from '#core/cutfile/index.ts';
import { filmPiece, partPaths } from '#core/job/index.ts';
import { behaviourOf } from '#core/vinyls/index.ts';
import { readPng } from './readPng.ts';

// The cut files as other programs read them: Debian's hp2xx (HP-GL), ezdxf (DXF) and librsvg (SVG), each independent of ours.
// Outlines must agree within 0.05 mm (Hausdorff distance, sampled every 0.05 mm).
const folder = mkdtempSync(join(tmpdir(), 'versipel-cutfile-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const python = '/usr/bin/python3';
const has = {
  hp2xx: spawnSync('hp2xx', ['-q'], { stdio: 'ignore' }).error === undefined,
  ezdxf: spawnSync(python, ['-c', 'import ezdxf']).status === 0,
  rsvg: spawnSync('rsvg-convert', ['--version']).status === 0,
};

const model = shippedModel('marlow-24', 2)!;
const sheet = layCoupon({
  format: 'versipel-coupon/1',
  model,
  title: 'outlines',
  cutFrom: 'back',
  cells: [90, 105, 122, 142, 166, 192].map((force, i) => ({
    number: i + 1,
    setting: atStrength(model, startingSetting(model), force),
  })),
});
/** What was meant, y upwards, in µm. */
const meant = sheet.cells.flatMap((c) =>
  c.paths.map((p) => ({ ...p, points: p.points.map(([x, y]): Point => [x, sheet.height - y]) })),
);

/** A part of a job: one of our drawings, twice on its film, with lines through the waste and a frame; y upwards too. */
const part = (() => {
  const drawing = readArtwork(designs.find((d) => d.key === 'moth')!.svg);
  const widthUm = 180_000;
  const layer = drawing.layers[0]!;
  const laid = filmPiece(
    layerSize(drawing, layer, widthUm),
    2,
    behaviourOf('smooth'),
    { widthUm: 279_400, lengthUm: undefined },
    { frame: true },
  );
  const { paths } = cutPaths(drawing, layer, { widthUm, margin: 0, mirrored: false });
  const rings = partPaths([paths], { copies: laid.copies }).map((p) => p.points);
  const film = { ...laid, lines: weedingLines(rings, laid.frame!).lines };
  const lines = partPaths([paths], film);
  return {
    drawing: {
      width: film.width,
      height: film.height,
      pieces: [pieceAt(1, 'moth', lines, model, startingSetting(model))],
    },
    meant: lines.map((p) => ({ ...p, points: p.points.map(([x, y]): Point => [x, film.height - y]) })),
    wasteLines: film.lines.length,
  };
})();

function samples(paths: Path[], every = 50): Point[] {
  const out: Point[] = [];
  for (const { points, closed } of paths)
    points.forEach((a, i) => {
      const b = points[i + 1] ?? (closed ? points[0]! : a);
      const n = Math.max(1, Math.ceil(Math.hypot(b[0] - a[0], b[1] - a[1]) / every));
      for (let k = 0; k <= n; k++) out.push([a[0] + ((b[0] - a[0]) * k) / n, a[1] + ((b[1] - a[1]) * k) / n]);
    });
  return out;
}
/** Distance from a point to the nearest of a set, µm, by a grid of 0.25 mm; at most 250. */
function nearestIn(to: Point[]): (p: Point) => number {
  const grid = new Map<string, Point[]>();
  const cell = (v: number) => Math.floor(v / 250);
  for (const p of to) {
    const key = `${cell(p[0])} ${cell(p[1])}`;
    const there = grid.get(key);
    if (there) there.push(p);
    else grid.set(key, [p]);
  }
  return (p) => {
    let best = Infinity;
    for (let dx = -1; dx <= 1; dx++)
      for (let dy = -1; dy <= 1; dy++)
        for (const q of grid.get(`${cell(p[0]) + dx} ${cell(p[1]) + dy}`) ?? [])
          best = Math.min(best, Math.hypot(p[0] - q[0], p[1] - q[1]));
    return best;
  };
}
const farthest = (from: Point[], to: Point[]) => {
  const distance = nearestIn(to);
  return from.reduce((worst, p) => Math.max(worst, distance(p)), 0);
};
const hausdorff = (a: Path[], b: Path[]) => {
  const [x, y] = [samples(a), samples(b)];
  return Math.max(farthest(x, y), farthest(y, x));
};

describe.skipIf(!has.hp2xx)('HP-GL in hp2xx', () => {
  const read = (hpgl: string): Path[] => {
    const [from, to] = [join(folder, 'a.hpgl'), join(folder, 'a.gpt')];
    writeFileSync(from, hpgl);
    // It may end before it reads the returns it can ask for: they come from a file, as a pipe would break then.
    writeFileSync(join(folder, 'returns'), '\n\n\n\n');
    const returns = openSync(join(folder, 'returns'), 'r');
    try {
      execFileSync('hp2xx', ['-q', '-t', '-m', 'gpt', '-f', to, from], { stdio: [returns, 'pipe', 'pipe'] });
    } finally {
      closeSync(returns);
    }
    const paths: Path[] = [];
    let down = false;
    for (const line of readFileSync(to, 'utf8').split('\n')) {
      if (line.startsWith('#')) down = line.startsWith('#PD');
      const numbers = line.trim().split(/\s+/).map(Number);
      if (numbers.length !== 2 || numbers.some(Number.isNaN)) continue;
      const point: Point = [numbers[0]! * 1000, numbers[1]! * 1000];
      if (!down) paths.push({ points: [point], closed: false });
      else paths.at(-1)!.points.push(point);
    }
    return paths.filter((p) => p.points.length > 1);
  };
  // hp2xx moves a drawing to its own lower left corner: both are compared from there.
  const fromCorner = (paths: Path[]): Path[] => {
    const all = paths.flatMap((p) => p.points);
    const [left, low] = [Math.min(...all.map((p) => p[0])), Math.min(...all.map((p) => p[1]))];
    return paths.map((p) => ({ ...p, points: p.points.map(([x, y]): Point => [x - left, y - low]) }));
  };
  test('has the same outlines within 0.05 mm, and the same size', () => {
    const seen = read(writeHpgl(piecesOf(sheet, model)));
    expect(hausdorff(fromCorner(seen), fromCorner(meant))).toBeLessThanOrEqual(50);
  });
  test('has the same lines of a part of a job: outlines, waste in strips, frame', () => {
    expect(part.wasteLines).toBeGreaterThan(0);
    const seen = read(writeHpgl(part.drawing));
    expect(hausdorff(fromCorner(seen), fromCorner(part.meant))).toBeLessThanOrEqual(50);
  });
  test('and our own reader sees what hp2xx sees in arcs and relative moves', () => {
    const source =
      'IN;SP1;PU400,400;PD;AA400,1200,120;PU;PA2000,800;PD;PR400,0,0,400,-400,0;PU;PA2600,1200;CI300;PU;SP0;';
    const ours = readHpgl(source).strokes.map((s) => s.path);
    // Arcs are flattened by each in its own way (hp2xx: chords of 5°): half a chord's sagitta on a radius of 20 mm is 0.02 mm.
    expect(hausdorff(fromCorner(read(source)), fromCorner(ours))).toBeLessThanOrEqual(50);
  });
});

describe.skipIf(!has.ezdxf)('DXF in ezdxf', () => {
  type Seen = { version: string; errors: string[]; paths: (Path & { layer: string })[] };
  const read = (dxf: string): Seen => {
    const file = join(folder, 'a.dxf');
    writeFileSync(file, dxf);
    const script = `
import ezdxf, json, sys
d = ezdxf.readfile(sys.argv[1])
print(json.dumps({"version": d.dxfversion, "errors": [e.message for e in d.audit().errors],
  "paths": [{"layer": e.dxf.layer, "closed": bool(e.is_closed), "points": [[p[0] * 1000, p[1] * 1000] for p in e.points()]} for e in d.modelspace()]}))`;
    return JSON.parse(execFileSync(python, ['-c', script, file], { encoding: 'utf8', maxBuffer: 64e6 })) as Seen;
  };
  test('is release 12 without complaint, layer by layer, within 0.05 mm', () => {
    const seen = read(writeDxf(piecesOf(sheet, model)));
    expect([seen.version, seen.errors]).toEqual(['AC1009', []]);
    expect(new Set(seen.paths.map((p) => p.layer))).toEqual(new Set(sheet.cells.map((c) => `CELL_${c.number}`)));
    expect(hausdorff(seen.paths, meant)).toBeLessThanOrEqual(50);
  });
  test('has every line of a part of a job: closed outlines closed, lines through the waste open', () => {
    const seen = read(writeDxf(part.drawing));
    expect(seen.errors).toEqual([]);
    expect(seen.paths.filter((p) => !p.closed)).toHaveLength(part.wasteLines);
    expect(hausdorff(seen.paths, part.meant)).toBeLessThanOrEqual(50);
  });
});

describe.skipIf(!has.rsvg)('SVG in librsvg', () => {
  test('draws the outlines where they are meant, within 0.05 mm', () => {
    const [from, to] = [join(folder, 'a.svg'), join(folder, 'a.png')];
    writeFileSync(from, couponSvg(sheet, model));
    const perMm = 40;
    const dpi = String(perMm * 25.4);
    execFileSync('rsvg-convert', ['-d', dpi, '-p', dpi, from, '-o', to]);
    const png = readPng(to);
    const pixel = 1000 / perMm;
    const inked: Point[] = [];
    for (let y = 0; y < png.height; y++)
      for (let x = 0; x < png.width; x++)
        if (png.alpha(x, y) > 127) inked.push([(x + 0.5) * pixel, sheet.height - (y + 0.5) * pixel]);
    const line = samples(meant, 25);
    // Lines are drawn 0.1 mm wide: ink reaches half of that beyond the outline, 1.5 times at a sharp corner's mitre.
    expect(farthest(line, inked)).toBeLessThanOrEqual(50);
    const distance = nearestIn(line);
    expect(inked.filter((p) => distance(p) > 50 + 50).length / inked.length).toBeLessThan(0.01);
  });
});
