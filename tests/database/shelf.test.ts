import { beforeAll, describe, expect, test } from 'vitest';
import { formatPosition, strengthAxis } from '#core/controls/index.ts';
import { nominalLoad } from '#core/window/index.ts';
import { cardView } from '#work/shelf/view.ts';
import { changeVisibility } from '#work/shelf/publish.ts';
import { setCardHidden, reportCard } from '#work/shelf/reports.ts';
import { listCards } from '#work/shelf/list.ts';
import { settleCards } from '#work/shelf/shared.ts';
import { mergeAsSteward, unmergeAsSteward } from '#work/shelf/mergedVinyls.ts';
import { searchFeed, vinylFeed } from '#work/shelf/feeds.ts';
import { nextCutId } from '#work/cuts/cuts.ts';
import { deleteAccount, signIn } from '#work/people/accounts.ts';
import { leftBehind, personOfToken, setLends } from '#work/people/people.ts';
import type { Person } from '#work/people/person.ts';
import { refreshFaded } from '#work/shelf/standing.ts';
import { settingOf } from '#work/coupons/readings.ts';
import {
  followVinyl,
  hideRemark,
  openNotices,
  orderOf,
  remark,
  remarksOf,
  settleReport,
  thank,
} from '#work/shelf/social.ts';
import { againstOthersOf, refreshTranslations, translationFor } from '#work/shelf/translate.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { vinylRows } from '#work/answer/list.ts';
import { cardSettled, dueTurns } from '#store/shelf/cards.ts';
import { db } from '#store/base/db.ts';
import { crafter, fieldsOf, form, password } from '../bench.ts';
import { bench, confirm, learn, publish } from '../sharing.ts';
import { ownHouse } from '../house.ts';
import { rows } from '../testDatabase.ts';

const database = ownHouse();
let ada: Person, ben: Person, cleo: Person, dov: Person;
let plain = '',
  drift = '',
  crumb = '';

beforeAll(async () => {
  ada = await crafter('Ada Fenn', 'marlow-24', 'ada@example.org');
  ben = await crafter('Ben Rook', 'oxbow-dial', 'ben@example.org');
  cleo = await crafter('Cleo Marsh', 'marlow-24', 'cleo@example.org');
  dov = await crafter('Dov Teal', 'whin-duo', 'dov@example.org');
  const add = (name: string, type: string) =>
    addVinyl(ada, { brand: 'Quillow', name, type, colour: 'one', hex: '#cfc4ea' }, 'public');
  plain = await add('Plain', 'smooth');
  drift = await add('Drift', 'holographic');
  crumb = await add('Crumb', 'glitter');
  for (const p of [ada, ben, cleo]) {
    await learn(p, plain, 0);
    await publish(p, plain);
  }
});

describe('standing and translation in the database', () => {
  let card = '';
  test('what is kept stands where its cells put it; a card the same', async () => {
    await learn(ada, drift, 0.3);
    const kept = (await settingOf(ada.id, drift, (await bench(ada)).cutter, 'clean'))!;
    expect(kept.standing).toBe('tried');
    expect(kept.proof!.sentence).toMatch(/^tried: /);
    card = await publish(ada, drift);
    expect((await cardView(ben, await bench(ben), card)).proof!.standing).toBe('tried');
  });

  test('a fit of the shelf translates to every cutter in use; the same shelf is not fitted twice', async () => {
    expect(await refreshTranslations()).toBeGreaterThan(0);
    expect(await refreshTranslations()).toBe(0);
    const said = (await translationFor(await bench(ben), drift, 'clean'))!;
    expect(said.basis).toBe('vinyl and cutter');
    expect(said.result!.crafters).toBe(1);
    const scale = nominalLoad(strengthAxis((await bench(ben)).cutter.model));
    expect(Math.abs(scale.at(said.result!.position) - 0.3)).toBeLessThan(0.35);
    const [row] = await vinylRows(ben, await bench(ben), [drift]);
    expect(row).toMatchObject({ from: 'translated', crafters: 1 });
    // Nobody shared anything on a Whin Duo: nothing is said of it.
    expect((await translationFor(await bench(dov), drift, 'clean'))!.basis).toBe('nothing');
    expect((await cardView(dov, await bench(dov), card)).here).toMatchObject({ kind: 'other model', why: 'nothing' });
  });

  test('private grades stay out until they are lent', async () => {
    await learn(ben, crumb, 0.4);
    await refreshTranslations();
    expect(await translationFor(await bench(ada), crumb, 'clean')).toBeUndefined();
    await setLends(ben, true);
    expect(await refreshTranslations()).toBeGreaterThan(0);
    expect((await translationFor(await bench(ada), crumb, 'clean'))!.result).toBeTruthy();
    await setLends(ben, false);
    await refreshTranslations();
    expect(await translationFor(await bench(ada), crumb, 'clean')).toBeUndefined();
  });

  test('confirming: what is wrong is said at its field, nothing is kept of it; the same tap again is no second cut', async () => {
    const count = async () =>
      (await rows<{ n: number }>(database.url, 'select count(*)::int as n from confirmation'))[0]!.n;
    expect(await fieldsOf(confirm(ben, card, 'perhaps'))).toHaveProperty('outcome');
    expect(await fieldsOf(confirm(ben, card, 'failed'))).toHaveProperty('seen');
    expect(await fieldsOf(confirm(ben, card, 'failed', { seen: 'clean' }))).toHaveProperty('seen');
    expect(await fieldsOf(confirm(ben, card, 'worked', { strength: '44' }))).toHaveProperty('strength');
    expect(await fieldsOf(confirm(ada, card, 'worked'))).toHaveProperty('form');
    expect(await count()).toBe(0);
    const cut = nextCutId();
    await confirm(ben, card, 'more', { cut });
    await confirm(ben, card, 'more', { cut });
    expect(await count()).toBe(1);
    const [found] = (await cardView(ada, await bench(ada), card)).found;
    expect(found).toMatchObject({ outcome: 'almost', grade: 'hangs', better: 'dial 5' });
  });

  test('the shelf ranks by what comes out on this cutter, and the place in the row is on its axis', async () => {
    const list = await listCards(ben, await bench(ben), '');
    const others = list.filter((c) => !c.own);
    expect(others.every((c) => c.here === 'translated')).toBe(true);
    const worth = others.map((c) => c.rank!.worth);
    expect(worth).toEqual([...worth].sort((a, b) => b - a));
    for (const c of others) expect(() => formatPosition(strengthAxis(bench_model), c.number!)).not.toThrow();
  });
  let bench_model: Parameters<typeof strengthAxis>[0];
  beforeAll(async () => {
    bench_model = (await bench(ben)).cutter.model;
  });

  test('how a cutter stands: its offset rests on its own settings', async () => {
    const { cutter } = await bench(ada);
    const told = await againstOthersOf(ada, cutter.id);
    expect(told.stands!.rests.length).toBeGreaterThanOrEqual(2);
    expect(told.stands!.offset!.sd).toBeGreaterThan(0);
    await expect(againstOthersOf(ben, cutter.id)).rejects.toThrow('No such cutter');
  });

  test('taken back, a card leaves the shelf and the next fit', async () => {
    await changeVisibility(ada, card, form({ visibility: 'private' }));
    await refreshTranslations();
    expect(await translationFor(await bench(ben), drift, 'clean')).toBeUndefined();
    await changeVisibility(ada, card, form({ visibility: 'public' }));
    await refreshTranslations();
    expect(await translationFor(await bench(ben), drift, 'clean')).toBeTruthy();
  });

  test('a change cut short before what rests on it was made again is made up for', async () => {
    const [card] = await rows<{ id: string }>(
      database.url,
      `select id from card where person_id = $1 and vinyl_id = $2`,
      [cleo.id, plain],
    );
    const { crafters } = (
      await rows<{ crafters: number }>(
        database.url,
        `select crafters from shared_reading where vinyl_id = $1 and model_key = 'marlow-24'`,
        [plain],
      )
    )[0]!;
    // What stands in the database once the transaction is through and the server dies.
    await rows(database.url, `update card set visibility = 'private' where id = $1`, [card!.id]);
    await rows(database.url, `delete from card_standing where card_id = $1`, [card!.id]);
    expect(await settleCards()).toBe(0); // A request has it in hand yet.
    expect(await settleCards(0)).toBe(1);
    expect(await settleCards(0)).toBe(0);
    expect(
      await rows(database.url, `select crafters from shared_reading where vinyl_id = $1 and model_key = 'marlow-24'`, [
        plain,
      ]),
    ).toEqual([{ crafters: crafters - 1 }]);
    expect((await cardView(cleo, undefined, card!.id)).proof).toBeDefined();
    await changeVisibility(cleo, card!.id, form({ visibility: 'public' }));
    expect(await rows(database.url, 'select * from card_due')).toEqual([]);
  });

  test('changed again while it is made again, a card stays due', async () => {
    const [card] = await rows<{ id: string }>(database.url, `select id from card where person_id = $1`, [cleo.id]);
    await rows(database.url, `select card_is_due($1)`, [card!.id]);
    const [due] = await dueTurns(db(), [card!.id]);
    await rows(database.url, `select card_is_due($1)`, [card!.id]);
    await cardSettled(db(), card!.id, due!.turn);
    expect(await settleCards(0)).toBe(1);
  });

  test('standings of yesterday are asked again', async () => {
    await rows(database.url, 'update card_standing set on_day = on_day - 1');
    expect(await refreshFaded()).toBeGreaterThan(0);
    expect(await refreshFaded()).toBe(0);
  });
});

describe('people round a card', () => {
  let card = '';
  beforeAll(async () => {
    card = await publish(ada, plain, { change: 'Said again.' });
  });
  const row = async () => ({ id: card, person_id: ada.id, vinyl_id: plain });

  test('a follower hears when another setting is the best, and when the best one stands elsewhere', async () => {
    await followVinyl(dov, plain, true);
    await openNotices(dov);
    const eve = await crafter('Eve Lorne', 'marlow-24', 'eve@example.org');
    for (let i = 0; i < 9; i++) await confirm([eve, cleo][i % 2]!, card, 'worked', {}, 1 + i);
    const [first] = await openNotices(dov);
    expect(first).toMatchObject({ standing: 'proven', who: 'Ada Fenn', vinyl: 'Quillow Plain', unread: true });
    const told = (await openNotices(dov)).length;
    await confirm(eve, card, 'worked', {}, 1);
    // On another model: that is no word about this card.
    await confirm(ben, card, 'failed', { seen: 'through' });
    expect((await openNotices(dov)).length).toBe(told);
    await confirm(eve, card, 'failed', { seen: 'through' });
    await confirm(cleo, card, 'failed', { seen: 'uncut' });
    expect((await openNotices(dov)).length).toBeGreaterThan(told);
    await followVinyl(dov, plain, false);
  });

  test('thanks once, taken back once; nobody thanks themselves', async () => {
    await thank(ben, await row(), true);
    await thank(ben, await row(), true);
    expect((await cardView(ben, undefined, card)).thanks).toEqual({ n: 1, mine: true });
    await thank(ben, await row(), false);
    expect((await cardView(ben, undefined, card)).thanks).toEqual({ n: 0, mine: false });
    expect(await fieldsOf(thank(ada, await row(), true))).toHaveProperty('form');
  });

  test('a question reaches the author, the answer who asked; an answer to nothing is not found', async () => {
    await remark(ben, await row(), form({ body: 'Which blade?' }), 'here');
    expect((await openNotices(ada))[0]).toMatchObject({ kind: 'question', said: 'Which blade?', who: 'Ben Rook' });
    const [question] = await remarksOf(ada, await row());
    await remark(ada, await row(), form({ body: 'The fine one.', answers: question!.id }), 'here');
    expect((await openNotices(ben))[0]).toMatchObject({ kind: 'answer', said: 'The fine one.' });
    expect((await remarksOf(undefined, await row()))[0]!.answers[0]).toMatchObject({ byAuthor: true });
    await expect(remark(ben, await row(), form({ body: 'x', answers: nextCutId() }), 'here')).rejects.toThrow(
      'No such question',
    );
    expect(await fieldsOf(remark(ben, await row(), form({ body: ' ' }), 'here'))).toHaveProperty('body');
  });

  test('feeds hold public cards only', async () => {
    const feed = await vinylFeed(plain);
    expect(feed.entries.map((e) => e.author).sort()).toEqual(['Ada Fenn', 'Ben Rook', 'Cleo Marsh']);
    expect((await searchFeed('drift')).entries).toHaveLength(1);
    await expect(vinylFeed('nonsense')).rejects.toThrow('No such vinyl');
  });

  test('stewards: hide with a reason, settle, merge, hide a remark; every act is kept and nothing of it changes', async () => {
    expect(await fieldsOf(setCardHidden(ben, card, form({ hide: 'yes', why: 'x' })))).toHaveProperty('message');
    process.env.VERSIPEL_STEWARDS = 'dov@example.org, nobody@example.org';
    const steward = { ...dov, steward: true };
    await reportCard(ben, card, form({ why: 'Not true.' }), 'here');
    const [report] = (await orderOf(steward)).reports;
    expect(report!.why).toBe('Not true.');
    expect((await openNotices(steward)).filter((n) => n.kind === 'report').map((n) => n.said)).toEqual(['Not true.']);
    expect((await orderOf(ben)).reports).toEqual([]);
    expect(await fieldsOf(setCardHidden(steward, card, form({ hide: 'yes', why: '' })))).toHaveProperty('why');
    await settleReport(steward, String(report!.id), form({ why: 'It is true.' }));
    await setCardHidden(steward, card, form({ hide: 'yes', why: 'Names a person.' }));
    await expect(cardView(ben, undefined, card)).rejects.toThrow('taken off the shelf');
    expect((await cardView(ada, undefined, card)).hidden).toBe(true);
    expect((await openNotices(ada))[0]).toMatchObject({ kind: 'hidden', said: 'Names a person.' });
    expect((await listCards(ben, undefined, '')).some((c) => c.id === card)).toBe(false);
    await setCardHidden(steward, card, form({ hide: 'no', why: 'Mended.' }));
    const [question] = await remarksOf(ben, await row());
    await hideRemark(steward, question!.id, form({ why: 'Off topic.' }));
    expect((await remarksOf(ben, await row()))[0]!.body).toBeUndefined();
    const twin = await addVinyl(
      ben,
      { brand: 'Quillow', name: 'Plane', type: 'smooth', colour: 'one', hex: '#cfc4ea' },
      'public',
    );
    expect(await fieldsOf(mergeAsSteward(steward, form({ alias: 'that one', into: plain, why: 'x' })))).toHaveProperty(
      'alias',
    );
    await mergeAsSteward(
      steward,
      form({ alias: `https://here/vinyls/${twin}`, into: plain, why: 'A slip of the pen.' }),
    );
    // Another steward thinks otherwise: whoever merged them, they are parted again, with the reason.
    await expect(unmergeAsSteward(ben, form({ alias: twin, why: 'x' }))).rejects.toThrow('No such vinyl');
    await unmergeAsSteward(steward, form({ alias: twin, why: 'It is its own.' }));
    expect(await fieldsOf(unmergeAsSteward(steward, form({ alias: twin, why: 'Again.' })))).toHaveProperty('alias');
    expect((await orderOf(undefined)).acts.map((a) => a.act)).toEqual([
      'part vinyls',
      'merge vinyls',
      'hide remark',
      'show card',
      'hide card',
      'settle report',
    ]);
    await expect(rows(database.url, "update steward_act set why = 'x'")).rejects.toThrow('only ever added to');
  });

  test('deleting an account takes the person and leaves the evidence', async () => {
    const { token } = await signIn(form({ email: 'cleo@example.org', password }), 'x');
    const count = async () =>
      (
        await rows<Record<string, number>>(
          database.url,
          `select (select count(*)::int from confirmation) as confirmations, (select count(*)::int from card) as cards,
             (select count(*)::int from grade_event) as grades`,
        )
      )[0];
    const before = await count();
    expect(await leftBehind(cleo)).toMatchObject({ cards: 1 });
    expect(await fieldsOf(deleteAccount(cleo, form({ password: 'wrong', sure: 'yes' }), 'x'))).toHaveProperty(
      'password',
    );
    expect(await fieldsOf(deleteAccount(cleo, form({ password }), 'x'))).toHaveProperty('sure');
    await deleteAccount(cleo, form({ password, sure: 'yes' }), 'x');
    expect(await count()).toEqual(before);
    expect(await personOfToken(token)).toBeUndefined();
    expect(await fieldsOf(signIn(form({ email: 'cleo@example.org', password }), 'x'))).toHaveProperty('form');
    const dump = JSON.stringify(await rows(database.url, 'select * from person'));
    for (const secret of ['Cleo', 'cleo@example.org']) expect(dump).not.toContain(secret);
    const shelf = await listCards(ben, await bench(ben), 'plain');
    expect(shelf.map((c) => c.author)).toContain('a crafter');
  });
});
