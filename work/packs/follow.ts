import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { PACK_MEDIA_TYPE, PackError } from '#core/pack/index.ts';
import { alreadyThere, db, transaction } from '#store/base/db.ts';
import * as store from '#store/packs/packs.ts';
import { cardsChanged } from '#work/shelf/shared.ts';
import { packOnThread } from '#work/base/compute.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import { askOutside, checkAddress, OutsideError } from './outside.ts';
import { bringIn } from './bringIn.ts';
import { FOREIGN_WEIGHT } from './compare.ts';
import type { Person } from '#work/people/person.ts';
import { can } from '#work/people/permissions.ts';
import { ask } from '#work/base/queue.ts';
import { isId } from '#work/people/owned.ts';

/** How often a shelf is asked, and how long it is left alone after it failed: twice as long each time, up to a day. Minutes. */
const followDefaults = { every: 60, afterFailure: 5, longest: 1440, pages: 50 };

const followForm = z.object({
  address: z.string().trim().min(1, 'Say which shelf to follow.').max(500, 'An address can have 500 characters.'),
});

/**
 * The address of a shelf from what somebody typed: the site alone, its shelf, one of its feeds, or a pack.
 * @throws OutsideError
 */
export function shelfAddress(typed: string): string {
  const url = checkAddress(/^[a-z][a-z0-9+.-]*:/i.test(typed) ? typed : `https://${typed}`);
  const q = url.searchParams.get('q');
  const search = q ? `?${new URLSearchParams({ q })}` : '';
  const vinyl = /^\/feed\/vinyls\/([0-9a-f-]{36})$/.exec(url.pathname)?.[1];
  if (vinyl) return `${url.origin}/packs/shelf?vinyl=${vinyl}`;
  if (['/', '/shelf', '/feed'].includes(url.pathname)) return `${url.origin}/packs/shelf${search}`;
  url.hash = '';
  return url.href;
}

const needSteward = (person: Person) => {
  if (!can(person, 'moderate')) throw new NotFound('Not here.');
};

/** Follows the shelf of another server from now on. */
export async function follow(person: Person, form: FormData): Promise<void> {
  needSteward(person);
  const input = read(followForm, form);
  let address: string;
  try {
    address = shelfAddress(input.address);
  } catch (error) {
    if (error instanceof OutsideError) throw new Invalid({ address: `Not followed: ${error.message}.` });
    throw error;
  }
  const id = uuidv7();
  try {
    await transaction(async (q) => {
      await store.insertSource(q, {
        id,
        kind: 'feed',
        broughtBy: person.id,
        vouched: true,
        weight: FOREIGN_WEIGHT,
        state: 'done',
      });
      await store.insertSubscription(q, id, address);
    });
  } catch (error) {
    if (alreadyThere(error)) throw new Invalid({ address: 'This shelf is followed already.' });
    throw error;
  }
  await soon();
}

const soon = async () => {
  // Without a queue, as in tests, it is asked at once.
  if (!(await ask('follow'))) await followDue();
};

export async function askAgain(person: Person, id: string): Promise<void> {
  needSteward(person);
  if (!isId(id)) throw new NotFound('No such shelf.');
  await store.askNow(db(), id);
  await soon();
}

/** Follows a shelf no longer. What it brought stays, or goes with it. */
export async function unfollow(person: Person, id: string, keep: boolean): Promise<void> {
  needSteward(person);
  if (!isId(id)) throw new NotFound('No such shelf.');
  const gone = await transaction(async (q) => {
    await store.endSubscription(q, id);
    return keep ? [] : store.withdrawCards(q, id, null);
  });
  await cardsChanged(gone);
}

export type Followed = {
  id: string;
  address: string;
  home: string;
  cards: number;
  checkedAt: string | undefined;
  nextAt: string;
  failures: number;
  trouble: string | undefined;
  /** Its time has come, and it was not asked yet. */
  waits: boolean;
};
export async function followed(): Promise<Followed[]> {
  return (await store.subscriptions(db())).map((s) => ({
    id: s.source_id,
    address: s.address,
    home: s.home,
    cards: s.cards,
    checkedAt: s.checked_at?.toISOString(),
    nextAt: s.next_at.toISOString(),
    failures: s.failures,
    trouble: s.trouble ?? undefined,
    waits: s.next_at.getTime() <= Date.now(),
  }));
}

/** Task: asks every shelf whose time has come. */
export async function followDue(limit = 20): Promise<number> {
  const due = await store.dueSubscriptions(db(), limit);
  for (const { source_id } of due) await askShelf(source_id);
  return due.length;
}

/** How long a shelf that failed so many times in a row is left alone, in minutes. */
export const backOff = (failures: number, retryAfterSeconds?: number): number =>
  Math.min(
    followDefaults.longest,
    Math.max(followDefaults.afterFailure * 2 ** Math.min(20, failures), (retryAfterSeconds ?? 0) / 60),
  );

async function askShelf(id: string): Promise<void> {
  const sub = await store.subscriptionById(db(), id);
  if (!sub || sub.ended_at) return;
  try {
    const first = await askPage(sub.address, sub.etag ?? undefined);
    if (first.status === 304) return void (await store.subscriptionAnswered(db(), id, sub.etag, followDefaults.every));
    const before = new Map((await store.pagesSeen(db(), id)).map((p) => [p.address, p]));
    const pages: store.SeenPage[] = [];
    let at: string | undefined = sub.address;
    for (let page = 1; at !== undefined; page++) {
      if (page > followDefaults.pages) throw new OutsideError(`its shelf has more than ${followDefaults.pages} pages`);
      const known = page === 1 ? undefined : before.get(at);
      const answer = page === 1 ? first : await askPage(at, known?.etag);
      const held: store.SeenPage =
        answer.status === 304 && known
          ? known
          : {
              address: at,
              etag: answer.etag ?? '',
              cards: await takePage(id, sub.brought_by, new URL(sub.address).origin, answer.body),
              next: nextOf(answer.link, at) ?? null,
            };
      pages.push(held);
      at = held.next ?? undefined;
    }
    // All of it was seen: what is no longer there was withdrawn by its author.
    const gone = await transaction(async (q) => {
      await store.setPagesSeen(
        q,
        id,
        pages.filter((p) => p.etag !== ''),
      );
      const withdrawn = await store.withdrawCards(
        q,
        id,
        pages.flatMap((p) => p.cards),
      );
      await store.subscriptionAnswered(q, id, first.etag ?? null, followDefaults.every);
      return withdrawn;
    });
    await cardsChanged(gone);
  } catch (error) {
    const said =
      error instanceof OutsideError || error instanceof PackError
        ? error.message
        : 'what it sent could not be brought in';
    if (!(error instanceof OutsideError || error instanceof PackError)) console.error(`follow ${sub.address}:`, error);
    const wait = backOff(sub.failures, error instanceof OutsideError ? error.retryAfter : undefined);
    await store.subscriptionFailed(db(), id, said, wait);
  }
}

const askPage = (address: string, etag: string | undefined) =>
  askOutside(address, {
    Accept: `${PACK_MEDIA_TYPE}, application/json`,
    ...(etag ? { 'If-None-Match': etag } : {}),
  });

/** Brings in a page of a followed shelf. @returns the cards that are on it */
async function takePage(id: string, broughtBy: string, home: string, body: Buffer): Promise<string[]> {
  const pack = await packOnThread(body);
  // What a server says under another's name would count as that other's.
  if (pack.home !== home)
    throw new OutsideError(`it was asked as ${home} and says that it is ${pack.home || 'nobody'}`);
  await bringIn(pack, { id, home, vouched: true, broughtBy }, (q) => store.describeSource(q, id, pack).then());
  return pack.cards.map((c) => c.key);
}

/** The next page by its Link header (RFC 8288); only of the same server. */
export function nextOf(link: string | undefined, at: string): string | undefined {
  const target = /<([^<>]{1,500})>\s*;[^,]*\brel="?next"?/i.exec(link ?? '')?.[1];
  if (target === undefined || !URL.canParse(target, at)) return undefined;
  const url = new URL(target, at);
  return url.origin === new URL(at).origin ? url.href : undefined;
}
