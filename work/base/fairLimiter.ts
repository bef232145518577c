import { asker } from './asking.ts';
import { Busy } from './errors.ts';
import { quotas } from './quotas.ts';

type Waiting = { who: Asker; begin: () => void };

/** Who takes a turn, of what kind, and when nobody waits for it any more. */
export type Asker = { name: string; kind?: string; gone?: AbortSignal | undefined };

type Limits = {
  together: number;
  each: number;
  waiting: number;
  waitingEach: number;
  seconds: number;
  /** Turns of a kind at one moment, where it has fewer than all. */
  kinds?: Record<string, number>;
};

const FULL = 'Much is being done just now. Try again in a moment; nothing was lost.';

/**
 * Turns for something that only so many may do at one moment: each asker has a share, and each kind where that is said. Next is, among those
 * who have room, whoever has used least lately, and of these who waits longest. A queue that is full says so at once.
 */
export class FairLimiter {
  private readonly limits: Limits;
  private readonly spent: (name: string) => number;
  private readonly running = new Map<string, number>();
  private all = 0;
  private queue: Waiting[] = [];

  /** @param spent what somebody has used lately; nothing, where turns are alike */
  constructor(limits: Limits, spent: (name: string) => number = () => 0) {
    this.limits = limits;
    this.spent = spent;
  }

  /** @throws Busy where too many wait, the turn did not come in time, or nobody waits for it any more */
  take<T>(who: Asker, work: () => Promise<T>): Promise<T> {
    return this.run(who, work, false);
  }

  /** As take, for work in the background: it waits as long as it takes, outside the count of those who wait. */
  wait<T>(who: Asker, work: () => Promise<T>): Promise<T> {
    return this.run(who, work, true);
  }

  private async run<T>(who: Asker, work: () => Promise<T>, patient: boolean): Promise<T> {
    await this.begin(who, patient);
    try {
      return await work();
    } finally {
      this.end(who);
    }
  }

  private now(key: string): number {
    return this.running.get(key) ?? 0;
  }

  private room({ name, kind }: Asker): boolean {
    return (
      this.all < this.limits.together &&
      this.now(`of ${name}`) < this.limits.each &&
      (kind === undefined || this.now(`kind ${kind}`) < (this.limits.kinds?.[kind] ?? Infinity))
    );
  }

  private change({ name, kind }: Asker, by: 1 | -1): void {
    this.all += by;
    for (const key of kind === undefined ? [`of ${name}`] : [`of ${name}`, `kind ${kind}`]) {
      const n = this.now(key) + by;
      if (n > 0) this.running.set(key, n);
      else this.running.delete(key);
    }
  }

  private begin(who: Asker, patient: boolean): Promise<void> {
    if (who.gone?.aborted) return Promise.reject(new Busy(FULL));
    if (this.room(who)) {
      this.change(who, 1);
      return Promise.resolve();
    }
    if (patient) return new Promise((done) => this.queue.push({ who, begin: done }));
    const mine = this.queue.reduce((n, w) => n + (w.who.name === who.name ? 1 : 0), 0);
    if (this.queue.length >= this.limits.waiting || mine >= this.limits.waitingEach)
      return Promise.reject(new Busy(FULL));
    return new Promise((done, failed) => {
      const over = () => {
        clearTimeout(late);
        who.gone?.removeEventListener('abort', giveUp);
      };
      const giveUp = () => {
        over();
        this.queue = this.queue.filter((w) => w !== waiting);
        failed(new Busy(FULL));
      };
      const waiting: Waiting = {
        who,
        begin: () => {
          over();
          done();
        },
      };
      const late = setTimeout(giveUp, this.limits.seconds * 1000);
      who.gone?.addEventListener('abort', giveUp);
      this.queue.push(waiting);
    });
  }

  private end(who: Asker): void {
    this.change(who, -1);
    let next: Waiting | undefined;
    for (const waiting of this.queue)
      if (this.room(waiting.who) && (!next || this.spent(waiting.who.name) < this.spent(next.who.name))) next = waiting;
    if (!next) return;
    this.queue = this.queue.filter((w) => w !== next);
    this.change(next.who, 1);
    next.begin();
  }
}

const writes = new FairLimiter(quotas.writes);

/** Lets a transaction through when it is its turn: so many at one moment that pages always find a connection. @throws Busy */
export const inTurn = <T>(work: () => Promise<T>): Promise<T> => writes.take(asker(), work);
