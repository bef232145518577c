import { inchesToMicrometres, mmToMicrometres, type Micrometres } from './length.ts';
import { parseDecimal } from './parseDecimal.ts';

/** Micrometres of one of each unit that may be typed behind a number. A foot is twelve inches (NIST SP 811, B.8). */
const units: Record<string, Micrometres> = {
  mm: mmToMicrometres(1),
  cm: mmToMicrometres(10),
  m: mmToMicrometres(1000),
  in: inchesToMicrometres(1),
  '"': inchesToMicrometres(1),
  ft: inchesToMicrometres(12),
};

/**
 * Reads a length as people type it: in the unit they work in, or in the one they say ("5 m", "12 in", "4½").
 *
 * @returns µm, whole; undefined where the text is no length
 * @example readLength('4 1/2', 'in') // 114300
 */
export function readLength(text: string, unit: 'mm' | 'in'): Micrometres | undefined {
  const match = /^\s*([-\d.,⅛¼⅜½⅝¾⅞/ ]+?)\s*(mm|cm|m|in|ft|")?\s*$/i.exec(text);
  const value = match ? parseDecimal(match[1]!) : undefined;
  return value === undefined ? undefined : Math.round(value * units[(match![2] ?? unit).toLowerCase()]!);
}
