import type { IncomingMessage, ServerResponse } from 'node:http';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createRequestHandler, type ServerBuild } from 'react-router';
import { packLimits } from '#core/pack/index.ts';
import { askedBy, type Asking } from '#work/base/asking.ts';
import { artworkLimits } from '#core/artwork/index.ts';
import { tableLimits } from '#core/tables/index.ts';
import { TooMany } from '#work/base/errors.ts';
import { countBytes, countDrawingAtDoor, countUpload, countWrite } from '#work/people/limits.ts';
import { isNearlyFull } from '#work/base/health.ts';
import { log } from '#work/base/log.ts';
import { quotas } from '#work/base/quotas.ts';
import { openDoors } from './errorResponses.server.ts';
import { addressIn, checkSettings, hostIn, isOurs, isSecure, site } from './site.server.ts';

/** A request that is refused before anything looks into it. */
class Refused extends Error {
  readonly status: number;
  readonly headers: Record<string, string>;
  constructor(status: number, message: string, headers: Record<string, string> = {}) {
    super(message);
    this.status = status;
    this.headers = headers;
  }
}

/** Routes that take more than a form: how many bytes, and whether somebody has to be signed in before one is read. */
const uploads: Record<string, { bytes: number }> = {
  '/packs': { bytes: packLimits.bytes + quotas.body.frame },
  '/vinyls/import': { bytes: tableLimits.bytes + quotas.body.frame },
  '/check': { bytes: artworkLimits.bytes + quotas.body.frame },
  '/jobs/names': { bytes: artworkLimits.bytes + quotas.body.frame },
  '/jobs/art': { bytes: artworkLimits.bytes + quotas.body.frame },
};
const EVENTS = '/api/events';
/** Where drawings are sent: what reading one costs is paid by threads, what sending one costs is paid here. */
const DRAWINGS = new Set(['/check', '/jobs/names', '/jobs/art']);

/** The path of a page, whether the page itself is asked for or its data: "/packs.data" is "/packs". */
const pagePath = (path: string): string => path.replace(/\.data$/, '').replace(/^\/_root$/, '/');

/** The most bytes that a body sent to a path may have. */
export function roomFor(path: string): { bytes: number; seconds: number; upload: boolean } {
  const page = pagePath(path);
  const upload = Object.hasOwn(uploads, page) ? uploads[page] : undefined;
  if (upload) return { bytes: upload.bytes, seconds: quotas.bodySeconds.upload, upload: true };
  return {
    bytes: page === EVENTS ? quotas.body.events : quotas.body.form,
    seconds: quotas.bodySeconds.form,
    upload: false,
  };
}

/** Reads percent-escapes as UTF-8 (RFC 3986, 2.5). @throws Refused for a broken escape, bytes that are no UTF-8, or a NUL */
function decoded(text: string, what: string): string {
  let plain: string;
  try {
    plain = decodeURIComponent(text);
  } catch {
    throw new Refused(400, `The ${what} cannot be read: it has a broken escape or bytes that are no UTF-8.`);
  }
  if (plain.includes('\0')) throw new Refused(400, `The ${what} holds a character with the number 0.`);
  return plain;
}

/** Checks the address that is asked for. @throws Refused */
function checkUrl(raw: string): { path: string; query: string } {
  if (raw.length > quotas.url.length) throw new Refused(414, 'That address is too long.');
  if (!raw.startsWith('/')) throw new Refused(400, 'That is no address of this site.');
  const cut = raw.indexOf('?');
  const path = cut < 0 ? raw : raw.slice(0, cut);
  const query = cut < 0 ? '' : raw.slice(cut + 1);
  decoded(path, 'address');
  checkFields(query, quotas.url.fields, 'address');
  return { path, query };
}

/** Checks what a form or a query holds. @throws Refused for too many fields or what is no text */
function checkFields(text: string, most: number, what: string): void {
  let n = 1;
  for (let at = text.indexOf('&'); at >= 0; at = text.indexOf('&', at + 1))
    if (++n > most) throw new Refused(413, `The ${what} has more than ${most} fields.`);
  decoded(text.replaceAll('+', ' '), what);
}

let reading = 0;

/**
 * Reads a body, counting bytes as they come: neither what the request says of its length nor how slowly it arrives is trusted.
 * @throws Refused 413, 408, 503
 */
async function readBody(req: IncomingMessage, room: ReturnType<typeof roomFor>, address: string): Promise<Buffer> {
  const said = Number(req.headers['content-length'] ?? 0);
  const tooLarge = () =>
    new Refused(413, `That is more than fits: at most ${room.bytes} bytes.`, { 'X-At-Most': String(room.bytes) });
  if (!(said <= room.bytes)) throw tooLarge();
  const chunks: Buffer[] = [];
  let bytes = 0;
  let held = 0;
  let late: NodeJS.Timeout | undefined;
  try {
    await new Promise<void>((done, failed) => {
      late = setTimeout(
        () => failed(new Refused(408, `What was sent did not arrive within ${room.seconds} seconds.`)),
        room.seconds * 1000,
      );
      req.on('data', (chunk: Buffer) => {
        bytes += chunk.length;
        if (bytes > room.bytes) return failed(tooLarge());
        if (reading + chunk.length > quotas.body.together)
          return failed(
            new Refused(503, 'Much is being brought in just now. Try again in a moment.', { 'Retry-After': '5' }),
          );
        reading += chunk.length;
        held += chunk.length;
        chunks.push(chunk);
      });
      req.once('end', done);
      req.once('error', () => failed(new Refused(400, 'The request broke off.')));
      req.once('close', () => failed(new Refused(400, 'The request broke off.')));
    });
  } finally {
    clearTimeout(late);
    req.removeAllListeners('data');
    reading -= held;
  }
  await countBytes(address, bytes);
  if (room.upload) await countUpload(address, bytes);
  return Buffer.concat(chunks, bytes);
}

/** Checks a body before it is parsed. @throws Refused */
function checkBody(body: Buffer, type: string): void {
  const kind = type.split(';')[0]!.trim().toLowerCase();
  if (kind === 'application/x-www-form-urlencoded') {
    checkFields(body.toString('latin1'), quotas.body.fields, 'form');
    return;
  }
  if (kind === 'multipart/form-data') {
    const boundary = /boundary=(?:"([^"]{1,70})"|([^\s;]{1,70}))/i.exec(type);
    if (!boundary) throw new Refused(400, 'The form does not say where its parts end.');
    const mark = Buffer.from(`--${boundary[1] ?? boundary[2]}`);
    let n = 0;
    for (let at = body.indexOf(mark); at >= 0; at = body.indexOf(mark, at + mark.length))
      if (++n > quotas.body.fields + 1) throw new Refused(413, `The form has more than ${quotas.body.fields} parts.`);
    return;
  }
  if (kind !== 'application/json' && kind !== 'text/plain' && body.length > 0)
    throw new Refused(415, 'That kind of content is not taken here.');
}

const METHODS = new Set(['GET', 'HEAD', 'POST']);
const SITE_HEADERS = {
  'X-Content-Type-Options': 'nosniff',
  'Referrer-Policy': 'same-origin',
  // What a page of a workshop needs of a device: the screen stays on while hands are busy, a cutter on a serial line.
  'Permissions-Policy':
    'screen-wake-lock=(self), serial=(self), camera=(), microphone=(), geolocation=(), payment=(), usb=()',
  'Cross-Origin-Opener-Policy': 'same-origin',
};

/** A sentence for whoever gets no page. */
function plain(res: ServerResponse, status: number, message: string, headers: Record<string, string> = {}): void {
  if (res.headersSent) return void res.destroy();
  for (const [k, v] of Object.entries({ ...SITE_HEADERS, ...headers })) res.setHeader(k, v);
  res.statusCode = status;
  res.setHeader('Content-Type', 'text/plain; charset=utf-8');
  res.setHeader('Cache-Control', 'no-store');
  res.end(`${message}\n`);
}

/**
 * The one way into the application. Before anything is parsed it counts and checks what came; afterwards it says what no answer may
 * leave out. No request, whatever it holds, ends the process or holds more than its share of memory.
 */
export function front(build: ServerBuild): (req: IncomingMessage, res: ServerResponse) => void {
  checkSettings();
  const handle = createRequestHandler(openDoors(build), 'production');

  const answer = async (req: IncomingMessage, res: ServerResponse): Promise<void> => {
    const address = addressIn(req);
    const who: Asking = { address, agent: String(req.headers['user-agent'] ?? '').slice(0, 300) };
    const method = req.method ?? 'GET';
    if (!METHODS.has(method)) throw new Refused(405, 'Only GET and POST are taken here.', { Allow: 'GET, HEAD, POST' });
    const { path } = checkUrl(req.url ?? '/');
    const page = pagePath(path);
    const host = hostIn(req);
    if (host === undefined) throw new Refused(400, 'The request names no site.');
    if (!isOurs(req))
      throw new Refused(421, 'That site is not here. Whoever runs this server names its hosts in VERSIPEL_HOSTS.');
    let body: Buffer | undefined;
    if (method === 'POST') {
      await countWrite(address);
      if (page !== EVENTS && (await isNearlyFull()))
        throw new Refused(
          507,
          'This server is nearly full. What you tap at the bench is still kept; everything else waits until there is room.',
          { 'Retry-After': '600' },
        );
      if (DRAWINGS.has(page)) await countDrawingAtDoor(address);
      body = await readBody(req, roomFor(path), address);
      checkBody(body, req.headers['content-type'] ?? '');
    }
    const headers = new Headers();
    for (const [name, value] of Object.entries(req.headers))
      if (!name.startsWith(':') && value !== undefined && name !== 'transfer-encoding')
        for (const v of Array.isArray(value) ? value : [value]) headers.append(name, v);
    const gone = new AbortController();
    res.once('close', () => gone.abort());
    who.gone = gone.signal;
    const request = new Request(new URL(`${site(req).scheme}://${host}${req.url!.replace(/^\/+/, '/')}`), {
      method,
      headers,
      signal: gone.signal,
      ...(body && body.length > 0 ? { body: new Uint8Array(body) } : {}),
    });
    const response = await askedBy(who, () => handle(request, { address }));
    if (res.destroyed) return;
    res.statusCode = response.status;
    for (const [name, value] of response.headers) if (name !== 'set-cookie') res.setHeader(name, value);
    const cookies = response.headers.getSetCookie();
    if (cookies.length > 0) res.setHeader('Set-Cookie', cookies);
    for (const [name, value] of Object.entries(SITE_HEADERS)) if (!res.hasHeader(name)) res.setHeader(name, value);
    if (isSecure(req)) res.setHeader('Strict-Transport-Security', 'max-age=31536000');
    // Data of a page is that person's own: nothing keeps it. Pages themselves say `no-cache` where they are rendered.
    if (path.endsWith('.data') || (!res.hasHeader('Cache-Control') && page !== '/health'))
      res.setHeader('Cache-Control', 'private, no-store');
    if ((response.status === 429 || response.status === 503) && !res.hasHeader('Retry-After'))
      res.setHeader('Retry-After', String(who.retryAfter ?? (response.status === 429 ? 60 : 2)));
    if (!response.body || method === 'HEAD') return void res.end();
    await pipeline(Readable.fromWeb(response.body as never), res);
  };

  return (req, res) => {
    answer(req, res).catch((error: unknown) => {
      if (error instanceof Refused || error instanceof TooMany) {
        const [status, headers] =
          error instanceof Refused
            ? [error.status, error.headers]
            : [429, { 'Retry-After': String(error.minutes * 60) }];
        // What is still coming is not read: the connection ends with the answer.
        const unread = !req.complete;
        if (unread) res.shouldKeepAlive = false;
        log.info({ event: 'refused', status, path: (req.url ?? '').split('?')[0]!.slice(0, 80) }, error.message);
        plain(res, status, error.message, headers);
        if (unread) res.once('finish', () => setTimeout(() => req.destroy(), 200).unref());
        return;
      }
      // A browser that went away is no fault.
      if (res.destroyed || (error as { code?: string }).code === 'ERR_STREAM_PREMATURE_CLOSE') return;
      log.error({ event: 'broken', err: error }, 'a request broke');
      plain(res, 500, 'Something broke here. Nothing was lost.');
    });
  };
}
