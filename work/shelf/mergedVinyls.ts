import * as cardStore from '#store/shelf/cards.ts';
import * as readingStore from '#store/coupons/readings.ts';
import { z } from 'zod';
import { db, transaction } from '#store/base/db.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import type { Person } from '#work/people/person.ts';
import { paragraph } from '#work/base/text.ts';
import { vinylRow } from '#work/vinyls/vinyls.ts';
import * as socialStore from '#store/shelf/social.ts';
import * as store from '#store/vinyls/vinyls.ts';
import { can } from '#work/people/permissions.ts';
import { refreshReadings } from '#work/coupons/readings.ts';
import { refreshShared } from './shared.ts';
import { ask } from '#work/base/queue.ts';
import { byId, isId } from '#work/people/owned.ts';

/**
 * Says that an entry of one's own is the same vinyl as another one. Nothing is rewritten: the evidence of both is read as one,
 * and parting them again leaves each with its own.
 */
export async function mergeVinyls(person: Person, aliasId: string, intoId: string): Promise<string> {
  const into = await vinylRow(person, intoId);
  const entry = await byId(aliasId, (it) => store.entryById(db(), it));
  if (!entry || !(can(person, 'change', { owner: entry.person_id }) || can(person, 'moderate')))
    throw new NotFound('No such vinyl.');
  await transaction(async (q) => {
    await store.lockAliases(q);
    const [root, target] = [await store.rootOf(q, entry.id), await store.rootOf(q, into.id)];
    if (root === target) throw new Invalid({ form: 'These two are one vinyl already.' });
    if (root !== entry.id) throw new Invalid({ form: 'This entry was merged into another before. Part them first.' });
    await store.insertAlias(q, entry.id, target, person.id);
  });
  await rereadMerged(into.id);
  return into.id;
}

const partForm = z.object({
  alias: z.string().max(400),
  why: paragraph('why', 2000).refine((s) => s.length > 0, { message: 'Say why: everybody can read it.' }),
});
const mergeForm = partForm.extend({ into: z.string().max(400) });
/** The id in an address somebody pasted, or the id itself. */
const idIn = (text: string) => /[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}/i.exec(text)?.[0] ?? '';

/** A steward says that two entries of anybody are one vinyl: as an author may of their own, with the reason for all to read. */
export async function mergeAsSteward(person: Person, form: FormData): Promise<void> {
  if (!can(person, 'moderate')) throw new NotFound('No such vinyl.');
  const input = read(mergeForm, form);
  const [alias, into] = [idIn(input.alias), idIn(input.into)];
  if (!alias) throw new Invalid({ alias: 'There is no vinyl’s number in this.' });
  if (!into) throw new Invalid({ into: 'There is no vinyl’s number in this.' });
  await mergeVinyls(person, alias, into);
  await socialStore.insertAct(db(), {
    personId: person.id,
    act: 'merge vinyls',
    why: input.why,
    vinylId: alias,
    otherId: into,
  });
}

/** Parts two entries again: each has its own evidence as before. */
export async function unmergeVinyls(person: Person, aliasId: string): Promise<void> {
  const id = isId(aliasId) ? aliasId : undefined;
  if (!id || !(await part(id, person.id))) throw new NotFound('No such entry.');
}

/** A steward parts two entries, whoever said that they are one, with the reason for all to read. */
export async function unmergeAsSteward(person: Person, form: FormData): Promise<void> {
  if (!can(person, 'moderate')) throw new NotFound('No such vinyl.');
  const input = read(partForm, form);
  const alias = idIn(input.alias);
  if (!alias) throw new Invalid({ alias: 'There is no vinyl’s number in this.' });
  const root = await part(alias, null);
  if (!root) throw new Invalid({ alias: 'This entry was not merged into another.' });
  await socialStore.insertAct(db(), {
    personId: person.id,
    act: 'part vinyls',
    why: input.why,
    vinylId: alias,
    otherId: root,
  });
}

/** @returns the vinyl it was part of; undefined where it was none, or somebody else's doing */
async function part(id: string, by: string | null): Promise<string | undefined> {
  const before = await store.rootOf(db(), id);
  if (!(await store.deleteAlias(db(), id, by))) return undefined;
  await rereadMerged(id);
  await rereadMerged(before);
  return before;
}

/** Reads again what rests on any entry of a vinyl: everybody's own readings, and what cards say to others. */
export async function rereadMerged(vinylId: string): Promise<void> {
  const root = await store.rootOf(db(), vinylId);
  for (const r of await readingStore.readingsOfKin(db(), root)) await refreshReadings(r.person_id, root, r.cutter_id);
  for (const c of await cardStore.cardsOfKin(db(), root)) await refreshShared(root, c.model_key, c.wanted);
  await ask('translate');
}
