import { readFileSync } from 'node:fs';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { join } from 'node:path';
import { afterAll, beforeAll, beforeEach, expect, test } from 'vitest';
import { packBodySchema, sealPack, writePack, type PackBody } from '#core/pack/index.ts';
import { cardView } from '#work/shelf/view.ts';
import { setCardHidden } from '#work/shelf/reports.ts';
import { listCards } from '#work/shelf/list.ts';
import { outsideLimits } from '#work/packs/outside.ts';
import type { Person } from '#work/people/person.ts';
import { askAgain, follow, followed, unfollow } from '#work/packs/follow.ts';
import { crafter, fieldsOf, form } from '../bench.ts';
import { confirm } from '../sharing.ts';
import { ownHouse } from '../house.ts';
import { root, rows } from '../testDatabase.ts';

// A shelf elsewhere is followed. The other server here does as it is told: answers, breaks off, stalls, sends elsewhere.
const database = ownHouse();
let steward: Person, ben: Person;
let other: Server;
let origin = '';
const asked: IncomingMessage[] = [];
let answer: (req: IncomingMessage, res: ServerResponse) => void = (_, res) => res.end();

const example = packBodySchema.parse(JSON.parse(readFileSync(join(root, 'docs/schemas/seal.example.json'), 'utf8')));
const card = example.cards[0]!.key;
const packOf = (change: (body: PackBody) => void = () => undefined): string => {
  const body = { ...structuredClone(example), home: origin };
  change(body);
  return writePack(sealPack(body));
};
/** Answers with a pack, or with "nothing new" where its tag is known. */
const serve = (text: string, tag: string) => {
  answer = (req, res) => {
    res.setHeader('ETag', tag);
    if (req.headers['if-none-match'] === tag) return void res.writeHead(304).end();
    res.end(text);
  };
};
const counts = async () =>
  (
    await rows<Record<string, number>>(
      database.url,
      `select (select count(*)::int from card) as cards, (select count(*)::int from card_version) as versions,
         (select count(*)::int from person) as people, (select count(*)::int from confirmation) as found,
         (select count(*)::int from vinyl) as vinyls, (select count(*)::int from cutter) as cutters`,
    )
  )[0]!;
const shelf = async () => (await followed())[0]!;
const again = async () => askAgain(steward, (await shelf()).id);

beforeAll(async () => {
  steward = await crafter('Vale Orrin', 'marlow-24', 'vale@example.org');
  process.env.VERSIPEL_STEWARDS = 'vale@example.org';
  steward = { ...steward, steward: true };
  ben = await crafter('Ben Rook', 'marlow-24', 'ben@example.org');
  other = createServer((req, res) => {
    asked.push(req);
    answer(req, res);
  });
  await new Promise<void>((done) => other.listen(0, '127.0.0.1', done));
  const { port } = other.address() as { port: number };
  origin = `http://127.0.0.1:${port}`;
  process.env.VERSIPEL_ALLOW_HOSTS = `127.0.0.1:${port}`;
});
beforeEach(() => void (asked.length = 0));
afterAll(async () => {
  delete process.env.VERSIPEL_ALLOW_HOSTS;
  other?.closeAllConnections();
  other?.close();
});

test('only a steward follows; an address inside the house is refused before anybody asks there', async () => {
  await expect(follow(ben, form({ address: origin }))).rejects.toThrow('Not here');
  for (const address of [
    'http://169.254.169.254/latest',
    'http://127.0.0.1:1/',
    'ftp://shelf.example',
    'http://[::1]/',
  ])
    expect(await fieldsOf(follow(steward, form({ address })))).toHaveProperty('address');
  expect(await followed()).toEqual([]);
  expect(asked).toHaveLength(0);
});

test('what is on the shelf there comes here under its name, counting half', async () => {
  serve(packOf(), '"one"');
  await follow(steward, form({ address: origin }));
  expect(asked[0]!.url).toBe('/packs/shelf');
  expect(await shelf()).toMatchObject({ home: origin, cards: 1, failures: 0, trouble: undefined, waits: false });
  const view = await cardView(undefined, undefined, card);
  expect(view.from).toEqual({ home: origin.replace('http://', ''), counts: 'half' });
  expect(view.author).toBe('Ottoline Fenn');
  expect(view.found[0]!.home).toBe(origin.replace('http://', ''));
  // A trial of its author and one of somebody else, each half of one made here.
  expect(view.proof!.cuts).toBe(2);
  expect(view.proof!.worth).toBeCloseTo(1, 6);
  expect(await fieldsOf(follow(steward, form({ address: `${origin}/shelf` })))).toEqual({
    address: 'This shelf is followed already.',
  });
});

test('nothing new there: it is asked with its tag, and nothing is brought', async () => {
  const before = await counts();
  await again();
  expect(asked).toHaveLength(1);
  expect(asked[0]!.headers['if-none-match']).toBe('"one"');
  expect(await counts()).toEqual(before);
});

test.each<[string, (res: ServerResponse, text: string) => void, RegExp]>([
  [
    'dies in the middle of its answer',
    (res, text) => {
      res.writeHead(200, { 'Content-Length': String(Buffer.byteLength(text)) });
      res.write(text.slice(0, text.length / 2), () => res.destroy());
    },
    /broke off in the middle/,
  ],
  [
    'breaks off without saying how long it would be',
    (res, text) => {
      res.write(text.slice(0, text.length / 2), () => res.destroy());
    },
    /broke off in the middle/,
  ],
  ['ends half way as if that were all', (res, text) => res.end(text.slice(0, text.length / 2)), /not whole/],
  ['says nothing for long', () => undefined, /nothing came for 0\.3 s/],
  ['promises too much', (res) => res.writeHead(200, { 'Content-Length': '900000000' }).flushHeaders(), /larger than/],
  [
    'sends without end',
    (res) => {
      const more = () => void (res.destroyed || (res.write('x'.repeat(500_000)), setTimeout(more, 1)));
      more();
    },
    /larger than 5 MB/,
  ],
  ['sends into the house', (res) => res.writeHead(302, { Location: 'http://127.0.0.1:9/x' }).end(), /not on the open/],
  [
    'sends to a name that leads into the house',
    (res) => res.writeHead(302, { Location: 'http://localhost:9/x' }).end(),
    /localhost is not on the open internet/,
  ],
  ['sends to a file', (res) => res.writeHead(302, { Location: 'file:///etc/passwd' }).end(), /not with file:/],
  ['sends round in a ring', (res) => res.writeHead(302, { Location: '/packs/shelf' }).end(), /without end/],
  ['has a fault', (res) => res.writeHead(500).end('x'), /it answered 500/],
  ['sends a page', (res) => res.end('<html>'), /"<" is not JSON/],
  [
    'speaks for somebody else',
    (res) => res.end(packOf((b) => (b.home = 'https://shelf.example'))),
    /says that it is https:\/\/shelf\.example/,
  ],
  ['asks for two hours', (res) => res.writeHead(503, { 'Retry-After': '7200' }).end(), /it answered 503/],
  [
    'asks for two hours by the clock',
    (res) => res.writeHead(503, { 'Retry-After': new Date(Date.now() + 7_205_000).toUTCString() }).end(),
    /it answered 503/,
  ],
])(
  'when the other one %s, that is said, nothing changes, and it is left alone for a while',
  async (what, does, says) => {
    const limits = { ...outsideLimits };
    Object.assign(outsideLimits, { bytes: 5_000_000, idleMs: 300 });
    try {
      serve(packOf(), '"one"');
      await again();
      const before = await counts();
      answer = (_, res) =>
        does(
          res,
          packOf((b) => (b.cards[0]!.versions[0]!.change = 'Later.')),
        );
      await again();
      const now = await shelf();
      expect(now.trouble).toMatch(says);
      expect(now.failures).toBe(1);
      const minutes = (Date.parse(now.nextAt) - Date.now()) / 60_000;
      expect(minutes).toBeGreaterThan(what.startsWith('asks for two hours') ? 119 : 4);
      expect(await counts()).toEqual(before);
    } finally {
      Object.assign(outsideLimits, limits);
    }
  },
);

test('well again, it goes on where it was: a new version is added; what was changed here stays', async () => {
  await setCardHidden(steward, card, form({ hide: 'yes', why: 'Looks odd.' }));
  await rows(database.url, `update vinyl set name = 'Starling, as we call it' where name = 'Starling'`);
  serve(
    packOf((b) => {
      const [v] = b.cards[0]!.versions;
      b.vinyls[0]!.name = 'Starling Renamed';
      b.cards[0]!.versions.push({ ...structuredClone(v!), number: 2, change: 'A cold room asks for more.' });
      b.cards[0]!.confirmations[0]!.grade = 'scored';
      b.cards[0]!.confirmations[0]!.outcome = 'failed';
    }),
    '"two"',
  );
  await again();
  expect(await shelf()).toMatchObject({ failures: 0, trouble: undefined });
  const view = await cardView(steward, undefined, card);
  expect(view.hidden).toBe(true);
  expect(view.number).toBe(2);
  // Whoever said it there took it back: it is taken back here.
  expect(view.found.map((f) => [f.grade, f.outcome])).toEqual([['scored', 'failed']]);
  expect(await rows(database.url, `select name from vinyl where brand = 'Quillow'`)).toEqual([
    { name: 'Starling, as we call it' },
  ]);
  await setCardHidden(steward, card, form({ hide: 'no', why: 'It is fine.' }));
});

test('what is found here with a card from elsewhere counts in full, and stays when the shelf is asked again', async () => {
  await confirm(ben, card, 'worked');
  serve(packOf(), '"three"');
  await again();
  const view = await cardView(undefined, undefined, card);
  expect(view.found.map((f) => f.home)).toContain(undefined);
  expect(view.proof!.people).toBe(3);
});

test('withdrawn there, it goes here; put back there, it comes back', async () => {
  serve(
    packOf((b) => (b.cards = [])),
    '"four"',
  );
  await again();
  expect(await listCards(undefined, undefined, '')).toEqual([]);
  expect((await shelf()).cards).toBe(0);
  serve(packOf(), '"five"');
  await again();
  expect(await listCards(undefined, undefined, '')).toHaveLength(1);
});

/** A page with one card of another vinyl. */
const secondPage = () =>
  packOf((b) => {
    b.cards[0]!.key = '01900000-0000-7000-8000-0000000000aa';
    b.cards[0]!.vinyl = b.vinyls[0]!.key = '01900000-0000-7000-8000-0000000000ab';
    b.vinyls[0]!.name = 'Crumb';
    b.cards[0]!.confirmations = [];
  });

test('a long shelf has pages; when a later one fails, nothing is taken for withdrawn', async () => {
  const second = secondPage();
  let broken = false;
  answer = (req, res) => {
    if (req.url === '/packs/shelf') {
      res.setHeader('Link', '</packs/shelf?page=2>; rel="next"');
      res.setHeader('ETag', broken ? '"seven"' : '"six"');
      return void res.end(packOf());
    }
    if (broken) return void res.destroy();
    res.end(second);
  };
  await again();
  expect((await shelf()).cards).toBe(2);
  broken = true;
  await again();
  expect(await shelf()).toMatchObject({ cards: 2, failures: 1 });
  // It is asked anew: the tag of a shelf that was not seen whole is not kept.
  broken = false;
  await again();
  expect(asked.at(-1)!.url).toBe('/packs/shelf?page=2');
  expect(await shelf()).toMatchObject({ cards: 2, failures: 0 });
});

test('of a long shelf that changed, pages that did not are not sent again', async () => {
  const second = secondPage();
  const none = packOf((b) => (b.cards = []));
  let [one, two] = ['"a1"', '"b1"'];
  answer = (req, res) => {
    const [tag, text] = req.url === '/packs/shelf' ? [one, packOf()] : [two, two === '"b3"' ? none : second];
    if (req.url === '/packs/shelf') res.setHeader('Link', '</packs/shelf?page=2>; rel="next"');
    res.setHeader('ETag', tag);
    if (req.headers['if-none-match'] === tag) return void res.writeHead(304).end();
    res.end(text);
  };
  await again();
  expect((await shelf()).cards).toBe(2);
  const told = () => asked.map((r) => `${r.url} ${r.headers['if-none-match'] ?? ''}`);
  one = '"a2"';
  asked.length = 0;
  await again();
  expect(told()).toEqual(['/packs/shelf "a1"', '/packs/shelf?page=2 "b1"']);
  // Not sent, and yet there.
  expect(await shelf()).toMatchObject({ cards: 2, failures: 0 });
  [one, two] = ['"a3"', '"b3"'];
  await again();
  expect(await shelf()).toMatchObject({ cards: 1, failures: 0 });
  [one, two] = ['"a4"', '"b4"'];
  await again();
  expect(await shelf()).toMatchObject({ cards: 2, failures: 0 });
});

test('followed no longer, its cards stay or go', async () => {
  await unfollow(steward, (await shelf()).id, true);
  expect(await followed()).toEqual([]);
  expect(await listCards(undefined, undefined, '')).toHaveLength(2);
  serve(packOf(), '"eight"');
  await follow(steward, form({ address: origin }));
  await unfollow(steward, (await shelf()).id, false);
  expect(await followed()).toEqual([]);
});
