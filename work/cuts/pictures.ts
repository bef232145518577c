import { db } from '#store/base/db.ts';
import * as store from '#store/cuts/line.ts';
import { couponModel } from '#work/coupons/coupons.ts';
import type { Person } from '#work/people/person.ts';
import type { Device } from './deviceList.ts';

/** Keeps what a simulated cutter shows of a cell. A picture is a help, no proof: without one everything goes on. */
export async function keepPicture(device: Device, cellId: string, pass: number): Promise<void> {
  if (!device.camera) return;
  try {
    const answer = await fetch(`${device.camera}/cells/${cellId}.svg`, { signal: AbortSignal.timeout(3_000) });
    if (answer.ok) await store.insertPicture(db(), cellId, pass, await answer.text());
  } catch {
    // No camera, no picture.
  }
}

/** What a cell looked like after weeding, as a simulated cutter showed it; undefined where there is no picture. */
export async function cellPicture(
  person: Person | undefined,
  couponId: string,
  number: number,
  pass: number,
): Promise<string | undefined> {
  await couponModel(person, couponId);
  if (![number, pass].every((n) => Number.isInteger(n) && n > 0 && n < 1000)) return undefined;
  return (await store.pictureOf(db(), couponId, number, pass))?.svg;
}
