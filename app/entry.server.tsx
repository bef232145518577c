import { randomBytes } from 'node:crypto';
import { Writable } from 'node:stream';
import { setTimeout as pause } from 'node:timers/promises';
import createCache from '@emotion/cache';
import { CacheProvider } from '@emotion/react';
import createEmotionServer from '@emotion/server/create-instance';
import { renderToPipeableStream } from 'react-dom/server';
import { ServerRouter, type EntryContext } from 'react-router';
import { log } from '#work/base/log.ts';
import { NonceContext } from './ui/base/nonce.ts';

/** No inline script without this answer's nonce; nothing from anywhere else. Style attributes are drawn by React and the charts. */
const policy = (nonce: string) =>
  [
    `default-src 'self'`,
    `script-src 'self' 'nonce-${nonce}'`,
    `style-src 'self' 'nonce-${nonce}'`,
    `style-src-attr 'unsafe-inline'`,
    `img-src 'self' data: blob:`,
    `font-src 'self'`,
    `connect-src 'self'`,
    `worker-src 'self' blob:`,
    `object-src 'none'`,
    `base-uri 'none'`,
    `form-action 'self'`,
    `frame-ancestors 'none'`,
  ].join('; ');

let drawing: Promise<unknown> = Promise.resolve();

/**
 * Pages are drawn one after the other, and between two of them the process looks at its sockets: eight pages that become ready together would
 * otherwise be drawn in one go, and everybody else would wait for all eight. A page that does not end lets the next one begin after a second.
 */
function drawInTurn<T>(draw: () => Promise<T>): Promise<T> {
  const drawn = drawing.then(draw);
  const over = drawn.then(
    () => undefined,
    () => undefined,
  );
  // A timer, not setImmediate: timers are looked at after the sockets have been.
  drawing = Promise.race([over, pause(1_000, undefined, { ref: false })]).then(() => pause(0));
  return drawn;
}

export default function handleRequest(request: Request, status: number, headers: Headers, context: EntryContext) {
  return drawInTurn(() => page(request, status, headers, context));
}

// One Emotion cache an answer: its styles are collected and put into the head.
function page(request: Request, status: number, headers: Headers, context: EntryContext) {
  const nonce = randomBytes(16).toString('base64');
  const cache = createCache({ key: 'vp', nonce });
  const { extractCriticalToChunks } = createEmotionServer(cache);
  headers.set('Content-Type', 'text/html; charset=utf-8');
  headers.set('Content-Security-Policy', policy(nonce));
  // Pages show a person's own work: no shared cache may keep them.
  if (!headers.has('Cache-Control')) headers.set('Cache-Control', 'private, no-cache');

  return new Promise<Response>((resolve, reject) => {
    let failed = false;
    const { pipe, abort } = renderToPipeableStream(
      <NonceContext.Provider value={nonce}>
        <CacheProvider value={cache}>
          <ServerRouter context={context} url={request.url} nonce={nonce} />
        </CacheProvider>
      </NonceContext.Provider>,
      {
        nonce,
        onAllReady() {
          const chunks: Buffer[] = [];
          const collect = new Writable({
            highWaterMark: 16_000_000,
            write(chunk: Buffer, _, done) {
              chunks.push(chunk);
              done();
            },
            final(done) {
              const html = Buffer.concat(chunks).toString('utf8');
              const styles = extractCriticalToChunks(html)
                .styles.map(
                  (s) => `<style data-emotion="${s.key} ${s.ids.join(' ')}" nonce="${nonce}">${s.css}</style>`,
                )
                .join('');
              resolve(
                new Response(
                  html.replace('</head>', () => `${styles}</head>`),
                  {
                    status: failed ? 500 : status,
                    headers,
                  },
                ),
              );
              done();
            },
          });
          pipe(collect);
        },
        onShellError: reject,
        onError(error) {
          failed = true;
          log.error({ event: 'broken', err: error }, 'a page broke while it was rendered');
        },
      },
    );
    setTimeout(abort, 15_000).unref();
  });
}

/** What breaks on our side is logged; what was refused, and browsers that went away, are no faults. */
export function handleError(error: unknown, { request }: { request: Request }) {
  if (request.signal.aborted || error instanceof Response) return;
  log.error({ event: 'broken', path: new URL(request.url).pathname, err: error }, 'a page broke');
}

/** What the launcher asks of the built application. */
export { front } from './server/requestGuard.server.ts';
export { readSettings } from './server/site.server.ts';
