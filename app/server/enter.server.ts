import { data, redirect, type ActionFunctionArgs, type LoaderFunctionArgs } from 'react-router';
import { Invalid, NotFound, TooMany } from '#work/errors.ts';
import { can, routeRules, type RouteId } from '#work/permissions.ts';
import { becomeGuest, personOfToken, type Person } from '#work/people.ts';

const COOKIE = 'versipel_session';
const YEAR = 60 * 60 * 24 * 400;

type Args = Pick<LoaderFunctionArgs | ActionFunctionArgs, 'request' | 'context'>;

export function tokenOf(request: Request): string | undefined {
  const match = new RegExp(`(?:^|;\\s*)${COOKIE}=([A-Za-z0-9_-]{20,100})`).exec(request.headers.get('cookie') ?? '');
  return match?.[1];
}

function cookie(request: Request, value: string, maxAge: number): string {
  const secure = new URL(request.url).protocol === 'https:' ? '; Secure' : '';
  return `${COOKIE}=${value}; Path=/; HttpOnly; SameSite=Lax; Max-Age=${maxAge}${secure}`;
}
export const sessionCookie = (request: Request, token: string) => cookie(request, token, YEAR);
export const noCookie = (request: Request) => cookie(request, '', 0);

const people = new WeakMap<object, Promise<Person | undefined>>();
/** Who is here: asked once for all loaders of one answer. */
export function personHere({ request, context }: Args): Promise<Person | undefined> {
  const key = context as object | undefined;
  const known = key && people.get(key);
  if (known) return known;
  const asked = personOfToken(tokenOf(request));
  if (key) people.set(key, asked);
  return asked;
}

/** Where the request came from, as the server saw it; for limits only. */
export function addressOf(context: Args['context']): string {
  return String((context as { address?: string } | undefined)?.address ?? 'unknown');
}

/** A write must come from this very site: browsers say so in Origin or Sec-Fetch-Site. */
function refuseForeignWrites(request: Request): void {
  const origin = request.headers.get('origin');
  const site = request.headers.get('sec-fetch-site');
  const host = request.headers.get('host');
  const foreign = origin
    ? !URL.canParse(origin) || new URL(origin).host !== host
    : site !== null && site !== 'same-origin' && site !== 'none';
  if (foreign) throw new Response('This came from another site and was refused. Nothing was changed.', { status: 403 });
}

/** Opens the door of a route for reading: who is it, and may they. */
export async function enter(route: RouteId, args: Args): Promise<Person | undefined> {
  const rule = routeRules[route];
  const person = await personHere(args);
  if (!('read' in rule) || !can(person, rule.read)) throw new Response('Not here.', { status: 404 });
  return person;
}

/** Opens the door of a route for writing. A stranger becomes a guest, whose cookie goes out with the answer. */
export async function enterToWrite(
  route: RouteId,
  { request }: Args,
): Promise<{ person: Person; headers: Record<string, string> }> {
  const rule = routeRules[route];
  refuseForeignWrites(request);
  const person = await personOfToken(tokenOf(request));
  if (!('write' in rule) || !can(person, rule.write))
    throw new Response(person ? 'Not here.' : 'Nobody is signed in here.', { status: person ? 404 : 401 });
  if (person) return { person, headers: {} };
  const zone = /(?:^|;\s*)versipel_zone=([A-Za-z0-9_+%/-]{1,90})/.exec(request.headers.get('cookie') ?? '')?.[1];
  const guest = await becomeGuest(zone && decodeURIComponent(zone));
  return { person: guest.person, headers: { 'Set-Cookie': sessionCookie(request, guest.token) } };
}

/** As enterToWrite, for writes that make no guest: signing in and out. Answers who was here before. */
export async function enterUnknown(route: RouteId, { request }: Args): Promise<Person | undefined> {
  const rule = routeRules[route];
  refuseForeignWrites(request);
  if (!('write' in rule) || !can(undefined, rule.write)) throw new Response('Not here.', { status: 404 });
  return personOfToken(tokenOf(request));
}

/** Turns what work says into an answer: not found is a 404 page, too often a 429 page. */
export async function found<T>(work: Promise<T> | (() => Promise<T>)): Promise<T> {
  try {
    return await (typeof work === 'function' ? work() : work);
  } catch (error) {
    if (error instanceof NotFound) throw new Response(error.message, { status: 404 });
    if (error instanceof TooMany)
      throw new Response(error.message, {
        status: 429,
        headers: { 'Retry-After': String(error.minutes * 60) },
      });
    throw error;
  }
}

export type FormAnswer = { fields: Record<string, string>; values: Record<string, string> };

/**
 * Runs a write that comes from a form. Goes on to `to` when it worked; otherwise answers 400 with one message a field and
 * everything that was typed (passwords apart), so that nothing has to be typed again.
 */
export async function writeForm(form: FormData, headers: Record<string, string>, work: () => Promise<string>) {
  const kept = () =>
    Object.fromEntries(
      [...form].flatMap(([k, v]) => (typeof v === 'string' && k !== 'password' ? [[k, v] as const] : [])),
    );
  try {
    return redirect(await work(), { headers });
  } catch (error) {
    if (error instanceof Invalid)
      return data<FormAnswer>({ fields: error.fields, values: kept() }, { status: 400, headers });
    if (error instanceof TooMany)
      return data<FormAnswer>(
        { fields: { form: error.message }, values: kept() },
        { status: 429, headers: { ...headers, 'Retry-After': String(error.minutes * 60) } },
      );
    if (error instanceof NotFound) throw new Response(error.message, { status: 404 });
    throw error;
  }
}
