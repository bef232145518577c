import { createHash } from 'node:crypto';
import type { LoaderFunctionArgs } from 'react-router';
import { Invalid, NotFound, TooMany } from '#work/base/errors.ts';
import { countAsked } from '#work/people/limits.ts';
import { addressOf } from './enter.server.ts';

/** Anybody's page may read what everybody may see. */
const open = { 'Access-Control-Allow-Origin': '*', 'X-Content-Type-Options': 'nosniff' };

/** A problem as RFC 9457 has it. */
const problem = (status: number, title: string, detail: string, headers: Record<string, string> = {}) =>
  new Response(JSON.stringify({ type: 'about:blank', title, status, detail }), {
    status,
    headers: { ...open, ...headers, 'Content-Type': 'application/problem+json' },
  });

/**
 * Answers a question of a program: JSON with an ETag (RFC 9110, 8.8.3), the next page as a link (RFC 8288), what went wrong as a
 * problem. Counted by address.
 */
export async function apiAnswer(
  { request, context }: Pick<LoaderFunctionArgs, 'request' | 'context'>,
  work: () => Promise<object>,
): Promise<Response> {
  try {
    await countAsked('api', undefined, addressOf(context));
    const answer = await work();
    const body = JSON.stringify(answer);
    const tag = `"${createHash('sha256').update(body).digest('base64url').slice(0, 27)}"`;
    const next: Record<string, string> =
      'next' in answer && typeof answer.next === 'string' ? { Link: `<${answer.next}>; rel="next"` } : {};
    const headers = { ...open, ...next, ETag: tag, 'Cache-Control': 'public, max-age=60' };
    const known = (request.headers.get('if-none-match') ?? '').split(',').map((t) => t.trim().replace(/^W\//, ''));
    if (known.includes(tag) || known.includes('*')) return new Response(null, { status: 304, headers });
    return new Response(body, { headers: { ...headers, 'Content-Type': 'application/json' } });
  } catch (error) {
    if (error instanceof NotFound) return problem(404, 'Not found', error.message);
    if (error instanceof TooMany)
      return problem(429, 'Too often', error.message, { 'Retry-After': String(error.minutes * 60) });
    if (error instanceof Invalid) {
      const [field, message] = Object.entries(error.fields)[0]!;
      return problem(400, 'A parameter is wrong', `${field}: ${message}`);
    }
    throw error;
  }
}
