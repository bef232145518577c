/** Temperatures are kept in whole thousandths of a degree Celsius. */
export type MilliCelsius = number;

/**
 * t/°C = (t/°F − 32)/1.8 (NIST SP 811, B.8).
 * @example fahrenheitToMilliCelsius(300) // 148889
 */
export const fahrenheitToMilliCelsius = (f: number): MilliCelsius => Math.round(((f - 32) / 1.8) * 1000);

/** @example milliCelsiusToFahrenheit(100000) // 212 */
export const milliCelsiusToFahrenheit = (mc: MilliCelsius): number => (mc / 1000) * 1.8 + 32;
/** A heat in both scales, where a mistake would burn. @example bothHeats(152000) // '306 °F (152 °C)' */
export const bothHeats = (mc: MilliCelsius): string =>
  `${Math.round(milliCelsiusToFahrenheit(mc))} °F (${Math.round(mc / 1000)} °C)`;
export const celsiusToMilliCelsius = (c: number): MilliCelsius => Math.round(c * 1000);
export const milliCelsiusToCelsius = (mc: MilliCelsius): number => mc / 1000;
