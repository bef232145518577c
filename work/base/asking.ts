import { AsyncLocalStorage } from 'node:async_hooks';

/** Who asks, as far as limits and turns need to know it. */
export type Asking = {
  /** The address the request came from, seen through as many proxies as are trusted. */
  address: string;
  /** The account, once it is known. Guests are made in a moment and count by their address. */
  account?: string;
  /** What the browser says of itself. */
  agent?: string;
  /** Seconds after which the same may be asked again, where it was refused for now. */
  retryAfter?: number;
  /** Aborted once nobody waits for the answer any more. */
  gone?: AbortSignal;
  /** By when all that is computed for one request must be done, ms; set by the first of it. */
  until?: number;
  /** What was computed for an act of this request before its transaction, by what was asked; there while one is done. */
  computed?: Map<string, unknown>;
};

// The launcher and the built application carry this module once each: what must be there once hangs on the process.
const shared = globalThis as { versipelAsking?: AsyncLocalStorage<Asking> };
const asking = (shared.versipelAsking ??= new AsyncLocalStorage<Asking>());

/** Runs the work of one request. */
export const askedBy = <T>(who: Asking, work: () => T): T => asking.run(who, work);

/** Runs what goes on when the request is over: as work in the background. */
export const inBackground = <T>(work: () => T): T => asking.exit(work);

/** Who asks; undefined in background work. */
export const whoAsks = (): Asking | undefined => asking.getStore();

/** As whom somebody takes their turn: the account, else the address; background work has a name of its own. */
export function asker(): { name: string; gone: AbortSignal | undefined } {
  const who = asking.getStore();
  return { name: who ? (who.account ?? who.address) : 'background', gone: who?.gone };
}
