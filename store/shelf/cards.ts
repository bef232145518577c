import { type Query, many, one } from '#store/base/db.ts';
import type { CutterModel, Setting } from '#core/controls/index.ts';
import type { Grade } from '#core/grades/index.ts';
import type { Outcome, Standing, StandingResult } from '#core/proof/index.ts';
import type { Around, FitInput, FitResult, GradedCell } from '#core/window/index.ts';
import type { Wanted, EvidenceRow } from '#store/coupons/coupons.ts';

export type Licence = 'read' | 'cc-by' | 'cc-by-sa' | 'cc0';

export type CardContent = {
  vinyl: { brand: string; name: string; type: string; colour: string; hex: string };
  model: CutterModel;
  controls: Setting;
  standing: Standing;
  conditions: string;
  result: FitResult;
  /** What the reading was asked for, and the author's time zone then: with the cells, all it takes to read it again. */
  asked?: { target: FitInput['target']; around?: Around };
  zone?: string;
  /** The evidence as the fit takes it, and as people read it. */
  cells: GradedCell[];
  evidence: EvidenceRow[];
};

export type CardRow = {
  id: string;
  person_id: string;
  author: string;
  /** The author's time zone. */
  zone: string;
  vinyl_id: string;
  model_key: string;
  wanted: Wanted;
  visibility: 'private' | 'link' | 'public';
  link_key: string | null;
  number: number;
  content: CardContent;
  change: string;
  licence: Licence;
  published_at: Date;
  /** Taken off the shelf by a steward. */
  hidden_at: Date | null;
} & FromElsewhere;

/** Where something came from, if not from here: the server, what a cut of it counts, and whose voice it is. */
export type FromElsewhere = {
  source_id: string | null;
  home: string | null;
  weight: number;
  /** Who speaks: the person, or who brought it in where nobody vouches for where it comes from. */
  voice: string;
  /** Whether somebody brought it in whom nobody vouches for: all of it together is then one cut. */
  hearsay: boolean;
};
/** For a row `of` with a person and a source, joined as `src`. */
export const elsewhere = (of: string) =>
  `${of}.source_id, src.home, coalesce(src.weight, 1)::float as weight, src.vouched is false as hearsay,
    case when src.vouched is false then src.brought_by else ${of}.person_id end as voice`;

/**
 * The grade that stands for one confirmed cut `n`: the latest that nobody took back. Looked up a cut at a time, so that a page
 * costs what it shows and not what all have confirmed.
 */
const gradeOfCut = `(select e.grade, e.passes from cell join grade_event e on e.cell_id = cell.id and e.kind = 'grade'
  join cut k on k.id = cell.cut_id and k.left_out_at is null
  where cell.cut_id = n.cut_id and cell.number = 1 and not exists (select 1 from grade_event x where x.cell_id = e.cell_id and x.retracts = e.id)
  order by e.device_at desc, e.id desc limit 1)`;

const cardSelect = `select c.id, c.person_id, p.name as author, p.zone, vinyl_root(c.vinyl_id) as vinyl_id, c.model_key, c.wanted, c.visibility, c.link_key,
    v.number, v.content, v.change, v.licence, v.published_at, c.hidden_at, ${elsewhere('c')}
  from card c join person p on p.id = c.person_id join card_version v on v.card_id = c.id left join source src on src.id = c.source_id`;
const newest = 'v.number = (select max(number) from card_version where card_id = c.id)';

export const cardById = (q: Query, id: string, number: number | null) =>
  one<CardRow>(
    q,
    `${cardSelect} where c.id = $1 and ${number === null ? newest : 'v.number = $2'}`,
    number === null ? [id] : [id, number],
  );

export const cardIdByKey = (q: Query, key: string) =>
  one<{ id: string }>(q, 'select id from card where link_key = $1', [key]);

export const cardOf = (q: Query, personId: string, vinylId: string, modelKey: string, wanted: Wanted) =>
  one<CardRow>(
    q,
    `${cardSelect} where c.person_id = $1 and c.vinyl_id = any(array(select vinyl_kin($2))) and c.model_key = $3 and c.wanted = $4 and ${newest}
       order by v.published_at desc limit 1`,
    [personId, vinylId, modelKey, wanted],
  );

export const insertCard = (
  q: Query,
  c: {
    id: string;
    personId: string;
    vinylId: string;
    modelKey: string;
    wanted: Wanted;
    visibility: string;
    linkKey: string | null;
    madeAt?: Date;
  },
) =>
  q.query(
    `insert into card (id, person_id, vinyl_id, model_key, wanted, visibility, link_key, made_at)
     values ($1, $2, $3, $4, $5, $6, $7, coalesce($8, now()))`,
    [c.id, c.personId, c.vinylId, c.modelKey, c.wanted, c.visibility, c.linkKey, c.madeAt ?? null],
  );

export const setVisibility = (q: Query, id: string, visibility: string, linkKey: string | null) =>
  q.query('update card set visibility = $2, link_key = $3 where id = $1', [id, visibility, linkKey]);

export const insertVersion = (
  q: Query,
  v: {
    cardId: string;
    number: number;
    content: CardContent;
    change: string;
    licence: Licence;
    hash: Buffer;
    cutterId: string;
    bladeId: string | null;
    publishedAt?: Date;
  },
) =>
  q.query(
    `insert into card_version (card_id, number, content, change, licence, input_hash, cutter_id, blade_id, published_at)
     values ($1, $2, $3, $4, $5, $6, $7, $8, coalesce($9, now()))`,
    [v.cardId, v.number, v.content, v.change, v.licence, v.hash, v.cutterId, v.bladeId, v.publishedAt ?? null],
  );

export type VersionRow = { number: number; change: string; licence: Licence; published_at: Date };
export const versionsOf = (q: Query, cardId: string) =>
  many<VersionRow>(
    q,
    'select number, change, licence, published_at from card_version where card_id = $1 order by number desc',
    [cardId],
  );

export const controlsOfVersions = (q: Query, cardId: string) =>
  many<{ number: number; controls: Setting }>(
    q,
    "select number, content -> 'controls' as controls from card_version where card_id = $1",
    [cardId],
  );

export type ListedCard = Omit<CardRow, 'content'> & {
  content: CardContent;
  shared: FitResult | null;
  crafters: number | null;
  confirmed: number;
  /** Others who said how it came out, and those of them whose latest cut came out as wanted. */
  graded: number;
  standing: Standing | null;
  proof: StandingResult | null;
  /** How well it fits what was searched for, up to 1. */
  fit: number;
};

/** Public cards and one's own, those that fit the search best, then the latest, with what all public evidence says. */
export const listCards = (
  q: Query,
  personId: string | null,
  words: string[],
  model: { key: string; version: number } | null,
  limit: number,
) =>
  many<ListedCard>(
    q,
    `select x.*, f.fit::float as fit, sp.result as shared, sr.crafters, cs.standing, cs.proof,
        coalesce(g.graded, 0)::int as graded, coalesce(g.confirmed, 0)::int as confirmed
       from (${cardSelect} where ${newest} and ((c.visibility = 'public' and c.hidden_at is null) or c.person_id = $1)) x
       join vinyl_words w on w.vinyl_id = x.vinyl_id
       cross join lateral (select case when cardinality($2::text[]) = 0 then 1
         else fit_of_words($2, w.words || ' ' || lower(x.author)) end as fit) f
       left join shared_reading sr on sr.vinyl_id = x.vinyl_id and sr.wanted = x.wanted and sr.model_key = x.model_key
         and sr.model_key = $3 and sr.model_version = $4
       left join card_standing cs on cs.card_id = x.id
       left join posterior sp on sp.input_hash = sr.input_hash
       left join lateral (select count(*) as graded, count(*) filter (where k.grade = x.wanted) as confirmed
         from (select distinct on (n.person_id) e.grade from confirmation n cross join lateral ${gradeOfCut} e
                where n.card_id = x.id order by n.person_id, n.made_at desc) k) g on true
      where f.fit is not null order by f.fit desc, (x.model_key = $3) desc nulls last, x.published_at desc limit $5`,
    [personId, words, model?.key ?? null, model?.version ?? null, limit],
  );

export const insertConfirmation = (
  q: Query,
  c: {
    cutId: string;
    cardId: string;
    version: number;
    personId: string;
    outcome?: Outcome;
    better?: number | null;
    said?: string;
    madeAt?: Date;
  },
) =>
  q.query(
    `insert into confirmation (cut_id, card_id, version, person_id, outcome, better, said, made_at)
     values ($1, $2, $3, $4, $5, $6, $7, coalesce($8, now()))`,
    [c.cutId, c.cardId, c.version, c.personId, c.outcome ?? null, c.better ?? null, c.said ?? '', c.madeAt ?? null],
  );

/** Adds words to a confirmation; the author has something new to read. */
export const sayWords = (q: Query, cutId: string, said: string) =>
  q.query('update confirmation set said = $2, read_at = null where cut_id = $1', [cutId, said]);

export const confirmationOf = (q: Query, cutId: string) =>
  one<{ card_id: string; version: number; person_id: string; said: string }>(
    q,
    'select card_id, version, person_id, said from confirmation where cut_id = $1',
    [cutId],
  );

export type FoundRow = {
  cut_id: string;
  card_id: string;
  version: number;
  person_id: string;
  who: string;
  cutter_id: string;
  blade_id: string;
  model: string;
  angle: number;
  setting: Setting;
  grade: Grade;
  passes: number;
  said: string;
  /** What came of it, where that was said; the place that did instead. */
  outcome: Outcome | null;
  better: number | null;
  batch: string | null;
  zone: string;
  made_at: Date;
  read_at: Date | null;
} & FromElsewhere;
export const foundSelect = `select n.cut_id, n.card_id, n.version, n.person_id, p.name as who, k.id as cutter_id, b.id as blade_id,
    m.name as model, b.angle_degrees as angle, cell.setting, g.grade, g.passes, n.said, n.outcome, n.better, h.label as batch,
    p.zone, n.made_at, n.read_at, ${elsewhere('n')}
  from confirmation n left join source src on src.id = n.source_id join person p on p.id = n.person_id join cut on cut.id = n.cut_id
  join cell on cell.cut_id = cut.id and cell.number = 1
  join cutter k on k.id = cut.cutter_id join cutter_model m on (m.key, m.version) = (k.model_key, k.model_version)
  join mounting t on t.id = cut.mounting_id join blade b on b.id = t.blade_id
  left join batch h on h.id = cut.batch_id
  cross join lateral ${gradeOfCut} g`;

/** What others found with a card, latest first. Cuts nobody has graded yet say nothing. */
export const foundWith = (q: Query, cardId: string) =>
  many<FoundRow>(q, `${foundSelect} where n.card_id = $1 order by n.made_at desc`, [cardId]);

/** What others found with the cards of one person. */
export const inboxOf = (q: Query, personId: string, limit: number) =>
  many<FoundRow & { brand: string; vinyl: string; wanted: Wanted }>(
    q,
    `select f.*, v.brand, v.name as vinyl, c.wanted from (${foundSelect}) f
       join card c on c.id = f.card_id join vinyl v on v.id = c.vinyl_id
      where c.person_id = $1 and f.person_id <> $1 order by f.made_at desc limit $2`,
    [personId, limit],
  );

export const unreadOf = async (q: Query, personId: string) =>
  (await one<{ n: number }>(
    q,
    `select count(*)::int as n from confirmation n join card c on c.id = n.card_id cross join lateral ${gradeOfCut} g
        where c.person_id = $1 and n.person_id <> $1 and n.read_at is null`,
    [personId],
  ))!.n;

/** What others found with somebody's cards, up to a moment, is read. */
export const markRead = (q: Query, personId: string, upTo: Date) =>
  q.query(
    `update confirmation n set read_at = now() from card c
      where c.id = n.card_id and c.person_id = $1 and n.read_at is null and n.made_at <= $2`,
    [personId, upTo],
  );

export const insertReport = (q: Query, cardId: string, personId: string | null, why: string) =>
  q.query('insert into card_report (card_id, person_id, why) values ($1, $2, $3)', [cardId, personId, why]);

/** Newest versions of every public card for a vinyl on a model: what the shared reading rests on. */
export const publicCards = (q: Query, vinylId: string, modelKey: string, wanted: Wanted) =>
  many<CardRow>(
    q,
    `${cardSelect} where c.vinyl_id = any(array(select vinyl_kin($1))) and c.model_key = $2 and c.wanted = $3 and c.visibility = 'public'
       and c.hidden_at is null and ${newest} order by c.id`,
    [vinylId, modelKey, wanted],
  );

export const setSharedReading = (
  q: Query,
  r: { vinylId: string; model: CutterModel; wanted: Wanted; hash: Buffer; crafters: number },
) =>
  q.query(
    `insert into shared_reading (vinyl_id, model_key, model_version, wanted, input_hash, crafters)
     values ($1, $2, $3, $4, $5, $6)
     on conflict (vinyl_id, model_key, model_version, wanted)
     do update set input_hash = excluded.input_hash, crafters = excluded.crafters, read_at = now()`,
    [r.vinylId, r.model.key, r.model.version, r.wanted, r.hash, r.crafters],
  );

export const dropSharedReadings = (q: Query, vinylId: string, modelKey: string, wanted: Wanted) =>
  q.query('delete from shared_reading where vinyl_id = $1 and model_key = $2 and wanted = $3', [
    vinylId,
    modelKey,
    wanted,
  ]);

export const sharedReading = (q: Query, vinylId: string, model: CutterModel, wanted: Wanted) =>
  one<{ result: FitResult; crafters: number }>(
    q,
    `select p.result, s.crafters from shared_reading s join posterior p on p.input_hash = s.input_hash
      where s.vinyl_id = $1 and s.model_key = $2 and s.model_version = $3 and s.wanted = $4`,
    [vinylId, model.key, model.version, wanted],
  );

// What a change left to be made again (migration 0008). A turn is a bigint: text here.
export const dueTurns = (q: Query, cardIds: readonly string[]) =>
  many<{ card_id: string; turn: string }>(q, 'select card_id, turn::text from card_due where card_id = any($1)', [
    cardIds,
  ]);
/** Unless it was changed again meanwhile. */
export const cardSettled = (q: Query, cardId: string, turn: string) =>
  q.query('delete from card_due where card_id = $1 and turn = $2::bigint', [cardId, turn]);
export const dueCards = (q: Query, olderThanSeconds: number, limit: number) =>
  many<Pick<CardRow, 'id' | 'vinyl_id' | 'model_key' | 'wanted'>>(
    q,
    `select c.id, vinyl_root(c.vinyl_id) as vinyl_id, c.model_key, c.wanted from card_due d join card c on c.id = d.card_id
      where d.at <= now() - make_interval(secs => $1) order by d.at limit $2`,
    [olderThanSeconds, limit],
  );

export type NewestCard = CardRow & { why: string | null; standing: Standing | null };
/** Newest versions of public cards, of one vinyl or those that fit a search, the latest first. */
export const newestCards = (q: Query, vinylId: string | null, words: string[], limit: number, offset = 0) =>
  many<NewestCard>(
    q,
    `select x.*, cs.proof ->> 'sentence' as why, cs.standing from (${cardSelect} where c.visibility = 'public' and c.hidden_at is null and ${newest}
        and ($1::uuid is null or c.vinyl_id = any(array(select vinyl_kin($1))))) x
       left join card_standing cs on cs.card_id = x.id left join vinyl_words w on w.vinyl_id = x.vinyl_id
      where cardinality($2::text[]) = 0 or fit_of_words($2, w.words || ' ' || lower(x.author)) is not null
      order by x.published_at desc, x.id limit $3 offset $4`,
    [vinylId, words, limit, offset],
  );

/** A public card in its newest version. */
export const publicCard = (q: Query, id: string) =>
  one<NewestCard>(
    q,
    `select x.*, cs.proof ->> 'sentence' as why, cs.standing
       from (${cardSelect} where c.id = $1 and c.visibility = 'public' and c.hidden_at is null and ${newest}) x
       left join card_standing cs on cs.card_id = x.id`,
    [id],
  );

export const cardsOfKin = (q: Query, vinylId: string) =>
  many<{ model_key: string; wanted: 'clean' | 'through' }>(
    q,
    `select distinct model_key, wanted from card where vinyl_id = any(array(select vinyl_kin($1)))`,
    [vinylId],
  );
