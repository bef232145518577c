import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { createConnection } from 'node:net';
import { join } from 'node:path';
import { v4 as uuidv4, v7 as uuidv7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { publishCard } from '#work/shelf/publish.ts';
import { couponOf } from '#work/coupons/coupons.ts';
import { makeCoupon } from '#work/coupons/plan.ts';
import { takeAll } from '#work/deliver.ts';
import { keepSetting } from '#work/shelf/evidence.ts';
import { quotas } from '#work/base/quotas.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { crafter, form, grade, password } from '../bench.ts';
import { root, rows } from '../testDatabase.ts';
import { until, wholeHouse } from './house.ts';
import { fewAtATime, median, memoryOf, pause, Stranger, type Answer } from './stranger.ts';

// What a stranger can do to a server that is left running: one after the other, on one process, which must be there and well at the end.
// Each part has its line in docs/security.md.
const house = wholeHouse({ VERSIPEL_BENCH: '1' });
const base = () => house.server.base;

let ada: Stranger;
let adaId = '';
let vinyl = '';
let coupon = '';
let card = '';
const known = { adaCells: [] as string[] };
/** What the server was like when it had warmed up. */
const first = { memory: 0, health: 0, pid: 0 };

/** Median time of /health over so many looks, ms. */
async function health(n = 20): Promise<number> {
  const times: number[] = [];
  for (let i = 0; i < n; i++) {
    const from = performance.now();
    expect((await fetch(`${base()}/health`)).status).toBe(200);
    times.push(performance.now() - from);
  }
  return median(times);
}

/** What the process takes once what nobody holds any more was collected, MB: what is left is what it keeps. */
async function memory(): Promise<number> {
  for (let i = 0; i < 3; i++) {
    await ada.get('/bench');
    await pause(500);
  }
  return memoryOf(house.server.pid());
}

async function signedIn(email: string): Promise<Stranger> {
  const someone = new Stranger(base());
  // The database may be away just now.
  await until(async () => (await someone.post('/sign-in', { what: 'sign in', email, password })).status === 302);
  return someone;
}

/** An answer that is no fault of ours. */
function ours(answer: Answer, what: string): void {
  if (answer.status >= 500)
    throw new Error(
      `${what} answered ${answer.status}: ${answer.body.slice(0, 300)}\n${house.server.said().slice(-1500)}`,
    );
  expect(answer.headers['x-content-type-options']).toBe('nosniff');
}

/** A guest with a cutter: made by their first valid act. */
async function guestWithCutter(model = 'marlow-24'): Promise<Stranger> {
  const someone = new Stranger(base());
  const answer = await someone.post('/workshop/cutters/new', {
    what: 'add',
    model,
    name: 'Mine',
    blade: 'first',
    angle: '45',
    used: '0',
  });
  expect(answer.status).toBe(302);
  return someone;
}

/** Every address of the site that can be looked at, with real ids where it names something. */
const pages = () => [
  '/',
  '/find?q=drift',
  '/jobs',
  '/jobs/new',
  '/jobs/art',
  '/jobs/names',
  '/check',
  '/vinyls',
  '/vinyls?q=drift',
  '/vinyls/new',
  '/vinyls/alike?name=drift',
  '/vinyls/table',
  '/vinyls/table/vinyls.csv',
  '/vinyls/import',
  `/vinyls/${vinyl}`,
  `/vinyls/${vinyl}/about`,
  `/vinyls/${vinyl}/press`,
  `/vinyls/${vinyl}/swatch`,
  `/vinyls/${vinyl}/code.svg`,
  '/types/new',
  '/blanks',
  '/blanks?on=cotton',
  '/chart',
  '/chart/a4.pdf',
  '/stock',
  '/coupons',
  `/coupons/new?vinyl=${vinyl}`,
  `/coupons/${coupon}`,
  `/coupons/${coupon}/run`,
  `/coupons/${coupon}/grade`,
  `/coupons/${coupon}/result`,
  `/coupons/${coupon}/files/coupon.svg`,
  '/shelf',
  '/shelf?q=drift',
  `/cards/new?vinyl=${vinyl}`,
  `/cards/${card}`,
  `/cards/${card}/picture.png`,
  `/cards/${card}/pack`,
  '/packs',
  '/packs/shelf',
  '/packs/shelf.csv',
  '/packs/schema.json',
  '/inbox',
  '/order',
  '/feed',
  `/feed/vinyls/${vinyl}`,
  '/workshop',
  '/workshop/cutters/new',
  '/workshop/models/new',
  '/account',
  '/sign-in',
  '/recover',
  '/api/openapi.json',
  '/api/v1/cards',
  `/api/v1/cards/${card}`,
  '/api/v1/vinyls',
  `/api/v1/vinyls/${vinyl}`,
  '/health',
  '/swatches/1-glitter.svg',
];

/** What a connection hears that says nothing, until it is closed: it takes half a minute, and the others go on meanwhile. */
let silent: Promise<string>;
beforeAll(() => {
  silent = new Promise((done, failed) => {
    let said = '';
    const socket = createConnection(Number(new URL(base()).port), '127.0.0.1');
    socket.on('data', (d: Buffer) => (said += d.toString()));
    socket.on('error', () => done(said));
    socket.on('close', () => done(said));
    setTimeout(() => failed(new Error('it stays open')), 300_000).unref();
  });
  silent.catch(() => undefined);
});

beforeAll(async () => {
  const author = await crafter('Ada Fenn', 'marlow-24', 'ada@example.org');
  adaId = author.id;
  const bench = (await benchOf(author))!;
  vinyl = await addVinyl(
    author,
    { brand: 'Quillow', name: 'Drift', type: 'glitter', colour: 'one', hex: '#cfc4ea' },
    'public',
  );
  coupon = await makeCoupon(author, bench, vinyl, form({ cells: '6' }));
  const view = await couponOf(author, coupon);
  known.adaCells = view.cells.map((c) => c.id);
  const words = ['uncut', 'uncut', 'hangs', 'clean', 'scored', 'through'];
  await takeAll(
    author,
    view.cells.map((c, i) => grade(c.id, words[i]!, 1, i)),
  );
  await keepSetting(author, form({ vinyl, cutter: bench.cutter.id, strength: '130' }));
  card = await publishCard(author, bench, form({ vinyl, wanted: 'clean', visibility: 'public', licence: 'cc0' }), 'x');
  ada = await signedIn('ada@example.org');
  // Every route and every thread has run once.
  for (let round = 0; round < 3; round++)
    for (const path of pages()) {
      const { status } = await ada.get(path);
      if (status >= 500) throw new Error(`${path} answered ${status}:\n${house.server.said().slice(-2000)}`);
    }
  // Both threads have drawn, planned, judged and read: two askers, several at once.
  const other = await guestWithCutter();
  const heavy = [
    '/chart/a4.pdf?q=drift',
    '/chart/letter.pdf?q=drift',
    ...Array.from({ length: 6 }, (_, i) => `/coupons/new?vinyl=${vinyl}&cells=${4 + i}`),
  ];
  for (let round = 0; round < 3; round++)
    await Promise.all(
      [ada, other].flatMap((who) => heavy.map((path) => who.get(`${path}${path.includes('?') ? '&' : '?'}r=${round}`))),
    );
  await Promise.all(
    [ada, other].map((who) =>
      who.upload(
        '/vinyls/import',
        { what: 'see' },
        { name: 't.csv', bytes: Buffer.from('brand,name,type\nTansy,Warm,puff\n') },
      ),
    ),
  );
  other.leave();
  first.memory = await memory();
  first.health = await health();
  first.pid = house.server.pid();
});

/** An outbox that delivers all the while: what was acknowledged must be there at the end. */
const outbox = {
  acknowledged: [] as string[],
  sent: [] as string[],
  stopped: false,
  running: Promise.resolve() as Promise<unknown>,
};
beforeAll(() => {
  const device = uuidv4();
  let clock = Date.now();
  outbox.running = (async () => {
    while (!outbox.stopped) {
      const cell = known.adaCells[outbox.sent.length % 6]!;
      clock += 1000;
      const event = { ...grade(cell, 'clean'), device, deviceAt: new Date(clock).toISOString() };
      outbox.sent.push(event.id);
      for (;;) {
        const answer = await ada
          .ask('/api/events', {
            method: 'POST',
            headers: { 'Content-Type': 'application/json', Origin: base() },
            body: JSON.stringify({ person: adaId, events: [event] }),
            patience: 20_000,
          })
          .catch(() => undefined);
        if (answer?.status === 200) {
          expect(['stored', 'already']).toContain(JSON.parse(answer.body).results[0].outcome);
          outbox.acknowledged.push(event.id);
          break;
        }
        await pause(100);
      }
      await pause(150);
    }
  })();
});
afterAll(async () => {
  outbox.stopped = true;
  await outbox.running;
});

describe('1. bodies are counted before they are read', () => {
  const endless = (bytes: number) => (req: import('node:http').ClientRequest) => {
    const chunk = Buffer.from('a&'.repeat(32_000));
    let left = bytes;
    const write = () => {
      while (left > 0) {
        left -= chunk.length;
        if (!req.write(chunk)) return void req.once('drain', write);
      }
      req.end();
    };
    req.on('error', () => undefined);
    write();
  };
  /** An answer, or a connection that was closed before all of it was sent: both are a refusal. */
  const refused = async (answer: Promise<Answer>) => {
    const { status } = await answer.catch(() => ({ status: 413 }));
    expect(status).toBe(413);
  };

  test('60 MB and 20 MB as a form, said and unsaid, to any action: 413, and others do not wait', async () => {
    const someone = new Stranger(base());
    for (const path of ['/sign-in', '/workshop', '/preferences', '/vinyls/new.data', '/nowhere'])
      for (const bytes of [60_000_000, 20_000_000]) {
        const plain = { 'Content-Type': 'application/x-www-form-urlencoded', Origin: base() };
        await refused(
          someone.ask(path, {
            method: 'POST',
            headers: { ...plain, 'Content-Length': String(bytes) },
            body: endless(bytes),
          }),
        );
        await refused(
          someone.ask(path, {
            method: 'POST',
            headers: { ...plain, 'Transfer-Encoding': 'chunked' },
            body: endless(bytes),
          }),
        );
      }
    await health(3);
    someone.leave();
  });
  test('100 MB in pieces to an upload: 413 at its own limit', async () => {
    const someone = new Stranger(base());
    for (const path of ['/packs', '/vinyls/import'])
      await refused(
        someone.ask(path, {
          method: 'POST',
          headers: {
            'Content-Type': 'multipart/form-data; boundary=x',
            'Transfer-Encoding': 'chunked',
            Origin: base(),
          },
          body: endless(100_000_000),
        }),
      );
    someone.leave();
  });
  test('a delivery that is too large: 413, in which the limit stands, so that an outbox sends less', async () => {
    const events = Array.from({ length: 900 }, () => ({ ...grade(known.adaCells[0]!, 'clean') }));
    const answer = await ada.ask('/api/events', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', Origin: base() },
      body: JSON.stringify({ person: adaId, events }),
    });
    expect(answer.status).toBe(413);
    expect(answer.headers['x-at-most']).toBe(String(quotas.body.events));
  });
  test('few bytes with many fields, and many parts: 413', async () => {
    const someone = new Stranger(base());
    expect(
      (
        await someone.post(
          '/sign-in',
          Array.from({ length: 1000 }, (_, i) => [`f${i}`, '1']),
        )
      ).status,
    ).toBe(413);
    const parts = Array.from(
      { length: 400 },
      (_, i) => `--x\r\nContent-Disposition: form-data; name="f${i}"\r\n\r\n1\r\n`,
    );
    expect(
      (
        await someone.ask('/vinyls/import', {
          method: 'POST',
          headers: { 'Content-Type': 'multipart/form-data; boundary=x', Origin: base() },
          body: `${parts.join('')}--x--`,
        })
      ).status,
    ).toBe(413);
    expect((await someone.get(`/vinyls?${'a=1&'.repeat(500)}`)).status).toBe(413);
    expect((await someone.get(`/vinyls?q=${'a'.repeat(13_000)}`)).status).toBe(414);
    someone.leave();
  });
  test('a body that hardly arrives is given up', async () => {
    const someone = new Stranger(base());
    const answer = await someone
      .ask('/sign-in', {
        method: 'POST',
        headers: { 'Content-Type': 'application/x-www-form-urlencoded', 'Content-Length': '1000', Origin: base() },
        body: (req) => {
          const drip = setInterval(() => req.write('a'), 1000);
          req.on('error', () => undefined);
          req.on('close', () => clearInterval(drip));
        },
        patience: (quotas.bodySeconds.form + 10) * 1000,
      })
      .catch(() => ({ status: 408 }));
    expect(answer.status).toBe(408);
    someone.leave();
  });
});

describe('2. a cutter model of one’s own', () => {
  const model = (max: number, more: object = {}) =>
    JSON.stringify({
      key: 'mine',
      version: 1,
      name: 'Mine',
      about: '',
      axes: [{ kind: 'number', key: 'force', word: 'force', role: 'strength', min: 1, max, ...more }],
    });

  test('an axis of 900 000 000 or 10 000 steps is refused, in the form, as JSON, in a pack and on the command line', async () => {
    const someone = new Stranger(base());
    for (const max of [900_000_000, 10_000, 2_001])
      expect((await someone.post('/workshop/models/new', { what: 'json', json: model(max) })).status).toBe(400);
    const typed = {
      what: 'form',
      name: 'Mine',
      axes: '1',
      'axis-0-word': 'force',
      'axis-0-role': 'strength',
      'axis-0-kind': 'number',
    };
    expect(
      (await someone.post('/workshop/models/new', { ...typed, 'axis-0-min': '1', 'axis-0-max': '900000000' })).status,
    ).toBe(400);
    expect(
      (await someone.post('/workshop/models/new', { what: 'json', json: model(400, { step: 1e-300 }) })).status,
    ).toBe(400);
    // Nobody was made by what was refused.
    expect(someone.cookies.size).toBe(0);
    const pack = JSON.parse(readFileSync(join(root, 'docs/schemas/pack.example.json'), 'utf8')) as {
      models: { axes: { max?: number }[] }[];
    };
    pack.models[0]!.axes.find((a) => a.max !== undefined)!.max = 300_000;
    const said = core('pack', JSON.stringify(pack));
    expect(said.code).toBe(2);
    expect(said.error).toMatch(/2000 steps/);
    expect(
      core(
        'controls',
        JSON.stringify({ format: 'versipel-controls/1', model: JSON.parse(model(900_000_000)), typed: {} }),
      ).code,
    ).toBe(2);
    someone.leave();
  });
  test('the largest one there may be can be planned with, and others go on', async () => {
    const someone = new Stranger(base());
    expect((await someone.post('/workshop/models/new', { what: 'json', json: model(2_000) })).status).toBe(302);
    const [{ key }] = (await rows<{ key: string }>(
      house.owner,
      `select key from cutter_model where name = 'Mine' limit 1`,
    )) as [{ key: string }];
    const made = await someone.post('/workshop/cutters/new', {
      what: 'add',
      model: key,
      name: 'Mine',
      blade: 'b',
      angle: '45',
      used: '0',
    });
    expect(made.status).toBe(302);
    const plans = Array.from({ length: 20 }, (_, i) => someone.get(`/coupons/new?vinyl=${vinyl}&cells=${4 + (i % 9)}`));
    const others = await ada.get('/vinyls');
    expect(others.status).toBe(200);
    expect((await ada.get(`/coupons/new?vinyl=${vinyl}&cells=5`)).status).toBe(200);
    for (const plan of await Promise.all(plans)) if (![200, 429, 503].includes(plan.status)) ours(plan, 'a plan');
    expect((await someone.get('/vinyls')).status).toBe(200);
    someone.leave();
  });
  test('as many models as one may have, and no more', async () => {
    const someone = new Stranger(base());
    const answers = [];
    for (let i = 0; i < quotas.rows.guest.models + 2; i++)
      answers.push(
        (
          await someone.post('/workshop/models/new', {
            what: 'json',
            json: model(100 + i).replaceAll('mine', `own-${i}`),
          })
        ).status,
      );
    expect(answers.filter((s) => s === 302)).toHaveLength(quotas.rows.guest.models);
    expect(answers.at(-1)).toBe(400);
    someone.leave();
  });
});

function core(verb: string, input: string): { code: number; error: string } {
  try {
    execFileSync(join(root, 'bin/core'), [verb], { input, stdio: ['pipe', 'ignore', 'pipe'] });
    return { code: 0, error: '' };
  } catch (error) {
    const { status, stderr } = error as { status: number; stderr: Buffer };
    return { code: status, error: stderr.toString() };
  }
}

describe('3. the database goes and comes', () => {
  /** Writes all the while; answers what became of each. */
  const writers = (n: number, stop: { now: boolean }) =>
    Promise.all(
      Array.from({ length: n }, async () => {
        const someone = await signedIn('ada@example.org');
        const statuses: number[] = [];
        for (let i = 0; !stop.now; i++) {
          if (statuses.at(-1) !== 302) await pause(50);
          statuses.push(
            (
              await someone
                .post('/vinyls/new', {
                  what: 'add',
                  brand: 'Tansy',
                  name: `Loft ${uuidv4()}`,
                  type: 'puff',
                  colour: 'maize',
                  hex: '#e0ac33',
                })
                .catch(() => ({ status: 0 }))
            ).status,
          );
        }
        someone.leave();
        return statuses;
      }),
    ).then((all) => all.flat());

  test.each([1, 2])(
    'stopped and started under four writers (%i): pages say so and come back, the process stays',
    async () => {
      const stop = { now: false };
      const writing = writers(4, stop);
      await pause(1_500);
      await house.cluster.stop();
      const away = new Stranger(base());
      try {
        const page = await away.get('/vinyls');
        expect(page.status).toBe(503);
        expect(Number(page.headers['retry-after'])).toBeGreaterThan(0);
        expect(page.body).toContain('Back in a moment');
        expect(page.body).toContain('What is saved is safe');
        expect((await away.get('/health')).status).toBe(503);
        expect((await away.get('/vinyls.data')).status).toBe(503);
        expect((await ada.get('/')).status).toBe(503);
        // What was typed stays in the form: the answer to a form is one of the form.
        const typed = await away.post('/vinyls/new.data', {
          what: 'add',
          brand: 'Tansy',
          name: 'Typed',
          type: 'puff',
          colour: 'm',
          hex: '#e0ac33',
        });
        expect(typed.status).toBe(503);
      } finally {
        await house.cluster.restart();
      }
      await until(async () => (await away.get('/health')).status === 200);
      expect((await away.get('/vinyls')).status).toBe(200);
      await pause(500);
      stop.now = true;
      const statuses = await writing;
      expect(statuses).toContain(302);
      expect(statuses.filter((s) => ![302, 503, 0].includes(s))).toEqual([]);
      expect(house.server.alive()).toBe(true);
      expect(house.server.pid()).toBe(first.pid);
      away.leave();
    },
  );

  test('connections that are cut off in the middle of a transaction, again and again', async () => {
    const stop = { now: false };
    const writing = writers(4, stop);
    for (let i = 0; i < 15; i++) {
      await pause(100);
      await rows(
        house.cluster.url('attack'),
        `select pg_terminate_backend(pid) from pg_stat_activity where application_name like 'versipel%' and pid <> pg_backend_pid()`,
      );
    }
    stop.now = true;
    const statuses = await writing;
    expect(statuses.filter((s) => ![302, 503, 0].includes(s))).toEqual([]);
    expect(house.server.alive()).toBe(true);
    expect((await ada.get('/')).status).toBe(200);
  });
});

describe('8. strangers leave nothing behind', () => {
  const count = async (table: string) =>
    (await rows<{ n: number }>(house.owner, `select count(*)::int as n from ${table}`))[0]!.n;

  test('1 500 refused writes make nobody', async () => {
    const before = [await count('person'), await count('session')];
    const crowd = Array.from({ length: 15 }, () => new Stranger(base()));
    for (const someone of crowd)
      await Promise.all(
        Array.from({ length: 100 }, async (_, i) => {
          const path = ['/workshop', '/vinyls/new', '/coupons/new', '/stock', '/types/new', '/cards/new'][i % 6]!;
          const { status } = await someone.post(path, i % 2 ? {} : { what: 'add' });
          expect(status).toBeGreaterThanOrEqual(400);
          expect(status).toBeLessThan(500);
        }),
      );
    for (const s of crowd) s.leave();
    expect([await count('person'), await count('session')]).toEqual(before);
  });
  test('one address makes so many guests in an hour, and no more', async () => {
    const before = await count('person');
    const address = '203.0.113.77';
    let often = 0;
    for (let i = 0; i < quotas.guestsPerHour + 10; i++) {
      const someone = new Stranger(base(), address);
      const { status } = await someone.post('/preferences', { what: 'preferences', length: 'in', once: uuidv4() });
      expect([302, 429]).toContain(status);
      if (status === 429) often++;
      someone.leave();
    }
    expect(often).toBe(10);
    expect((await count('person')) - before).toBe(quotas.guestsPerHour);
  });
  test('what was looked at and not brought in: the last few stay', async () => {
    const someone = await guestWithCutter();
    for (let i = 0; i < quotas.rows.guest.imports + 3; i++)
      expect(
        (
          await someone.upload(
            '/vinyls/import',
            { what: 'see' },
            { name: `t${i}.csv`, bytes: Buffer.from(`brand,name,type\nTansy,Loft ${i},puff\n`) },
          )
        ).status,
      ).toBe(302);
    const [{ n }] = (await rows<{ n: number }>(
      house.owner,
      `select count(*)::int as n from import where person_id = (select person_id from import order by at desc limit 1)`,
    )) as [{ n: number }];
    expect(n).toBe(quotas.rows.guest.imports);
    someone.leave();
  });
});

describe('9. the pool does not wait for itself', () => {
  test('60 confirmations of imports at once are all answered, once', async () => {
    const people = await Promise.all(Array.from({ length: 6 }, () => guestWithCutter()));
    const where: string[] = [];
    for (const [i, someone] of people.entries()) {
      const table = `brand,name,type\n${Array.from({ length: 40 }, (_, k) => `Tansy,Loft ${i} ${k},puff`).join('\n')}\n`;
      const { headers } = await someone.upload(
        '/vinyls/import',
        { what: 'see' },
        { name: 't.csv', bytes: Buffer.from(table) },
      );
      where.push(headers.location!);
    }
    const before = (
      await rows<{ n: number }>(house.owner, `select count(*)::int as n from vinyl where import_id is not null`)
    )[0]!.n;
    const answers = await Promise.all(
      Array.from({ length: 60 }, (_, i) => people[i % 6]!.post(where[i % 6]!, { what: 'do', once: `key-of-${i % 6}` })),
    );
    for (const { status } of answers) expect([302, 503]).toContain(status);
    expect(answers.filter((a) => a.status === 302).length).toBeGreaterThan(5);
    const after = (
      await rows<{ n: number }>(house.owner, `select count(*)::int as n from vinyl where import_id is not null`)
    )[0]!.n;
    expect(after - before).toBe(240);
    for (const s of people) s.leave();
  });
});

describe('10. dear requests', () => {
  test('papers, plans and pictures, many at once: answered, or told to wait; others go on', async () => {
    const someone = await guestWithCutter();
    const asked = [
      ...Array.from({ length: 12 }, () => '/chart/a4.pdf?q=drift'),
      ...Array.from({ length: 12 }, (_, i) => `/coupons/new?vinyl=${vinyl}&cells=${4 + i}`),
      ...Array.from({ length: 12 }, () => `/cards/${card}/picture.png`),
      ...Array.from({ length: 12 }, (_, i) => `/vinyls?q=${['drift', 'starling', 'qillow'][i % 3]}`),
    ];
    const answers = await Promise.all(asked.map((path) => someone.get(path)));
    for (const { status, headers } of answers) {
      expect([200, 429, 503]).toContain(status);
      if (status !== 200) expect(Number(headers['retry-after'])).toBeGreaterThan(0);
    }
    expect((await ada.get('/')).status).toBe(200);
    someone.leave();
  });
  test('a fresh guest does not begin to count anew: the address does not change', async () => {
    const address = '203.0.113.99';
    let often = 0;
    // A minute may end in between: then it is counted from there.
    for (let i = 0; i < 2 * quotas.perMinuteOfAddress.paper + 5; i++) {
      const someone = new Stranger(base(), address);
      if ((await someone.get('/chart')).status === 429) often++;
      someone.leave();
    }
    expect(often).toBeGreaterThanOrEqual(1);
  });
});

// Every route of the site, from where the site says so.
const routes = [
  ...readFileSync(join(root, 'app/routes.ts'), 'utf8').matchAll(/(?:route\('([^']+)', |index\()'(routes\/[^']+)'/g),
].map(([, path, file]) => ({
  path: `/${path ?? ''}`,
  file: file!,
}));
/** What the actions of a route file can be asked for. */
const intentsOf = (file: string): string[] => {
  const text = readFileSync(join(root, 'app', file), 'utf8');
  const at = text.indexOf('return actions(');
  if (at < 0) return [];
  return [...text.slice(at).matchAll(/^ {4}(?:'([^']+)'|([a-z]+)):/gm)].map(([, quoted, plain]) => quoted ?? plain!);
};
const odd = [
  '%00',
  'a%00b',
  '%ff%fe',
  '%ED%A0%80',
  '%',
  '%zz',
  '..%2f..%2f..%2fetc%2fpasswd',
  'null',
  'constructor',
  '__proto__',
  '-1',
  '1e309',
  '9'.repeat(300),
  '00000000-0000-0000-0000-000000000000',
  '01a22271-20d9-7664-9cf0-2e9d3fd7622e',
  "' or 1=1 --",
  '%3Cscript%3E',
  '{}',
  '%F0%9F%92%A9%E2%80%AE',
  '%0d%0aSet-Cookie:%20x=1',
  'a'.repeat(5000),
];

test('a connection that is opened ahead of need and stays silent is closed without a word', async () => {
  expect(await silent).toBe('');
});

describe('the fuzz: nothing odd is an error of ours', () => {
  /** Names under which forms and addresses hand something over, as the pages and the code name them. */
  const names = (() => {
    const found = new Set<string>(['q', 'page', 'once']);
    for (const file of readdirSync(join(root, 'app'), { recursive: true, encoding: 'utf8' }))
      if (/\.tsx?$/.test(file))
        for (const [, name] of readFileSync(join(root, 'app', file), 'utf8').matchAll(
          /\b(?:name="|get\(')([a-z][a-z-]{0,30})['"]/g,
        ))
          if (name !== 'what') found.add(name!);
    return [...found];
  })();
  const filled = (path: string, value: string) => path.replace(/:[a-z]+/g, value).replace('*', value);
  const many = () => Array.from({ length: 30 }, () => new Stranger(base()));

  test('every route × odd values, looked at by nobody and by somebody', async () => {
    const crowd = many();
    const known = await signedIn('ada@example.org');
    const each = routes.flatMap(({ path }) => odd.map((value) => ({ path, value })));
    await fewAtATime(
      each.map((e, n) => ({ ...e, asker: n % 3 === 0 ? known : crowd[n % crowd.length]! })),
      async ({ path, value, asker }) => {
        const query = names
          .slice(0, 25)
          .map((k) => `${k}=${value.length > 400 ? value.slice(0, 300) : value}`)
          .join('&');
        ours(
          await asker.get(encodeURI(`${filled(path, value)}`).replaceAll('%25', '%')),
          `GET ${path} ${value.slice(0, 40)}`,
        );
        ours(
          await asker.get(`${filled(path, 'x')}?${encodeURI(query).replaceAll('%25', '%')}`),
          `GET ${path}? ${value.slice(0, 40)}`,
        );
      },
    );
    for (const s of [...crowd, known]) s.leave();
  });

  test('every route × intent × odd values, sent by nobody and by somebody', async () => {
    const crowd = many();
    const known = await signedIn('ada@example.org');
    const each = routes.flatMap(({ path, file }) =>
      (intentsOf(file).length > 0 ? intentsOf(file) : ['x'])
        // Nobody signs out or deletes the one who tries.
        .filter((what) => what !== 'sign out' && !(what === 'delete' && path === '/account'))
        .flatMap((what) => odd.map((value) => ({ path, what, value }))),
    );
    await fewAtATime(
      each.map((e, n) => ({ ...e, asker: n % 2 === 0 ? known : crowd[n % crowd.length]! })),
      async ({ path, what, value, asker }) => {
        const body = [`what=${encodeURIComponent(what)}`, ...names.map((k) => `${k}=${value.slice(0, 300)}`)].join('&');
        ours(
          await asker.ask(
            filled(path, path.includes('vinyl') ? vinyl : value.slice(0, 100))
              .replace(/[^\x21-\x7e]/g, '_')
              .replaceAll(' ', '_'),
            {
              method: 'POST',
              headers: { 'Content-Type': 'application/x-www-form-urlencoded', Origin: base() },
              body,
            },
          ),
          `POST ${path} ${what} ${value.slice(0, 40)}`,
        );
      },
    );
    for (const s of [...crowd, known]) s.leave();
  });

  test('wrong types in JSON, broken forms, cookies, methods and lines', async () => {
    const someone = new Stranger(base());
    const json = { 'Content-Type': 'application/json', Origin: base() };
    const event = grade(known.adaCells[0]!, 'clean');
    for (const body of [
      '',
      '{',
      'null',
      '[]',
      '5',
      '"x"',
      '{"events":5}',
      '{"events":{}}',
      '{"events":[null,5,"x",[],{}]}',
      `{"person":5,"events":[]}`,
      JSON.stringify({ events: [{ ...event, deviceAt: '2026-01-01T00:00:00+23:59' }] }),
      JSON.stringify({ events: [{ ...event, deviceAt: '0000-01-01T00:00:00Z' }] }),
      JSON.stringify({
        events: [
          { ...event, grade: { toString: 1 } },
          { ...event, id: '\0' },
          { ...event, cell: '\ud800' },
        ],
      }),
      '{"events":'.repeat(50),
    ])
      ours(await ada.ask('/api/events', { method: 'POST', headers: json, body }), `events ${body.slice(0, 40)}`);
    for (const type of [
      'multipart/form-data',
      'multipart/form-data; boundary=',
      'multipart/form-data; boundary=x',
      'application/json',
      'text/html',
      '',
      `multipart/form-data; boundary=${'x'.repeat(500)}`,
    ])
      for (const body of [
        '',
        '--x',
        '--x\r\n\r\n--x--',
        '--x\r\nContent-Disposition: form-data; name="\0"\r\n\r\n\0\r\n--x--',
        '\xff\xfe',
      ])
        ours(
          await someone.ask('/sign-in', {
            method: 'POST',
            headers: { 'Content-Type': type, Origin: base() },
            body: Buffer.from(body, 'latin1'),
          }),
          `form as ${type.slice(0, 40)}`,
        );
    for (const cookie of [
      'versipel_session=',
      'versipel_session=%00',
      'versipel_zone=%',
      'versipel_zone=%E0%A4%A',
      '=;=;;',
      'a'.repeat(6000),
      '\xff\xfe',
    ])
      ours(await someone.ask('/', { headers: { Cookie: cookie } }), `cookie ${cookie.slice(0, 30)}`);
    ours(
      await someone.post('/preferences', { what: 'preferences', length: 'in' }, { Cookie: 'versipel_zone=%E0%A4%A' }),
      'a broken zone',
    );
    for (const method of ['TRACE', 'PUT', 'DELETE', 'PATCH', 'OPTIONS', 'PROPFIND']) {
      const answer = await someone.ask('/', { method });
      expect(answer.status).toBe(405);
      ours(answer, method);
    }
    for (const host of ['', 'a b', 'x'.repeat(300), '<script>', 'evil.example/path'])
      ours(await someone.ask('/vinyls', { headers: { Host: host } }), `host ${host.slice(0, 20)}`);
    for (const path of ['//evil.example/', '/%2e%2e/%2e%2e/etc/passwd', '/..;/', '/vinyls/%', '/\\', '/?%', '/?a=%00'])
      ours(await someone.ask(path), `path ${path}`);
    // No HTTP at all.
    for (const bytes of [
      '\0\0\0\0',
      'GET',
      'GET / HTTP/9.9\r\n\r\n',
      'POST / HTTP/1.1\r\nHost: x\r\nTransfer-Encoding: chunked\r\n\r\nzz\r\n',
    ])
      await new Promise<void>((done) => {
        const socket = createConnection(Number(new URL(base()).port), '127.0.0.1', () => socket.end(bytes));
        socket.on('error', () => done());
        socket.on('close', () => done());
        socket.resume();
      });
    expect((await someone.get('/health')).status).toBe(200);
    someone.leave();
  });

  test('a card that is gone is not found, also as what a plan looks at', async () => {
    for (const id of [uuidv7(), 'x', 'a'.repeat(200)]) {
      expect((await ada.get(`/coupons/new?vinyl=${vinyl}&mode=check&card=${id}`)).status).toBe(404);
      expect((await ada.post('/coupons/new', { what: 'make', vinyl, mode: 'check', card: id })).status).toBe(404);
    }
  });
});

/** Whoever keeps no order is not told what could be done there. */
const KEPT = '/order';
describe('an act that nobody knows', () => {
  const writing = routes.filter((r) => intentsOf(r.file).length > 0);
  test('there are such routes', () => expect(writing.length).toBeGreaterThan(25));
  test.each(writing.map((r) => r.path))('%s: unknown or missing is 400 and changes nothing', async (path) => {
    const at = path
      .replace(':vinyl', vinyl)
      .replace(':coupon', coupon)
      .replace(':card', card)
      .replace(/:[a-z]+/g, uuidv7());
    const state = () =>
      rows(
        house.owner,
        `select (select count(*) from person) p, (select count(*) from vinyl) v, (select count(*) from cut) c, (select count(*) from setting) s, (select count(*) from coupon where set_aside_at is not null) a`,
      );
    const before = await state();
    for (const fields of [
      {},
      { what: '' },
      { what: 'nonsense' },
      { what: 'constructor' },
      { what: 'toString' },
    ] as Record<string, string>[])
      expect((await ada.post(at, fields)).status).toBe(path === KEPT ? 404 : 400);
    expect(await state()).toEqual(before);
  });
});

describe('afterwards', () => {
  test('one process, alive; memory, /health and the data are as they should be', async () => {
    outbox.stopped = true;
    await outbox.running;
    await pause(5_000);
    expect(house.server.alive()).toBe(true);
    expect(house.server.pid()).toBe(first.pid);
    const last = await memory();
    console.log((await ada.get('/bench')).body);
    const now = await health();
    console.log(
      `memory ${first.memory.toFixed(0)} → ${last.toFixed(0)} MB (${(last / first.memory).toFixed(2)}×), /health ${first.health.toFixed(1)} → ${now.toFixed(1)} ms, ${outbox.acknowledged.length} events acknowledged`,
    );
    expect(last).toBeLessThanOrEqual(first.memory * 1.5);
    expect(now).toBeLessThanOrEqual(Math.max(100, 3 * first.health));
    expect(outbox.acknowledged.length).toBeGreaterThan(50);
    await pause(500);
    const violations = await rows(house.owner, readFileSync(join(root, 'tests/faults/invariants.sql'), 'utf8'), [
      outbox.acknowledged,
      [
        ...outbox.sent,
        ...(
          await rows<{ id: string }>(
            house.owner,
            `select id from grade_event where device_at < now() - interval '1 hour' or person_id <> $1`,
            [adaId],
          )
        ).map((r) => r.id),
      ],
    ]);
    expect(violations).toEqual([]);
    expect(house.server.said()).not.toMatch(/nobody caught this error|nobody waited for this error/);
  });
});
