import type { CutterModel } from '#core/controls/index.ts';
import type { Pack } from '#core/pack/index.ts';
import type { Leaflet, Overrides } from '#core/vinyls/index.ts';
import { foundSelect, type CardContent, type FoundRow, type Licence } from '#store/shelf/cards.ts';
import type { Wanted } from '#store/coupons/coupons.ts';
import { many, one, type Query } from '#store/base/db.ts';

// What goes into a pack ------------------------------------------------------------------------------------------------------

/**
 * Public cards of one vinyl or those that fit a search, and what was last changed about any of them. The oldest card first: a new one then
 * changes the last page only.
 */
export const publicCardIds = (q: Query, vinylId: string | null, words: string[], limit: number) =>
  many<{ id: string; stamp: string }>(
    q,
    `select c.id, concat_ws(' ', c.id, v.number, f.n, f.at, f.graded, f.out) as stamp
       from card c join card_version v on v.card_id = c.id and v.number = (select max(number) from card_version where card_id = c.id)
       join person p on p.id = c.person_id left join vinyl_words w on w.vinyl_id = vinyl_root(c.vinyl_id)
       left join lateral (select count(*) as n, max(n.made_at) as at, max(e.received_at) as graded, max(k.left_out_at) as out
         from confirmation n join cut k on k.id = n.cut_id join cell on cell.cut_id = n.cut_id left join grade_event e on e.cell_id = cell.id
        where n.card_id = c.id) f on true
      where c.visibility = 'public' and c.hidden_at is null and v.licence <> 'read'
        and ($1::uuid is null or c.vinyl_id = any(array(select vinyl_kin($1))))
        and (cardinality($2::text[]) = 0 or fit_of_words($2, w.words || ' ' || lower(p.name)) is not null)
      order by c.made_at, c.id limit $3`,
    [vinylId, words, limit],
  );

export type PackedCard = {
  id: string;
  person_id: string;
  author: string;
  zone: string;
  vinyl_id: string;
  wanted: Wanted;
  visibility: 'private' | 'link' | 'public';
  source_id: string | null;
  brought_by: string | null;
  home: string | null;
};
export const cardsToPack = (q: Query, ids: readonly string[]) =>
  many<PackedCard>(
    q,
    `select c.id, c.person_id, p.name as author, p.zone, c.vinyl_id, c.wanted, c.visibility, c.source_id, s.brought_by, s.home
       from card c join person p on p.id = c.person_id left join source s on s.id = c.source_id
      where c.id = any($1) order by array_position($1, c.id)`,
    [ids],
  );

export type PackedVersion = {
  card_id: string;
  number: number;
  content: Omit<CardContent, 'result'>;
  change: string;
  licence: Licence;
  published_at: Date;
  cutter_id: string | null;
  blade_id: string | null;
};
export const versionsToPack = (q: Query, cardIds: readonly string[]) =>
  many<PackedVersion>(
    q,
    `select card_id, number, content - 'result' as content, change, licence, published_at, cutter_id, blade_id
       from card_version where card_id = any($1) order by card_id, number`,
    [cardIds],
  );

export const foundToPack = (q: Query, cardIds: readonly string[]) =>
  many<FoundRow>(q, `${foundSelect} where n.card_id = any($1) order by n.made_at, n.cut_id`, [cardIds]);

export const cuttersToPack = (q: Query, ids: readonly string[]) =>
  many<{ id: string; person_id: string; model_key: string; model_version: number }>(
    q,
    'select id, person_id, model_key, model_version from cutter where id = any($1) order by id',
    [ids],
  );
export const scalesToPack = (q: Query, cutterIds: readonly string[]) =>
  many<{ cutter_id: string; position: number; milligrams: number }>(
    q,
    'select cutter_id, position, milligrams from scale_reading where cutter_id = any($1) order by at, id',
    [cutterIds],
  );
export const bladesToPack = (q: Query, ids: readonly string[]) =>
  many<{ id: string; angle: number }>(
    q,
    'select id, angle_degrees as angle from blade where id = any($1) order by id',
    [ids],
  );
export const modelsToPack = (q: Query, ids: readonly string[]) =>
  many<{ definition: CutterModel }>(
    q,
    `select definition from cutter_model where key || ' ' || version = any($1) order by key, version`,
    [ids],
  );

export type PackedVinyl = {
  id: string;
  root: string;
  brand: string;
  name: string;
  type: string;
  recipe: Overrides;
  nicknames: string[];
  colours: { name: string; hex: string }[];
  leaflet: Leaflet | null;
};
/** Entries with those they were merged into. */
export const vinylsToPack = (q: Query, ids: readonly string[]) =>
  many<PackedVinyl>(
    q,
    `select v.id, vinyl_root(v.id) as root, v.brand, v.name, v.type, coalesce(t.behaviour, '{}') || v.behaviour as recipe, v.nicknames,
        coalesce((select jsonb_agg(jsonb_build_object('name', name, 'hex', hex) order by id) from colour where vinyl_id = v.id), '[]') as colours,
        (select content from leaflet where vinyl_id = v.id order by at desc, id desc limit 1) as leaflet
       from vinyl v left join vinyl_type t on t.id = v.own_type
      where v.id = any($1) or v.id in (select vinyl_root(x) from unnest($1::uuid[]) x) order by v.id`,
    [ids],
  );

// What is there already ------------------------------------------------------------------------------------------------------

/** Which vinyls here the entries of a pack are: decided before, the very same, or one of that brand, name and type. */
export const vinylsElsewhere = (
  q: Query,
  vinyls: readonly { key: string; brand: string; name: string; type: string }[],
) =>
  many<{ key: string; decided: string | null; same: string | null; taken: boolean; named: string | null }>(
    q,
    `select x.key, e.vinyl_id as decided, v.id as same, t.id is not null as taken,
        (select w.vinyl_id from vinyl_words w where w.open and x.brand <> '' and w.name = left(lower(x.brand || ' ' || x.name), 200)
           and w.type = x.type order by w.made_at, w.vinyl_id limit 1) as named
       from jsonb_to_recordset($1::jsonb) as x(key uuid, brand text, name text, type text)
       left join vinyl_elsewhere e on e.key = x.key left join vinyl t on t.id = x.key
       left join vinyl v on v.id = x.key and v.visibility = 'public'`,
    [JSON.stringify(vinyls.map(({ key, brand, name, type }) => ({ key, brand, name, type })))],
  );
/** Models of those keys, and whose they are: of somebody from elsewhere, of somebody here, or shipped. */
export const modelsHere = (q: Query, keys: readonly string[]) =>
  many<{ definition: CutterModel; owner: string | null; foreign_owner: boolean }>(
    q,
    `select m.definition, o.person_id as owner, p.source_id is not null as foreign_owner
       from cutter_model m left join model_owner o on o.key = m.key left join person p on p.id = o.person_id where m.key = any($1)`,
    [keys],
  );
export const cutsHere = (q: Query, ids: readonly string[]) =>
  many<{ id: string }>(q, 'select id from cut where id = any($1)', [ids]);
/** Whether an author has a card for a vinyl on a model already, under another key. */
export const rivalCard = (q: Query, personId: string, vinylId: string, modelKey: string, wanted: Wanted) =>
  one<{ id: string }>(
    q,
    'select id from card where person_id = $1 and vinyl_id = $2 and model_key = $3 and wanted = $4',
    [personId, vinylId, modelKey, wanted],
  );

// Sources --------------------------------------------------------------------------------------------------------------------

export type PackReport = {
  cards: number;
  versions: number;
  confirmations: number;
  vinyls: number;
  /** What was left out, and why. */
  left: string[];
  same: number;
};
export type SourceRow = {
  id: string;
  kind: 'file' | 'feed';
  home: string;
  title: string;
  author: string;
  licence: 'cc0' | 'cc-by' | null;
  brought_by: string;
  who: string;
  vouched: boolean;
  weight: number;
  state: 'seen' | 'queued' | 'done' | 'failed' | 'withdrawn';
  checksum: string | null;
  report: PackReport | null;
  at: Date;
  done_at: Date | null;
};
const sourceSelect = `select s.id, s.kind, s.home, s.title, s.author, s.licence, s.brought_by, p.name as who, s.vouched, s.weight::float as weight,
    s.state, s.checksum, s.report, s.at, s.done_at from source s join person p on p.id = s.brought_by`;
export const insertSource = (
  q: Query,
  s: {
    id: string;
    kind: 'file' | 'feed';
    pack?: Pack;
    broughtBy: string;
    vouched: boolean;
    weight: number;
    state: SourceRow['state'];
  },
) =>
  q.query(
    `insert into source (id, kind, home, title, author, licence, brought_by, vouched, weight, content, checksum, state)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12)`,
    [
      s.id,
      s.kind,
      s.pack?.home ?? '',
      s.pack?.title ?? '',
      s.pack?.author ?? '',
      s.pack?.licence ?? null,
      s.broughtBy,
      s.vouched,
      s.weight,
      s.pack ? JSON.stringify(s.pack) : null,
      s.pack?.checksums.pack ?? null,
      s.state,
    ],
  );
export const sourceById = (q: Query, id: string) => one<SourceRow>(q, `${sourceSelect} where s.id = $1`, [id]);
export const lockSource = (q: Query, id: string) =>
  one<{ state: SourceRow['state'] }>(q, 'select state from source where id = $1 for update', [id]);
export const contentOf = async (q: Query, id: string) =>
  (await one<{ content: Pack | null }>(q, 'select content from source where id = $1', [id]))?.content ?? undefined;
export const sourcesOf = (q: Query, personId: string, limit: number) =>
  many<SourceRow>(q, `${sourceSelect} where s.brought_by = $1 and s.kind = 'file' order by s.at desc limit $2`, [
    personId,
    limit,
  ]);
export const vouch = (q: Query, id: string, vouched: boolean, weight: number) =>
  q.query('update source set vouched = $2, weight = $3 where id = $1', [id, vouched, weight]);
export const setSourceState = (q: Query, id: string, state: SourceRow['state'], report: PackReport | null = null) =>
  q.query(
    `update source set state = $2, report = coalesce($3, report), done_at = case when $2 in ('done', 'failed', 'withdrawn') then now() end,
       content = case when $2 = 'done' then null else content end where id = $1`,
    [id, state, report],
  );
export const describeSource = (q: Query, id: string, pack: Pick<Pack, 'home' | 'title' | 'author' | 'licence'>) =>
  q.query('update source set home = $2, title = $3, author = $4, licence = $5 where id = $1', [
    id,
    pack.home,
    pack.title,
    pack.author,
    pack.licence,
  ]);
export const queuedSources = (q: Query) =>
  many<{ id: string }>(q, `select id from source where state = 'queued' order by at`);
/** Packs that were looked at and never brought in. */
export const sweepSources = (q: Query) =>
  q.query(
    `delete from source s where state = 'seen' and kind = 'file' and at < now() - interval '7 days'
       and not exists (select 1 from person where source_id = s.id) and not exists (select 1 from card where source_id = s.id)`,
  );

/** One pack is brought in after the other. */
export const lockPacks = (q: Query) => q.query(`select pg_advisory_xact_lock(hashtext('packs'))`);

// What is brought in ---------------------------------------------------------------------------------------------------------

export const insertForeigners = (q: Query, sourceId: string, people: readonly { key: string; name: string | null }[]) =>
  q.query(
    `insert into person (id, name, source_id)
     select x.key, coalesce(x.name, 'a crafter'), $1 from jsonb_to_recordset($2::jsonb) as x(key uuid, name text)
     on conflict (id) do update set name = excluded.name where person.name = 'a crafter' and excluded.name <> 'a crafter'`,
    [sourceId, JSON.stringify(people)],
  );
export const insertForeignCutters = (
  q: Query,
  cutters: readonly { key: string; person: string; model: { key: string; version: number } }[],
) =>
  q.query(
    `insert into cutter (id, person_id, name, model_key, model_version)
     select x.key, x.person, 'a cutter', x.model ->> 'key', (x.model ->> 'version')::int
       from jsonb_to_recordset($1::jsonb) as x(key uuid, person uuid, model jsonb) on conflict (id) do nothing`,
    [JSON.stringify(cutters)],
  );
export const insertForeignBlades = (q: Query, blades: readonly { key: string; person: string; angle: number }[]) =>
  q.query(
    `insert into blade (id, person_id, name, angle_degrees)
     select x.key, x.person, 'a blade', x.angle from jsonb_to_recordset($1::jsonb) as x(key uuid, person uuid, angle int)
     on conflict (id) do nothing`,
    [JSON.stringify(blades)],
  );
export const insertForeignScales = (
  q: Query,
  scales: readonly { id: string; cutter: string; position: number; milligrams: number }[],
) =>
  q.query(
    `insert into scale_reading (id, cutter_id, position, milligrams)
     select x.id, x.cutter, x.position, x.milligrams
       from jsonb_to_recordset($1::jsonb) as x(id uuid, cutter uuid, position int, milligrams int) on conflict do nothing`,
    [JSON.stringify(scales)],
  );
/** A blade that was on a cutter for as long as its cuts took: nothing is mounted on machines elsewhere. */
export const insertForeignMounting = (q: Query, m: { id: string; cutter: string; blade: string; at: Date }) =>
  q.query(
    `insert into mounting (id, cutter_id, blade_id, mounted_at, removed_at) values ($1, $2, $3, $4, $4) on conflict (id) do nothing`,
    [m.id, m.cutter, m.blade, m.at],
  );
export const noteElsewhere = (q: Query, key: string, vinylId: string, sourceId: string) =>
  q.query('insert into vinyl_elsewhere (key, vinyl_id, source_id) values ($1, $2, $3) on conflict (key) do nothing', [
    key,
    vinylId,
    sourceId,
  ]);
export const cameFrom = (q: Query, table: 'card' | 'confirmation', id: string, sourceId: string) =>
  q.query(
    table === 'card'
      ? 'update card set source_id = $2 where id = $1'
      : 'update confirmation set source_id = $2 where cut_id = $1',
    [id, sourceId],
  );
export const amendConfirmation = (
  q: Query,
  c: { cutId: string; outcome: string | null; better: number | null; said: string },
) =>
  q.query('update confirmation set outcome = $2, better = $3, said = $4 where cut_id = $1', [
    c.cutId,
    c.outcome,
    c.better,
    c.said,
  ]);

/** Takes cards that came from a source off the shelf. Answers those that changed. */
export const withdrawCards = (q: Query, sourceId: string, except: readonly string[] | null) =>
  many<{ id: string; vinyl_id: string; model_key: string; wanted: Wanted }>(
    q,
    `update card set visibility = 'private', withdrawn_at = now()
      where source_id = $1 and visibility = 'public' and ($2::uuid[] is null or id <> all($2))
      returning id, vinyl_root(vinyl_id) as vinyl_id, model_key, wanted`,
    [sourceId, except],
  );
export const cardsOfSource = (q: Query, sourceId: string) =>
  many<{ id: string; content: Pick<CardContent, 'vinyl' | 'model' | 'controls'>; author: string }>(
    q,
    `select c.id, jsonb_build_object('vinyl', v.content -> 'vinyl', 'model', v.content -> 'model', 'controls', v.content -> 'controls') as content,
        p.name as author
       from card c join person p on p.id = c.person_id
       join card_version v on v.card_id = c.id and v.number = (select max(number) from card_version where card_id = c.id)
      where c.source_id = $1 and c.visibility = 'public' order by v.published_at desc, c.id limit 200`,
    [sourceId],
  );
/** Puts what was taken off the shelf back there: all of a source, or the cards named. Answers those that changed. */
export const restoreCards = (q: Query, which: { source: string } | { cards: readonly string[] }) =>
  many<{ id: string; vinyl_id: string; model_key: string; wanted: Wanted }>(
    q,
    `update card set visibility = 'public', withdrawn_at = null
      where withdrawn_at is not null and (source_id = $1 or id = any($2))
      returning id, vinyl_root(vinyl_id) as vinyl_id, model_key, wanted`,
    ['source' in which ? which.source : null, 'cards' in which ? which.cards : []],
  );

// Subscriptions --------------------------------------------------------------------------------------------------------------

export type SubscriptionRow = {
  source_id: string;
  address: string;
  etag: string | null;
  checked_at: Date | null;
  next_at: Date;
  failures: number;
  trouble: string | null;
  ended_at: Date | null;
  home: string;
  title: string;
  weight: number;
  cards: number;
  who: string;
  brought_by: string;
};
const subscriptionSelect = `select u.*, s.home, s.title, s.weight::float as weight, s.brought_by, p.name as who,
    (select count(*)::int from card where source_id = u.source_id and visibility = 'public') as cards
  from subscription u join source s on s.id = u.source_id join person p on p.id = s.brought_by`;
export const insertSubscription = (q: Query, sourceId: string, address: string) =>
  q.query('insert into subscription (source_id, address) values ($1, $2)', [sourceId, address]);
export const subscriptions = (q: Query) =>
  many<SubscriptionRow>(q, `${subscriptionSelect} where u.ended_at is null order by s.at`);
export const subscriptionById = (q: Query, id: string) =>
  one<SubscriptionRow>(q, `${subscriptionSelect} where u.source_id = $1`, [id]);
export const dueSubscriptions = (q: Query, limit: number) =>
  many<{ source_id: string }>(
    q,
    'select source_id from subscription where ended_at is null and next_at <= now() order by next_at limit $1',
    [limit],
  );
export const subscriptionAnswered = (q: Query, id: string, etag: string | null, nextMinutes: number) =>
  q.query(
    `update subscription set etag = $2, checked_at = now(), next_at = now() + make_interval(secs => $3::float * 60), failures = 0, trouble = null
      where source_id = $1`,
    [id, etag, nextMinutes],
  );
export const subscriptionFailed = (q: Query, id: string, trouble: string, nextMinutes: number) =>
  q.query(
    `update subscription set checked_at = now(), next_at = now() + make_interval(secs => $3::float * 60), failures = failures + 1, trouble = left($2, 500)
      where source_id = $1`,
    [id, trouble, nextMinutes],
  );
export const endSubscription = (q: Query, id: string) =>
  q.query('update subscription set ended_at = now() where source_id = $1', [id]);
export const askNow = (q: Query, id: string) =>
  q.query('update subscription set next_at = now() where source_id = $1 and ended_at is null', [id]);

export type SeenPage = { address: string; etag: string; cards: string[]; next: string | null };
export const pagesSeen = (q: Query, sourceId: string) =>
  many<SeenPage>(q, 'select address, etag, cards, next from subscription_page where source_id = $1', [sourceId]);
/** Once all of a shelf was seen. */
export async function setPagesSeen(q: Query, sourceId: string, pages: readonly SeenPage[]): Promise<void> {
  await q.query('delete from subscription_page where source_id = $1', [sourceId]);
  for (const p of pages)
    await q.query(
      `insert into subscription_page (source_id, address, etag, cards, next) values ($1, $2, $3, $4, $5)
       on conflict do nothing`,
      [sourceId, p.address, p.etag, p.cards, p.next],
    );
}
