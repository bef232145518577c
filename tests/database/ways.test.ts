import { cpSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { randomBytes } from 'node:crypto';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { v7 as uuidv7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { behaviourOf, fullWays } from '#core/vinyls/index.ts';
import { migrate } from '#store/base/migrate.ts';
import { root, rows } from '../testDatabase.ts';

// Choices that people made while ways had places in a list: each is found again by its key, or its person is told once.
const name = `t_ways_${randomBytes(4).toString('hex')}`;
const admin = process.env.VERSIPEL_TEST_ADMIN!;
const url = admin.replace(/[^/]+$/, name);
const older = mkdtempSync(join(tmpdir(), 'versipel-older-'));
const all = join(root, 'store/migrations');
const person = uuidv7();
const vinyls = new Map<string, string>();

/** What was chosen, by what the vinyl is: its type, the place, and a list of ways of its own where it has one. */
const chosen: [string, { type: string; way: string; press?: object[]; ownType?: object[] }][] = [
  ['usual', { type: 'smooth', way: '1' }],
  ['hot', { type: 'smooth', way: '2' }],
  ['leather', { type: 'smooth', way: '4' }],
  ['once', { type: 'puff', way: '1' }],
  ['twice', { type: 'puff', way: '2' }],
  ['raised', { type: 'metallic-puff', way: '2' }],
  ['own list', { type: 'smooth', way: '2', press: [{ seconds: [5, 5] }, { seconds: [9, 9] }] }],
  ['own tack', { type: 'smooth', way: '2', press: [{ seconds: [5, 5] }, { purpose: 'tack', seconds: [3, 3] }] }],
  ['own type', { type: 'puff', way: '2', ownType: [{ seconds: [7, 7] }, { seconds: [8, 8] }] }],
];

beforeAll(async () => {
  await rows(admin, `create database ${name}`);
  for (const file of readdirSync(all).filter((f) => f < '0018')) cpSync(join(all, file), join(older, file));
  await migrate(url, older);
  await rows(url, `insert into person (id, name) values ($1, 'Ada')`, [person]);
  for (const [word, { type, way, press, ownType }] of chosen) {
    const [id, own] = [uuidv7(), ownType ? uuidv7() : null];
    vinyls.set(word, id);
    if (own)
      await rows(url, `insert into vinyl_type (id, person_id, word, parent, behaviour) values ($1, $2, $3, $4, $5)`, [
        own,
        person,
        word,
        type,
        JSON.stringify({ press: ownType }),
      ]);
    await rows(
      url,
      `insert into vinyl (id, brand, name, type, own_type, person_id, visibility, behaviour) values ($1, 'Tansy', $2, $3, $4, $5, 'private', $6)`,
      [id, word, type, own, person, JSON.stringify(press ? { press } : {})],
    );
    await rows(url, `insert into school (person_id, vinyl_id, topic, way) values ($1, $2, 'press', $3)`, [
      person,
      id,
      way,
    ]);
  }
  await rows(url, `insert into school (person_id, vinyl_id, topic, way) values ($1, $2, 'margin', 'kept')`, [
    person,
    vinyls.get('usual'),
  ]);
  await migrate(url, all);
}, 120_000);
afterAll(async () => {
  rmSync(older, { recursive: true, force: true });
  await rows(admin, `drop database if exists ${name} with (force)`);
});

test('a place becomes the key of the way that stood there; in a list of somebody’s own it stays its place', async () => {
  const kept = await rows<{ vinyl_id: string; way: string }>(
    url,
    `select vinyl_id, way from school where topic = 'press'`,
  );
  const way = (word: string) => kept.find((r) => r.vinyl_id === vinyls.get(word))?.way;
  expect(Object.fromEntries(chosen.map(([word]) => [word, way(word)]))).toEqual({
    usual: '305 10-15',
    hot: '350 30',
    leather: undefined,
    once: '280 8 once',
    twice: undefined,
    raised: 'short-warm-raise',
    'own list': 'way 2',
    'own tack': undefined,
    'own type': 'way 2',
  });
  // Each of those keys is a way of its type.
  for (const [word, { type, press, ownType }] of chosen)
    if (way(word) && !press && !ownType)
      expect(fullWays(behaviourOf(type as 'smooth').press).map((w) => w.key)).toContain(way(word));
  expect(await rows(url, `select way from school where topic = 'margin'`)).toEqual([{ way: 'kept' }]);
});

test('whose way is there no more is told once', async () => {
  const told = await rows<{ vinyl_id: string; kind: string; person_id: string }>(url, 'select * from notice');
  expect(told.map((n) => n.vinyl_id).sort()).toEqual(
    ['leather', 'twice', 'own tack'].map((word) => vinyls.get(word)).sort(),
  );
  expect(told.every((n) => n.kind === 'way gone' && n.person_id === person)).toBe(true);
});
