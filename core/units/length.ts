/** One inch is exactly 25.4 mm (NIST SP 811, B.8), so 25 400 µm. */
const MICROMETRES_PER_INCH = 25_400;

/** Lengths are kept in whole micrometres. */
export type Micrometres = number;

/** @example mmToMicrometres(2.5) // 2500 */
export const mmToMicrometres = (mm: number): Micrometres => Math.round(mm * 1000);
export const micrometresToMm = (um: Micrometres): number => um / 1000;

/** @example inchesToMicrometres(4.5) // 114300 */
export const inchesToMicrometres = (inches: number): Micrometres => Math.round(inches * MICROMETRES_PER_INCH);

/** @example micrometresToInches(25400) // 1 */
export const micrometresToInches = (um: Micrometres): number => um / MICROMETRES_PER_INCH;
