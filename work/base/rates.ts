import { RateLimiterMemory, type RateLimiterRes } from 'rate-limiter-flexible';
import { TooMany } from './errors.ts';

/**
 * What is counted in memory and forgotten at a restart, which harms nobody. Each key has a record of its own until its time is over: nobody's
 * count makes room for another's. A count looks at one record, however many there are.
 */
export class Rates {
  private readonly limiters = new Map<string, RateLimiterMemory>();

  /**
   * Counts `by` more under a key, within so many minutes from its first count.
   * @param kind what is counted; each has one `most` and `minutes`
   * @throws TooMany above `most`
   */
  async count(kind: string, key: string, most: number, minutes: number, by = 1): Promise<void> {
    let limiter = this.limiters.get(kind);
    if (!limiter) {
      limiter = new RateLimiterMemory({ keyPrefix: kind, points: most, duration: minutes * 60 });
      this.limiters.set(kind, limiter);
    }
    try {
      await limiter.consume(key, by);
    } catch (refused) {
      if (refused instanceof Error) throw refused;
      const left = Math.max(1, Math.ceil((refused as RateLimiterRes).msBeforeNext / 60_000));
      throw new TooMany(`That was often. Wait ${sayMinutes(left)}, then go on. Nothing was lost.`, left);
    }
  }
}

const sayMinutes = (n: number) => (n === 1 ? 'a minute' : n === 60 ? 'an hour' : `${n} minutes`);

// The launcher and the built application carry this module once each: they count together.
const shared = globalThis as { versipelRates?: Rates };
export const rates = (shared.versipelRates ??= new Rates());
