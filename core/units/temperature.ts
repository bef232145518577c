/** Temperatures are kept in whole thousandths of a degree Celsius. */
export type MilliCelsius = number;
/** The scale a display or a person reads. */
export type TemperatureUnit = 'C' | 'F';

/** Degrees Fahrenheit to a degree Celsius: t/°C = (t/°F − 32)/1.8 (NIST SP 811, B.8). */
const FAHRENHEIT = 1.8;

/** @example fahrenheitToMilliCelsius(300) // 148889 */
export const fahrenheitToMilliCelsius = (f: number): MilliCelsius => Math.round(((f - 32) / FAHRENHEIT) * 1000);
/** @example milliCelsiusToFahrenheit(100000) // 212 */
export const milliCelsiusToFahrenheit = (mc: MilliCelsius): number => (mc / 1000) * FAHRENHEIT + 32;
export const celsiusToMilliCelsius = (c: number): MilliCelsius => Math.round(c * 1000);
export const milliCelsiusToCelsius = (mc: MilliCelsius): number => mc / 1000;

/** Degrees of a scale as they are kept. @example toMilliCelsius(212, 'F') // 100000 */
export const toMilliCelsius = (degrees: number, unit: TemperatureUnit): MilliCelsius =>
  unit === 'F' ? fahrenheitToMilliCelsius(degrees) : celsiusToMilliCelsius(degrees);
/** Whole degrees as a scale shows them. @example wholeDegrees(152000, 'F') // 306 */
export const wholeDegrees = (mc: MilliCelsius, unit: TemperatureUnit): number =>
  Math.round(unit === 'F' ? milliCelsiusToFahrenheit(mc) : milliCelsiusToCelsius(mc));
/** A difference of heat in degrees of a scale: it has no zero point to move. @example degreesApart(10000, 'F') // 18 */
export const degreesApart = (difference: MilliCelsius, unit: TemperatureUnit): number =>
  (difference / 1000) * (unit === 'F' ? FAHRENHEIT : 1);
/** The same the other way round. @example apartInMilliCelsius(18, 'F') // 10000 */
export const apartInMilliCelsius = (degrees: number, unit: TemperatureUnit): MilliCelsius =>
  Math.round((degrees * 1000) / (unit === 'F' ? FAHRENHEIT : 1));

/** A heat in both scales, where a mistake would burn. @example heatInBoth(152000, 'F') // ['306 °F', '152 °C'] */
export const heatInBoth = (mc: MilliCelsius, first: TemperatureUnit): [string, string] => {
  const [f, c] = [`${wholeDegrees(mc, 'F')} °F`, `${wholeDegrees(mc, 'C')} °C`];
  return first === 'F' ? [f, c] : [c, f];
};
/** The same as one text. @example bothHeats(152000) // '306 °F (152 °C)' */
export const bothHeats = (mc: MilliCelsius, first: TemperatureUnit = 'F'): string => {
  const [a, b] = heatInBoth(mc, first);
  return `${a} (${b})`;
};
