import { v7 as uuidv7 } from 'uuid';
import { tapTime } from './EarlyTaps.tsx';

/** A clock that was put back by more than this is followed, ms: what is said at one tap lies much closer together. */
const TOGETHER = 1_000;

/**
 * The stamps of what one device says, each later than the one before: one tap may say several things in one millisecond (taken up again, then
 * started), and whoever sorts them by time and id must find them in the order in which they were said.
 * @returns the id (UUIDv7) and the time of the next thing said
 */
export function deviceClock(time: () => number = tapTime): () => { id: string; deviceAt: string } {
  let last = -Infinity;
  return () => {
    const at = time();
    last = at <= last && last - at < TOGETHER ? last + 1 : at;
    return { id: uuidv7({ msecs: last }), deviceAt: new Date(last).toISOString() };
  };
}
