import { lookup } from 'node:dns';
import http from 'node:http';
import https from 'node:https';
import type { LookupFunction } from 'node:net';
import ipaddr from 'ipaddr.js';

/** How far another server is trusted with this one's time and memory. */
export const outsideLimits = {
  bytes: 20_000_000,
  /** For one answer from first to last byte, ms; and without a byte. */
  wholeMs: 60_000,
  idleMs: 10_000,
  redirects: 3,
};

/** What another server did, in words for whoever follows it. */
export class OutsideError extends Error {
  /** Seconds after which it asked to be asked again. */
  readonly retryAfter: number | undefined;
  constructor(message: string, retryAfter?: number) {
    super(message);
    this.retryAfter = retryAfter;
  }
}

/** Hosts, with port, that may be asked although they are not public: VERSIPEL_ALLOW_HOSTS, "10.0.0.7:4780,shelf.local:80". */
const allowed = (host: string, port: string): boolean =>
  (process.env.VERSIPEL_ALLOW_HOSTS ?? '')
    .split(',')
    .map((h) => h.trim().toLowerCase())
    .includes(`${host.toLowerCase()}:${port}`);

const GLOBAL_V6 = ipaddr.IPv6.parse('2000::');
/**
 * Whether an address is one on the open internet: not this machine, not the house it stands in, not a range kept for something else (IANA
 * special-purpose registries, RFC 6890, as ipaddr.js knows them).
 */
export function isPublic(address: string): boolean {
  if (!ipaddr.isValid(address)) return false;
  const parsed = ipaddr.process(address);
  // Of IPv6, global unicast is what IANA has given out: 2000::/3 (RFC 4291, 2.4).
  if (parsed.kind() === 'ipv6' && !(parsed as ipaddr.IPv6).match(GLOBAL_V6, 3)) return false;
  return parsed.range() === 'unicast';
}

/** Checks an address before anybody asks there. @throws OutsideError that says what is wrong with it */
export function checkAddress(address: string): URL {
  if (!URL.canParse(address)) throw new OutsideError('that is not an address');
  const url = new URL(address);
  if (url.protocol !== 'http:' && url.protocol !== 'https:')
    throw new OutsideError(`an address begins with http:// or https://, not with ${url.protocol}`);
  if (url.username || url.password) throw new OutsideError('an address with a name or password in it is not asked');
  const host = hostOf(url);
  if (isLiteral(host) && !isPublic(host) && !allowed(host, portOf(url))) throw new OutsideError(notPublic(host));
  return url;
}
const hostOf = (url: URL) => url.hostname.replace(/^\[|\]$/g, '');
const portOf = (url: URL) => url.port || (url.protocol === 'https:' ? '443' : '80');
const isLiteral = (host: string) => ipaddr.isValid(host);
const notPublic = (host: string) =>
  `${host} is not on the open internet; whoever runs this server can allow it with VERSIPEL_ALLOW_HOSTS`;

/** Resolves a name and refuses it where it leads into the house: asked at the very connection, so that no second answer slips through. */
const guardedLookup =
  (mayBePrivate: boolean): LookupFunction =>
  (hostname, options, callback) =>
    lookup(hostname, { ...options, all: true }, (error, found) => {
      if (error) return callback(error, '', 0);
      const bad = mayBePrivate ? undefined : found.find((a) => !isPublic(a.address));
      if (bad || found.length === 0) return callback(new OutsideError(notPublic(hostname)), '', 0);
      if (options.all) return (callback as unknown as (e: null, a: typeof found) => void)(null, found);
      callback(null, found[0]!.address, found[0]!.family);
    });

type OutsideAnswer = {
  status: number;
  etag: string | undefined;
  link: string | undefined;
  body: Buffer;
};

/**
 * Asks another server for something, with limits on size and time. Follows a few redirects, each looked at like the first address.
 *
 * @throws OutsideError in words
 */
export async function askOutside(
  address: string,
  headers: Record<string, string>,
  redirects = outsideLimits.redirects,
): Promise<OutsideAnswer> {
  const url = checkAddress(address);
  const answer = await request(url, headers);
  if ([301, 302, 303, 307, 308].includes(answer.status)) {
    if (redirects <= 0) throw new OutsideError('it sends from one address to the next without end');
    const to = answer.location && URL.canParse(answer.location, url) ? new URL(answer.location, url) : undefined;
    if (!to) throw new OutsideError('it sends to another address and does not say which');
    if (url.protocol === 'https:' && to.protocol !== 'https:')
      throw new OutsideError('it sends from a safe address to an unsafe one');
    return askOutside(to.href, headers, redirects - 1);
  }
  if (answer.status === 200 || answer.status === 304) return answer;
  throw new OutsideError(`it answered ${answer.status}`, answer.retryAfter);
}

type Raw = OutsideAnswer & { location: string | undefined; retryAfter: number | undefined };

function request(url: URL, headers: Record<string, string>): Promise<Raw> {
  const { bytes, wholeMs, idleMs } = outsideLimits;
  return new Promise((resolve, reject) => {
    const fail = (error: Error) => {
      clearTimeout(whole);
      asked.destroy();
      reject(error instanceof OutsideError ? error : new OutsideError(inWords(error)));
    };
    const asked = (url.protocol === 'https:' ? https : http).get(
      url,
      {
        headers: { ...headers, 'Accept-Encoding': 'identity', 'User-Agent': 'Versipel' },
        lookup: guardedLookup(allowed(hostOf(url), portOf(url))),
        agent: false,
        timeout: idleMs,
        maxHeaderSize: 16_384,
      },
      (answer) => {
        const size = Number(answer.headers['content-length'] ?? 0);
        const tooMuch = () => new OutsideError(`its answer is larger than ${bytes / 1e6} MB`);
        if (size > bytes) return fail(tooMuch());
        const parts: Buffer[] = [];
        let got = 0;
        answer.on('data', (part: Buffer) => {
          got += part.length;
          if (got > bytes) return fail(tooMuch());
          parts.push(part);
        });
        answer.on('error', fail);
        answer.on('aborted', () => fail(new OutsideError('its answer broke off in the middle')));
        answer.on('end', () => {
          if (!answer.complete) return fail(new OutsideError('its answer broke off in the middle'));
          clearTimeout(whole);
          resolve({
            status: answer.statusCode ?? 0,
            etag: answer.headers.etag?.slice(0, 300),
            link: String(answer.headers.link ?? '') || undefined,
            location: answer.headers.location,
            retryAfter: retryAfter(answer.headers['retry-after']),
            body: Buffer.concat(parts),
          });
        });
      },
    );
    const whole = setTimeout(() => fail(new OutsideError(`it took longer than ${wholeMs / 1000} s`)), wholeMs);
    asked.on('timeout', () => fail(new OutsideError(`nothing came for ${idleMs / 1000} s`)));
    asked.on('error', fail);
  });
}

/** Seconds of a Retry-After, which says them or a moment (RFC 9110, 10.2.3). */
function retryAfter(said: string | undefined): number | undefined {
  const wait = /^\d+$/.test(said ?? '') ? Number(said) : (Date.parse(said ?? '') - Date.now()) / 1000;
  return wait > 0 ? wait : undefined;
}

function inWords(error: Error & { code?: string }): string {
  switch (error.code) {
    case 'ECONNREFUSED':
      return 'nobody answers there';
    case 'ENOTFOUND':
    case 'EAI_AGAIN':
      return 'there is no such server';
    case 'ECONNRESET':
    case 'EPIPE':
      return 'its answer broke off in the middle';
    default:
      return error.message.slice(0, 200);
  }
}
