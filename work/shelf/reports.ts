import { z } from 'zod';
import * as store from '#store/shelf/cards.ts';
import { db } from '#store/base/db.ts';
import { read } from '#work/base/forms.ts';
import { count } from '#work/people/limits.ts';
import type { Person } from '#work/people/person.ts';
import { hideCard, tellStewards } from './social.ts';
import { paragraph } from '#work/base/text.ts';
import { cardRow } from './cards.ts';
import { cardsChanged } from './shared.ts';

/** Takes a card off the shelf for everybody, or puts it back: what rested on it is made again. */
export async function setCardHidden(person: Person, ref: string, form: FormData): Promise<void> {
  const card = await cardRow(person, ref);
  await hideCard(person, card, form.get('hide') === 'yes', form);
  await cardsChanged([card]);
}

const reportForm = z.object({
  why: paragraph('why', 2000).refine((s) => s.length > 0, { message: 'Say in a few words what is wrong with it.' }),
});

/** Reports a card to whoever runs the server. */
export async function reportCard(
  person: Person | undefined,
  ref: string,
  form: FormData,
  address: string,
): Promise<void> {
  const card = await cardRow(person, ref);
  const { why } = read(reportForm, form);
  await count('report', person, address);
  await store.insertReport(db(), card.id, person?.id ?? null, why);
  await tellStewards(card, why);
}
