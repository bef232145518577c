/**
 * What was made from something and is asked for again: kept by a key of its content, the least used goes first. Whoever asks for the same
 * thing while it is being made waits for that.
 */
export class Kept<T> {
  private readonly limit: { bytes: number; size: (made: T) => number };
  private readonly made = new Map<string, T>();
  private readonly making = new Map<string, Promise<T>>();
  private bytes = 0;

  /** @param limit how many bytes are kept in all, and how many one takes */
  constructor(limit: Kept<T>['limit']) {
    this.limit = limit;
  }

  async get(key: string, make: () => Promise<T>): Promise<T> {
    const known = this.made.get(key);
    if (known !== undefined) {
      // The last used stands last.
      this.made.delete(key);
      this.made.set(key, known);
      return known;
    }
    const under = this.making.get(key);
    if (under) return under;
    const making = make().then((made) => {
      this.keep(key, made);
      return made;
    });
    this.making.set(key, making);
    try {
      return await making;
    } finally {
      this.making.delete(key);
    }
  }

  private keep(key: string, made: T): void {
    const size = this.limit.size(made);
    if (size > this.limit.bytes / 4) return;
    this.made.set(key, made);
    this.bytes += size;
    for (const [old, thing] of this.made) {
      if (this.bytes <= this.limit.bytes) break;
      this.made.delete(old);
      this.bytes -= this.limit.size(thing);
    }
  }
}
