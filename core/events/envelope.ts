import { z } from 'zod';

/** Clocks are wrong by years, not by centuries. What is no moment at all, as 25 o'clock, is NaN. */
const within = (at: number): boolean => at >= 0 && at < Date.UTC(2200, 0);

/**
 * What every event has, whatever it is about: an id made by the device that saw it (UUIDv7, RFC 9562, so that ids sort as they were made), that
 * device, and its clock. Events are only ever added: a correction is a later event, and one that takes another back names it.
 */
export const envelope = {
  id: z.uuid({ version: 'v7' }).describe('made by the device that saw it'),
  device: z.uuid(),
  deviceAt: z.iso
    .datetime({ offset: true })
    .refine((at) => within(Date.parse(at)), { message: 'a device clock lies between 1970 and 2200' })
    .describe('the device clock'),
};
export type Envelope = { id: string; device: string; deviceAt: string };

/** Device time, then id: the order in which things happened as far as anybody can tell. For `sort`. */
const byClock = (a: Envelope, b: Envelope): number =>
  Date.parse(a.deviceAt) - Date.parse(b.deviceAt) || (a.id < b.id ? -1 : 1);

/** Each event once, in order, whatever the order and the number of times in which they arrived. */
export const onceInOrder = <E extends Envelope>(events: readonly E[]): E[] =>
  [...new Map(events.map((e) => [e.id, e])).values()].sort(byClock);

/**
 * What stands after all events: each once, in order, without those that were taken back and without the word that took them back.
 * @param takesBack the id of what an event takes back; undefined for one that takes nothing back
 */
export function standingOf<E extends Envelope>(events: readonly E[], takesBack: (event: E) => string | undefined): E[] {
  const gone = new Set(events.map(takesBack));
  return onceInOrder(events.filter((e) => takesBack(e) === undefined && !gone.has(e.id)));
}

/** When an event was made by its device's clock, ms since 1970: the first 48 bits of its id (RFC 9562, 5.7). */
export const madeAt = (id: string): number => parseInt(id.replaceAll('-', '').slice(0, 12), 16);
