import * as store from '#store/shelf/cards.ts';
import { db } from '#store/base/db.ts';
import { NotFound } from '#work/base/errors.ts';
import type { Person } from '#work/people/person.ts';
import { can } from '#work/people/permissions.ts';
import { sayHome } from '#work/base/text.ts';
import { isId } from '#work/people/owned.ts';

export const licences = ['read', 'cc-by', 'cc-by-sa', 'cc0'] as const;
export const visibilities = ['private', 'link', 'public'] as const;

/** A card by its address: its id, or the key of its link. Everything else is not found, whoever asks. */
export async function cardRow(
  person: Person | undefined,
  ref: string,
  number: number | null = null,
): Promise<store.CardRow> {
  const byKey = isId(ref) ? undefined : await store.cardIdByKey(db(), ref.slice(0, 100));
  const id = byKey?.id ?? (isId(ref) ? ref : undefined);
  const card = id && (await store.cardById(db(), id, number));
  // A link's card is seen with the key only: its id alone opens nothing.
  const visibility = card && (card.visibility === 'link' && !byKey ? 'private' : card.visibility);
  if (!card || !can(person, 'see', { owner: card.person_id, visibility: visibility! }))
    throw new NotFound('No such card.');
  // What a steward took off the shelf is seen by its author and by stewards.
  if (card.hidden_at && card.person_id !== person?.id && !can(person, 'moderate'))
    throw new NotFound('This card was taken off the shelf.');
  return card;
}
/** Where a row came from, as it is said. */
export const homeOf = (row: store.FromElsewhere): string | undefined =>
  row.source_id === null ? undefined : (sayHome(row.home) ?? 'a pack');
