/**
 * How much each of some askers has used up lately: what was used fades with time, so that the sum is about what fell into the last minute.
 * Who has used nothing for a while is forgotten, and nothing is lost by that.
 */
export class Spent {
  private readonly seconds: number;
  private readonly used = new Map<string, { amount: number; at: number }>();

  /** @param seconds after which what was used counts e times less */
  constructor(seconds: number) {
    this.seconds = seconds;
  }

  /** What somebody has used lately. @param now ms */
  of(who: string, now: number): number {
    const known = this.used.get(who);
    return known ? known.amount * Math.exp(-(now - known.at) / 1000 / this.seconds) : 0;
  }

  add(who: string, amount: number, now: number): void {
    this.used.set(who, { amount: this.of(who, now) + amount, at: now });
    if (this.used.size > 5_000)
      for (const key of this.used.keys()) if (this.of(key, now) < 0.001) this.used.delete(key);
  }
}
