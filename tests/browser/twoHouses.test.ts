import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, connect, type Server } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { Pack } from '#core/pack/index.ts';
import type { Person } from '#work/people/person.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { publishShippedModels } from '#work/workshop/models.ts';
import { closeDb } from '#store/base/db.ts';
import { crafter, password } from '../bench.ts';
import { confirm, learn, publish } from '../sharing.ts';
import { rows, testDatabase } from '../testDatabase.ts';
import { violations } from './axe.ts';
import { openBrowser, signInAs, type Browser } from '../../bin/lib/browser.ts';
import { serverProcess, type ServerProcess } from './serverProcess.ts';

// Two servers, each with people of its own. A pack goes from one to the other by hand; then one follows the other's shelf, through a line
// that can be cut, and the other dies in the middle of an answer.
const NASTY = 'Drift <img src=x onerror=alert(1)>';
type House = { database: Awaited<ReturnType<typeof testDatabase>>; server: ServerProcess };
let first: House, second: House;
let line: Server,
  lineAt = '';
/** After so many bytes of an answer the other server is killed. */
let deadly = Infinity;
let b: Browser;
let ada: Person, ben: Person;
let [drift, crumb] = ['', ''];
let scratch = '';

const inFirst = async (work: () => Promise<void>) => {
  process.env.DATABASE_URL = first.database.url;
  await work();
  await closeDb();
};
const counts = async () =>
  (
    await rows<Record<string, number>>(
      second.database.url,
      `select (select count(*)::int from card) as cards, (select count(*)::int from card_version) as versions,
         (select count(*)::int from person) as people, (select count(*)::int from confirmation) as found,
         (select count(*)::int from vinyl) as vinyls, (select count(*)::int from cutter) as cutters,
         (select count(*)::int from cutter_model) as models, (select count(*)::int from source) as sources`,
    )
  )[0]!;
const upload = async (name: string, content: string) => {
  const file = join(scratch, name);
  writeFileSync(file, content);
  await b.go('/packs');
  await (await b.css('#file')).sendKeys(file);
  await (await b.button('Look at it')).click();
};

beforeAll(async () => {
  scratch = mkdtempSync(join(tmpdir(), 'versipel-packs-'));
  const [one, two] = [await testDatabase(), await testDatabase()];
  process.env.DATABASE_URL = one.url;
  await publishShippedModels();
  ada = await crafter('Ada Fenn', 'marlow-24', 'ada@example.org');
  ben = await crafter('Ben Rook', 'marlow-24', 'ben@example.org');
  const add = (name: string, type: string) =>
    addVinyl(ada, { brand: 'Quillow', name, type, colour: 'one', hex: '#cfc4ea' }, 'public');
  const vinyl = await add(NASTY, 'holographic');
  const plain = await add('Plain', 'smooth');
  for (const p of [ada, ben]) {
    await learn(p, plain, 0, 8);
    await publish(p, plain);
  }
  await learn(ada, vinyl, 0.3, 6);
  drift = await publish(ada, vinyl, { licence: 'cc-by' });
  await confirm(ben, drift, 'worked', {}, 2);
  crumb = await add('Crumb', 'glitter');
  await closeDb();
  process.env.DATABASE_URL = two.url;
  await publishShippedModels();
  await crafter('Vale Orrin', 'oxbow-dial', 'vale@example.org');
  await closeDb();
  const server = await serverProcess(one.url);
  // The line to the first house.
  line = createServer((from) => {
    const to = connect(Number(new URL(server.base).port), '127.0.0.1');
    let came = 0;
    to.on('data', (part) => {
      came += part.length;
      if (came < deadly) return void from.write(part);
      from.write(part.subarray(0, Math.max(0, part.length - (came - deadly))), () => {
        void server.kill();
        to.destroy();
        from.destroy();
      });
    });
    from.pipe(to);
    for (const s of [from, to])
      s.on('error', () => {
        from.destroy();
        to.destroy();
      });
    to.on('end', () => from.end());
  });
  await new Promise<void>((done) => line.listen(0, '127.0.0.1', done));
  lineAt = `http://127.0.0.1:${(line.address() as { port: number }).port}`;
  first = { database: one, server };
  second = {
    database: two,
    server: await serverProcess(two.url, {
      VERSIPEL_STEWARDS: 'vale@example.org',
      VERSIPEL_ALLOW_HOSTS: new URL(lineAt).host,
    }),
  };
  b = await openBrowser(() => second.server.base);
});
afterAll(async () => {
  await b?.close();
  line?.close();
  for (const house of [first, second]) {
    await house?.server.kill().catch(() => undefined);
    await house?.database.drop();
  }
  await closeDb();
  rmSync(scratch, { recursive: true, force: true });
});

describe('a pack from one server to another', () => {
  let pack = '';
  test('a card is taken along as a file from its page', async () => {
    const page = await (await fetch(`${first.server.base}/cards/${drift}`)).text();
    expect(page).toContain(`/cards/${drift}/pack`);
    const file = await fetch(`${first.server.base}/cards/${drift}/pack`);
    expect(file.headers.get('content-type')).toBe('application/vnd.versipel.pack+json');
    expect(file.headers.get('content-disposition')).toMatch(
      /^attachment; filename="quillow-drift[a-z-]*\d?[a-z-]*-?1?\.pack\.json"$/,
    );
    const shelf = await fetch(`${first.server.base}/packs/shelf`);
    pack = await shelf.text();
    expect((JSON.parse(pack) as Pack).cards).toHaveLength(3);
    const known = await fetch(`${first.server.base}/packs/shelf`, {
      headers: { 'If-None-Match': shelf.headers.get('etag')! },
    });
    expect(known.status).toBe(304);
    const table = await fetch(`${first.server.base}/packs/shelf.csv?q=drift`);
    expect(table.headers.get('content-type')).toMatch(/^text\/csv/);
    expect((await table.text()).split('\r\n')[1]).toContain('Quillow');
  });

  test.each([
    ['cut.json', () => pack.slice(0, 5000), 'it is not whole'],
    ['deep.json', () => '['.repeat(5000), 'nested deeper than 24 levels'],
    ['proto.json', () => pack.replace('"home":', '"__proto__": {"steward": true}, "home":'), 'has no place in a pack'],
    ['big.json', () => pack.replace('"number": 1', '"number": 1e999'), '1e999 is no number a pack can hold'],
    ['new.json', () => pack.replace('versipel-pack/1', 'versipel-pack/3'), 'newer than the versions 1 and 2'],
    ['forged.json', () => pack.replace('"clean"', '"through"'), 'does not match'],
    ['huge.json', () => 'x'.repeat(21_000_000), 'a pack has 20 MB at most'],
  ])('%s is refused on the page in one line, and the database stays as it was', async (name, make, says) => {
    if (name === 'cut.json') await signInAs(b, 'vale@example.org', password);
    const before = await counts();
    await upload(name, make());
    const said = await (await b.css('#file-problem')).getText();
    expect(said).toContain(says);
    expect(said).not.toContain('\n');
    expect(await counts()).toEqual(before);
  });

  test('what it would bring is shown first; then it is brought in, and names stay text', async () => {
    // What was refused above was refused with 400, which the console says.
    await b.complaints();
    await upload('shelf.pack.json', pack);
    await b.says('3 cards that are new here');
    expect(await b.text()).toContain(NASTY);
    expect(await violations(b)).toEqual([]);
    expect((await counts()).cards).toBe(0);
    await (await b.css('input[name=weight][value=full]')).click();
    await (await b.button('Bring in 3 cards')).click();
    await b.says(/Brought 3 cards in, with 3 versions, 1 result of others and 2 new vinyls/);
    await b.go(`/cards/${drift}`);
    await b.says(new RegExp(`from ${new URL(first.server.base).host}`));
    expect(await b.text()).toMatch(/Tried: 2 clean of 2 on 2 days by 2 crafters/);
    expect(await b.complaints()).toEqual([]);
    await b.go('/packs');
    expect(await violations(b)).toEqual([]);
  });
});

describe('one server follows the other', () => {
  const row = () => b.css('[data-testid=followed]').then((e) => e.getText());
  const until = (text: RegExp) =>
    b.driver.wait(async () => text.test(await row()), 30_000, `the shelf never says ${text}`);

  test('by its address; its cards are there already, and new ones come', async () => {
    await b.go('/packs');
    await b.fill('address', 'http://127.0.0.1:9/');
    await (await b.button('Follow it')).click();
    await b.says('Not followed: 127.0.0.1 is not on the open internet');
    await b.fill('address', lineAt);
    await (await b.button('Follow it')).click();
    await until(/last asked/);
    // The three were brought by hand before: they stay where they came from.
    expect(await row()).toContain('0 cards');
    await inFirst(async () => {
      await learn(ben, crumb, 0.4, 2);
      await publish(ben, crumb);
    });
    await (await b.button('Ask now')).click();
    await until(/1 card/);
    await b.go('/shelf?q=crumb');
    await b.says(`from ${new URL(lineAt).host}`);
  });

  test('which dies in the middle of its answer: that is said, and nothing here changes', async () => {
    await inFirst(async () => {
      await confirm(
        ada,
        (
          await rows<{ id: string }>(
            first.database.url,
            `select c.id from card c join vinyl v on v.id = c.vinyl_id where v.name = 'Crumb'`,
          )
        )[0]!.id,
        'worked',
      );
    });
    const before = await counts();
    deadly = 6000;
    await b.go('/packs');
    await (await b.button('Ask now')).click();
    await until(/its answer broke off in the middle/);
    expect(await row()).toContain('What it brought before stays');
    expect(await counts()).toEqual(before);
    await b.go('/packs');
    await (await b.button('Ask now')).click();
    await until(/(nobody answers there|broke off)/);
    expect(await counts()).toEqual(before);
  });

  test('and lives again: what was missed is brought', async () => {
    deadly = Infinity;
    const before = await counts();
    await first.server.start();
    await b.go('/packs');
    await (await b.button('Ask now')).click();
    await b.driver.wait(async () => !/broke off|nobody answers/.test(await row()), 30_000, 'it never gets well');
    // Who said it is known here by her card; the result is new.
    expect(await counts()).toEqual({ ...before, found: before.found! + 1 });
  });
});
