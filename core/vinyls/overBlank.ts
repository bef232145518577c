/** How much of a film's own colour is left over what lies below. Common practice, no source: judged by eye on white and black cloth. */
export const overBlankDefaults = {
  cover: { opaque: 1, translucent: 0.65, clear: 0.25 },
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
