import { expect, test } from 'vitest';
import { seededRandom } from '../stats/index.ts';
import { checkLayer } from './check.ts';
import { ArtworkError } from './limits.ts';
import { readArtwork } from './readArtwork.ts';

// Drawings as they come when something went wrong on the way: bytes lost, doubled, swapped, numbers out of bounds, tags without an end.
const seeds = [
  '<svg viewBox="0 0 60 40"><g fill="#1f3a5f"><path d="M2 2h20v30h-20zM8 8h6v6h-6z"/><ellipse cx="45" cy="20" rx="12" ry="8" transform="rotate(20 45 20)"/></g></svg>',
  '<svg viewBox="0 0 100 100"><defs><g id="a"><path d="M0 0h20v20h-20z"/></g></defs><use href="#a" x="10"/><use href="#a" transform="rotate(30) scale(2)"/></svg>',
  '<svg width="10cm" height="5cm" viewBox="0 0 200 100"><style>.a{fill:#c30}</style><g class="a"><circle cx="50" cy="50" r="40"/><polygon points="10,10 50,5 90,80"/></g></svg>',
  '<svg viewBox="0 0 50 50"><path d="M5 5C20 0 30 50 45 5A9 9 0 0 1 20 40z" fill="none" stroke="#118" stroke-width="3" stroke-dasharray="5 2"/></svg>',
];
const words = [
  'NaN',
  '1e308',
  '-1e308',
  '0',
  '""',
  '<',
  '>',
  '&',
  '#a',
  'url(#a)',
  'http://example.invalid/x',
  'M',
  'z',
  '%',
  '<use href="#a"/>',
  '</g>',
  '\u0000',
];

function mutated(text: string, random: ReturnType<typeof seededRandom>): string {
  const at = (n: number) => Math.floor(random.uniform() * n);
  let now = text;
  for (let n = 1 + at(6); n > 0; n--) {
    const i = at(now.length);
    const j = Math.min(now.length, i + at(40));
    switch (at(5)) {
      case 0:
        now = now.slice(0, i) + now.slice(j);
        break;
      case 1:
        now = now.slice(0, j) + now.slice(i);
        break;
      case 2:
        now = now.slice(0, i) + words[at(words.length)] + now.slice(i);
        break;
      case 3:
        now = now.slice(0, i) + String.fromCharCode(32 + at(95)) + now.slice(i + 1);
        break;
      default:
        // A number becomes another one.
        now = now.replace(/\d+(\.\d+)?/g, (m) =>
          random.uniform() < 0.03 ? String((random.normal() * 1000).toFixed(2)) : m,
        );
    }
  }
  return now;
}

test('a dashed line to the end of the world is no drawing: it costs neither memory nor time', () => {
  const line = (d: string) =>
    `<svg viewBox="0 0 50 50"><path d="${d}" fill="none" stroke="#118" stroke-width="3" stroke-dasharray="5 2"/></svg>`;
  expect(readArtwork(line('M5 5L45 5M0 20L1e308 20')).layers[0]!.pieces).toBe(6);
  expect(() => readArtwork(line('M-1e308 5L1e308 5'))).toThrow(ArtworkError);
  expect(() => readArtwork(line('M0 5L900000000 5'))).toThrow(ArtworkError);
});

test('2 000 broken drawings: each is read, or refused with one line; what is read can be judged', () => {
  const random = seededRandom(19);
  const film = { line: 1000, gap: 500, growth: 200 };
  let [read, refused] = [0, 0];
  for (let i = 0; i < 2000; i++) {
    const text = mutated(seeds[i % seeds.length]!, random);
    try {
      const drawing = readArtwork(text);
      for (const layer of drawing.layers) {
        const check = checkLayer(drawing, layer, film, 100_000);
        expect(Number.isFinite(check.areaMm2 + check.lengthUm + check.weed.minutes)).toBe(true);
      }
      read++;
    } catch (error) {
      if (!(error instanceof ArtworkError)) throw new Error(`drawing ${i}: ${text}`, { cause: error });
      expect(error.message).not.toMatch(/\n/);
      refused++;
    }
  }
  expect(read).toBeGreaterThan(200);
  expect(refused).toBeGreaterThan(100);
});
