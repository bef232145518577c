import { parseDecimal, unknownKind } from '../units/index.ts';
import type { Axis, ListAxis } from './axisShapes.ts';

/** A value that an axis does not have. The message names the axis and its limits. */
export class AxisError extends Error {
  readonly axis: string;
  /** @param between the places on both sides, where what was typed lies between two */
  constructor(axis: Axis, typed: string | number, between?: readonly [number, number]) {
    super(
      between
        ? sayBetweenStops(axis, between)
        : `${axis.word} ${typed} is outside this cutter: ${describeLimits(axis)}`,
    );
    this.name = 'AxisError';
    this.axis = axis.key;
  }
}

/** "the dial has half stops: 5 or 5½": which two places somebody may have meant. */
function sayBetweenStops(axis: Axis, [low, high]: readonly [number, number]): string {
  const either = `${formatPosition(axis, low)} or ${formatPosition(axis, high)}`;
  if (axis.kind === 'dial') return `the ${axis.word} has ${axis.halves ? 'half' : 'whole'} stops: ${either}`;
  const step = axis.kind === 'number' ? axis.step : 1;
  return `${axis.word} goes in ${step === 1 ? 'whole numbers' : `steps of ${tidy(step)}`}: ${either}`;
}

/** How many places each entry of a list has. */
export const modifiersOf = (axis: ListAxis): number => axis.modifier?.names.length ?? 1;

/** The entry of a list and its modifier at a position. */
export function listPlace(axis: ListAxis, position: number): { entry: number; modifier: number } {
  const each = modifiersOf(axis);
  return { entry: Math.floor(position / each), modifier: position % each };
}

/** Lowest and highest position of an axis. */
export function limitsOf(axis: Axis): { min: number; max: number } {
  switch (axis.kind) {
    case 'number':
      return { min: axis.min, max: axis.max };
    case 'list':
      return { min: 0, max: axis.entries.length * modifiersOf(axis) - 1 };
    case 'dial':
      return { min: 0, max: (axis.stops.length - 1) * (axis.halves ? 2 : 1) };
    default:
      return unknownKind(axis);
  }
}

/** Every position of an axis, low to high. */
export function positionsOf(axis: Axis): number[] {
  const { min, max } = limitsOf(axis);
  return Array.from({ length: max - min + 1 }, (_, i) => min + i);
}

/** Where the maker puts plain vinyl, or the middle: geometric on a log axis. */
export function startOf(axis: Axis): number {
  if (axis.start !== undefined) return axis.start;
  const { min, max } = limitsOf(axis);
  switch (axis.kind) {
    case 'list': {
      const plain = axis.entries.reduce(
        (best, e, i, all) => (Math.abs(e.load) < Math.abs(all[best]!.load) ? i : best),
        0,
      );
      return plain * modifiersOf(axis) + (axis.modifier?.normal ?? 0);
    }
    case 'number':
      return Math.round(axis.scale === 'log' ? Math.sqrt(min * max) : (min + max) / 2);
    case 'dial':
      return Math.round((min + max) / 2);
    default:
      return unknownKind(axis);
  }
}

/** A plain number without the dust of binary fractions: 0.30000000000000004 becomes 0.3. */
const tidy = (value: number): string => String(Number(value.toPrecision(12)));

/**
 * A position in the cutter's own words: "134", "4½", "−3".
 * @throws AxisError when the axis has no such position
 * @example formatPosition(strengthAxis(shippedModel('marlow-24', 1)), 142) // '142'
 */
export function formatPosition(axis: Axis, position: number): string {
  const { min, max } = limitsOf(axis);
  if (!Number.isInteger(position) || position < min || position > max) throw new AxisError(axis, position);
  switch (axis.kind) {
    case 'number': {
      const text = tidy(position * axis.step);
      if (text.startsWith('-')) return `−${text.slice(1)}`;
      return axis.signed && position > 0 ? `+${text}` : text;
    }
    case 'list': {
      const { entry, modifier } = listPlace(axis, position);
      const { name } = axis.entries[entry]!;
      if (!axis.modifier || modifier === axis.modifier.normal) return name;
      return `${name}, ${axis.modifier.names[modifier]} ${axis.modifier.word}`;
    }
    case 'dial': {
      if (!axis.halves) return axis.stops[position]!;
      const below = axis.stops[Math.floor(position / 2)]!;
      if (position % 2 === 0) return below;
      // Numbered stops have a half of their own; named ones are said as a place between two names.
      return /^\d+$/.test(below) ? `${below}½` : `between ${below} and ${axis.stops[(position + 1) / 2]}`;
    }
    default:
      return unknownKind(axis);
  }
}

/**
 * A position in as few characters as can be, for the cells of a drawing and the marks of a strip: as it is said, but the
 * modifiers of a list as signs: "glitter film +".
 */
export function shortPosition(axis: Axis, position: number): string {
  if (axis.kind !== 'list' || !axis.modifier) return formatPosition(axis, position);
  const { entry, modifier } = listPlace(axis, position);
  const off = modifier - axis.modifier.normal;
  return `${axis.entries[entry]!.name}${off === 0 ? '' : ` ${(off < 0 ? '−' : '+').repeat(Math.abs(off))}`}`;
}

/** "10 to 400", "1 to 9 in half stops", "9 entries with less, normal or more pressure". */
export function describeLimits(axis: Axis): string {
  if (axis.kind === 'list') {
    const shown = axis.entries.slice(0, 12).map((e) => e.name);
    const more = axis.entries.length > shown.length ? ` and ${axis.entries.length - shown.length} more` : '';
    const modifiers = axis.modifier && `, each with ${axis.modifier.names.join(' / ')} ${axis.modifier.word}`;
    return `${shown.join(', ')}${more}${modifiers ?? ''}`;
  }
  const { min, max } = limitsOf(axis);
  const range = `${formatPosition(axis, min)} to ${formatPosition(axis, max)}`;
  if (axis.kind === 'dial') return axis.halves ? `${range} in half stops` : range;
  return axis.step === 1 ? range : `${range} in steps of ${tidy(axis.step)}`;
}

/**
 * Reads what a person typed for an axis.
 * @throws AxisError when it is not a place on the axis
 * @example parsePosition(strengthAxis(shippedModel('marlow-24', 1)), '142') // 142
 */
export function parsePosition(axis: Axis, text: string): number {
  const typed = text.trim();
  const shown = typed.length > 40 ? `${typed.slice(0, 40)}…` : typed;
  if (axis.kind !== 'number') {
    const same = positionsOf(axis).find((p) => formatPosition(axis, p).toLowerCase() === typed.toLowerCase());
    if (same !== undefined) return same;
  }
  if (axis.kind === 'list') {
    // The normal modifier is not said, but may be.
    const normal =
      axis.modifier && `, ${axis.modifier.names[axis.modifier.normal]} ${axis.modifier.word}`.toLowerCase();
    if (normal && typed.toLowerCase().endsWith(normal)) return parsePosition(axis, typed.slice(0, -normal.length));
    throw new AxisError(axis, `"${shown}"`);
  }
  const value = parseDecimal(typed);
  if (value === undefined) throw new AxisError(axis, `"${shown}"`);
  let position: number;
  if (axis.kind === 'number') position = value / axis.step;
  else {
    const whole = axis.stops.indexOf(String(Math.floor(value)));
    position = whole < 0 ? NaN : (whole + (value - Math.floor(value))) * (axis.halves ? 2 : 1);
  }
  const nearest = Math.round(position);
  const { min, max } = limitsOf(axis);
  if (position > min && position < max && Math.abs(position - nearest) >= 1e-9)
    throw new AxisError(axis, shown, [Math.floor(position), Math.ceil(position)]);
  if (!(Math.abs(position - nearest) < 1e-9) || nearest < min || nearest > max) throw new AxisError(axis, shown);
  return nearest === 0 ? 0 : nearest;
}
