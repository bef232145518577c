import { readFileSync } from 'node:fs';
import http from 'node:http';

/** An answer as it came over the wire. */
export type Answer = { status: number; headers: http.IncomingHttpHeaders; body: string };

type Asked = {
  method?: string;
  headers?: Record<string, string | string[]>;
  /** Bytes to send; a function writes them itself, as slowly or as endlessly as it likes. */
  body?: string | Buffer | ((req: http.ClientRequest) => void);
  /** Milliseconds to wait for an answer. */
  patience?: number;
};

/**
 * Somebody with a browser of their own and no good manners: what they send is not tidied up on the way. Each has an address, as a proxy
 * would tell it, and keeps cookies.
 */
export class Stranger {
  private readonly agent = new http.Agent({ keepAlive: true, maxSockets: 100 });
  readonly cookies = new Map<string, string>();
  private readonly base: URL;
  readonly address: string;

  constructor(base: string, address = `198.51.100.${1 + (count++ % 250)}`) {
    this.base = new URL(base);
    this.address = address;
  }

  ask(path: string, { method = 'GET', headers = {}, body, patience = 180_000 }: Asked = {}): Promise<Answer> {
    return new Promise((done, failed) => {
      const req = http.request(
        {
          host: this.base.hostname,
          port: this.base.port,
          path,
          method,
          agent: this.agent,
          headers: {
            'X-Forwarded-For': this.address,
            ...(this.cookies.size > 0 ? { Cookie: [...this.cookies].map(([k, v]) => `${k}=${v}`).join('; ') } : {}),
            ...headers,
          },
        },
        (res) => {
          let text = '';
          res.setEncoding('utf8');
          res.on('data', (d: string) => (text += d));
          res.on('error', failed);
          res.on('end', () => {
            for (const line of res.headers['set-cookie'] ?? []) {
              const [name, value] = line.split(';')[0]!.split('=') as [string, string];
              if (value) this.cookies.set(name, value);
              else this.cookies.delete(name);
            }
            clearTimeout(late);
            done({ status: res.statusCode!, headers: res.headers, body: text });
          });
        },
      );
      const late = setTimeout(() => req.destroy(new Error(`no answer from ${path} in ${patience} ms`)), patience);
      req.on('error', (error) => {
        clearTimeout(late);
        failed(error);
      });
      if (typeof body === 'function') body(req);
      else req.end(body);
    });
  }

  get = (path: string, headers: Record<string, string> = {}) => this.ask(path, { headers });

  /** Sends a form as a browser does. */
  post(path: string, fields: Record<string, string> | string[][], headers: Record<string, string> = {}) {
    return this.ask(path, {
      method: 'POST',
      headers: {
        'Content-Type': 'application/x-www-form-urlencoded',
        Origin: this.base.origin,
        ...headers,
      },
      body: new URLSearchParams(fields).toString(),
    });
  }

  /** Sends a file with a form. */
  upload(path: string, fields: Record<string, string>, file: { name: string; bytes: Buffer }) {
    const mark = '----part';
    const parts = Object.entries(fields).map(
      ([k, v]) => `--${mark}\r\nContent-Disposition: form-data; name="${k}"\r\n\r\n${v}\r\n`,
    );
    const body = Buffer.concat([
      Buffer.from(parts.join('')),
      Buffer.from(
        `--${mark}\r\nContent-Disposition: form-data; name="file"; filename="${file.name}"\r\nContent-Type: text/plain\r\n\r\n`,
      ),
      file.bytes,
      Buffer.from(`\r\n--${mark}--\r\n`),
    ]);
    return this.ask(path, {
      method: 'POST',
      headers: { 'Content-Type': `multipart/form-data; boundary=${mark}`, Origin: this.base.origin },
      body,
    });
  }

  leave(): void {
    this.agent.destroy();
  }
}
let count = 0;

/** Memory a process holds, MB. */
export const memoryOf = (pid: number): number =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1024;

export const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

export const median = (list: number[]): number => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)]!;

/** Does something with each of a list, a few at a time. */
export async function fewAtATime<T>(list: readonly T[], work: (item: T) => Promise<unknown>, lanes = 4): Promise<void> {
  let next = 0;
  const lane = async () => {
    while (next < list.length) await work(list[next++]!);
  };
  await Promise.all(Array.from({ length: lanes }, lane));
}
