import type { Query } from './db.ts';
import { withClient } from './withClient.ts';

/** How much a database is filled with, for benchmarks and for looking at plans. */
export type Fill = { people: number; vinyls: number; settings: number; cells: number };

/**
 * Fills an empty, migrated database with made-up people, public vinyls, settings and graded cells, in plain SQL: a few minutes for
 * a million cells. Every person has one cutter of the model and one blade; vinyls are shared out evenly.
 * @param shown one posterior for all to point at: `result` and `shown` of a real fit
 * @returns the e-mail of the first person, whose password hash is given
 */
export async function fillDatabase(
  q: Query,
  fill: Fill,
  model: { key: string; version: number; strength: string; steps: object; min: number; max: number },
  posterior: { hash: Buffer; modelVersion: string; priorVersion: string; result: object; shown: object },
  passwordHash: string,
): Promise<string> {
  const uuid = (kind: number, n: string) =>
    `('00000000-0000-7000-8000-' || lpad(to_hex(${kind}::bigint * 4294967296 + (${n})), 12, '0'))::uuid`;
  const steps = `jsonb_build_object('model', '${model.key}', 'version', ${model.version}, 'steps', $1::jsonb || jsonb_build_object('${model.strength}',
    ${model.min} + ((i * 37) % ${model.max - model.min})))`;
  const run = (sql: string, values: unknown[] = []) => q.query(sql, values);
  await run(`set local versipel.many = 'on'`);
  await run(`set local session_replication_role = replica`);
  await run(
    `insert into person (id, email, password_hash, name)
     select ${uuid(1, 'i')}, 'p' || i || '@example.org', $1, 'Person ' || i from generate_series(1, ${fill.people}) i`,
    [passwordHash],
  );
  await run(
    `insert into cutter (id, person_id, name, model_key, model_version)
     select ${uuid(2, 'i')}, ${uuid(1, 'i')}, 'Cutter', $1, $2 from generate_series(1, ${fill.people}) i`,
    [model.key, model.version],
  );
  await run(
    `insert into blade (id, person_id, name) select ${uuid(3, 'i')}, ${uuid(1, 'i')}, 'Blade' from generate_series(1, ${fill.people}) i`,
  );
  await run(
    `insert into mounting (id, cutter_id, blade_id) select ${uuid(4, 'i')}, ${uuid(2, 'i')}, ${uuid(3, 'i')} from generate_series(1, ${fill.people}) i`,
  );
  await run(
    `insert into bench (person_id, cutter_id) select ${uuid(1, 'i')}, ${uuid(2, 'i')} from generate_series(1, ${fill.people}) i`,
  );
  // Names out of invented syllables: some 60 brands, thousands of names.
  const part = (list: string[], by: string) => `(array['${list.join("','")}'])[1 + (${by}) % ${list.length}]`;
  const front = ['Quil', 'Fer', 'Tan', 'Mos', 'Ott', 'Bri', 'Nig', 'Pag', 'Pla', 'Cut', 'Lar', 'Sad'];
  const back = ['low', 'rule', 'sy', 'wick', 'erley', 'ferry', 'field', 'song', 'water', 'lane'];
  const middle = [
    'star',
    'dri',
    'lof',
    'mir',
    'clin',
    'und',
    'bea',
    'gli',
    'walk',
    'crum',
    'fros',
    'ash',
    'reed',
    'fen',
    'lark',
    'tide',
  ];
  const end = [
    'ling',
    'ft',
    't',
    'ror',
    'g',
    'story',
    'con',
    'nt',
    'about',
    'b',
    'ty',
    'en',
    'y',
    'wood',
    'spur',
    'mark',
    'stone',
  ];
  const types = [
    'smooth',
    'glitter',
    'flock',
    'puff',
    'holographic',
    'foil',
    'adhesive',
    'printable',
    'matless',
    'low-heat',
  ];
  await run(
    `insert into vinyl (id, brand, name, type, codes, person_id, visibility, created_at)
     select ${uuid(5, 'i')}, ${part(front, 'i * 7')} || ${part(back, 'i / 12')}, initcap(${part(middle, 'i * 5')} || ${part(end, 'i / 3')})
        || ' ' || initcap(${part(end, 'i * 11')} || ${part(middle, 'i / 7')}), ${part(types, 'i')}, array['n' || (i * 7919) % 99991], ${uuid(1, `1 + i % ${fill.people}`)}, 'public',
        now() - make_interval(mins => i) from generate_series(1, ${fill.vinyls}) i`,
  );
  await run(
    `insert into colour (id, vinyl_id, name, hex)
     select ${uuid(6, 'i')}, ${uuid(5, 'i')}, ${part(['ember red', 'gold', 'navy', 'chalk', 'deep fir', 'river ice', 'plum'], 'i')}, '#b0203a'
       from generate_series(1, ${fill.vinyls}) i`,
  );
  await run(
    `insert into posterior (input_hash, model_version, prior_version, result, shown) values ($1, $2, $3, $4, $5) on conflict do nothing`,
    [posterior.hash, posterior.modelVersion, posterior.priorVersion, posterior.result, posterior.shown],
  );
  const vinylOf = (i: string) => uuid(5, `1 + (${i}) * 13 % ${fill.vinyls}`);
  const personOf = (i: string) => uuid(1, `1 + (${i}) % ${fill.people}`);
  const cutterOf = (i: string) => uuid(2, `1 + (${i}) % ${fill.people}`);
  await run(
    `insert into setting (id, person_id, vinyl_id, cutter_id, blade_id, controls, standing, input_hash)
     select ${uuid(7, 'i')}, ${personOf('i')}, ${vinylOf('i')}, ${cutterOf('i')}, ${uuid(3, `1 + i % ${fill.people}`)}, ${steps}, 'tried', $2
       from generate_series(1, ${fill.settings}) i on conflict do nothing`,
    [model.steps, posterior.hash],
  );
  await run(
    `insert into reading (person_id, vinyl_id, cutter_id, input_hash, read_at)
     select person_id, vinyl_id, cutter_id, $1, now() + interval '1 day' from setting on conflict do nothing`,
    [posterior.hash],
  );
  const cuts = Math.ceil(fill.cells / 10);
  await run(
    `insert into cut (id, kind, person_id, vinyl_id, cutter_id, mounting_id, created_at)
     select ${uuid(8, 'i')}, 'coupon', ${personOf('i')}, ${vinylOf('i')}, ${cutterOf('i')}, ${uuid(4, `1 + i % ${fill.people}`)},
        now() - make_interval(mins => i % 500000) from generate_series(1, ${cuts}) i`,
  );
  await run(
    `insert into cell (id, cut_id, number, setting, length_um)
     select ${uuid(9, 'i')}, ${uuid(8, `1 + (i - 1) / 10`)}, 1 + (i - 1) % 10, ${steps}, 90000 from generate_series(1, ${fill.cells}) i`,
    [model.steps],
  );
  await run(
    `insert into grade_event (id, cell_id, kind, figure, passes, grade, person_id, device_id, device_at, received_at)
     select ${uuid(10, 'i')}, ${uuid(9, 'i')}, 'grade', 1, 1, (array['uncut','hangs','clean','clean','scored','through'])[1 + i % 6],
        ${personOf('(i - 1) / 10 + 1')}, '00000000-0000-4000-8000-000000000001', now() - interval '1 day', now() - interval '1 day'
       from generate_series(1, ${fill.cells}) i`,
  );
  await run(
    `insert into vinyl_mine (person_id, vinyl_id, used_at) select person_id, vinyl_id, max(kept_at) from setting group by 1, 2 on conflict do nothing`,
  );
  await run(`set local session_replication_role = origin`);
  await run(`select count(refresh_vinyl_words(id)) from vinyl`);
  return 'p1@example.org';
}

/** Fresh statistics, and indexes without what waits to be sorted in. Outside a transaction. */
export async function analyse(): Promise<void> {
  // No transaction may hold it, and a page's patience is too short.
  await withClient(process.env.DATABASE_URL!, (client) => client.query('vacuum analyze'));
}
