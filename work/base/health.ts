import { statfs } from 'node:fs/promises';
import { pulse } from '#store/base/db.ts';
import { quotas } from './quotas.ts';

/** Asks the database for an answer, on a connection of its own: pages that wait for theirs do not hold it up. @throws when there is none */
export async function isAwake(): Promise<true> {
  await pulse();
  return true;
}

/** How long an answer about the disk holds, ms. */
const HOLDS = 10_000;
let looked: { at: number; full: boolean } = { at: -Infinity, full: false };

/**
 * Whether hardly anything is free where the database lies: VERSIPEL_DISK, which the launcher sets for the server it keeps. A database elsewhere is
 * looked after there.
 */
export async function isNearlyFull(now = Date.now()): Promise<boolean> {
  const { VERSIPEL_DISK: folder, VERSIPEL_DISK_FLOOR: floor } = process.env;
  if (!folder) return false;
  if (now - looked.at < HOLDS) return looked.full;
  const { bavail, bsize } = await statfs(folder).catch(() => ({ bavail: Infinity, bsize: 1 }));
  looked = { at: now, full: bavail * bsize < Number(floor ?? quotas.freeDisk) };
  return looked.full;
}
