import {
  converter,
  differenceCiede2000,
  formatHex,
  modeLab65,
  modeRgb,
  parse,
  useMode as defineMode,
  type Color,
} from 'culori/fn';

/** Made when first asked: a page that only shares this door does not carry colour mathematics. */
let made: { difference: (a: Color, b: Color) => number; lab: (color: string | Color) => Color } | undefined;
function mathematics() {
  if (!made) {
    defineMode(modeRgb);
    defineMode(modeLab65);
    made = { difference: differenceCiede2000(), lab: converter('lab65') };
  }
  return made;
}

/** A colour as CSS writes it ("#c00", "tomato", "rgb(10 20 30 / 50%)") as "#rrggbb" and how far it covers, 0 to 1; undefined for none. */
export function colourOf(text: string): { hex: string; covers: number } | undefined {
  mathematics();
  const colour = parse(text.trim().slice(0, 100));
  const hex = colour && formatHex(colour);
  return hex ? { hex, covers: colour.alpha ?? 1 } : undefined;
}

/**
 * How different two colours look, ΔE00: 1 is just seen, under 10 is "the same red", 40 is another colour.
 * Source: Sharma, Wu & Dalal, The CIEDE2000 color-difference formula, Color Research & Application 30 (2005).
 * @example colourDistance('#c21f2c', '#c21f2c') // 0
 */
export function colourDistance(a: string | Color, b: string | Color): number {
  const { difference, lab } = mathematics();
  return difference(lab(a), lab(b));
}
