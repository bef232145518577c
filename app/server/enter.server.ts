import { randomBytes } from 'node:crypto';
import { data, redirect, type ActionFunctionArgs, type LoaderFunctionArgs } from 'react-router';
import { doOnce, type Done } from '#work/people/idempotency.ts';
import type { SignedIn } from '#work/people/accounts.ts';
import { whoAsks } from '#work/base/asking.ts';
import { BadValue, Invalid, NotFound, Unavailable } from '#work/base/errors.ts';
import { countRows } from '#work/people/limits.ts';
import { can, type Access } from '#work/people/permissions.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { personOfToken, SESSION_DAYS } from '#work/people/people.ts';
import type { Person } from '#work/people/person.ts';
import { computedFirst } from '#work/base/compute.ts';
import { Changed, needSeen } from '#work/base/seen.ts';
import { words } from '../messages/index.ts';
import { refusal } from './errorResponses.server.ts';
import { secureSite } from './site.server.ts';

const SESSION = 'versipel_session';
/** A device an account signed in on is known by a cookie of its own, which outlives the session. */
const DEVICE = 'versipel_device';
/** How long a browser keeps them, seconds. */
const KEPT = { [SESSION]: SESSION_DAYS * 86_400, [DEVICE]: 400 * 86_400 };
type Secret = keyof typeof KEPT;

type Args = Pick<LoaderFunctionArgs | ActionFunctionArgs, 'request' | 'context'>;

/** Over TLS a cookie bears the prefix that lets no other host and no plain connection set it (RFC 6265bis, 4.1.3.2). */
const cookieName = (secret: Secret) => (secureSite() ? `__Host-${secret}` : secret);

const secretIn = (request: Request, secret: Secret): string | undefined =>
  new RegExp(`(?:^|;\\s*)${cookieName(secret)}=([A-Za-z0-9_-]{20,100})(?:;|$)`).exec(
    request.headers.get('cookie') ?? '',
  )?.[1];
export const tokenOf = (request: Request): string | undefined => secretIn(request, SESSION);
export const deviceOf = (request: Request): string | undefined => secretIn(request, DEVICE);

const cookie = (secret: Secret, value: string, maxAge = KEPT[secret]): string =>
  `${cookieName(secret)}=${value}; Path=/; HttpOnly; SameSite=Lax; Max-Age=${maxAge}${secureSite() ? '; Secure' : ''}`;
/** Somebody signed in: the cookies of the session and of the device. */
export function welcome(headers: Headers, { token, device }: SignedIn): void {
  headers.append('Set-Cookie', cookie(SESSION, token));
  headers.append('Set-Cookie', cookie(DEVICE, device));
}
/** The session is over. */
export const farewell = (headers: Headers) => headers.append('Set-Cookie', cookie(SESSION, '', 0));

/** What all loaders of one answer ask is looked up once. */
function onceAnAnswer<T>(look: (args: Args) => Promise<T>): (args: Args) => Promise<T> {
  const known = new WeakMap<object, Promise<T>>();
  return (args) => {
    const key = args.context as object | undefined;
    const before = key && known.get(key);
    if (before) return before;
    const asked = look(args);
    if (key) known.set(key, asked);
    return asked;
  };
}

/** Who is here. */
export const visitor = onceAnAnswer(({ request }: Args): Promise<Person | undefined> =>
  personOfToken(tokenOf(request)).then((person) => {
    const who = whoAsks();
    if (who && person?.email) who.account = person.id;
    return person;
  }),
);
/** What is on their bench. For what is shown only: an act may change it. */
export const visitorsBench = onceAnAnswer(async (args: Args) => benchOf(await visitor(args)));

/** Where the request came from, as the server saw it; for limits only. */
export function addressOf(context: Args['context']): string {
  return String((context as { address?: string } | undefined)?.address ?? 'unknown');
}

/** The time zone the browser named, for a guest that is made. */
function zoneOf(request: Request): string | undefined {
  const said = /(?:^|;\s*)versipel_zone=([A-Za-z0-9_+%/-]{1,90})/.exec(request.headers.get('cookie') ?? '')?.[1];
  try {
    return said && decodeURIComponent(said);
  } catch {
    return undefined;
  }
}

/** A write must come from this very site: browsers say so in Origin or Sec-Fetch-Site. */
function refuseForeignWrites(request: Request): void {
  const origin = request.headers.get('origin');
  const site = request.headers.get('sec-fetch-site');
  const foreign = origin
    ? !URL.canParse(origin) || new URL(origin).origin !== new URL(request.url).origin
    : site !== null && site !== 'same-origin' && site !== 'none';
  if (foreign) throw new Response('This came from another site and was refused. Nothing was changed.', { status: 403 });
}

/** Opens the door of a route for reading: who is it, and may they. */
export async function enter(access: Access, args: Args): Promise<Person | undefined> {
  const person = await visitor(args);
  if (!access.read || !can(person, access.read)) throw new Response('Not here.', { status: 404 });
  return person;
}

/**
 * Opens the door of a route for writing. Nobody is made here: a stranger becomes a guest with their first valid act.
 * @throws Response 403 from another site, 404 for a route that takes no writes, 401 where somebody must be known
 */
export async function enterToWrite(access: Access, args: Args): Promise<Person | undefined> {
  refuseForeignWrites(args.request);
  const person = await visitor(args);
  if (!access.write || !can(person, access.write))
    throw new Response(person ? 'Not here.' : 'Nobody is signed in here.', { status: person ? 404 : 401 });
  return person;
}

/** The beginning of the keys of a page's forms. */
export const newKey = (): string => randomBytes(16).toString('base64url');

/** A form as it was sent. @throws Response 400 where it is none, or holds what is no text */
async function formOf(request: Request): Promise<FormData> {
  let form: FormData;
  try {
    form = await request.formData();
  } catch {
    throw new Response('The form cannot be read.', { status: 400 });
  }
  for (const [key, value] of form)
    if (!plainText(key) || (typeof value === 'string' && !plainText(value)))
      throw new Response('The form holds characters that are no text.', { status: 400 });
  return form;
}

/** PostgreSQL keeps no NUL, UTF-8 no half of a surrogate pair. */
const plainText = (text: string): boolean => !text.includes('\0') && text.isWellFormed();

export type FormAnswer = {
  fields: Record<string, string>;
  values: Record<string, string>;
  /** What was written meanwhile: the mark of what stands now, see `needSeen`. */
  changed?: string;
};

/** What was typed, to be shown again: all but passwords and what the form carries for itself. */
const kept = (form: FormData): Record<string, string> =>
  Object.fromEntries(
    [...form].flatMap(([k, v]) =>
      typeof v === 'string' && !/password/i.test(k) && k !== 'once' ? [[k, v] as const] : [],
    ),
  );

/** A refusal as an answer at the form: what is wrong at which field, and everything that was typed. Undefined for any other error. */
function atForm(error: unknown, form: FormData) {
  // What is not there, or is no text, is no matter of a field: it has a page of its own.
  if (error instanceof NotFound || error instanceof BadValue) return undefined;
  const refused = refusal(error);
  if (!refused) return undefined;
  const { status, headers } = refused;
  const message = error instanceof Unavailable ? words.errors.away.what : refused.message;
  const fields = error instanceof Invalid ? error.fields : { form: message };
  const changed = error instanceof Changed ? { changed: error.now } : {};
  return data<FormAnswer>({ fields, values: kept(form), ...changed }, { status, headers });
}

/** What an act is given: who acts, what the form says, and where cookies go. */
export type Act = {
  person: Person;
  form: FormData;
  address: string;
  /** Of the answer; `Set-Cookie` is appended to. */
  headers: Headers;
};
/** An act of somebody: it answers where to go on. */
type Whole = (act: Act) => Promise<string>;
/** An act that is no single change: it keeps its own transactions, makes no guest, and is not remembered. */
type Apart = { apart: (act: Omit<Act, 'person'> & { person: Person | undefined }) => Promise<string> };

/**
 * An act that writes over what its form was filled in from: who saw something older is told what stands now, and chooses.
 * @param shown what the loader makes the form's mark of, see `seenOf`
 */
export const over =
  (key: string, shown: (person: Person) => Promise<unknown>, act: Whole): Whole =>
  async (given) => {
    await needSeen(given.form, `${given.person.id} ${key}`, () => shown(given.person));
    return act(given);
  };

/** An act that minds its own transactions: signing in, what takes long, what is counted though it fails. */
export const apart = (act: Apart['apart']): Apart => ({ apart: act });

/**
 * The door of every form. `acts` names what the route can be asked for; anything else, or nothing, is 400 and changes nothing.
 *
 * An act is one transaction: all of it, or nothing. The same form with the same key is the same act: it is done once, and whoever sends it
 * again hears what the first answer was. A stranger becomes a guest in that very transaction. What is refused comes back to the form with
 * everything that was typed.
 */
export async function actions(access: Access, args: Args, acts: Record<string, Whole | Apart>) {
  const { request, context } = args;
  const person = await enterToWrite(access, args);
  await countRows(addressOf(context));
  const form = await formOf(request);
  const what = form.get('what');
  const act = typeof what === 'string' && Object.hasOwn(acts, what) ? acts[what] : undefined;
  if (!act) throw new Response(words.errors.unknown, { status: 400 });
  const verb = access.acts?.[what as string];
  if (verb && !can(person, verb)) throw new Response('Not here.', { status: 404 });
  const headers = new Headers();
  const given = { form, address: addressOf(context), headers };
  try {
    if (typeof act === 'object') return redirect(await act.apart({ ...given, person }), { headers });
    const done: Done = await computedFirst(() =>
      doOnce({ path: new URL(request.url).pathname, form, person, zone: zoneOf(request) }, (actor) =>
        act({ ...given, person: actor }),
      ),
    );
    if (done.token) headers.append('Set-Cookie', cookie(SESSION, done.token));
    return redirect(done.to, { headers });
  } catch (error) {
    const answer = atForm(error, form);
    if (answer) return answer;
    throw error;
  }
}
