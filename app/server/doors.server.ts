import type { ServerBuild } from 'react-router';
import { whoAsks } from '#work/asking.ts';
import { BadValue, Busy, Invalid, NotFound, Stale, TooMany, Unavailable } from '#work/errors.ts';
import { log } from '#work/log.ts';

const said = (status: number, message: string, seconds?: number): Response => {
  const who = whoAsks();
  if (who && seconds !== undefined) who.retryAfter = seconds;
  return new Response(message, {
    status,
    headers: seconds === undefined ? {} : { 'Retry-After': String(seconds) },
  });
};

/** Seconds after which a database that was away is asked again. */
const AGAIN = 2;

/**
 * What an error of work means to whoever asked. Whatever is not known is our fault and stays one.
 * @returns the answer to throw, or the error itself
 */
export function answerTo(error: unknown): unknown {
  if (error instanceof NotFound) return said(404, error.message);
  if (error instanceof TooMany) return said(429, error.message, error.minutes * 60);
  if (error instanceof Stale) return said(409, error.message);
  if (error instanceof Invalid) return said(400, error.message);
  if (error instanceof BadValue)
    return said(400, 'Part of the address or of what was sent is no text that can be kept.');
  if (error instanceof Busy) return said(503, error.message, AGAIN);
  if (error instanceof Unavailable) {
    log.warn({ event: 'database away', err: error.message }, 'the database does not answer');
    return said(503, 'The database does not answer. Nothing was changed.', AGAIN);
  }
  return error;
}

type Handler = (args: never) => unknown;
const guarded = (handler: Handler): Handler =>
  async function guarded(args) {
    try {
      return await handler(args);
    } catch (error) {
      throw answerTo(error);
    }
  };

/** The application with one rule for all its routes: what work refuses becomes an answer of its own, at one place. */
export function openDoors(build: ServerBuild): ServerBuild {
  const routes = Object.fromEntries(
    Object.entries(build.routes).map(([id, route]) => {
      const { loader, action } = route!.module as { loader?: Handler; action?: Handler };
      const module = {
        ...route!.module,
        ...(loader ? { loader: guarded(loader) } : {}),
        ...(action ? { action: guarded(action) } : {}),
      };
      return [id, { ...route!, module }];
    }),
  );
  return { ...build, routes } as ServerBuild;
}
