import { describe, expect, test } from 'vitest';
import { adoptCard, cardOfCut, reportCutWithCard, sayWhatWasSeen } from '#work/shelf/adopt.ts';
import { cardView } from '#work/shelf/view.ts';
import { changeVisibility, publishCard } from '#work/shelf/publish.ts';
import { listCards } from '#work/shelf/list.ts';
import { markInboxRead, openInbox, unreadCount } from '#work/shelf/inbox.ts';
import { reportCard } from '#work/shelf/reports.ts';
import { couponOf } from '#work/coupons/coupons.ts';
import { makeCoupon } from '#work/coupons/plan.ts';
import { takeAll } from '#work/deliver.ts';
import { Invalid, NotFound, TooMany } from '#work/base/errors.ts';
import { cutOf, nextCutId } from '#work/cuts/cuts.ts';
import { count, countAsked } from '#work/people/limits.ts';
import { claimAccount } from '#work/people/accounts.ts';
import { becomeGuest } from '#work/people/people.ts';
import type { Person } from '#work/people/person.ts';
import { keepSetting } from '#work/shelf/evidence.ts';
import { settingOf } from '#work/coupons/readings.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { listVinyls } from '#work/answer/list.ts';
import { addCutter } from '#work/workshop/cutters.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { fieldsOf, form, grade } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { rows } from '../testDatabase.ts';

// One crafter's proof in another's hands: cards, versions, who sees them, adopting, confirming, finding.
const house = ownHouse();

let n = 0;
async function crafter(model = 'marlow-24'): Promise<Person> {
  const { person } = await becomeGuest();
  await addCutter(person, form({ model, name: `Secret name ${n}`, blade: 'Secret blade', angle: '45', used: '0' }));
  const email = `crafter-${n++}@example.org`;
  await claimAccount(person, form({ email, password: 'lantern river seven', name: `Crafter ${n}` }));
  return { ...person, email, name: `Crafter ${n}` };
}
const bench = async (person: Person) => (await benchOf(person))!;

/** An author with a vinyl, six graded cells, a kept number and a card. */
async function author(visibility = 'public', vinylForm: Record<string, string> = {}) {
  const person = await crafter();
  const vinyl = await addVinyl(person, {
    brand: 'Quillow',
    name: 'Drift',
    type: 'holographic',
    colour: 'clear shimmer',
    hex: '#cfc4ea',
    ...vinylForm,
  });
  const coupon = await makeCoupon(person, await bench(person), vinyl, form({ cells: '6' }));
  const { cells } = await couponOf(person, coupon);
  const words = ['uncut', 'uncut', 'hangs', 'clean', 'scored', 'through'];
  await takeAll(
    person,
    cells.map((c, i) => grade(c.id, words[i]!, 1, i)),
  );
  await keepSetting(person, form({ vinyl, cutter: (await bench(person)).cutter.id, strength: '130' }));
  const card = await publishCard(
    person,
    await bench(person),
    form({ vinyl, wanted: 'clean', visibility, licence: 'cc-by', conditions: 'a damp room' }),
    'a',
  );
  return { person, vinyl, card };
}
const cutWith = async (person: Person, vinyl: string, word: string) => {
  const at = await bench(person);
  const kept = (await settingOf(person.id, vinyl, at.cutter, 'clean'))!;
  const cut = await reportCutWithCard(
    person,
    at,
    form({
      cut: nextCutId(),
      vinyl,
      cutter: at.cutter.id,
      wanted: 'clean',
      setting: JSON.stringify(kept.controls),
      // A test mark in the margin is evidence; what confirms a card is the cut itself.
      witness: 'yes',
    }),
    'a',
  );
  const { cell } = await cutOf(person, cut);
  await takeAll(person, [grade(cell, word)]);
  return cut;
};

describe('a card', () => {
  test('holds everything it says, and nothing that is the author’s alone', async () => {
    const { card } = await author();
    const view = await cardView(undefined, undefined, card);
    expect(view).toMatchObject({ author: expect.any(String), number: 1, licence: 'cc-by', visibility: 'public' });
    expect(view.content).toMatchObject({ standing: 'tried', conditions: 'a damp room' });
    expect(view.content.evidence.map((e) => e.grade)).toEqual([
      'uncut',
      'uncut',
      'hangs',
      'clean',
      'scored',
      'through',
    ]);
    expect(view.here.kind).toBe('no bench');
    const [stored] = await rows<{ content: string }>(
      house.url,
      'select content::text from card_version where card_id = $1',
      [card],
    );
    expect(stored!.content).not.toContain('Secret');
    expect(stored!.content).not.toContain('@example.org');
    const cells = await rows<{ id: string }>(house.url, 'select cut.id from cut union select cell.id from cell');
    for (const { id } of cells) expect(stored!.content).not.toContain(id);
  });

  test('gets versions that never change, each with what changed and its own licence', async () => {
    const { person, vinyl, card } = await author();
    await keepSetting(person, form({ vinyl, cutter: (await bench(person)).cutter.id, strength: '136' }));
    const again = (fields: Record<string, string>) =>
      publishCard(
        person,
        awaitedBench,
        form({ vinyl, wanted: 'clean', visibility: 'public', licence: 'cc0', ...fields }),
        'a',
      );
    const awaitedBench = await bench(person);
    expect(await fieldsOf(again({}))).toEqual({ change: 'Say what changed and why: others have the version before.' });
    expect(await again({ change: 'A new blade wants a little more.' })).toBe(card);
    const newest = await cardView(undefined, undefined, card);
    expect([newest.number, newest.licence, newest.content.controls.steps.force]).toEqual([2, 'cc0', 136]);
    expect(newest.versions.map((v) => [v.number, v.licence, v.change])).toEqual([
      [2, 'cc0', 'A new blade wants a little more.'],
      [1, 'cc-by', ''],
    ]);
    const first = await cardView(undefined, undefined, card, 1);
    expect([first.number, first.newest, first.content.controls.steps.force]).toEqual([1, 2, 130]);
    await expect(rows(house.url, 'update card_version set licence = $1', ['read'])).rejects.toThrow(
      'only ever added to',
    );
    await expect(rows(house.url, 'delete from card_version')).rejects.toThrow('only ever added to');
    // Twice at one moment: one of them is a version, the other is told.
    const twice = await Promise.allSettled([again({ change: 'a' }), again({ change: 'b' })]);
    expect(twice.map((t) => t.status).sort()).toContain('fulfilled');
    for (const t of twice) if (t.status === 'rejected') expect(t.reason).toBeInstanceOf(Invalid);
  });

  test('needs an account, a kept number, and answers to every question', async () => {
    const { person } = await becomeGuest();
    await addCutter(person, form({ model: 'marlow-24', name: 'M', blade: 'b', angle: '45', used: '0' }));
    const vinyl = await addVinyl(person, { brand: '', name: 'X', type: 'smooth', colour: 'y', hex: '#000000' });
    const fields = { vinyl, wanted: 'clean', visibility: 'public', licence: 'cc0' };
    expect(await fieldsOf(publishCard(person, await bench(person), form(fields), 'a'))).toHaveProperty('form');
    const known = await crafter();
    const own = await addVinyl(known, { brand: '', name: 'X', type: 'smooth', colour: 'y', hex: '#000000' });
    expect(await fieldsOf(publishCard(known, await bench(known), form({ ...fields, vinyl: own }), 'a'))).toEqual({
      form: 'Keep a number for this vinyl first: that is what a card shares.',
    });
    expect(
      await fieldsOf(
        publishCard(known, await bench(known), form({ vinyl: own, visibility: 'all', licence: 'x' }), 'a'),
      ),
    ).toMatchObject({ visibility: 'Choose who may see it.', licence: 'Choose what others may do with it.' });
  });

  test('private stays private: by its id, by an old link, by search, by version, by adopting and reporting', async () => {
    const { person, vinyl, card } = await author('link', { brand: 'Hushwater', name: 'Private Reed' });
    const other = await crafter();
    const view = await cardView(person, await bench(person), card);
    const key = view.address!;
    expect(key).not.toBe(card);
    expect((await cardView(undefined, undefined, key)).content.vinyl.name).toBe('Private Reed');
    // The id alone opens nothing, nor is it found.
    await expect(cardView(other, undefined, card)).rejects.toThrow(NotFound);
    expect(await listCards(other, undefined, 'private reed')).toEqual([]);
    expect((await listVinyls(other, undefined, 'private reed')).some((v) => v.id === vinyl)).toBe(false);
    await changeVisibility(person, card, form({ visibility: 'private' }));
    for (const ref of [key, card, `${card} `, 'x', '', key.slice(0, -1), '../cards'])
      for (const who of [undefined, other]) {
        await expect(cardView(who, undefined, ref)).rejects.toThrow(NotFound);
        await expect(cardView(who, undefined, ref, 1)).rejects.toThrow(NotFound);
      }
    await expect(adoptCard(other, await bench(other), card)).rejects.toThrow(NotFound);
    await expect(reportCard(other, card, form({ why: 'x' }), 'a')).rejects.toThrow(NotFound);
    await expect(changeVisibility(other, card, form({ visibility: 'public' }))).rejects.toThrow(NotFound);
    await changeVisibility(person, card, form({ visibility: 'link' }));
    // A new link is a new key: who had the old one has nothing.
    await expect(cardView(undefined, undefined, key)).rejects.toThrow(NotFound);
    await changeVisibility(person, card, form({ visibility: 'public' }));
    expect((await listCards(other, undefined, 'private reed')).map((c) => c.id)).toEqual([card]);
    // Others see it; only the author changes it.
    await expect(changeVisibility(other, card, form({ visibility: 'private' }))).rejects.toThrow(NotFound);
  });
});

describe('in another’s hands', () => {
  test('same model: less sure, adopted with its source; cuts with it reach the author and the shared reading', async () => {
    const { person, vinyl, card } = await author();
    const other = await crafter();
    const before = await cardView(other, await bench(other), card);
    if (before.here.kind !== 'same model') throw new Error(before.here.kind);
    expect(before.here.result.summary.recommended!.chance).toBeLessThan(
      before.content.result.summary.recommended!.chance,
    );
    const listed = async (who: Person) =>
      (await listVinyls(who, await bench(who), 'drift')).find((v) => v.id === vinyl)!;
    expect(await listed(other)).toMatchObject({ from: 'others', crafters: 1, adopted: false });
    await adoptCard(other, await bench(other), card);
    const kept = (await settingOf(other.id, vinyl, (await bench(other)).cutter, 'clean'))!;
    expect(kept).toMatchObject({
      standing: 'draft',
      source_card: card,
      source_version: 1,
      controls: { steps: { force: 130 } },
    });
    expect(await listed(other)).toMatchObject({
      from: 'others',
      adopted: true,
      answer: { position: 130, from: 'kept' },
    });

    const cut = await cutWith(other, vinyl, 'clean');
    expect(await unreadCount(person)).toBe(1);
    await sayWhatWasSeen(other, cut, form({ said: 'Clean on sashes.' }), 'a');
    expect(await cardOfCut(other, cut)).toMatchObject({ said: 'Clean on sashes.' });
    expect(await cardOfCut(person, cut)).toBeUndefined();
    // Their own cut counts where they look: the machine is no longer one that nobody has tried.
    const again = (await cardView(other, await bench(other), card)).here;
    expect(again.kind === 'same model' && again.result.verdict.kind).not.toBe('elsewhere');
    const third = await crafter();
    await adoptCard(third, await bench(third), card);
    await cutWith(third, vinyl, 'hangs');
    const inbox = await openInbox(person);
    expect(inbox.map((f) => [f.grade, f.said, f.unread])).toEqual([
      ['hangs', '', true],
      ['clean', 'Clean on sashes.', true],
    ]);
    // Looking changes nothing; that it was looked at is said by the page.
    expect(await unreadCount(person)).toBe(2);
    await markInboxRead(other, form({ until: new Date().toISOString() }));
    expect(await unreadCount(person)).toBe(2);
    await markInboxRead(person, form({ until: new Date().toISOString() }));
    expect(await unreadCount(person)).toBe(0);
    expect((await openInbox(other)).length).toBe(0);
    const view = await cardView(undefined, undefined, card);
    expect(view.found.map((f) => f.grade).sort()).toEqual(['clean', 'hangs']);
    // The confirmations are cells of the evidence that a fourth crafter reads.
    const fourth = await crafter();
    expect(await listed(fourth)).toMatchObject({ from: 'others', crafters: 3 });
    expect((await listed(fourth)).result!.evidence).toMatchObject({ cells: 8, grades: { clean: 2, hangs: 2 } });
    const [onShelf] = await listCards(fourth, await bench(fourth), 'drift');
    expect(onShelf).toMatchObject({ here: 'same model', crafters: 3, confirmed: 1, graded: 2 });
    // Their own cut speaks for the adopter's own cutter from now on.
    expect(await listed(other)).toMatchObject({ from: 'here' });
    // A card that is withdrawn leaves the public evidence at once.
    await changeVisibility(person, card, form({ visibility: 'private' }));
    expect((await listed(fourth))?.from ?? 'type').toBe('type');
  });

  test('another model: not comparable, and adopting is refused with what to do', async () => {
    const { card } = await author();
    const other = await crafter('oxbow-dial');
    expect((await cardView(other, await bench(other), card)).here).toMatchObject({ kind: 'other model' });
    expect(await fieldsOf(adoptCard(other, await bench(other), card))).toHaveProperty(
      'form',
      expect.stringContaining('cut a three-cell check'),
    );
  });

  test('one’s own cuts, guests’ cuts, and cuts with a number of one’s own confirm nothing', async () => {
    const { person, vinyl, card } = await author();
    await cutWith(person, vinyl, 'clean');
    const { person: guest } = await becomeGuest();
    await addCutter(guest, form({ model: 'marlow-24', name: 'M', blade: 'b', angle: '45', used: '0' }));
    await adoptCard(guest, await bench(guest), card);
    await cutWith(guest, vinyl, 'clean');
    const other = await crafter();
    await keepSetting(other, form({ vinyl, cutter: (await bench(other)).cutter.id, strength: '120' }));
    await cutWith(other, vinyl, 'clean');
    expect((await cardView(undefined, undefined, card)).found).toEqual([]);
  });
});

describe('finding', () => {
  test('a half remembered name, in any order, is found; nonsense is not', async () => {
    const person = await crafter();
    const named = async (brand: string, name: string, type: string, colour: string) =>
      addVinyl(person, { brand, name, type, colour, hex: '#123456' });
    const starling = await named('Ferrule & Sons', 'Starling', 'glitter', 'ember red');
    const plain = await named('Ferrule & Sons', 'Plain', 'smooth', 'navy');
    const first = async (q: string) => (await listVinyls(person, undefined, q))[0]?.id;
    for (const q of [
      'starling',
      'STARLING',
      'starlin',
      'strling',
      'glitter ferrule',
      'sons starlng red',
      'ember starling',
      'ferule starling',
    ])
      expect([q, await first(q)]).toEqual([q, starling]);
    for (const q of ['navy plain', 'plian navy', 'smooth ferrule navy'])
      expect([q, await first(q)]).toEqual([q, plain]);
    for (const q of ['xyzzy', 'starling xyzzy', '%', '____']) {
      const found = (await listVinyls(person, undefined, q)).map((v) => v.id);
      expect([q, q.match(/[a-z]/) ? found : []]).toEqual([q, []]);
    }
    // A merged entry is found under its other name, and shown once.
    const twin = await named('Ferule and Son', 'Starlet', 'glitter', 'red');
    await rows(house.url, 'insert into vinyl_alias (alias_id, vinyl_id, person_id) values ($1, $2, $3)', [
      twin,
      starling,
      person.id,
    ]);
    expect((await listVinyls(person, undefined, 'starlet')).map((v) => v.id)).toEqual([starling]);
  });

  test('too often is refused for a while, by person and by address, without losing anything', async () => {
    const person = await crafter();
    const busy = async (times: number, who: Person | undefined, address: string) => {
      for (let i = 0; i < times; i++)
        try {
          await count('report', who, address);
        } catch (error) {
          expect(error).toBeInstanceOf(TooMany);
          return i;
        }
      return times;
    };
    expect(await busy(20, person, 'here')).toBe(10);
    expect(await busy(5, undefined, 'here')).toBe(5);
    expect(await busy(20, undefined, 'here')).toBe(5);
    expect(await busy(3, undefined, 'elsewhere')).toBe(3);
    // Searching is asked at every keystroke: counted by the minute.
    const ask = (who: Person | undefined) => countAsked('search', who, 'typist');
    for (let i = 0; i < 300; i++) await ask(person);
    await expect(ask(person)).rejects.toThrow(TooMany);
    // A fresh guest at the same address has a share of their own, until the address has none left.
    for (let i = 301; i < 1500; i++) await ask(undefined);
    await expect(ask(undefined)).rejects.toThrow(TooMany);
  });
});
