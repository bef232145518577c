/** How much of a film's own colour is left over what lies below. Common practice, no source: judged by eye on white and black cloth. */
const overBlankDefaults = {
  cover: { opaque: 1, translucent: 0.65, clear: 0.25 },
  /** That share differs from film to film by so much either way. Judgement, no source. */
  spread: 0.15,
  /** A film that shifts shows hues so far to either side as one walks round it, degrees. Judgement, no source. */
  shift: 40,
  /** Below this contrast with the blank a design is hardly seen: large shapes need 3 for comfort (WCAG 2.2, 1.4.11). */
  hardly: 1.5,
};

const channels = (hex: string): number[] => [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16));
const hexOf = (rgb: readonly number[]): string =>
  `#${rgb.map((v) => Math.round(v).toString(16).padStart(2, '0')).join('')}`;

/** Relative luminance, 0 to 1. Source: WCAG 2.2, definition of relative luminance. */
function luminance(hex: string): number {
  const [r, g, b] = channels(hex).map((v) => {
    const s = v / 255;
    return s <= 0.04045 ? s / 12.92 : ((s + 0.055) / 1.055) ** 2.4;
  });
  return 0.2126 * r! + 0.7152 * g! + 0.0722 * b!;
}

/** Contrast ratio of two colours, 1 to 21. Source: WCAG 2.2, definition of contrast ratio. */
export function contrastOf(a: string, b: string): number {
  const [x, y] = [luminance(a), luminance(b)];
  return (Math.max(x, y) + 0.05) / (Math.min(x, y) + 0.05);
}

/**
 * What a film looks like on a blank of a colour: what shows through is mixed in.
 * @param film "#rrggbb" @param blank "#rrggbb"
 * @returns the colour that is seen, its contrast with the blank, and whether the design is hardly seen there
 * @example overBlank('#ffffff', 'clear', '#000000').hex // '#404040'
 */
export function overBlank(
  film: string,
  opacity: 'opaque' | 'translucent' | 'clear',
  blank: string,
): { hex: string; contrast: number; hardly: boolean } {
  const cover = overBlankDefaults.cover[opacity];
  const below = channels(blank);
  const hex = hexOf(channels(film).map((v, i) => v * cover + below[i]! * (1 - cover)));
  const contrast = contrastOf(hex, blank);
  return { hex, contrast, hardly: contrast < overBlankDefaults.hardly };
}

/** A film as it may look on a blank: colours across its range, and its least and largest contrast with the blank. */
export type SeenRange = {
  hexes: string[];
  contrast: { low: number; high: number };
  hardly: 'never' | 'here and there' | 'everywhere';
};

/**
 * What a film may look like on a blank: nobody knows just how much shows through, and a film that shifts has another hue from every side.
 *
 * @param film "#rrggbb" @param blank "#rrggbb"
 * @param shifts whether its colour changes with the angle it is seen at
 * @returns colours to be shown side by side; one where it always looks alike
 * @example seenRange('#c02020', 'opaque', false, '#000000').hexes // ['#c02020']
 */
export function seenRange(
  film: string,
  opacity: 'opaque' | 'translucent' | 'clear',
  shifts: boolean,
  blank: string,
): SeenRange {
  const { cover, spread, shift } = overBlankDefaults;
  const covers =
    opacity === 'opaque' ? [1] : [-1, 0, 1].map((k) => Math.min(1, Math.max(0.05, cover[opacity] + k * spread)));
  const hues = shifts ? [-1, -0.5, 0, 0.5, 1].map((k) => k * shift) : [0];
  const below = channels(blank);
  // From the clearest and one end of its hues to the fullest and the other: neighbours look alike.
  const steps = Math.max(covers.length, hues.length);
  const at = (list: readonly number[], i: number) =>
    list[Math.round((i / Math.max(1, steps - 1)) * (list.length - 1))]!;
  const hexes = Array.from({ length: steps }, (_, i) => {
    const own = turnedHue(channels(film), at(hues, i));
    return hexOf(own.map((v, c) => v * at(covers, i) + below[c]! * (1 - at(covers, i))));
  });
  // Every hue with every cover, for what is said of it.
  const all = covers.flatMap((k) =>
    hues.map((h) => contrastOf(hexOf(turnedHue(channels(film), h).map((v, c) => v * k + below[c]! * (1 - k))), blank)),
  );
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const { hardly } = overBlankDefaults;
  return {
    hexes: [...new Set(hexes)],
    contrast: { low, high },
    hardly: high < hardly ? 'everywhere' : low < hardly ? 'here and there' : 'never',
  };
}

/** A colour with its hue turned, as bright as before. Source: W3C Filter Effects Module Level 1, feColorMatrix, hueRotate. */
function turnedHue([r, g, b]: readonly number[], degrees: number): number[] {
  const [cos, sin] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  const rows = [
    [0.213 + cos * 0.787 - sin * 0.213, 0.715 - cos * 0.715 - sin * 0.715, 0.072 - cos * 0.072 + sin * 0.928],
    [0.213 - cos * 0.213 + sin * 0.143, 0.715 + cos * 0.285 + sin * 0.14, 0.072 - cos * 0.072 - sin * 0.283],
    [0.213 - cos * 0.213 - sin * 0.787, 0.715 - cos * 0.715 + sin * 0.715, 0.072 + cos * 0.928 + sin * 0.072],
  ];
  return rows.map(([x, y, z]) => Math.min(255, Math.max(0, x! * r! + y! * g! + z! * b!)));
}
