import { formatPosition, type Axis } from '#core/controls/index.ts';
import type { Answer } from '#core/answer/index.ts';

/** The number to set as a chart or row says it: "146", "~146" for a guess from the type, "97 or 177" for two camps. */
export function sayAnswer(axis: Axis, { position, from, camps }: Answer): string | undefined {
  if (camps) return camps.map((c) => formatPosition(axis, c.number)).join(' or ');
  if (position === undefined) return undefined;
  return `${from === 'type' ? '~' : ''}${formatPosition(axis, position)}`;
}
