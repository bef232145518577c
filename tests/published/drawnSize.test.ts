import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { inflateSync } from 'node:zlib';
import { afterAll, describe, expect, test } from 'vitest';
import { atStrength, shippedModels, startingSetting } from '#core/controls/index.ts';
import { couponSvg, layCoupon } from '#core/coupon/index.ts';

// The file as other programs see it: Debian's Inkscape where it is installed, else librsvg's converter, an independent reader.
const has = (program: string) => spawnSync(program, ['--version']).status === 0;
const programs = (['inkscape', 'rsvg-convert'] as const).filter(has);
const folder = mkdtempSync(join(tmpdir(), 'versipel-size-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const DPI = 508; // 20 pixels a millimetre
const model = shippedModels[0]!;
const sheet = layCoupon({
  format: 'versipel-coupon/1',
  model,
  title: 'size',
  cutFrom: 'back',
  cells: [90, 105, 122, 142, 166, 192].map((force, i) => ({
    number: i + 1,
    setting: atStrength(model, startingSetting(model), force),
  })),
});

/** Alpha of an 8-bit RGBA PNG, row by row (W3C PNG specification, filters 0–4). */
function readPng(file: string): { width: number; height: number; alpha: (x: number, y: number) => number } {
  const bytes = readFileSync(file);
  const width = bytes.readUInt32BE(16);
  const height = bytes.readUInt32BE(20);
  expect([bytes[24], bytes[25]]).toEqual([8, 6]);
  const parts: Buffer[] = [];
  for (let at = 8; at < bytes.length;) {
    const length = bytes.readUInt32BE(at);
    if (bytes.toString('latin1', at + 4, at + 8) === 'IDAT') parts.push(bytes.subarray(at + 8, at + 8 + length));
    at += length + 12;
  }
  const raw = inflateSync(Buffer.concat(parts));
  const stride = width * 4;
  const out = Buffer.alloc(stride * height);
  for (let y = 0; y < height; y++) {
    const filter = raw[y * (stride + 1)]!;
    for (let i = 0; i < stride; i++) {
      const left = i >= 4 ? out[y * stride + i - 4]! : 0;
      const up = y > 0 ? out[(y - 1) * stride + i]! : 0;
      const corner = i >= 4 && y > 0 ? out[(y - 1) * stride + i - 4]! : 0;
      const estimate = left + up - corner;
      const [a, b, c] = [Math.abs(estimate - left), Math.abs(estimate - up), Math.abs(estimate - corner)];
      const paeth = a <= b && a <= c ? left : b <= c ? up : corner;
      out[y * stride + i] = raw[y * (stride + 1) + 1 + i]! + [0, left, up, (left + up) >> 1, paeth][filter]!;
    }
  }
  return { width, height, alpha: (x, y) => out[y * stride + x * 4 + 3]! };
}

describe.skipIf(programs.length === 0).each(programs.length ? programs : (['rsvg-convert'] as const))(
  'the coupon in %s',
  (program) => {
    const render = (svg: string, name: string) => {
      const from = join(folder, `${name}.svg`);
      const to = join(folder, `${program}-${name}.png`);
      writeFileSync(from, svg);
      if (program === 'inkscape')
        execFileSync(program, [from, '--export-type=png', `--export-dpi=${DPI}`, `--export-filename=${to}`], {
          stdio: 'ignore',
        });
      else execFileSync(program, ['-d', String(DPI), '-p', String(DPI), from, '-o', to]);
      return readPng(to);
    };
    const perMm = DPI / 25.4;

    test('is as large as it says', () => {
      const png = render(couponSvg(sheet, model), 'whole');
      expect(Math.abs(png.width / perMm - 44)).toBeLessThan(0.06);
      expect(Math.abs(png.height / perMm - 37)).toBeLessThan(0.06);
    });

    test('has each cell alone at its place, 12 mm wide, within 0.1 mm', () => {
      for (const number of [1, 6]) {
        const png = render(couponSvg(sheet, model, number), `cell-${number}`);
        const cell = sheet.cells.find((c) => c.number === number)!;
        let [left, right, top] = [Infinity, -Infinity, Infinity];
        for (let y = 0; y < png.height; y++)
          for (let x = 0; x < png.width; x++)
            if (png.alpha(x, y) > 100) {
              left = Math.min(left, x);
              right = Math.max(right, x + 1);
              top = Math.min(top, y);
            }
        const stroke = 0.1;
        expect(Math.abs(left / perMm - (cell.x / 1000 - stroke / 2))).toBeLessThan(0.1);
        expect(Math.abs((right - left) / perMm - (12 + stroke))).toBeLessThan(0.1);
        expect(Math.abs(top / perMm - (cell.y / 1000 - stroke / 2))).toBeLessThan(0.1);
      }
    });
  },
);
