import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import type { Standing } from '#core/proof/index.ts';
import type { Wanted } from '#store/coupons/coupons.ts';
import { db, transaction } from '#store/base/db.ts';
import * as store from '#store/shelf/social.ts';
import { batchesOf } from '#store/vinyls/vinyls.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import { count } from '#work/people/limits.ts';
import type { Person } from '#work/people/person.ts';
import { can } from '#work/people/permissions.ts';
import { stewards } from '#work/people/stewards.ts';
import { paragraph } from '#work/base/text.ts';
import { vinylRow } from '#work/vinyls/vinyls.ts';
import { byId, needAccount, owned } from '#work/people/owned.ts';

type Card = { id: string; person_id: string; vinyl_id: string };

/** Why what others read needs an account. */
const NAMED = 'what others read bears a name, and you can take it back';

/** Thanks the author of a card, or takes it back. Nobody thanks themselves. */
export async function thank(person: Person, card: Card, given: boolean): Promise<void> {
  needAccount(person, NAMED);
  if (card.person_id === person.id) throw new Invalid({ form: 'This card is yours.' });
  await store.setThanks(db(), card.id, person.id, given);
}

export type Remark = {
  id: string;
  who: string;
  own: boolean;
  byAuthor: boolean;
  /** Undefined where a steward hid it or its writer took it back. */
  body: string | undefined;
  takenBack: boolean;
  /** When its writer last said it otherwise. */
  changed: string | undefined;
  at: string;
  answers: Omit<Remark, 'answers'>[];
};

/** What was asked and answered under a card. What a steward hid shows that it was there, and no more. */
export async function remarksOf(person: Person | undefined, card: Card): Promise<Remark[]> {
  const rows = await store.remarksOf(db(), card.id);
  const shown = (r: store.RemarkRow): Remark => ({
    id: r.id,
    who: r.who,
    own: r.person_id === person?.id,
    byAuthor: r.person_id === card.person_id,
    body: r.hidden_at || r.taken_back_at ? undefined : r.body,
    takenBack: r.taken_back_at !== null,
    changed: r.changed_at?.toISOString(),
    at: r.at.toISOString(),
    answers: [],
  });
  const questions = new Map(rows.flatMap((r) => (r.answers === null ? [[r.id, shown(r)] as const] : [])));
  for (const r of rows) if (r.answers !== null) questions.get(r.answers)?.answers.push(shown(r));
  return [...questions.values()];
}

const remarkForm = z.object({
  body: paragraph('your words', 2000).refine((s) => s.length > 0, { message: 'Write a few words.' }),
  answers: z
    .union([z.literal('').transform(() => undefined), z.uuid()])
    .optional()
    .catch(undefined),
});

/** Asks under a card, or answers. Whoever is spoken to finds it in their inbox. */
export async function remark(person: Person, card: Card, form: FormData, address: string): Promise<void> {
  const input = read(remarkForm, form);
  needAccount(person, NAMED);
  const question = input.answers ? await store.remarkById(db(), input.answers) : undefined;
  if (
    input.answers &&
    (question?.card_id !== card.id || question.answers !== null || question.hidden_at || question.taken_back_at)
  )
    throw new NotFound('No such question.');
  await count('remark', person, address);
  const to = question ? question.person_id : card.person_id;
  await transaction(async (q) => {
    await store.insertRemark(q, {
      id: uuidv7(),
      cardId: card.id,
      answers: question?.id ?? null,
      personId: person.id,
      body: input.body,
    });
    if (to !== person.id)
      await store.insertNotice(q, {
        id: uuidv7(),
        personId: to,
        kind: question ? 'answer' : 'question',
        cardId: card.id,
        vinylId: card.vinyl_id,
        content: { said: input.body, who: person.name },
      });
  });
}

/** Says a question or an answer of one's own otherwise: readers see that it was changed. */
export async function correctRemark(person: Person, id: string, form: FormData): Promise<void> {
  const row = await owned(person, 'change', 'question', id, (it) => store.remarkById(db(), it));
  const { body } = read(remarkForm.pick({ body: true }), form);
  if (row.hidden_at) throw new NotFound('No such question.');
  await store.changeRemark(db(), row.id, body);
}

/** Follows a vinyl: its follower is told when its best setting changes. */
export async function followVinyl(person: Person, vinylId: string, on: boolean): Promise<void> {
  const row = await vinylRow(person, vinylId);
  await store.setFollow(db(), person.id, row.id, on);
}
export const isFollowed = (person: Person | undefined, vinylId: string): Promise<boolean> =>
  person ? store.isFollowed(db(), person.id, vinylId) : Promise.resolve(false);

/** After a card changed: whoever follows its vinyl hears when another setting is the best now, or the best one stands elsewhere. */
export async function tellFollowers(vinylId: string, wanted: Wanted): Promise<void> {
  await transaction(async (q) => {
    const [now, before] = [await store.bestOf(q, vinylId, wanted), await store.knownBest(q, vinylId, wanted)];
    if (
      now?.card_id === before?.card_id &&
      now?.version === before?.version &&
      (now?.standing as Standing | undefined) === before?.standing
    )
      return;
    await store.setBest(q, vinylId, wanted, now);
    // The first one there is, is news as well.
    if (!now && !before) return;
    for (const { person_id } of await store.followersOf(q, vinylId))
      await store.insertNotice(q, {
        id: uuidv7(),
        personId: person_id,
        kind: now && before && now.card_id === before.card_id && now.version === before.version ? 'standing' : 'best',
        cardId: now?.card_id ?? null,
        vinylId,
        content: now
          ? { who: now.author, standing: now.standing, ...(before ? { before: before.standing } : {}) }
          : { before: before!.standing },
      });
  });
}

export type Notice = {
  id: string;
  kind: store.NoticeKind;
  card: string | undefined;
  vinylId: string | undefined;
  vinyl: string;
  said: string | undefined;
  who: string | undefined;
  standing: string | undefined;
  before: string | undefined;
  at: string;
  unread: boolean;
};
/** What waits for somebody beside what was found with their cards. */
export async function openNotices(person: Person | undefined): Promise<Notice[]> {
  if (!person) return [];
  const rows = await store.noticesOf(db(), person.id, 100);
  return rows.map((r) => ({
    id: r.id,
    kind: r.kind,
    card: r.card_id ?? undefined,
    vinylId: r.vinyl_id ?? undefined,
    vinyl: [r.brand, r.vinyl].filter(Boolean).join(' '),
    said: r.content.said,
    who: r.content.who,
    standing: r.content.standing,
    before: r.content.before,
    at: r.at.toISOString(),
    unread: r.read_at === null,
  }));
}
export const unreadNotices = (person: Person | undefined): Promise<number> =>
  person ? store.unreadNotices(db(), person.id) : Promise.resolve(0);

// Order on the shelf -------------------------------------------------------------------------------------------------------

const whyForm = z.object({
  why: paragraph('why', 2000).refine((s) => s.length > 0, { message: 'Say why: everybody can read it.' }),
});

/** Hides a card from the shelf, or shows it again; its author is told why. */
export async function hideCard(person: Person, card: Card, hide: boolean, form: FormData): Promise<void> {
  if (!can(person, 'moderate')) throw new NotFound('No such card.');
  const { why } = read(whyForm, form);
  await transaction(async (q) => {
    await store.setHidden(q, card.id, hide);
    await store.insertAct(q, { personId: person.id, act: hide ? 'hide card' : 'show card', why, cardId: card.id });
    await store.settleReportsOf(q, card.id);
    if (hide)
      await store.insertNotice(q, {
        id: uuidv7(),
        personId: card.person_id,
        kind: 'hidden',
        cardId: card.id,
        vinylId: card.vinyl_id,
        content: { said: why },
      });
  });
}

/** Tells every steward that a card was reported. */
export async function tellStewards(card: Pick<Card, 'id' | 'vinyl_id'>, why: string): Promise<void> {
  for (const { id } of await stewards())
    await store.insertNotice(db(), {
      id: uuidv7(),
      personId: id,
      kind: 'report',
      cardId: card.id,
      vinylId: card.vinyl_id,
      content: { said: why },
    });
}

/** Hides a question or an answer. */
export async function hideRemark(person: Person, remarkId: string, form: FormData): Promise<void> {
  const row = await byId(remarkId, (it) => store.remarkById(db(), it));
  if (!row || !can(person, 'moderate')) throw new NotFound('No such question.');
  const { why } = read(whyForm, form);
  await transaction(async (q) => {
    await store.hideRemark(q, row.id);
    await store.insertAct(q, { personId: person.id, act: 'hide remark', why, cardId: row.card_id, remarkId: row.id });
  });
}

/** Settles a report without doing anything to the card. */
export async function settleReport(person: Person, id: string, form: FormData): Promise<void> {
  if (!can(person, 'moderate')) throw new NotFound('No such report.');
  const { why } = read(whyForm, form);
  await transaction(async (q) => {
    const settled = /^\d{1,15}$/.test(id) ? await store.settleReport(q, Number(id)) : undefined;
    if (!settled) throw new NotFound('No such report.');
    await store.insertAct(q, { personId: person.id, act: 'settle report', why, cardId: settled.card_id });
  });
}

export type Order = {
  reports: store.ReportRow[];
  batches: store.BatchReportRow[];
  acts: store.ActRow[];
  steward: boolean;
};
/** What stewards did, for everybody; what was reported, for stewards. */
export async function orderOf(person: Person | undefined): Promise<Order> {
  const steward = can(person, 'moderate');
  const [acts, reports, batches] = await Promise.all([
    store.actsOf(db(), 200),
    steward ? store.openReports(db(), 100) : [],
    steward ? store.openBatchReports(db(), 100) : [],
  ]);
  return { acts, reports, batches, steward };
}

// Batches ------------------------------------------------------------------------------------------------------------------

/** Reports the name of a batch to whoever runs the server. */
export async function reportBatch(person: Person, vinylId: string, form: FormData, address: string): Promise<void> {
  needAccount(person, NAMED);
  const input = read(whyForm.extend({ batch: z.uuid('Choose the batch.') }), form);
  const vinyl = await vinylRow(person, vinylId);
  if (!(await batchesOf(db(), vinyl.id, person.id)).some((b) => b.id === input.batch))
    throw new NotFound('No such batch.');
  await count('report', person, address);
  await store.insertBatchReport(db(), input.batch, person.id, input.why);
}

/** Takes a reported batch out of sight of everybody but who named it, or leaves it. */
export async function judgeBatch(person: Person, form: FormData): Promise<void> {
  if (!can(person, 'moderate')) throw new NotFound('No such report.');
  const { why, report, hide } = read(
    whyForm.extend({ report: z.coerce.number().int().min(1).max(1e15), hide: z.enum(['yes', 'no']) }),
    form,
  );
  await transaction(async (q) => {
    const settled = await store.settleBatchReport(q, report, hide === 'yes');
    if (!settled) throw new NotFound('No such report.');
    await store.insertAct(q, {
      personId: person.id,
      act: hide === 'yes' ? 'hide batch' : 'leave batch',
      why,
      vinylId: settled.vinyl_id,
    });
  });
}
