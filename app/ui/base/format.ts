import {
  micrometresToInches,
  micrometresToMm,
  sayDecimal,
  sayInches,
  withPoint,
  type NumberStyle,
  heatInBoth,
} from '#core/units/index.ts';

/** What stands where nobody knows a figure, or it is none. */
const NONE = '–';
/** A figure is said only where it is one: what was divided by nothing is no length. */
const known = (n: number, say: () => string): string => (Number.isFinite(n) ? say() : NONE);

/** µm as metres, whole from ten on: "18", "2.5". */
export function metres(um: number, style: NumberStyle = 'point'): string {
  if (!Number.isFinite(um)) return NONE;
  const m = um / 1_000_000;
  const text = m >= 10 || m === 0 ? String(Math.round(m)) : m.toFixed(1);
  return withPoint(text, style);
}

/** Width × height, rounded up so that a piece of this size is surely enough. */
const sizeMm = (w: number, h: number) => `${Math.ceil(micrometresToMm(w))} × ${Math.ceil(micrometresToMm(h))} mm`;
const enoughInches = (um: number, style: NumberStyle): string => {
  const inches = micrometresToInches(um);
  if (style === 'fractions') return sayInches(inches, 2, style, Math.ceil);
  return withPoint((Math.ceil(Number((inches * 20).toFixed(3))) / 20).toFixed(2), style);
};
const sizeIn = (w: number, h: number, style: NumberStyle) => `${enoughInches(w, style)} × ${enoughInches(h, style)} in`;

/** A day as people write it, in the person's own zone: the same on the server and in the browser. */
export const day = (at: string | Date, zone: string): string => {
  // Making one takes longer than writing a hundred days with it.
  let format = days.get(zone);
  if (!format) {
    if (days.size > 500) days.clear();
    format = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric', timeZone: zone });
    days.set(zone, format);
  }
  return format.format(new Date(at));
};
const days = new Map<string, Intl.DateTimeFormat>();

export const percent = (chance: number): string =>
  known(chance, () => `${Math.min(99, Math.max(chance > 0.005 ? 1 : 0, Math.round(chance * 100)))} %`);

/** A size in the person's own unit, the other beside it. */
export function bothSizes(w: number, h: number, unit: 'mm' | 'in', style: NumberStyle = 'point'): [string, string] {
  const [mm, inches] = [sizeMm(w, h), sizeIn(w, h, style)];
  return unit === 'mm' ? [mm, inches] : [inches, mm];
}

/**
 * Text of others inside a line of ours: what it says about the direction of writing ends with it. Left alone where it says
 * nothing. Source: Unicode Standard Annex 9, isolates (FSI … PDI).
 */
export function isolate(text: string): string {
  if (!/[\u0590-\u08ff\u200e\u200f\u202a-\u202e\u2066-\u2069\ufb1d-\ufdff\ufe70-\ufefc]/.test(text)) return text;
  return `\u2068${text.replace(/[\u2066-\u2069]/g, '')}\u2069`;
}

/** Seconds as a clock shows them: "45", and from a hundred on "1:40", "1:00:00". */
export function clockOf(seconds: number): string {
  const s = Math.max(0, Math.ceil(seconds));
  if (s < 100) return String(s);
  const two = (n: number) => String(n).padStart(2, '0');
  const [h, m] = [Math.floor(s / 3600), Math.floor(s / 60) % 60];
  return h > 0 ? `${h}:${two(m)}:${two(s % 60)}` : `${m}:${two(s % 60)}`;
}

/** The heat of a way to press, a range where it is one: "310 to 330 °F", "154 to 166 °C". */
export function heatOf(
  way: { heat?: number | undefined; upTo?: number | undefined },
  unit: 'C' | 'F',
): [string, string] | undefined {
  if (way.heat === undefined) return undefined;
  const low = heatInBoth(way.heat, unit);
  if (way.upTo === undefined) return low;
  const high = heatInBoth(way.upTo, unit);
  return [`${low[0].replace(/ .*/, '')} to ${high[0]}`, `${low[1].replace(/ .*/, '')} to ${high[1]}`];
}

/** Minor units of a currency as people write it: "0.28 EUR". */
export const money = (minor: number, currency: string, style: NumberStyle = 'point'): string => {
  const text = (minor / 100).toFixed(2);
  return `${withPoint(text, style)} ${currency}`;
};

/** Decimals that say an inch: two where they say it all, else three. A field and a sentence say one width alike. */
const inchDigits = (inches: number): number => (Math.abs(inches * 100 - Math.round(inches * 100)) < 0.1 ? 2 : 3);
const inUnit = (um: number, unit: 'mm' | 'in', style: NumberStyle): string =>
  unit === 'mm'
    ? sayDecimal(micrometresToMm(um), 1, style)
    : sayInches(micrometresToInches(um), inchDigits(micrometresToInches(um)), style);

/** A length to the tenth of a millimetre, in one unit: "9.5 mm", "⅜ in". */
export const sayLength = (um: number, unit: 'mm' | 'in', style: NumberStyle): string =>
  known(um, () => `${inUnit(um, unit, style)} ${unit}`);

/** A length in the person's own unit, the other beside it: "120 mm", "4.724 in". */
export const bothLengths = (um: number, unit: 'mm' | 'in', style: NumberStyle = 'point'): [string, string] => [
  sayLength(um, unit, style),
  sayLength(um, unit === 'mm' ? 'in' : 'mm', style),
];

/** Width × height as they are: "279.4 × 42.6 mm". What is cut off to be enough is `bothSizes`. */
export const saySize = (w: number, h: number, unit: 'mm' | 'in', style: NumberStyle): string =>
  known(w * h, () => `${inUnit(w, unit, style)} × ${inUnit(h, unit, style)} ${unit}`);

/** A length that is surely enough, as `bothSizes` says it. */
export const sayEnough = (um: number, unit: 'mm' | 'in', style: NumberStyle): string =>
  known(um, () => (unit === 'mm' ? `${Math.ceil(micrometresToMm(um))} mm` : `${enoughInches(um, style)} in`));

/**
 * How wide a narrow place is: "2.1 mm", "0.35 mm", "0.083 in". What is wider than nothing never reads as nothing: "under 0.01 mm".
 */
export function sayFine(um: number, unit: 'mm' | 'in', style: NumberStyle): string {
  if (!Number.isFinite(um)) return NONE;
  const [value, digits] = unit === 'mm' ? [um / 1000, um < 1000 ? 2 : 1] : [micrometresToInches(um), 3];
  const least = 10 ** -digits;
  const text = withPoint(Math.max(least, value).toFixed(digits), style);
  return um <= 0 ? `0\u00a0${unit}` : value < least / 2 ? `under ${text}\u00a0${unit}` : `${text}\u00a0${unit}`;
}

const handStep = (unit: 'mm' | 'in'): number => (unit === 'in' ? 6_350 : 5_000);
/** Up to a length a hand sets, µm: the next quarter inch, or five millimetres. */
export const stepUp = (um: number, unit: 'mm' | 'in'): number => {
  const step = handStep(unit);
  return Math.ceil(um / step - 1e-9) * step;
};

/** Down to a length a hand sets, µm. */
export const stepDown = (um: number, unit: 'mm' | 'in'): number => {
  const step = handStep(unit);
  return Math.max(1, Math.floor(um / step + 1e-9)) * step;
};

/** A difference in log load as a share of load, in whole per cent: 0.07 is 7. */
export const loadPercent = (log: number): number => Math.round(100 * Math.expm1(log));

/** A length as a field shows it, in the person's unit and without it: "305", "12". */
export const typedLength = (um: number, unit: 'mm' | 'in'): string =>
  unit === 'mm'
    ? String(Number(micrometresToMm(um).toFixed(1)))
    : String(Number(micrometresToInches(um).toFixed(inchDigits(micrometresToInches(um)))));
/** Metres as a field shows them: "18", "2.5". */
export const typedMetres = (um: number): string => String(Number((um / 1e6).toFixed(2)));
