import { turnOf } from './asking.ts';
import { Busy } from './errors.ts';
import { quotas } from './quotas.ts';

type Waiting = { who: string; begin: () => void };

/**
 * Turns for something that only so many may do at one moment: each asker has a share, who waits longest is next among those who have room,
 * and a queue that is full says so at once.
 */
export class Turns {
  private readonly limits: { together: number; each: number; waiting: number; waitingEach: number; seconds: number };
  private readonly running = new Map<string, number>();
  private all = 0;
  private queue: Waiting[] = [];

  constructor(limits: Turns['limits']) {
    this.limits = limits;
  }

  /** @throws Busy where too many wait, or the turn did not come in time */
  take<T>(who: string, work: () => Promise<T>): Promise<T> {
    return this.run(who, work, false);
  }

  /** As take, for work in the background: it waits as long as it takes, outside the count of those who wait. */
  wait<T>(who: string, work: () => Promise<T>): Promise<T> {
    return this.run(who, work, true);
  }

  private async run<T>(who: string, work: () => Promise<T>, patient: boolean): Promise<T> {
    await this.begin(who, patient);
    try {
      return await work();
    } finally {
      this.end(who);
    }
  }

  private room(who: string): boolean {
    return this.all < this.limits.together && (this.running.get(who) ?? 0) < this.limits.each;
  }

  private start(who: string): void {
    this.all++;
    this.running.set(who, (this.running.get(who) ?? 0) + 1);
  }

  private begin(who: string, patient: boolean): Promise<void> {
    if (this.room(who)) {
      this.start(who);
      return Promise.resolve();
    }
    if (patient) return new Promise((done) => this.queue.push({ who, begin: done }));
    const mine = this.queue.reduce((n, w) => n + (w.who === who ? 1 : 0), 0);
    if (this.queue.length >= this.limits.waiting || mine >= this.limits.waitingEach)
      return Promise.reject(new Busy('Much is being done just now. Try again in a moment; nothing was lost.'));
    return new Promise((done, failed) => {
      const waiting: Waiting = {
        who,
        begin: () => {
          clearTimeout(late);
          done();
        },
      };
      const late = setTimeout(() => {
        this.queue = this.queue.filter((w) => w !== waiting);
        failed(new Busy('Much is being done just now. Try again in a moment; nothing was lost.'));
      }, this.limits.seconds * 1000);
      this.queue.push(waiting);
    });
  }

  private end(who: string): void {
    this.all--;
    const left = this.running.get(who)! - 1;
    if (left > 0) this.running.set(who, left);
    else this.running.delete(who);
    const next = this.queue.findIndex((w) => this.room(w.who));
    if (next < 0) return;
    const [waiting] = this.queue.splice(next, 1);
    this.start(waiting!.who);
    waiting!.begin();
  }
}

const writes = new Turns(quotas.writes);

/** Runs a write when it is its turn: so many at one moment that pages always find a connection. @throws Busy */
export const inTurn = <T>(work: () => Promise<T>): Promise<T> => writes.take(turnOf(), work);
