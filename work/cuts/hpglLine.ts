import { connect, type Socket } from 'node:net';

export const lineDefaults = {
  /** Milliseconds to wait for a connection, for an answer to a question, and for a cell of no length to be cut. */
  connectMs: 3_000,
  answerMs: 4_000,
  cutMs: 120_000,
};

/** Why a line cannot be used. `sent`: whether anything to be cut may have left before. */
export class LineError extends Error {
  readonly kind: 'offline' | 'busy' | 'broken' | 'silent';
  constructor(kind: LineError['kind'], message: string) {
    super(message);
    this.kind = kind;
  }
}

/** HP-GL error numbers of OE. Source: HP 7475A Interfacing and Programming Manual (1984), chapter 11. */
const complaints: Record<number, string> = {
  1: 'it does not know an instruction',
  2: 'an instruction had the wrong number of values',
  3: 'a value was out of range',
  5: 'it does not have that character set',
  6: 'a place lay outside what it can reach',
};
/** Status bits of OS, same source: 16 is "ready to receive data". */
const READY = 16;

/**
 * A raw TCP line to a cutter that speaks HP-GL and answers output instructions. One question at a time; every answer ends in a
 * carriage return.
 */
export class HpglLine {
  private heard = '';
  private waiting: { done: (answer: string) => void; failed: (error: Error) => void } | undefined;
  private broken: LineError | undefined;

  private constructor(private readonly socket: Socket) {
    socket.setEncoding('latin1');
    socket.on('data', (data: string) => {
      this.heard = (this.heard + data).slice(-4096);
      const end = this.heard.indexOf('\r');
      if (end < 0 || !this.waiting) return;
      const answer = this.heard.slice(0, end).trim();
      this.heard = this.heard.slice(end + 1);
      const { done } = this.waiting;
      this.waiting = undefined;
      done(answer);
    });
    const lost = () => {
      this.broken ??= new LineError('broken', 'The line to the cutter broke.');
      this.waiting?.failed(this.broken);
      this.waiting = undefined;
    };
    socket.on('error', lost);
    socket.on('close', lost);
  }

  /** @throws LineError 'offline' when nobody answers at the address */
  static open(host: string, port: number): Promise<HpglLine> {
    return new Promise((done, failed) => {
      const socket = connect({ host, port });
      const give = (message: string) => {
        socket.destroy();
        failed(new LineError('offline', message));
      };
      socket.setTimeout(lineDefaults.connectMs, () =>
        give('The cutter does not answer. Is it on, and is its cable in?'),
      );
      socket.once('error', () => give('The cutter cannot be reached. Is it on, and is its cable in?'));
      socket.once('connect', () => {
        socket.removeAllListeners('error');
        socket.setTimeout(0);
        socket.setNoDelay(true);
        done(new HpglLine(socket));
      });
    });
  }

  /** Sends text and waits for one answer. @throws LineError 'broken' or 'silent' */
  private ask(text: string, ms: number): Promise<string> {
    if (this.broken) return Promise.reject(this.broken);
    // What came unasked, or too late, is no answer to this.
    this.heard = '';
    return new Promise((done, failed) => {
      const timer = setTimeout(() => {
        this.waiting = undefined;
        failed(new LineError('silent', 'The cutter has stopped answering.'));
      }, ms);
      this.waiting = {
        done: (answer) => {
          clearTimeout(timer);
          done(answer);
        },
        failed: (error) => {
          clearTimeout(timer);
          failed(error);
        },
      };
      this.socket.write(text, 'latin1');
    });
  }

  /** Asks whether it takes work. @throws LineError 'busy' when it does not */
  async ready(): Promise<void> {
    const status = Number(await this.ask('OS;', lineDefaults.answerMs));
    if (!(status & READY))
      throw new LineError('busy', 'The cutter is busy with something else. Try again when it is done.');
    // Old complaints are not ours.
    await this.ask('OE;', lineDefaults.answerMs);
  }

  /**
   * Cuts and waits until the cutter says where its blade is: it answers OA only when everything before is done.
   * @param ms how long that may take, by what is cut
   * @returns what it complained of, or undefined
   */
  async cut(hpgl: string, ms = lineDefaults.cutMs): Promise<string | undefined> {
    await this.ask(`${hpgl}\nOA;`, ms);
    const code = Number(await this.ask('OE;', lineDefaults.answerMs));
    return code === 0 ? undefined : `The cutter complained: ${complaints[code] ?? `error ${code}`}.`;
  }

  close(): void {
    this.broken ??= new LineError('broken', 'closed');
    this.socket.end('PU0,0;SP0;');
    this.socket.destroySoon();
  }
}
