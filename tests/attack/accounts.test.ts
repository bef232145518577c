import { beforeAll, describe, expect, test } from 'vitest';
import { quotas } from '#work/base/quotas.ts';
import { crafter, password } from '../bench.ts';
import { rows } from '../testDatabase.ts';
import { until, wholeHouse } from './house.ts';
import { median, Stranger } from './stranger.ts';

// Accounts from outside: letters, links, sessions, tries at the door.
const house = wholeHouse({ VERSIPEL_STEWARDS: 'vale@example.org, zoe@example.org' });
const base = () => house.server.base;
const someone = (address?: string) => new Stranger(base(), address);
const session = (s: Stranger) => s.cookies.get('versipel_session');
const asks = async (s: Stranger, fields: Record<string, string>) => s.post('/account', { what: 'claim', ...fields });
/** Opens the link of a letter and chooses the password there. */
const finish = (s: Stranger, url: string, secret = password) => s.post(path(url), { what: 'use', password: secret });
const link = async (to: string) => until(async () => (await house.links(to))[0]);
const path = (url: string) => new URL(url).pathname;
/** Signs up and opens the link, as one person on one device. */
async function withAccount(name: string, email: string, secret = password): Promise<Stranger> {
  const s = someone();
  expect((await asks(s, { name, email })).status).toBe(302);
  expect((await finish(s, await link(email), secret)).status).toBe(302);
  return s;
}
const knows = async (s: Stranger) => /Signed in as ([^(]+) \(/.exec((await s.get('/account')).body)?.[1];

beforeAll(async () => {
  await crafter('Ada Fenn', 'marlow-24', 'ada@example.org');
});

describe('signing up', () => {
  test('nothing is there before the link was used; then the guest’s work is, and the guest’s session is worth nothing', async () => {
    const s = someone();
    await s.post('/vinyls/new', {
      what: 'add',
      brand: 'Tansy',
      name: 'Loft',
      type: 'puff',
      colour: 'maize',
      hex: '#e0ac33',
    });
    const stolen = session(s)!;
    const answer = await asks(s, { name: 'Cleo', email: 'cleo@example.org' });
    expect(answer.headers.location).toBe('/account?letter');
    expect(await rows(house.owner, `select 1 from person where email = 'cleo@example.org'`)).toHaveLength(0);
    const url = await link('cleo@example.org');
    // A mail program that looks at links uses none up.
    for (let i = 0; i < 3; i++) expect((await someone().get(path(url))).status).toBe(200);
    expect((await s.get(path(url))).headers['referrer-policy']).toBe('no-referrer');
    await finish(s, url);
    expect(session(s)).not.toBe(stolen);
    expect(await knows(s)).toBe('Cleo');
    expect((await s.get('/vinyls')).body).toContain('Tansy Loft');
    const thief = someone();
    thief.cookies.set('versipel_session', stolen);
    expect(await knows(thief)).toBeUndefined();
    // Used once.
    expect((await finish(someone(), url)).status).toBe(404);
    expect(JSON.stringify(await rows(house.owner, 'select * from link'))).not.toContain(url.split('/').at(-1));
  });
  test('a known address gets the same answer, the same work, and a letter of its own', async () => {
    const times: Record<string, number[]> = { known: [], unknown: [] };
    for (let i = 0; i < 4; i++)
      for (const kind of ['known', 'unknown'] as const) {
        const s = someone();
        const email = kind === 'known' ? 'ada@example.org' : `nobody${i}@example.org`;
        const from = performance.now();
        const answer = await asks(s, { name: 'X', email });
        times[kind]!.push(performance.now() - from);
        expect(answer.status).toBe(302);
        expect(answer.headers.location).toBe('/account?letter');
      }
    await until(async () =>
      (await house.letters()).some((l) => l.to.includes('ada@example.org') && /You have an account/.test(l.subject)),
    );
    console.log(
      `sign-up, known ${median(times.known!).toFixed(0)} ms, unknown ${median(times.unknown!).toFixed(0)} ms`,
    );
    expect((await rows(house.owner, `select name from person where email = 'ada@example.org'`))[0]!.name).toBe(
      'Ada Fenn',
    );
  });
  test('common, short and repeated passwords, and one’s own address, are refused at the field', async () => {
    const s = someone();
    await asks(s, { name: 'X', email: 'clementine@example.org' });
    const url = await link('clementine@example.org');
    for (const secret of ['short', 'password123', 'aaaaaaaaaaaa', 'abcabcabcabc', 'qwertyuiop', 'clementine-9']) {
      const { status, body } = await finish(s, url, secret);
      expect(status).toBe(400);
      expect(body).toMatch(/Use at least 10|first that somebody would try|your address in your password/);
      expect(body).not.toContain(`value="${secret}"`);
    }
    expect((await finish(s, url, 'tallow grebe kite')).status).toBe(302);
  });
  test('whoever asks with another’s address chooses no password: who reads the letter does', async () => {
    const stranger = someone();
    await asks(stranger, { name: 'Not Bram', email: 'bram@example.org', password: 'the stranger knows this' });
    const url = await link('bram@example.org');
    const bram = someone();
    expect((await bram.post(path(url), { what: 'use' })).status).toBe(400);
    expect((await finish(bram, url, 'grebe under tallow')).status).toBe(302);
    const tries = async (secret: string) =>
      (await someone().post('/sign-in', { what: 'sign in', email: 'bram@example.org', password: secret })).status;
    expect([await tries('the stranger knows this'), await tries('grebe under tallow')]).toEqual([400, 302]);
  });
  test('names that cannot be seen are none', async () => {
    for (const name of ['\u200b\u200d', '\u3164', '\u2800\u2800', '\u0301', ' \u00ad '])
      expect((await asks(someone(), { name, email: 'x@example.org' })).status).toBe(400);
  });
});

describe('authority', () => {
  test('comes with a proven address, and goes with the list', async () => {
    // Whoever only types the address of a steward is none.
    const typed = someone();
    await asks(typed, { name: 'Not Vale', email: 'vale@example.org' });
    expect((await typed.get('/packs')).body).not.toContain('Follow a shelf');
    expect((await typed.post('/order', { what: 'settle', report: '1', why: 'x' })).status).toBe(404);
    const vale = someone();
    await asks(vale, { name: 'Vale Orrin', email: 'vale@example.org' });
    await finish(vale, await link('vale@example.org'));
    const stands = async () =>
      (await vale.get('/order')).body.includes('say that two vinyls are one') ||
      (await vale.get('/order')).body.includes('Reported');
    expect(await stands()).toBe(true);
    // Off the list at the next start: nothing of it is left.
    await house.server.stop();
    await house.server.start({ VERSIPEL_STEWARDS: 'zoe@example.org' });
    expect(await stands()).toBe(false);
    await house.server.stop();
    await house.server.start();
    expect(await stands()).toBe(true);
  });
  test('an address that was not proven carries none', async () => {
    const zoe = await withAccount('Zoe', 'zoe@example.org');
    const order = async () => (await zoe.get('/order')).body.includes('Reported');
    expect(await order()).toBe(true);
    await rows(house.owner, `update person set proven_at = null where email = 'zoe@example.org'`);
    expect(await order()).toBe(false);
    expect((await zoe.get('/account')).body).toContain('Nobody has said yet that this address is yours');
    await zoe.post('/account', { what: 'prove' });
    await until(async () =>
      (await house.letters()).some((l) => l.to.includes('zoe@example.org') && /Is this your address/.test(l.subject)),
    );
    await zoe.post(path((await house.links('zoe@example.org'))[0]!), { what: 'use' });
    expect(await order()).toBe(true);
  });
});

describe('passwords, addresses, sessions', () => {
  test('a lost password: a link for whoever has an account, the same page for whoever has not; all sessions end', async () => {
    const dov = await withAccount('Dov', 'dov@example.org');
    for (const email of ['dov@example.org', 'nobody@example.org']) {
      const answer = await someone().post('/recover', { what: 'send', email });
      expect([answer.status, answer.headers.location]).toEqual([302, '/recover?sent']);
    }
    const url = await until(async () =>
      (await house.letters()).find((l) => l.to.includes('dov@example.org') && /new password/.test(l.subject)),
    );
    const at = path(/https?:\S+/.exec(url.text)![0]);
    expect((await house.links('nobody@example.org')).length).toBe(0);
    const back = someone();
    expect((await back.post(at, { what: 'use', password: 'password123' })).status).toBe(400);
    expect((await back.post(at, { what: 'use', password: 'four moths at noon' })).status).toBe(302);
    expect(await knows(back)).toBe('Dov');
    expect(await knows(dov)).toBeUndefined();
    expect((await someone().post('/sign-in', { what: 'sign in', email: 'dov@example.org', password })).status).toBe(
      400,
    );
    expect(
      (await someone().post('/sign-in', { what: 'sign in', email: 'dov@example.org', password: 'four moths at noon' }))
        .status,
    ).toBe(302);
  });
  test('a changed password ends the other sessions and opens a new one here', async () => {
    const here = await withAccount('Elke', 'elke@example.org');
    const there = someone();
    await there.post('/sign-in', { what: 'sign in', email: 'elke@example.org', password });
    const before = session(here);
    expect(
      (
        await here.post('/account', {
          what: 'password',
          'old-password': 'wrong one indeed',
          password: 'kite tallow grebe',
        })
      ).status,
    ).toBe(400);
    expect(
      (await here.post('/account', { what: 'password', 'old-password': password, password: 'kite tallow grebe' }))
        .status,
    ).toBe(302);
    expect(session(here)).not.toBe(before);
    expect([await knows(here), await knows(there)]).toEqual(['Elke', undefined]);
  });
  test('another address is used once its link was opened; the old one hears of it', async () => {
    const s = await withAccount('Fenna', 'fenna@example.org');
    expect(
      (await s.post('/account', { what: 'address', email: 'new.fenna@example.org', 'old-password': password })).status,
    ).toBe(302);
    expect((await rows(house.owner, `select email::text from person where name = 'Fenna'`))[0]!.email).toBe(
      'fenna@example.org',
    );
    await until(async () =>
      (await house.letters()).some((l) => l.to.includes('fenna@example.org') && /to be changed/.test(l.subject)),
    );
    await s.post(path(await link('new.fenna@example.org')), { what: 'use' });
    expect((await rows(house.owner, `select email::text from person where name = 'Fenna'`))[0]!.email).toBe(
      'new.fenna@example.org',
    );
    // One that has an account already: the same answer here, nothing changes.
    expect(
      (await s.post('/account', { what: 'address', email: 'ada@example.org', 'old-password': password })).headers
        .location,
    ).toBe('/account?changing');
  });
  test('sessions are listed, ended one by one or all others; they end after 30 days without a visit', async () => {
    const one = await withAccount('Gus', 'gus@example.org');
    const [two, three] = [someone(), someone()];
    for (const s of [two, three]) await s.post('/sign-in', { what: 'sign in', email: 'gus@example.org', password });
    const page = (await one.get('/account')).body;
    const keys = [...page.matchAll(/name="session" value="([^"]+)"/g)].map((m) => m[1]!);
    expect(keys.filter((k) => k !== 'others')).toHaveLength(2);
    // Another's key ends nothing.
    expect(
      (await (await withAccount('Hal', 'hal@example.org')).post('/account', { what: 'session', session: keys[0]! }))
        .status,
    ).toBe(404);
    await one.post('/account', { what: 'session', session: keys[0]! });
    expect([await knows(two), await knows(three)].filter(Boolean)).toHaveLength(1);
    await one.post('/account', { what: 'session', session: 'others' });
    expect([await knows(one), await knows(two), await knows(three)]).toEqual(['Gus', undefined, undefined]);
    const days = (
      await rows<{ d: number }>(
        house.owner,
        `select extract(epoch from expires_at - now())::float8 / 86400 as d from session s join person p on p.id = s.person_id where p.name = 'Gus'`,
      )
    )[0]!.d;
    expect(Math.round(days)).toBe(30);
    await rows(
      house.owner,
      `update session set seen_at = now() - interval '29 days', expires_at = now() + interval '1 day'`,
    );
    expect(await knows(one)).toBe('Gus');
    expect(
      (
        await rows<{ d: number }>(
          house.owner,
          `select max(extract(epoch from expires_at - now()))::float8 / 86400 as d from session`,
        )
      )[0]!.d,
    ).toBeGreaterThan(29);
    await rows(house.owner, `update session set expires_at = now() - interval '1 minute'`);
    expect(await knows(one)).toBeUndefined();
  });
  test('what is a person’s own is kept by no cache', async () => {
    const s = await withAccount('Ida', 'ida@example.org');
    for (const at of ['/account.data', '/_root.data', '/find?q=x', '/vinyls.data'])
      expect((await s.get(at)).headers['cache-control']).toMatch(/no-store/);
    expect((await s.get('/account')).headers['permissions-policy']).toMatch(
      /screen-wake-lock=\(self\), serial=\(self\)/,
    );
  });
});

describe('tries at the door', () => {
  const tries = (s: Stranger, email: string, secret = 'not this one at all') =>
    s.post('/sign-in', { what: 'sign in', email, password: secret });

  test('strangers are slowed down; the right password comes in, on a known device at once, elsewhere after a while', async () => {
    const owner = await withAccount('Jory', 'jory@example.org');
    const statuses = [];
    for (let i = 0; i < 11; i++) statuses.push((await tries(someone(), 'jory@example.org')).status);
    expect(statuses.slice(0, 8)).toEqual(Array(8).fill(400));
    expect(statuses.slice(8)).toEqual(Array(3).fill(429));
    // The door of the owner's own device stays open.
    owner.cookies.delete('versipel_session');
    expect((await tries(owner, 'jory@example.org', password)).status).toBe(302);
    const from = performance.now();
    expect((await tries(someone('203.0.113.7'), 'jory@example.org', password)).status).toBe(302);
    expect(performance.now() - from).toBeGreaterThan(3_000);
  });
  test('signing in once more ends the session before in that browser; twenty devices are known', async () => {
    const s = await withAccount('Kaj', 'kaj@example.org');
    const first = session(s)!;
    await tries(s, 'kaj@example.org', password);
    const thief = someone();
    thief.cookies.set('versipel_session', first);
    expect([await knows(s), await knows(thief)]).toEqual(['Kaj', undefined]);
    for (let i = 0; i < quotas.devices + 3; i++)
      expect((await tries(someone(`198.51.100.${i}`), 'kaj@example.org', password)).status).toBe(302);
    const [{ n }] = (await rows<{ n: number }>(
      house.owner,
      `select count(*)::int as n from known_device d join person p on p.id = d.person_id where p.name = 'Kaj'`,
    )) as [{ n: number }];
    expect(n).toBe(quotas.devices);
    const listed = (await s.get('/account')).body.match(/name="session" value="/g)!.length;
    expect(listed).toBeGreaterThanOrEqual(quotas.devices);
  });
  test('letters are counted by pair: one address cannot use up those of somebody; it writes to others, and others write to them', async () => {
    const ask = async (from: string, email: string) =>
      (await someone(from).post('/recover', { what: 'send', email })).status;
    const statuses = [];
    for (let i = 0; i < quotas.letters.perPair + 2; i++) statuses.push(await ask('203.0.113.200', 'pair@example.org'));
    expect(statuses.map((s) => s === 429)).toEqual([...Array<boolean>(quotas.letters.perPair).fill(false), true, true]);
    expect(await ask('203.0.113.200', 'other@example.org')).not.toBe(429);
    expect(await ask('203.0.113.201', 'pair@example.org')).not.toBe(429);
  });
});

describe('a form that is sent again', () => {
  const first = async (s: Stranger, once: string) =>
    s.post('/preferences', { what: 'preferences', length: 'in', once });

  test('finds the guest it made for some minutes, and never the account that guest became', async () => {
    const s = someone();
    expect((await first(s, 'the-first-form-of-lena')).status).toBe(302);
    const again = someone();
    expect((await first(again, 'the-first-form-of-lena')).status).toBe(302);
    expect(session(again)).toBeDefined();
    await asks(s, { name: 'Lena', email: 'lena@example.org' });
    await finish(s, await link('lena@example.org'));
    const thief = someone();
    const answer = await first(thief, 'the-first-form-of-lena');
    expect(await knows(thief)).toBeUndefined();
    if (session(thief)) expect(answer.status).toBe(302);
    // Nor a guest whose first form is old.
    const slow = someone();
    await first(slow, 'the-first-form-of-mo');
    await rows(house.owner, `update act set at = at - interval '11 minutes'`);
    const late = someone();
    expect((await first(late, 'the-first-form-of-mo')).status).toBe(409);
    expect(session(late)).toBeUndefined();
  });
  test('is another form with another file of the same name and size', async () => {
    const s = await withAccount('Nils', 'nils@example.org');
    const send = (type: string) =>
      s.upload(
        '/vinyls/import',
        { what: 'see', once: 'the-same-key-twice' },
        { name: 't.csv', bytes: Buffer.from(`brand,name,type\nTansy,Warm,${type}\n`) },
      );
    const [a, b, c] = [await send('puff'), await send('foil'), await send('puff')];
    expect([a.status, b.status, c.status]).toEqual([302, 302, 302]);
    expect(b.headers.location).not.toBe(a.headers.location);
    expect(c.headers.location).toBe(a.headers.location);
  });
});

describe('whether there is an account', () => {
  test('asking for a new password takes as long for nobody as for somebody', async () => {
    await withAccount('Olga', 'olga@example.org');
    const times: Record<'known' | 'unknown', number[]> = { known: [], unknown: [] };
    // The chance that one with an account takes longer than one without (Mann & Whitney 1947, U / mn).
    const auc = () => {
      let longer = 0;
      for (const a of times.known) for (const b of times.unknown) longer += a > b ? 1 : a === b ? 0.5 : 0;
      return longer / (times.known.length * times.unknown.length);
    };
    // Of sixty pairs chance alone says more than 0.6 once in thirty: then sixty more are timed.
    for (let i = 0; i < 60 || (i < 120 && (i > 60 || auc() > 0.6)); i++)
      for (const kind of i % 2 ? (['known', 'unknown'] as const) : (['unknown', 'known'] as const)) {
        await rows(house.owner, `delete from attempt where kind = 'letter'`);
        const s = someone(`198.51.100.${100 + i}`);
        const email = kind === 'known' ? 'olga@example.org' : `nobody${i}@example.org`;
        const from = performance.now();
        expect((await s.post('/recover', { what: 'send', email })).status).toBe(302);
        times[kind].push(performance.now() - from);
        s.leave();
        // What follows the answer is over before the next one is timed.
        await new Promise((done) => setTimeout(done, 260));
      }
    console.log(
      `recover, known ${median(times.known).toFixed(1)} ms, unknown ${median(times.unknown).toFixed(1)} ms, AUC ${auc().toFixed(2)}`,
    );
    expect(auc()).toBeLessThanOrEqual(0.6);
  });
});

test('the security log names what happened and the account, and no address, name or password', async () => {
  const said = house.server.said();
  for (const event of ['sign-in', 'account claimed', 'password changed', 'sessions ended', 'sign-in refused'])
    expect(said).toContain(`"event":"${event}"`);
  for (const line of said.split('\n').filter((l) => l.startsWith('{'))) {
    expect(() => JSON.parse(line) as unknown).not.toThrow();
    expect(line).not.toMatch(/@example\.org|lantern river|kite tallow|127\.0\.0\.1|198\.51/);
  }
});
