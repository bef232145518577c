import pg from 'pg';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { load } from '#bench/load.ts';
import { closeDb, db } from '#store/base/db.ts';
import { listVinyls } from '#work/answer/list.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { searchWords } from '#work/base/searchWords.ts';
import { tablePage, tableQuery } from '#work/answer/table.ts';
import { stockOf } from '#work/vinyls/stock.ts';
import { listCoupons } from '#work/coupons/coupons.ts';
import { signIn } from '#work/people/accounts.ts';
import { personOfToken } from '#work/people/people.ts';
import { form } from '../bench.ts';
import { testDatabase } from '../testDatabase.ts';

// Every query behind a list, on a database with twenty thousand vinyls: each reaches large tables by an index, none reads one whole.
let drop: () => Promise<void>;
const explained: { text: string; plan: string }[] = [];
let person: NonNullable<Awaited<ReturnType<typeof personOfToken>>>;
beforeAll(async () => {
  const made = await testDatabase();
  drop = made.drop;
  process.env.DATABASE_URL = made.url;
  const account = await load({ people: 400, vinyls: 20_000, settings: 20_000, cells: 40_000 });
  const { token } = await signIn(form(account), 'test');
  person = (await personOfToken(token))!;
  // Plans of everything that is asked from here on, functions included.
  const pool = db();
  const query = pool.query.bind(pool) as (asked: unknown, values?: unknown[]) => Promise<unknown>;
  (pool as unknown as { query: unknown }).query = async (
    asked: string | { text: string; values: unknown[] },
    loose?: unknown[],
  ) => {
    const { text, values } = typeof asked === 'string' ? { text: asked, values: loose } : asked;
    if (/^\s*(select|with)/i.test(text)) {
      const { rows } = (await query(`explain ${text}`, values)) as { rows: { 'QUERY PLAN': string }[] };
      explained.push({ text, plan: rows.map((r) => r['QUERY PLAN']).join('\n') });
    }
    return query(asked, loose);
  };
});
afterAll(async () => {
  await closeDb();
  await drop();
});

/** Tables that grow with use. */
const large = [
  'vinyl',
  'vinyl_words',
  'vinyl_token',
  'vinyl_mine',
  'colour',
  'setting',
  'reading',
  'posterior',
  'cut',
  'cell',
  'grade_event',
  'stock',
];
const wholeReads = (plan: string) =>
  [...plan.matchAll(/Seq Scan on (\w+)/g)].map((m) => m[1]!).filter((t) => large.includes(t));
// An empty or tiny table is read whole with good reason; these are neither here, but stock and posterior.
const tiny = new Set(['stock', 'posterior']);
const during = async (work: () => Promise<unknown>) => {
  explained.length = 0;
  await work();
  expect(explained.length).toBeGreaterThan(0);
  for (const { text, plan } of explained)
    expect(
      wholeReads(plan).filter((t) => !tiny.has(t)),
      `${text}\n${plan}`,
    ).toEqual([]);
};

describe('no list reads a large table whole', () => {
  test('what is in hand, and what everybody sees', async () => {
    const bench = await benchOf(person);
    await during(() => listVinyls(person, bench, ''));
    await during(() => listVinyls(undefined, undefined, ''));
  });
  test('the pages of the wide table, by every column it sorts by', async () => {
    for (const sort of ['name', 'type', 'used', 'made'])
      for (const mine of ['yes', 'no'])
        for (const down of ['yes', 'no']) await during(() => tablePageOnly(tableQuery.parse({ sort, mine, down })));
  });
  test('stock, coupons, and the rows of a search', async () => {
    await during(() => stockOf(person));
    await during(() => listCoupons(person));
    const bench = await benchOf(person);
    await during(() => listVinyls(person, bench, 'starling gold'));
  });
  // What a function asks inside is not in the plan of its call: the server is asked to tell those, too.
  test.each([
    ['starling', false],
    ['lark gold', false],
    ['quillow dri', false],
    ['qillow', true],
    ['starlnig', true],
  ])('the words of a search come from the trigram index: %s', async (q, thorough) => {
    const plans = await nestedPlans('select * from vinyls_found($1, $2, $3, 6)', [searchWords(q), person.id, thorough]);
    const search = plans.filter((p) => p.includes('vinyl_words w'));
    expect(search.length).toBeGreaterThan(0);
    for (const plan of search) {
      expect(plan).toContain('vinyl_words_trigrams');
      expect(wholeReads(plan)).toEqual([]);
    }
    for (const plan of plans) expect(wholeReads(plan), plan).toEqual([]);
  });
});

/** Plans of everything a statement asks, functions it calls included, as auto_explain tells them. */
async function nestedPlans(text: string, values: unknown[]): Promise<string[]> {
  const client = new pg.Client({ connectionString: process.env.DATABASE_URL });
  const plans: string[] = [];
  await client.connect();
  client.on('notice', (n) => plans.push(n.message ?? ''));
  try {
    await client.query(
      `load 'auto_explain'; set auto_explain.log_min_duration = 0; set auto_explain.log_nested_statements = on; set auto_explain.log_level = notice`,
    );
    const { rows } = await client.query(text, values);
    expect(rows.length).toBeGreaterThan(0);
  } finally {
    await client.end();
  }
  return plans;
}

/** The page without the count: counting what everybody sees is counting, and is asked once a page. */
async function tablePageOnly(query: ReturnType<typeof tableQuery.parse>): Promise<void> {
  await tablePage(person, undefined, query);
  const at = explained.findIndex((e) => /^\s*select count/.test(e.text));
  if (at >= 0 && !query.mine) explained.splice(at, 1);
}
