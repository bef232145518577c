import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { readPack, sealPack, writePack, type Pack, type PackBody } from '#core/pack/index.ts';
import { cardView } from '#work/shelf/view.ts';
import { listCards } from '#work/shelf/list.ts';
import { stopComputing } from '#work/base/compute.ts';
import { bringIn as putIn } from '#work/packs/bringIn.ts';
import { packView, seePack, sweepPacks } from '#work/packs/look.ts';
import { resumeImports, startImport, takeBack } from '#work/packs/imports.ts';
import { cardPack, shelfPack } from '#work/packs/packOut.ts';
import { shelfTable } from '#work/packs/tableOut.ts';
import type { Person } from '#work/people/person.ts';
import { refreshTranslations, translationFor } from '#work/shelf/translate.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { addScaleReading } from '#work/workshop/scale.ts';
import { publishShippedModels } from '#work/workshop/models.ts';
import { closeDb } from '#store/base/db.ts';
import { crafter, fieldsOf, form } from '../bench.ts';
import { bench, confirm, learn, publish } from '../sharing.ts';
import { rows, testDatabase } from '../testDatabase.ts';

// A pack goes from one house to another: what it says there is what it said at home. Hostile files change nothing.
const HOME = 'http://shelf.first.example';
type House = Awaited<ReturnType<typeof testDatabase>>;
let first: House, second: House;
let ada: Person, ben: Person, cleo: Person, dov: Person, guest: Person, steward: Person, other: Person;
const cards: Record<string, string> = {};
const vinyls: Record<string, string> = {};
let pack: Pack;

/** Steps over to another house. */
const inside = async (house: House) => {
  await closeDb();
  process.env.DATABASE_URL = house.url;
};
const bytes = (of: unknown) => new TextEncoder().encode(typeof of === 'string' ? of : JSON.stringify(of));
const body = ({ checksums: _, ...rest }: Pack): PackBody => structuredClone(rest);
/** How many rows every table has. */
async function counts(house: House): Promise<Record<string, number>> {
  const tables = await rows<{ name: string }>(
    house.url,
    `select table_name as name from information_schema.tables where table_schema = 'public' and table_type = 'BASE TABLE' order by 1`,
  );
  const one = await rows<Record<string, string>>(
    house.url,
    `select ${tables.map((t) => `(select count(*) from ${t.name}) as ${t.name}`).join(', ')}`,
  );
  // A try is counted whether it is refused or not.
  const { attempt: _, ...rest } = Object.fromEntries(Object.entries(one[0]!).map(([k, v]) => [k, Number(v)]));
  return rest;
}
const shelf = async () => (await shelfPack(new URLSearchParams(), HOME, [])).pack!;
const bringIn = async (who: Person, of: unknown, weight = 'half') => {
  const id = await seePack(who, bytes(of), who.name);
  await startImport(who, id, form({ weight }));
  return id;
};

beforeAll(async () => {
  first = await testDatabase();
  second = await testDatabase();
  await inside(first);
  await publishShippedModels();
  ada = await crafter('Ada Fenn', 'marlow-24', 'ada@example.org');
  ben = await crafter('Ben Rook', 'oxbow-dial', 'ben@example.org');
  cleo = await crafter('Cleo Marsh', 'marlow-24', 'cleo@example.org');
  dov = await crafter('Dov Teal', 'oxbow-dial', 'dov@example.org');
  for (const [name, type] of [
    ['Plain <b>bold</b>', 'smooth'],
    ['Drift', 'holographic'],
    ['Crumb', 'glitter'],
  ] as const)
    vinyls[name] = await addVinyl(ada, { brand: 'Quillow', name, type, colour: 'one', hex: '#cfc4ea' }, 'public');
  const [plain, drift, crumb] = Object.values(vinyls) as [string, string, string];
  for (const p of [ada, ben, cleo, dov]) {
    await learn(p, plain, 0, 8);
    cards[`${p.name} plain`] = await publish(p, plain);
  }
  await learn(ada, drift, 0.3, 6);
  cards.drift = await publish(ada, drift, { licence: 'cc-by' });
  await confirm(ben, cards.drift, 'worked', {}, 4);
  await confirm(dov, cards.drift, 'more', { said: 'A hair more, and it was clean.' }, 3);
  await confirm(cleo, cards.drift, 'worked', {}, 2);
  await learn(ben, crumb, 0.4, 6);
  cards.crumb = await publish(ben, crumb);
  await publish(ben, crumb, { change: 'One more coupon.' });
  for (const [stop, grams] of [
    ['2', '62'],
    ['4', '118'],
  ] as const)
    await addScaleReading(ben, (await bench(ben)).cutter.id, form({ strength: stop, grams }));
  guest = await crafter('Moss Ward', 'oxbow-dial', 'moss@example.org');
  await refreshTranslations();
  await learn(cleo, crumb, 0.4, 6);
  cards.closed = await publish(cleo, crumb, { licence: 'read' });
  pack = await shelf();
});
afterAll(async () => {
  await stopComputing();
  await closeDb();
  await first?.drop();
  await second?.drop();
});

describe('a pack', () => {
  test('holds the cards that may be handed on, with all they rest on, and names nobody but authors', () => {
    expect(pack.cards.map((c) => c.key).sort()).toEqual(
      Object.entries(cards)
        .filter(([k]) => k !== 'closed')
        .map(([, id]) => id)
        .sort(),
    );
    const drift = pack.cards.find((c) => c.key === cards.drift)!;
    expect(drift.confirmations).toHaveLength(3);
    expect(drift.confirmations.map((c) => c.outcome).sort()).toEqual(['almost', 'worked', 'worked']);
    expect(pack.cards.find((c) => c.key === cards.crumb)!.versions).toHaveLength(2);
    expect(pack.cutters.flatMap((c) => c.scales)).toHaveLength(2);
    // Everybody here is an author of something; their e-mail and the keys of their accounts are in no pack.
    const text = writePack(pack);
    for (const p of [ada, ben, cleo, dov]) {
      expect(text).not.toContain(p.id);
      expect(text).not.toContain(p.email);
    }
    expect(readPack(text)).toEqual(pack);
  });

  test('of one card bears its licence; one that may only be read goes into none', async () => {
    await inside(first);
    const { pack: one, name } = await cardPack(undefined, cards.drift!, HOME, 'cc0');
    expect(name).toBe('quillow-drift');
    expect(one.cards).toHaveLength(1);
    expect(one.licence).toBe('cc0');
    expect(one.cards[0]!.versions[0]!.licence).toBe('cc-by');
    await expect(cardPack(undefined, cards.closed!, HOME, null)).rejects.toThrow(/not be handed on/);
    const table = await shelfTable(new URLSearchParams({ q: 'drift' }), HOME);
    expect(table.split('\r\n')).toHaveLength(3);
    expect(table).toContain(`${HOME}/cards/${cards.drift}`);
  });

  test('of the shelf bears a tag that spares the answer, and another once anything changed', async () => {
    await inside(first);
    const { tag, pack: made } = await shelfPack(new URLSearchParams(), HOME, []);
    expect((await shelfPack(new URLSearchParams(), HOME, [tag])).pack).toBeUndefined();
    expect((await shelfPack(new URLSearchParams(), HOME, [])).pack).toBe(made);
    expect((await shelfPack(new URLSearchParams({ licence: 'cc0' }), HOME, [tag])).pack!.licence).toBe('cc0');
    // The first page answers for all; a later one, empty here, for itself.
    const tags = async () =>
      Promise.all(['1', '2'].map(async (page) => (await shelfPack(new URLSearchParams({ page }), HOME, [])).tag));
    const before = await tags();
    const hide = (hidden: string) =>
      rows(first.url, `update card set hidden_at = ${hidden} where id = $1`, [made!.cards[0]!.key]);
    await hide('now()');
    const without = await tags();
    expect(without[0]).not.toBe(before[0]);
    expect(without[1]).toBe(before[1]);
    await hide('null');
    expect(await tags()).toEqual(before);
    expect(await fieldsOf(shelfPack(new URLSearchParams({ page: 'two' }), HOME, []))).toHaveProperty('page');
    const { pack: found } = await shelfPack(new URLSearchParams({ q: 'crumb' }), HOME, []);
    expect(found!.cards.map((c) => c.key)).toEqual([cards.crumb]);
  });

  test('brought home again it is all the same, and changes nothing', async () => {
    await inside(first);
    const before = await counts(first);
    const id = await seePack(ada, bytes(pack), 'home');
    const seen = await packView(ada, id);
    expect(seen.counts).toEqual({ new: 0, more: 0, same: pack.cards.length, conflict: 0 });
    await startImport(ada, id, form({}));
    const after = await counts(first);
    expect({ ...after, source: 0 }).toEqual({ ...before, source: 0 });
  });
});

describe('in an empty house', () => {
  beforeAll(async () => {
    await inside(second);
    await publishShippedModels();
    steward = await crafter('Vale Orrin', 'marlow-24', 'vale@example.org');
    process.env.VERSIPEL_STEWARDS = 'vale@example.org';
    steward = { ...steward, steward: true };
    other = await crafter('Moss Ward', 'oxbow-dial', 'moss@example.org');
  });

  const hostile: [string, () => unknown, RegExp][] = [
    ['cut off in the middle', () => writePack(pack).slice(0, 9000), /not whole/],
    ['nested without end', () => '['.repeat(100_000), /nested deeper than 24 levels/],
    ['a number beyond all', () => writePack(pack).replace('"number": 1', '"number": 1e999'), /1e999 is no number/],
    [
      'a number at the edge of what is one',
      () => {
        const b = body(pack);
        b.cards[0]!.versions[0]!.cells[0]!.strength = 1e308;
        return sealPack(b);
      },
      /cards\[0\]\.versions\[0\]\.cells\[0\]\.strength: /,
    ],
    [
      'a key that reaches into the language',
      () => writePack(pack).replace('"home":', '"__proto__": {"steward": true}, "home":'),
      /the key "__proto__" has no place in a pack/,
    ],
    [
      'the same, written another way',
      () => writePack(pack).replace('"home":', '"\\u005f_proto__": {"steward": true}, "home":'),
      /the key "__proto__"/,
    ],
    ['a key twice', () => writePack(pack).replace('"home":', '"title": "x", "home":'), /"title" stands twice/],
    [
      'of a later version',
      () => ({ ...pack, format: 'versipel-pack/3' }),
      /version 3, newer than the versions 1 and 2/,
    ],
    [
      'of an older version',
      () => ({ ...pack, format: 'versipel-pack/0' }),
      /version 0, older than the versions 1 and 2/,
    ],
    ['no pack at all', () => '{"hello": "there"}', /this is no pack/],
    ['not JSON', () => 'brand,name\r\nQuillow,Drift', /"b" is not JSON/],
    ['not text', () => new Uint8Array([0x1f, 0x8b, 0xff, 0xfe, 0x00]), /not text in UTF-8/],
    [
      'changed after it was made',
      () => {
        const p = structuredClone(pack);
        p.cards[1]!.versions[0]!.setting.steps[Object.keys(p.cards[1]!.versions[0]!.setting.steps)[0]!]! += 1;
        return p;
      },
      /cards\[1\]: its checksum does not match/,
    ],
    [
      'a control beyond its axis',
      () => {
        const b = body(pack);
        const v = b.cards[0]!.versions[0]!;
        const key = Object.keys(v.setting.steps)[0]!;
        v.setting.steps[key] = 99_999;
        return sealPack(b);
      },
      /cards\[0\]\.versions\[0\]\.setting: /,
    ],
    [
      'a machine that is not its author’s',
      () => {
        const b = body(pack);
        b.cards[0]!.versions[0]!.cutter = b.cutters.find((c) => c.person !== b.cards[0]!.person)!.key;
        return sealPack(b);
      },
      /cards\[0\]\.versions\[0\]\.cutter: it is not its author/,
    ],
    [
      'the key of an account in place of a pseudonym',
      () => JSON.stringify(pack).replaceAll(pack.people[0]!.key, steward.id),
      /people\[0\]\.key: /,
    ],
    [
      'a NUL in a name',
      () => JSON.stringify(pack).replaceAll('Drift', 'Dr\\u0000ift'),
      /a character that no text holds/,
    ],
    ['half a letter', () => JSON.stringify(pack).replaceAll('Drift', 'Dr\\ud800ift'), /a character that no text holds/],
    ['too large', () => new Uint8Array(20_000_001).fill(32), /20\.0 MB; a pack has 20\.0 MB at most/],
  ];
  test.each(hostile)('%s is refused in one line, and no row changes', async (_, make, says) => {
    await inside(second);
    const before = await counts(second);
    const file = make();
    const refused = (await fieldsOf(seePack(steward, file instanceof Uint8Array ? file : bytes(file), 'hostile'))) as {
      file?: string;
    };
    expect(refused.file).toMatch(says);
    expect(refused.file).not.toContain('\n');
    expect(refused.file!.length).toBeLessThan(300);
    expect(await counts(second)).toEqual(before);
    expect(({} as { steward?: boolean }).steward).toBeUndefined();
    await rows(second.url, `delete from attempt`);
  });

  test('what a steward brings in in full stands and translates as at home', async () => {
    await inside(first);
    const home = new Map<string, { sentence: string; standing: string; result: unknown }>();
    for (const card of pack.cards) {
      const view = await cardView(undefined, undefined, card.key);
      home.set(card.key, { ...view.proof!, result: view.content.result });
    }
    const there = new Map<string, unknown>();
    for (const [name, id] of Object.entries(vinyls))
      there.set(name, (await translationFor(await bench(guest), id, 'clean'))!.result);
    await inside(second);
    const id = await seePack(steward, bytes(pack), 'full');
    const seen = await packView(steward, id);
    expect(seen.counts).toEqual({ new: pack.cards.length, more: 0, same: 0, conflict: 0 });
    await startImport(steward, id, form({ weight: 'full' }));
    expect((await packView(steward, id)).state).toBe('done');
    for (const card of pack.cards) {
      const view = await cardView(undefined, undefined, card.key);
      const before = home.get(card.key)!;
      expect(view.proof!.sentence).toBe(before.sentence);
      expect(view.proof!.standing).toBe(before.standing);
      // Not taken from the pack: made here from its cells, to the digit.
      expect(view.content.result).toEqual(before.result);
      expect(view.from).toEqual({ home: 'shelf.first.example', counts: 'full' });
    }
    await refreshTranslations();
    for (const [name, id] of Object.entries(vinyls)) {
      const said = (await translationFor(await bench(other), id, 'clean'))!.result!;
      const before = there.get(name) as typeof said;
      expect(said.position).toBe(before.position);
      expect(said.crafters).toBe(before.crafters);
      expect(said.basis).toBe(before.basis);
      expect(said.sd).toBeCloseTo(before.sd, 6);
    }
    const view = await cardView(undefined, undefined, cards.drift!);
    expect(view.found.map((f) => f.said)).toContain('A hair more, and it was clean.');
    // No account came with it: nobody can sign in as any of them.
    expect(
      await rows(second.url, 'select count(*)::int as n from person where source_id is not null and email is not null'),
    ).toEqual([{ n: 0 }]);
  });

  test('the same pack again brings nothing', async () => {
    await inside(second);
    const before = await counts(second);
    const id = await bringIn(steward, pack, 'full');
    expect((await packView(steward, id)).report).toMatchObject({ cards: 0, versions: 0, confirmations: 0, vinyls: 0 });
    expect({ ...(await counts(second)), source: 0 }).toEqual({ ...before, source: 0 });
  });

  test('what came later is added to what is here; what is said otherwise stays as it is here', async () => {
    await inside(first);
    await confirm(guest, cards.drift!, 'failed', { seen: 'scored' });
    const later = await shelf();
    await inside(second);
    const id = await seePack(steward, bytes(later), 'later');
    expect((await packView(steward, id)).counts).toMatchObject({ new: 0, more: 1, conflict: 0 });
    await startImport(steward, id, form({ weight: 'full' }));
    expect((await cardView(undefined, undefined, cards.drift!)).found).toHaveLength(4);
    // Somebody rewrote the past of a card: refused, and said.
    const forged = body(later);
    forged.cards.find((c) => c.key === cards.drift)!.versions[0]!.conditions = 'Never happened.';
    const again = await seePack(steward, bytes(sealPack(forged)), 'forged');
    const seen = await packView(steward, again);
    expect(seen.counts.conflict).toBe(1);
    expect(seen.cards.find((c) => c.key === cards.drift)!.why.join()).toContain('says something else here');
    await startImport(steward, again, form({}));
    expect((await cardView(undefined, undefined, cards.drift!)).content.conditions).toBe('');
  });

  test('a new version of a shipped model from elsewhere changes nothing for anybody here', async () => {
    await inside(second);
    const forged = body(pack);
    const marlow = forged.models.find((m) => m.key === 'marlow-24')!;
    forged.models.push({ ...structuredClone(marlow), version: 99, name: 'Marlow 24 Better' });
    const card = forged.cards.find((c) => c.versions[0]!.setting.model === 'marlow-24')!;
    card.versions = [
      {
        ...card.versions[0]!,
        number: 50,
        setting: { ...card.versions[0]!.setting, version: 99 },
        cells: [],
        evidence: [],
      },
    ];
    card.confirmations = [];
    const before = await counts(second);
    const id = await bringIn(steward, sealPack(forged), 'full');
    expect((await packView(steward, id)).report!.left.join()).toContain(
      'version 99 of Marlow 24 Better is not known here',
    );
    expect({ ...(await counts(second)), source: 0 }).toEqual({ ...before, source: 0 });
  });

  test('taken off the shelf again, and put back', async () => {
    await inside(second);
    const [row] = await rows<{ id: string }>(
      second.url,
      `select distinct source_id as id from card where source_id is not null`,
    );
    await takeBack(steward, row!.id);
    expect((await listCards(undefined, undefined, '')).length).toBe(0);
    await startImport(steward, row!.id, form({}));
    expect((await packView(steward, row!.id)).state).toBe('done');
    expect((await listCards(undefined, undefined, '')).length).toBe(pack.cards.length);
    // The pack itself does so as well.
    await takeBack(steward, row!.id);
    await bringIn(steward, pack, 'full');
    expect((await listCards(undefined, undefined, '')).length).toBe(pack.cards.length);
  });

  test('two entries that are one vinyl here: the second card of their author is left out, and said', async () => {
    await inside(second);
    const doubled = body(pack);
    const card = doubled.cards.find((c) => c.key === cards.drift)!;
    const vinyl = doubled.vinyls.find((v) => v.key === card.vinyl)!;
    const nym = '00000000-0000-8000-8900-000000000001';
    doubled.people.push({ key: nym, name: 'Twice' });
    doubled.cutters.push({
      ...doubled.cutters.find((c) => c.key === card.versions[0]!.cutter)!,
      key: '00000000-0000-8000-8900-000000000002',
      person: nym,
      scales: [],
    });
    doubled.cards = ['1', '2'].map((n) => {
      const key = `01900000-0000-7000-8900-00000000000${n}`;
      doubled.vinyls.push({ ...vinyl, key });
      return {
        ...structuredClone(card),
        key: `01900000-0000-7000-8901-00000000000${n}`,
        vinyl: key,
        person: nym,
        confirmations: [],
        versions: [{ ...structuredClone(card.versions[0]!), cutter: '00000000-0000-8000-8900-000000000002' }],
      };
    });
    const id = await bringIn(steward, sealPack(doubled), 'full');
    const { state, report } = await packView(steward, id);
    expect(state).toBe('done');
    expect(report).toMatchObject({ cards: 1, vinyls: 0 });
    expect(report!.left.join()).toContain('has another card for this vinyl');
  });

  test('all of it or nothing: what goes wrong at the very end leaves no row behind', async () => {
    await inside(first);
    // Cards that are in no house yet.
    const strange = body(pack);
    for (const [i, c] of strange.cards.entries()) {
      c.key = `01900000-0000-7000-8777-${String(i).padStart(12, '0')}`;
      c.confirmations = [];
    }
    strange.vinyls.forEach((v, i) => {
      const key = `01900000-0000-7000-8778-${String(i).padStart(12, '0')}`;
      for (const c of strange.cards) if (c.vinyl === v.key) c.vinyl = key;
      v.key = key;
      v.name = `${v.name} of old`;
    });
    const id = await seePack(ada, bytes(sealPack(strange)), 'strange');
    const before = await counts(first);
    const from = { id, home: HOME, vouched: true, broughtBy: ada.id };
    await expect(
      putIn(sealPack(strange), from, () => Promise.reject(new Error('the lights went out'))),
    ).rejects.toThrow('the lights went out');
    // Readings are kept for whoever tries again; they are made of cells and say nothing of anybody.
    expect({ ...(await counts(first)), posterior: 0 }).toEqual({ ...before, posterior: 0 });
  });

  test('looked at a week ago and never brought in, it is forgotten', async () => {
    await inside(second);
    const [old, young] = [await seePack(steward, bytes(pack), 'old'), await seePack(steward, bytes(pack), 'young')];
    await rows(second.url, `update source set at = now() - interval '8 days' where id = '${old}'`);
    await sweepPacks();
    await expect(packView(steward, old)).rejects.toThrow('No such pack');
    expect((await packView(steward, young)).state).toBe('seen');
  });

  test('a pack whose turn was cut short is taken up again', async () => {
    await inside(second);
    const id = await seePack(steward, bytes(pack), 'again');
    await rows(second.url, `update source set state = 'queued' where id = '${id}'`);
    expect(await resumeImports()).toBe(1);
    expect((await packView(steward, id)).state).toBe('done');
  });
});

test('a card nobody may see takes nothing from a pack, even from who knows its key', async () => {
  await inside(first);
  await learn(dov, vinyls.Drift!, 0.3);
  const secret = await publish(dov, vinyls.Drift!, { visibility: 'private' });
  const guessed = body(pack);
  const card = guessed.cards.find((c) => c.key === cards.drift)!;
  card.key = secret;
  card.confirmations = card.confirmations.map((f, i) => ({ ...f, key: `01900000-0000-7000-8666-00000000000${i}` }));
  guessed.cards = [card];
  const before = await counts(first);
  const id = await bringIn(ada, sealPack(guessed));
  expect((await packView(ada, id)).report!.left.join()).toContain('another card has its key');
  expect({ ...(await counts(first)), source: 0 }).toEqual({ ...before, source: 0 });
});

test('what anybody brings in counts as one cut: a crowd made up in a file proves nothing', async () => {
  const third = await testDatabase();
  try {
    await inside(third);
    await publishShippedModels();
    const moss = await crafter('Moss Ward', 'marlow-24', 'moss@example.org');
    // Thirty crafters who found it clean, none of whom there ever was.
    const crowd = body(pack);
    const card = crowd.cards.find((c) => c.key === cards.drift)!;
    const [like] = card.confirmations.filter((c) => c.outcome === 'worked');
    crowd.cards = [card];
    for (let i = 0; i < 30; i++) {
      const key = (kind: string) => `00000000-0000-8000-8${kind}00-0000000000${String(i).padStart(2, '0')}`;
      crowd.people.push({ key: key('1') });
      crowd.cutters.push({
        ...crowd.cutters.find((c) => c.key === like!.cutter)!,
        key: key('2'),
        person: key('1'),
        scales: [],
      });
      card.confirmations.push({
        ...like!,
        key: key('3'),
        person: key('1'),
        cutter: key('2'),
        at: `2026-11-${String(1 + (i % 20)).padStart(2, '0')}T12:00:00.000`,
      });
    }
    const id = await bringIn(moss, sealPack(crowd), 'full');
    expect((await packView(moss, id)).report).toMatchObject({ cards: 1, confirmations: 33 });
    const { proof, from } = await cardView(moss, await bench(moss), card.key);
    expect(from).toEqual({ home: 'shelf.first.example', counts: 'one' });
    expect(proof!.people).toBe(1);
    expect(proof!.worth).toBeCloseTo(1, 6);
    expect(proof!.standing).toBe('tried');
  } finally {
    await closeDb();
    await third.drop();
  }
});
