import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';

const css = readFileSync(join(import.meta.dirname, 'app.css'), 'utf8');
const block = (start: string) => css.slice(css.indexOf(start), css.indexOf('}', css.indexOf(start)));
const schemes = { light: block(':root'), dark: block("[data-scheme='dark']") };
const colour = (scheme: keyof typeof schemes, name: string): number[] => {
  const hex = new RegExp(`--${name}: #([0-9a-f]{6})`).exec(schemes[scheme])![1]!;
  return [0, 2, 4].map((i) => parseInt(hex.slice(i, i + 2), 16) / 255);
};

/** sRGB to linear light and back: IEC 61966-2-1. */
const linear = (rgb: number[]) => rgb.map((v) => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4));

/**
 * What dichromats see, on linear light: Machado, Oliveira & Fernandes (2009), A physiologically-based model for simulation of
 * color vision deficiency, IEEE TVCG 15, 1291–1298, severity 1.0 (matrices from memory of the paper's table).
 */
const eyes: Record<string, number[][]> = {
  'full colour': [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ],
  protanopia: [
    [0.152286, 1.052583, -0.204868],
    [0.114503, 0.786281, 0.099216],
    [-0.003882, -0.048116, 1.051998],
  ],
  deuteranopia: [
    [0.367322, 0.860646, -0.227968],
    [0.280085, 0.672501, 0.047413],
    [-0.01182, 0.04294, 0.968881],
  ],
  tritanopia: [
    [1.255528, -0.076749, -0.178779],
    [-0.078411, 0.930809, 0.147602],
    [0.004733, 0.691367, 0.3039],
  ],
};

/** CIE 1976 L*a*b* under D65 (CIE 15:2004). */
function lab(rgb: number[]): number[] {
  const m = [
    [0.4124, 0.3576, 0.1805],
    [0.2126, 0.7152, 0.0722],
    [0.0193, 0.1192, 0.9505],
  ];
  const xyz = m.map((row, i) => row.reduce((s, k, j) => s + k * Math.max(0, rgb[j]!), 0) / [0.9505, 1, 1.089][i]!);
  const [x, y, z] = xyz.map((t) => (t > (6 / 29) ** 3 ? Math.cbrt(t) : t / (3 * (6 / 29) ** 2) + 4 / 29));
  return [116 * y! - 16, 500 * (x! - y!), 200 * (y! - z!)];
}
const difference = (a: number[], b: number[]) => Math.hypot(...a.map((v, i) => v - b[i]!));

describe.each(['light', 'dark'] as const)('the %s scheme', (scheme) => {
  // Neighbours on the strip and in the list of answers: the ones that must not be taken for each other.
  const grades = ['uncut', 'hangs', 'clean', 'scored', 'through'];
  test.each(Object.entries(eyes))('grades are told apart with %s', (_, matrix) => {
    const seen = grades.map((g) => {
      const rgb = linear(colour(scheme, `g-${g}`));
      return lab(matrix.map((row) => row.reduce((s, k, j) => s + k * rgb[j]!, 0)));
    });
    for (let i = 1; i < seen.length; i++)
      expect({ pair: `${grades[i - 1]} ${grades[i]}`, far: difference(seen[i - 1]!, seen[i]!) > 15 }).toEqual({
        pair: `${grades[i - 1]} ${grades[i]}`,
        far: true,
      });
  });

  // WCAG 2.2, 1.4.3 and 1.4.11: 4.5 to 1 for text, 3 to 1 for what marks a control.
  const luminance = (name: string) =>
    linear(colour(scheme, name)).reduce((s, v, i) => s + v * [0.2126, 0.7152, 0.0722][i]!, 0);
  const contrast = (a: string, b: string) => {
    const [high, low] = [luminance(a), luminance(b)].sort((x, y) => y - x);
    return (high! + 0.05) / (low! + 0.05);
  };
  test.each([
    ['ink', 'ground', 7],
    ['ink', 'sheet', 7],
    ['muted', 'ground', 4.5],
    ['muted', 'mat', 4.5],
    ['muted', 'chip', 4.5],
    ['action', 'ground', 4.5],
    ['on-action', 'action', 4.5],
    ['bad', 'ground', 4.5],
    ['edge', 'ground', 3],
    ['focus', 'ground', 3],
  ])('%s on %s has contrast %d', (front, back, least) => expect(contrast(front, back)).toBeGreaterThanOrEqual(least));
});
