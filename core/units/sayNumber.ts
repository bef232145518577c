/** How a person writes what lies between whole numbers: 11.5, 11,5 or 11½. Fractions are for inches; other units keep the point. */
export const numberStyles = ['point', 'comma', 'fractions'] as const;
export type NumberStyle = (typeof numberStyles)[number];

/** The digits of a number with the point a person writes. */
export const withPoint = (digits: string, style: NumberStyle): string =>
  style === 'comma' ? digits.replace('.', ',') : digits;

/**
 * A number with at most so many digits behind its point, none that are nought.
 * @example sayDecimal(11.5, 2, 'comma') // '11,5'
 */
export const sayDecimal = (n: number, digits: number, style: NumberStyle): string =>
  withPoint(String(Number(n.toFixed(digits))), style);

/** Sixteenths of an inch as a rule shows them. */
const SIXTEENTHS = [
  '',
  '1/16',
  '⅛',
  '3/16',
  '¼',
  '5/16',
  '⅜',
  '7/16',
  '½',
  '9/16',
  '⅝',
  '11/16',
  '¾',
  '13/16',
  '⅞',
  '15/16',
];

/**
 * Inches as a person writes them; as fractions they are those of a rule, sixteenths.
 *
 * @param round the nearest, or up, so that a piece of this size is surely enough
 * @example sayInches(11.5, 2, 'fractions') // '11½'
 */
export function sayInches(
  inches: number,
  digits: number,
  style: NumberStyle,
  round: (n: number) => number = Math.round,
): string {
  if (style !== 'fractions') return sayDecimal(inches, digits, style);
  // What is a sixteenth but for the rounding of micrometres is that sixteenth.
  const all = round(Number((Math.abs(inches) * 16).toFixed(2)));
  const [whole, part] = [Math.floor(all / 16), SIXTEENTHS[all % 16]!];
  const sign = inches < 0 && all > 0 ? '−' : '';
  if (part === '') return `${sign}${whole}`;
  if (whole === 0) return `${sign}${part}`;
  return `${sign}${whole}${part.includes('/') ? ' ' : ''}${part}`;
}
