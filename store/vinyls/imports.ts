import { many, one, type Query } from '#store/base/db.ts';

export type ImportRow = {
  id: string;
  person_id: string;
  file_name: string;
  /** JSON, as it was read: nobody parses a file of megabytes on the way through. */
  content: string;
  mapping: (string | null)[];
  state: 'seen' | 'done' | 'undone';
  report: ImportReport | null;
  at: Date;
};
export type ImportReport = {
  added: number;
  already: number;
  refused: number;
  /** Numbers kept as drafts, and colours that vinyls here got. */
  numbers?: number;
  colours?: number;
  undone?: number;
  kept?: number;
};

export const insertImport = (
  q: Query,
  i: { id: string; personId: string; fileName: string; content: string; mapping: (string | null)[] },
) =>
  q.query('insert into import (id, person_id, file_name, content, mapping) values ($1, $2, $3, $4, $5)', [
    i.id,
    i.personId,
    i.fileName,
    i.content,
    JSON.stringify(i.mapping),
  ]);
const columns = 'id, person_id, file_name, content::text as content, mapping, state, report, at';
export const importById = (q: Query, id: string) =>
  one<ImportRow>(q, `select ${columns} from import where id = $1`, [id]);
/** The same under a lock: two taps on one button do it once. */
export const lockedImport = (q: Query, id: string) =>
  one<ImportRow>(q, `select ${columns} from import where id = $1 for update`, [id]);
export const importsOf = (q: Query, personId: string, limit: number) =>
  many<Pick<ImportRow, 'id' | 'file_name' | 'state' | 'report' | 'at'>>(
    q,
    'select id, file_name, state, report, at from import where person_id = $1 order by at desc limit $2',
    [personId, limit],
  );
export const setMapping = (q: Query, id: string, mapping: (string | null)[]) =>
  q.query(`update import set mapping = $2 where id = $1 and state = 'seen'`, [id, JSON.stringify(mapping)]);
/** @param state "seen" where rows are left to be mended */
export const finishImport = (q: Query, id: string, state: ImportRow['state'], report: ImportReport) =>
  q.query('update import set state = $2, report = $3, done_at = now() where id = $1', [id, state, report]);

/** One's own vinyls, to tell what is there already, and whether a number is kept for each on a cutter. */
export const ownNames = (q: Query, personId: string, cutterId: string | null) =>
  many<{ id: string; brand: string; name: string; kept: boolean; colours: { id: string; name: string }[] }>(
    q,
    `select v.id, v.brand, v.name,
        exists (select 1 from setting s where s.person_id = $1 and s.vinyl_id = v.id and s.cutter_id = $2 and s.replaced_at is null) as kept,
        coalesce(c.colours, '[]') as colours
       from vinyl v left join (
         select c.vinyl_id, jsonb_agg(jsonb_build_object('id', c.id, 'name', c.name)) as colours
           from colour c join vinyl o on o.id = c.vinyl_id and o.person_id = $1 group by c.vinyl_id) c on c.vinyl_id = v.id
      where v.person_id = $1`,
    [personId, cutterId],
  );

/** @param text the vinyls as JSON, as `judgeTable` of core makes them ready */
export const insertMany = async (q: Query, personId: string, importId: string, text: string) => {
  await q.query(`set local versipel.many = 'on'`);
  await q.query(
    `insert into vinyl (id, brand, name, type, own_type, person_id, visibility, behaviour, nicknames, codes, sizes, note, import_id)
     select v.id, v.brand, v.name, v.type, v.own_type, $1, 'private', v.behaviour,
       array(select jsonb_array_elements_text(v.nicknames)), array(select jsonb_array_elements_text(v.codes)), v.sizes, v.note, $2
       from jsonb_to_recordset($3::jsonb) as v (id uuid, brand text, name text, type text, own_type uuid, behaviour jsonb,
         nicknames jsonb, codes jsonb, sizes jsonb, note text)`,
    [personId, importId, text],
  );
  await q.query(
    `insert into colour (id, vinyl_id, name, hex)
     select c.id, v.id, c.name, c.hex from jsonb_to_recordset($1::jsonb) as v (id uuid, colours jsonb)
       cross join lateral jsonb_to_recordset(v.colours) as c (id uuid, name text, hex text)`,
    [text],
  );
  await q.query(`set local versipel.many = 'off'`);
  await q.query('select count(refresh_vinyl_words(id)) from vinyl where import_id = $1', [importId]);
};

/** @param text colours of vinyls that are there already, as JSON */
export const insertColours = (q: Query, text: string) =>
  q.query(
    `insert into colour (id, vinyl_id, name, hex)
     select c.id, c.vinyl, c.name, c.hex from jsonb_to_recordset($1::jsonb) as c (id uuid, vinyl uuid, name text, hex text)
     on conflict do nothing`,
    [text],
  );

/** @param text numbers as JSON, each with the fit it rests on */
export const insertNumbers = (q: Query, personId: string, importId: string, cutterId: string, text: string) =>
  q.query(
    `insert into setting (id, person_id, vinyl_id, colour_id, cutter_id, blade_id, wanted, controls, standing, input_hash, note, import_id)
     select n.id, $1, n.vinyl, n.colour, $3, n.blade, n.wanted, n.controls, 'draft', decode(n.hash, 'hex'), n.note, $2
       from jsonb_to_recordset($4::jsonb) as n (id uuid, vinyl uuid, colour uuid, blade uuid, wanted text, controls jsonb, hash text, note text)
     on conflict do nothing`,
    [personId, importId, cutterId, text],
  );
/** Puts away what is in a table that was brought in but for some rows. */
export const setContent = (q: Query, id: string, content: string) =>
  q.query('update import set content = $2 where id = $1', [id, content]);

/** Takes back what an import added; what was cut, kept, merged, stocked or shared since stays. Answers how many went. */
export const undoImport = async (q: Query, importId: string) => {
  // A draft that nobody cut or kept anew goes with its table.
  await q.query(`delete from setting where import_id = $1 and standing = 'draft'`, [importId]);
  const ids = (
    await many<{ id: string }>(
      q,
      `select v.id from vinyl v where v.import_id = $1 and v.visibility = 'private'
         and not exists (select 1 from cut where vinyl_id = v.id) and not exists (select 1 from setting where vinyl_id = v.id)
         and not exists (select 1 from stock where vinyl_id = v.id) and not exists (select 1 from card where vinyl_id = v.id)
         and not exists (select 1 from vinyl_alias a where a.alias_id = v.id or a.vinyl_id = v.id)`,
      [importId],
    )
  ).map((r) => r.id);
  await q.query(`set local versipel.many = 'on'`);
  for (const table of ['reading', 'school', 'vinyl_mine', 'vinyl_words', 'batch', 'shared_reading'])
    await q.query(`delete from ${table} where vinyl_id = any($1)`, [ids]);
  await q.query('delete from colour where vinyl_id = any($1)', [ids]);
  await q.query('delete from vinyl where id = any($1)', [ids]);
  return ids.length;
};
export const countImported = async (q: Query, importId: string) =>
  (await one<{ n: number }>(q, 'select count(*)::int as n from vinyl where import_id = $1', [importId]))!.n;

/** Of the tables somebody only looked at, keeps the latest. */
export const dropSeenImports = (q: Query, personId: string, keep: number) =>
  q.query(
    `delete from import where person_id = $1 and state = 'seen' and report is null
       and id not in (select id from import where person_id = $1 and state = 'seen' order by at desc, id desc limit $2)`,
    [personId, keep],
  );

/** Forgets tables that were looked at and never brought in, and what was in those that were. */
export const sweepImports = (q: Query, days: number) =>
  q.query(
    `with gone as (delete from import where state = 'seen' and report is null and at < now() - make_interval(days => $1))
     update import set content = '{"headings": [], "rows": []}'
      where state <> 'seen' and done_at < now() - make_interval(days => $1) and jsonb_array_length(content -> 'rows') > 0`,
    [days],
  );

/** Plans of searches rest on what is there now, not on what was there before many rows came in. */
export const freshStatistics = (q: Query) => q.query('select fresh_statistics()');
