import { z } from 'zod';
import * as store from '#store/shelf/cards.ts';
import type { EvidenceRow, Wanted } from '#store/coupons/coupons.ts';
import { db } from '#store/base/db.ts';
import * as socialStore from '#store/shelf/social.ts';
import { read } from '#work/base/forms.ts';
import type { Person } from '#work/people/person.ts';

export type Found = {
  cut: string;
  card: string;
  who: string;
  vinyl: string;
  model: string;
  wanted: Wanted;
  grade: EvidenceRow['grade'];
  said: string;
  at: string;
  unread: boolean;
};

/** What others found with one's cards, latest first. */
export async function openInbox(person: Person | undefined): Promise<Found[]> {
  if (!person) return [];
  const rows = await store.inboxOf(db(), person.id, 100);
  return rows.map((r) => ({
    cut: r.cut_id,
    card: r.card_id,
    who: r.who,
    vinyl: [r.brand, r.vinyl].filter(Boolean).join(' '),
    model: r.model,
    wanted: r.wanted,
    grade: r.grade,
    said: r.said,
    at: r.made_at.toISOString(),
    unread: r.read_at === null,
  }));
}

const readForm = z.object({ until: z.iso.datetime() });

/** All that lay in the inbox up to a moment is read: what came while it was looked at is not. */
export async function markInboxRead(person: Person, form: FormData): Promise<void> {
  const until = new Date(read(readForm, form).until);
  await store.markRead(db(), person.id, until);
  await socialStore.markNoticesRead(db(), person.id, until);
}

export const unreadCount = (person: Person | undefined): Promise<number> =>
  person?.email ? store.unreadOf(db(), person.id) : Promise.resolve(0);
