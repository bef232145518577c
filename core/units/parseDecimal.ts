/** What a person may mean by ½ and its kin on a dial. */
const FRACTIONS: Record<string, number> = {
  '⅛': 0.125,
  '¼': 0.25,
  '⅜': 0.375,
  '½': 0.5,
  '⅝': 0.625,
  '¾': 0.75,
  '⅞': 0.875,
};

/**
 * Reads a number as people write it: a decimal point or comma, a sign, a vulgar fraction ("4½", "4 1/2").
 * A comma followed by exactly three digits is refused: nobody can tell 1,500 from 1.5.
 *
 * @returns the number, or undefined when the text is not one number
 * @example parseDecimal('4,5') // 4.5
 */
export function parseDecimal(text: string): number | undefined {
  const trimmed = text
    .normalize('NFC')
    .replace(/[\u00a0\u202f]/g, ' ')
    .replace(/[\u2212\u2013]/g, '-')
    .trim();
  const vulgar = /^([+-]?)(\d*)\s*([⅛¼⅜½⅝¾⅞])$/.exec(trimmed);
  if (vulgar) return (vulgar[1] === '-' ? -1 : 1) * (Number(vulgar[2] || 0) + FRACTIONS[vulgar[3]!]!);
  const slash = /^([+-]?)(?:(\d+)\s+)?(\d+)\/(\d+)$/.exec(trimmed);
  if (slash && Number(slash[4]) > 0)
    return (slash[1] === '-' ? -1 : 1) * (Number(slash[2] ?? 0) + Number(slash[3]) / Number(slash[4]));
  if (/^[+-]?[1-9]\d{0,2},\d{3}$/.test(trimmed)) return undefined;
  if (!/^[+-]?(\d+([.,]\d*)?|[.,]\d+)$/.test(trimmed)) return undefined;
  const value = Number(trimmed.replace(',', '.'));
  return Number.isFinite(value) ? value : undefined;
}
