import type { ServerBuild } from 'react-router';
import { whoAsks } from '#work/base/asking.ts';
import { BadValue, Busy, Invalid, NotFound, Stale, TooMany, Unavailable } from '#work/base/errors.ts';
import { Changed } from '#work/base/seen.ts';
import { log } from '#work/base/log.ts';

/** Seconds after which a database that was away, or a house that was full, is asked again. */
const AGAIN = 2;

/** What an error of work means to whoever asked. */
export type Refusal = { status: number; message: string; headers: Record<string, string> };

/**
 * The one reading of an error of work: the page and the form answer by it alike. Whoever asks is noted down to be told when to ask again.
 * @returns undefined for what is not known: that is our fault
 */
export function refusal(error: unknown): Refusal | undefined {
  if (error instanceof NotFound) return said(404, error.message);
  if (error instanceof TooMany) return said(429, error.message, error.minutes * 60);
  if (error instanceof Stale) return said(409, error.message);
  if (error instanceof Changed) return said(409, error.message);
  if (error instanceof Invalid) return said(400, error.message);
  if (error instanceof BadValue)
    return said(400, 'Part of the address or of what was sent is no text that can be kept.');
  if (error instanceof Busy) return said(503, error.message, AGAIN);
  if (error instanceof Unavailable) {
    log.warn({ event: 'database away', err: error.message }, 'the database does not answer');
    return said(503, 'The database does not answer. Nothing was changed.', AGAIN);
  }
  return undefined;
}

function said(status: number, message: string, seconds?: number): Refusal {
  if (seconds === undefined) return { status, message, headers: {} };
  const who = whoAsks();
  if (who) who.retryAfter = seconds;
  return { status, message, headers: { 'Retry-After': String(seconds) } };
}

type Handler = (args: never) => unknown;
const guarded = (handler: Handler): Handler =>
  async function guarded(args) {
    try {
      return await handler(args);
    } catch (error) {
      const refused = refusal(error);
      if (!refused) throw error;
      const { message, ...init } = refused;
      throw new Response(message, init);
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
