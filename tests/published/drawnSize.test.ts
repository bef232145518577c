import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, test } from 'vitest';
import { atStrength, shippedModels, startingSetting } from '#core/controls/index.ts';
import { couponSvg, layCoupon } from '#core/coupon/index.ts';
import { truePaper } from '#core/place/index.ts';
import { readPng } from './readPng.ts';

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

    test('paper at true size: a square of 100 mm is 100 mm in rendered pixels, and so is the bar to check the printer by', () => {
      const svg = truePaper({
        design: { width: 100_000, height: 100_000 },
        placed: { left: 0, top: 0, anchor: { x: 50_000, y: 50_000 } },
        art: { width: 1e6, layers: [{ d: 'M0 0H1000000V1000000H0Z', hex: '#1f3a5f' }] },
        mirrored: false,
      });
      const png = render(svg, 'paper');
      expect(Math.abs(png.width / perMm - 120)).toBeLessThan(0.06);
      // How far ink runs along a row or down a column, mm, with no gap longer than a pixel or two.
      const run = (at: (i: number) => number, from: number) => {
        let [low, high] = [from, from];
        while (at(low - 1) > 100) low--;
        while (at(high + 1) > 100) high++;
        return (high - low + 1) / perMm;
      };
      const inside = Math.round(30 * perMm);
      expect(Math.abs(run((x) => png.alpha(x, inside), inside) - 100)).toBeLessThan(0.1);
      expect(Math.abs(run((y) => png.alpha(inside, y), inside) - 100)).toBeLessThan(0.1);
      const base = Math.round((120 + 14 / 2) * perMm);
      expect(Math.abs(run((x) => png.alpha(x, base), Math.round(60 * perMm)) - 100)).toBeLessThan(0.3);
    });
  },
);
