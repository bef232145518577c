import { colorsNamed } from 'culori/fn';

/** Words crafters use that the CSS list has not, or has for another shade. Common practice, no source. */
const more: Record<string, readonly [number, number, number]> = {
  cream: [245, 236, 214],
  rose: [222, 120, 140],
  mint: [152, 216, 190],
  burgundy: [110, 20, 40],
  mustard: [205, 160, 40],
  charcoal: [60, 64, 70],
  graphite: [70, 74, 80],
  copper: [184, 115, 70],
  bronze: [150, 110, 60],
  'rose gold': [200, 140, 130],
  blush: [236, 190, 190],
  lilac: [190, 160, 210],
  sky: [135, 190, 230],
  forest: [34, 90, 50],
  emerald: [20, 130, 90],
  ruby: [160, 20, 50],
  sand: [214, 196, 160],
  stone: [170, 165, 155],
  nude: [224, 196, 176],
  natural: [226, 210, 182],
  wine: [110, 25, 50],
  royal: [40, 70, 170],
  neon: [200, 255, 40],
};
const named = Object.entries(colorsNamed).map(
  ([word, rgb]) => [word, [rgb >> 16, (rgb >> 8) & 255, rgb & 255]] as const,
);
const known: Readonly<Record<string, readonly [number, number, number]>> = { ...Object.fromEntries(named), ...more };
const UNKNOWN = '#b9b2a3';

const hexOf = (rgb: readonly [number, number, number]): string =>
  `#${rgb.map((v) => Math.round(v).toString(16).padStart(2, '0')).join('')}`;

/** What a colour looks like by its name alone: see `hexKnown`; a grey where nothing in it is a colour. @example hexOfName('xyzzy') // '#b9b2a3' */
export const hexOfName = (name: string): string => hexKnown(name) ?? UNKNOWN;

/**
 * What a colour looks like by its name alone: the longest part of the name that is a known colour, the last of them first; "light", "dark"
 * and "pale" before it shift it. Undefined where nothing in it is one.
 * Source of the names: CSS Color Module Level 4, 6.1 (as culori has them), with a few of the trade.
 * @returns "#rrggbb"
 * @example hexKnown('Ember Red') // '#ff0000'
 */
export function hexKnown(name: string): string | undefined {
  const words = name
    .toLowerCase()
    .replaceAll('grey', 'gray')
    .split(/[^\p{L}]+/u)
    .filter(Boolean);
  for (let length = Math.min(3, words.length); length > 0; length--)
    for (let at = words.length - length; at >= 0; at--) {
      const part = words.slice(at, at + length);
      const rgb = known[part.join(' ')] ?? known[part.join('')];
      if (!rgb) continue;
      const before = words[at - 1] ?? '';
      const way = ['light', 'pale', 'soft'].includes(before) ? 255 : ['dark', 'deep'].includes(before) ? 0 : undefined;
      return hexOf(way === undefined ? rgb : (rgb.map((v) => v + (way - v) * 0.35) as [number, number, number]));
    }
  return undefined;
}
