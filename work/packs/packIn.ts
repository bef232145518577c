import { v4 as uuidv4, v7 as uuidv7 } from 'uuid';
import { cutterModelSchema, passesOf, type CutterModel, type Setting } from '#core/controls/index.ts';
import {
  checksum,
  PackError,
  pseudonym,
  type Pack,
  type PackCard,
  type PackConfirmation,
  type PackVersion,
} from '#core/pack/index.ts';
import type { FitInput, FitResult } from '#core/window/index.ts';
import * as cardStore from '#store/shelf/cards.ts';
import * as couponStore from '#store/coupons/coupons.ts';
import type { Wanted } from '#store/coupons/coupons.ts';
import { type Query, db, patiently, transaction } from '#store/base/db.ts';
import * as cutStore from '#store/cuts/cuts.ts';
import * as store from '#store/packs/packs.ts';
import * as vinylStore from '#store/vinyls/vinyls.ts';
import * as workshopStore from '#store/workshop/workshop.ts';
import { cardsChanged } from '#work/shelf/cards.ts';
import { packAside } from '#work/base/compute.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { count } from '#work/people/limits.ts';
import { gist, packConfirmation, packVersion, versionSum } from './packOut.ts';
import type { Person } from '#work/people/people.ts';
import { can } from '#work/people/permissions.ts';
import { proofOf, refreshCardStanding } from '#work/shelf/standing.ts';
import { ask } from '#work/base/queue.ts';
import { posteriorOf } from '#work/coupons/readings.ts';

/** What a cut from elsewhere counts against one made here, unless a steward says that it counts in full. */
export const FOREIGN_WEIGHT = 0.5;

// What is new in it ----------------------------------------------------------------------------------------------------------

type VinylHere = { state: 'known' | 'same name' | 'new'; id: string };
type CardState = 'new' | 'more' | 'same' | 'conflict';
type Change = { kind: 'new' | 'amended'; confirmation: PackConfirmation };
type Judged = {
  card: PackCard;
  state: CardState;
  /** Why it is left out, or some of it. */
  why: string[];
  versions: PackVersion[];
  found: Change[];
};
type Compared = { vinyls: Map<string, VinylHere>; models: CutterModel[]; cards: Judged[] };

/** Who brings something in, and how it is to count. */
type From = { id: string; home: string; vouched: boolean; broughtBy: string };

const modelId = (m: { key: string; version: number }) => `${m.key} ${m.version}`;

/**
 * Lays a pack beside what is here: what is new, what is there already, what contradicts. Nothing here is ever changed by a pack but what
 * came from the same place.
 */
async function compare(q: Query, pack: Pack, from: From): Promise<Compared> {
  const ids = pack.cards.map((c) => c.key);
  const cutIds = pack.cards.flatMap((c) => c.confirmations.map((f) => f.key));
  // One after the other: in a transaction they share one connection.
  const here = new Map((await store.cardsToPack(q, ids)).map((c) => [c.id, c]));
  const versions = await store.versionsToPack(q, ids);
  const versionOf = new Map(versions.map((v) => [`${v.card_id} ${v.number}`, v]));
  const found = new Map((await store.foundToPack(q, ids)).map((f) => [f.cut_id, f]));
  const cuts = new Set((await store.cutsHere(q, cutIds)).map((c) => c.id));
  const elsewhere = await store.vinylsElsewhere(q, pack.vinyls);
  const models = await store.modelsHere(
    q,
    pack.models.map((m) => m.key),
  );
  const vinyls = new Map(
    elsewhere.map((v): [string, VinylHere] => {
      const known = v.decided ?? v.same;
      if (known) return [v.key, { state: 'known', id: known }];
      if (v.named) return [v.key, { state: 'same name', id: v.named }];
      return [v.key, { state: 'new', id: v.taken ? pseudonym('vinyl', v.key) : v.key }];
    }),
  );
  const refused = new Map<string, string>();
  const newModels = pack.models.filter((m) => {
    const mine = models.filter((h) => h.definition.key === m.key);
    const same = mine.find((h) => h.definition.version === m.version);
    if (same) {
      if (checksum(cutterModelSchema.parse(same.definition)) !== checksum(m))
        refused.set(modelId(m), `${m.name} is described in another way here`);
      return false;
    }
    // A model of this house is described here alone: a version from elsewhere would change what its owners see.
    if (mine.length > 0 && !(from.vouched && mine.every((h) => h.foreign_owner)))
      refused.set(modelId(m), `version ${m.version} of ${m.name} is not known here`);
    return !refused.has(modelId(m));
  });
  const cards: Judged[] = [];
  /** One card an author, vinyl, model and kind of cut: two entries of a pack may be one vinyl here. */
  const places = new Set<string>();
  for (const card of pack.cards) {
    const row = here.get(card.key);
    const judged: Judged = { card, state: 'same', why: [], versions: [], found: [] };
    cards.push(judged);
    const conflict = (why: string) => {
      judged.state = 'conflict';
      judged.why.push(why);
    };
    const used = [
      ...card.versions.flatMap((v) => [v.setting, ...v.evidence.map((e) => e.setting)]),
      ...card.confirmations.map((f) => f.setting),
    ];
    const unknown = used.map((s) => refused.get(`${s.model} ${s.version}`)).find((w) => w !== undefined);
    if (unknown) {
      conflict(unknown);
      continue;
    }
    // What came from the same place may go on; what is of this house is changed here alone.
    const ours = row !== undefined && row.source_id === null;
    const mayGoOn =
      row === undefined ||
      (!ours && row.home === from.home && (from.vouched || row.brought_by === from.broughtBy)) ||
      row.source_id === from.id;
    const secret = ours && row.visibility !== 'public';
    if (row && (secret || row.wanted !== card.wanted || pseudonym('person', row.person_id) !== card.person)) {
      conflict('another card has its key');
      continue;
    }
    if (!row) {
      const vinyl = vinyls.get(card.vinyl)!;
      const modelKey = card.versions[0]!.setting.model;
      const place = `${card.person} ${vinyl.id} ${modelKey} ${card.wanted}`;
      if (places.has(place) || (await store.rivalCard(q, card.person, vinyl.id, modelKey, card.wanted))) {
        conflict('its author has another card for this vinyl on that model here');
        continue;
      }
      places.add(place);
    }
    for (const v of card.versions) {
      const mine = versionOf.get(`${card.key} ${v.number}`);
      if (mine) {
        if (versionSum(packVersion(mine, row!.person_id, row!.zone)) !== versionSum(v))
          judged.why.push(`version ${v.number} says something else here; what is here stays`);
      } else if (mayGoOn) judged.versions.push(v);
      else judged.why.push(`version ${v.number} comes from another place than the card`);
    }
    for (const f of card.confirmations) {
      const mine = found.get(f.key);
      if (mine && mine.card_id === card.key) {
        if (gist(packConfirmation(mine)) === gist(f)) continue;
        if (mine.source_id !== null && mine.home === from.home && from.vouched)
          judged.found.push({ kind: 'amended', confirmation: f });
        else judged.why.push('a result somebody reported says something else here; what is here stays');
      } else if (cuts.has(f.key)) {
        // Taken back here since, or another cut altogether.
        judged.why.push('a result belongs to another cut here');
      } else judged.found.push({ kind: 'new', confirmation: f });
    }
    const comes = new Set(judged.versions.map((v) => v.number));
    judged.found = judged.found.filter(
      ({ confirmation: { version } }) => comes.has(version) || versionOf.has(`${card.key} ${version}`),
    );
    if (!row) judged.state = 'new';
    else if (judged.versions.length > 0 || judged.found.length > 0) judged.state = 'more';
    else if (judged.why.length > 0) judged.state = 'conflict';
  }
  return { vinyls, models: newModels, cards };
}

// Looking at a pack ----------------------------------------------------------------------------------------------------------

/** Takes a pack to look at. Nothing is added to the shelf yet. @throws Invalid at "file": one line */
export async function seePack(person: Person, bytes: Uint8Array, address: string): Promise<string> {
  if (!can(person, 'share')) throw new Invalid({ form: 'Make an account first: what you bring in bears your name.' });
  if (bytes.length === 0) throw new Invalid({ file: 'Choose a pack.' });
  await count('pack', person, address);
  const pack = await readBytes(bytes);
  const id = uuidv7();
  await store.insertSource(db(), {
    id,
    kind: 'file',
    pack,
    broughtBy: person.id,
    vouched: false,
    weight: FOREIGN_WEIGHT,
    state: 'seen',
  });
  return id;
}

async function readBytes(bytes: Uint8Array): Promise<Pack> {
  try {
    return await packAside(bytes);
  } catch (error) {
    if (error instanceof PackError) throw new Invalid({ file: `Not taken: ${error.message}.` });
    throw error;
  }
}

export type PackCardView = {
  key: string;
  vinyl: PackVersion['vinyl'];
  vinylKey: string;
  author: string;
  model: CutterModel;
  setting: PackVersion['setting'];
  wanted: Wanted;
  state: CardState;
  versions: number;
  found: number;
  why: string[];
};
export type PackView = Omit<store.SourceRow, 'at' | 'done_at' | 'brought_by' | 'checksum'> & {
  at: string;
  steward: boolean;
  cards: PackCardView[];
  vinyls: { key: string; brand: string; name: string; state: VinylHere['state'] }[];
  /** What it brought, once it is in. */
  brought: { id: string; vinyl: PackVersion['vinyl']; author: string; model: CutterModel; setting: Setting }[];
  counts: Record<CardState, number>;
};

async function ownSource(person: Person | undefined, id: string): Promise<store.SourceRow> {
  const row = /^[0-9a-f-]{36}$/.test(id) ? await store.sourceById(db(), id) : undefined;
  if (!row || row.kind !== 'file' || !can(person, 'change', { owner: row.brought_by }))
    throw new NotFound('No such pack.');
  return row;
}
const fromOf = (row: store.SourceRow, vouched = row.vouched): From => ({
  id: row.id,
  home: row.home,
  vouched,
  broughtBy: row.brought_by,
});

/** What a pack that was looked at would bring, card by card. */
export async function packView(person: Person | undefined, id: string): Promise<PackView> {
  const row = await ownSource(person, id);
  const pack = row.state === 'done' ? undefined : await store.contentOf(db(), id);
  const brought = row.state === 'done' ? await store.cardsOfSource(db(), id) : [];
  const compared = pack && (await compare(db(), pack, fromOf(row, can(person, 'keep order'))));
  const counts = { new: 0, more: 0, same: 0, conflict: 0 };
  for (const c of compared?.cards ?? []) counts[c.state]++;
  const { at, done_at: _d, brought_by: _b, checksum: _c, ...rest } = row;
  return {
    ...rest,
    at: at.toISOString(),
    steward: can(person, 'keep order'),
    counts,
    brought: brought.map(({ id: card, content, author }) => ({
      id: card,
      vinyl: content.vinyl as PackVersion['vinyl'],
      author,
      model: content.model,
      setting: content.controls,
    })),
    vinyls: (pack?.vinyls ?? []).map((v) => ({
      key: v.key,
      brand: v.brand,
      name: v.name,
      state: compared!.vinyls.get(v.key)!.state,
    })),
    cards: (compared?.cards ?? []).map((c) => {
      const newest = c.card.versions.at(-1)!;
      return {
        key: c.card.key,
        vinyl: newest.vinyl,
        vinylKey: c.card.vinyl,
        author: pack!.people.find((p) => p.key === c.card.person)!.name!,
        model: pack!.models.find((m) => modelId(m) === `${newest.setting.model} ${newest.setting.version}`)!,
        setting: newest.setting,
        wanted: c.card.wanted,
        state: c.state,
        versions: c.versions.length,
        found: c.found.length,
        why: [...new Set(c.why)],
      };
    }),
  };
}

export const packsOf = async (person: Person | undefined) =>
  person
    ? (await store.sourcesOf(db(), person.id, 20)).map((s) => ({
        id: s.id,
        title: s.title,
        home: s.home,
        state: s.state,
        at: s.at.toISOString(),
        report: s.report,
      }))
    : [];

/** Forgets packs that were looked at a week ago and never brought in. */
export const sweepPacks = () => store.sweepSources(db());

/** Brings a pack in that was looked at: soon, by the queue. A steward may say that it counts in full. */
export async function startImport(person: Person, id: string, form: FormData): Promise<void> {
  const row = await ownSource(person, id);
  if (row.state === 'withdrawn') return putBack(id);
  if (row.state !== 'seen' && row.state !== 'failed') return;
  const steward = can(person, 'keep order');
  const full = steward && form.get('weight') === 'full';
  await store.vouch(db(), id, steward, full ? 1 : FOREIGN_WEIGHT);
  await store.setSourceState(db(), id, 'queued');
  // Without a queue, as in tests, it is done at once.
  if (!(await ask('import', id))) await runImport(id);
}

/** Puts what was taken off the shelf again back there. */
async function putBack(id: string): Promise<void> {
  const back = await transaction(async (q) => {
    await store.setSourceState(q, id, 'done');
    return store.restoreCards(q, { source: id });
  });
  await cardsChanged(back);
}

/** Takes what a pack brought off the shelf again. */
export async function takeBack(person: Person, id: string): Promise<void> {
  const row = await ownSource(person, id);
  if (row.state !== 'done') return;
  const gone = await transaction(async (q) => {
    await store.setSourceState(q, id, 'withdrawn');
    return store.withdrawCards(q, id, null);
  });
  await cardsChanged(gone);
}

// Bringing it in -------------------------------------------------------------------------------------------------------------

/** Packs whose turn a crash cut short are taken up again. */
export async function resumeImports(): Promise<number> {
  const waiting = await store.queuedSources(db());
  for (const { id } of waiting) if (!(await ask('import', id))) await runImport(id);
  return waiting.length;
}

/** Task: brings in a pack that waits. */
export async function runImport(id: string): Promise<void> {
  const row = await store.sourceById(db(), id);
  const pack = row?.state === 'queued' ? await store.contentOf(db(), id) : undefined;
  if (!row || !pack) return;
  try {
    await bringIn(pack, fromOf(row), async (q, report) => {
      // Two that took the same pack up at once: the second finds it done.
      if ((await store.lockSource(q, id))?.state !== 'queued')
        throw new Invalid({ form: 'This was brought in already.' });
      await store.setSourceState(q, id, 'done', report);
    });
  } catch (error) {
    if (error instanceof Invalid) return;
    await store.setSourceState(db(), id, 'failed');
    throw error;
  }
}

const inputOf = (v: PackVersion, model: CutterModel, wanted: Wanted): FitInput => ({
  format: 'versipel-fit/1',
  model,
  type: v.vinyl.type,
  wanted,
  passes: passesOf(model, v.setting),
  target: v.asked.target,
  cells: v.cells,
  ...(v.asked.around ? { around: v.asked.around } : {}),
  seed: 1,
});

/**
 * Brings in what is new of a pack, all of it or nothing. Readings are not taken from the pack: they are made here from its evidence, so that
 * a number always rests on cells that lie open.
 *
 * @param finish what is to be done with it in the same transaction
 */
export async function bringIn(
  pack: Pack,
  from: From,
  finish: (q: Query, report: store.PackReport) => Promise<void>,
): Promise<{ report: store.PackReport; touched: string[] }> {
  const models = new Map(pack.models.map((m) => [modelId(m), m]));
  const modelOf = (s: { model: string; version: number }) => models.get(`${s.model} ${s.version}`)!;
  // Readings take the time: they are made before anything is locked.
  const before = await compare(db(), pack, from);
  const readings = new Map<PackVersion, { hash: Buffer; result: FitResult }>();
  for (const { card, versions } of before.cards)
    for (const v of versions) readings.set(v, await posteriorOf(inputOf(v, modelOf(v.setting), card.wanted)));
  const touched: { id: string; vinyl_id: string; model_key: string; wanted: Wanted }[] = [];
  const report = await transaction(async (q) => {
    await patiently(q, 300);
    await store.lockPacks(q);
    const { vinyls, models: newModels, cards } = await compare(q, pack, from);
    const news = cards.filter((c) => c.versions.length > 0 || c.found.length > 0);
    const report: store.PackReport = {
      cards: 0,
      versions: 0,
      confirmations: 0,
      vinyls: 0,
      same: cards.filter((c) => c.state === 'same').length,
      left: cards.flatMap(({ card, why }) => [...new Set(why)].map((w) => `${card.versions.at(-1)!.vinyl.name}: ${w}`)),
    };
    await bringMachines(q, pack, from, news, newModels);
    report.vinyls = await bringVinyls(q, pack, from, news, vinyls);
    for (const { card, state, versions, found } of news) {
      const modelKey = card.versions[0]!.setting.model;
      const vinylId = vinyls.get(card.vinyl)!.id;
      if (state === 'new') {
        await cardStore.insertCard(q, {
          id: card.key,
          personId: card.person,
          vinylId,
          modelKey,
          wanted: card.wanted,
          visibility: 'public',
          linkKey: null,
          madeAt: new Date(versions[0]!.published),
        });
        await store.cameFrom(q, 'card', card.key, from.id);
        report.cards++;
      }
      for (const v of versions) {
        const reading = readings.get(v);
        // The shelf changed between the two looks: the task tries again.
        if (!reading) throw new Error('the shelf changed while a pack was brought in');
        await bringVersion(q, card, v, modelOf(v.setting), reading);
        report.versions++;
      }
      for (const f of found) {
        await bringConfirmation(q, card, f, vinylId, from);
        report.confirmations++;
      }
      touched.push({ id: card.key, vinyl_id: vinylId, model_key: modelKey, wanted: card.wanted });
    }
    // What was withdrawn and is in the pack again is shown again.
    const there = cards.flatMap(({ card, state }) => (state === 'conflict' ? [] : [card.key]));
    for (const back of await store.restoreCards(q, { cards: there }))
      if (!touched.some((t) => t.id === back.id)) touched.push(back);
    // Where they stand is known the moment they are there; what rests on them beside that follows.
    for (const { id } of touched) await refreshCardStanding(q, id);
    await finish(q, report);
    return report;
  });
  await cardsChanged(touched);
  return { report, touched: touched.map((t) => t.id) };
}

/** People, models, cutters and blades that something new needs. */
async function bringMachines(q: Query, pack: Pack, from: From, news: readonly Judged[], newModels: CutterModel[]) {
  const people = new Set<string>();
  const cutters = new Set<string>();
  const blades = new Map<string, string>();
  for (const { card, versions, found } of news) {
    people.add(card.person);
    for (const v of versions) {
      cutters.add(v.cutter);
      if (v.blade) blades.set(v.blade, card.person);
    }
    for (const { confirmation: f } of found) {
      people.add(f.person);
      cutters.add(f.cutter);
      if (!blades.has(f.blade)) blades.set(f.blade, f.person);
    }
  }
  const used = pack.cutters.filter((c) => cutters.has(c.key));
  for (const c of used) people.add(c.person);
  await store.insertForeigners(
    q,
    from.id,
    pack.people.filter((p) => people.has(p.key)).map((p) => ({ key: p.key, name: p.name ?? null })),
  );
  const needed = new Set([
    ...used.map((c) => modelId(c.model)),
    ...news.flatMap((n) =>
      [
        ...n.versions.flatMap((v) => [v.setting, ...v.evidence.map((e) => e.setting)]),
        ...n.found.map((f) => f.confirmation.setting),
      ].map((s) => `${s.model} ${s.version}`),
    ),
  ]);
  for (const model of newModels.filter((m) => needed.has(modelId(m)))) {
    await workshopStore.publishModel(q, model);
    // It is nobody's here: a list of models to choose from does not offer it.
    const owner = used.find((c) => c.model.key === model.key)?.person ?? news[0]!.card.person;
    if (!(await workshopStore.modelOwner(q, model.key))?.person_id)
      await workshopStore.setModelOwner(q, model.key, owner);
  }
  await store.insertForeignCutters(q, used);
  await store.insertForeignBlades(
    q,
    pack.blades
      .filter((b) => blades.has(b.key))
      .map((b) => ({ key: b.key, angle: b.angle, person: blades.get(b.key)! })),
  );
  // A scale ties models together: one wrong reading would move everybody's numbers, so somebody must stand for it.
  if (from.vouched)
    await store.insertForeignScales(
      q,
      used.flatMap((c) =>
        c.scales.map((s) => ({
          id: pseudonym('scale', `${c.key} ${s.position}`),
          cutter: c.key,
          position: s.position,
          milligrams: s.milligrams,
        })),
      ),
    );
}

/** Vinyls that something new is about. One that is here already stays as it is. @returns how many were added */
async function bringVinyls(
  q: Query,
  pack: Pack,
  from: From,
  news: readonly Judged[],
  vinyls: Map<string, VinylHere>,
): Promise<number> {
  const owners = new Map(news.map(({ card }) => [card.vinyl, card.person]));
  for (const v of pack.vinyls) if (v.sameAs && owners.has(v.key)) owners.set(v.sameAs, owners.get(v.key)!);
  let added = 0;
  for (const v of pack.vinyls) {
    const owner = owners.get(v.key);
    if (!owner) continue;
    const here = vinyls.get(v.key)!;
    if (here.state === 'new') {
      await vinylStore.insertVinyl(q, {
        id: here.id,
        brand: v.brand,
        name: v.name,
        type: v.type,
        personId: owner,
        visibility: 'public',
        behaviour: v.recipe,
        nicknames: v.nicknames,
      });
      for (const c of new Map(v.colours.map((c) => [c.name, c])).values())
        await vinylStore.insertColour(q, { id: uuidv7(), vinylId: here.id, ...c });
      added++;
    }
    if (v.leaflet && !(await store.leafletOf(q, here.id)))
      await store.insertLeaflet(q, {
        id: uuidv7(),
        vinylId: here.id,
        content: v.leaflet,
        personId: owner,
        sourceId: from.id,
      });
    await store.noteElsewhere(q, v.key, here.id, from.id);
  }
  for (const v of pack.vinyls) {
    const here = vinyls.get(v.key)!;
    const root = v.sameAs && vinyls.get(v.sameAs)!;
    // Two entries that were one there are one here, as long as nobody here said otherwise.
    if (root && here.state === 'new' && owners.has(v.key) && root.id !== here.id)
      await vinylStore.insertAlias(q, here.id, root.id, from.broughtBy);
  }
  return added;
}

async function bringVersion(
  q: Query,
  card: PackCard,
  v: PackVersion,
  model: CutterModel,
  { hash, result }: { hash: Buffer; result: FitResult },
): Promise<void> {
  const evidence = v.evidence.map((e) => ({ ...e, at: `${e.at}Z` }));
  await cardStore.insertVersion(q, {
    cardId: card.key,
    number: v.number,
    content: {
      vinyl: v.vinyl,
      model,
      controls: v.setting,
      standing: proofOf(model, v.setting, card.wanted, evidence, card.person, 'UTC').standing,
      conditions: v.conditions,
      result,
      asked: v.asked,
      zone: 'UTC',
      cells: v.cells,
      evidence,
    },
    change: v.change,
    licence: v.licence,
    hash,
    cutterId: v.cutter,
    bladeId: v.blade ?? null,
    publishedAt: new Date(v.published),
  });
}

async function bringConfirmation(
  q: Query,
  card: PackCard,
  { kind, confirmation: f }: Change,
  vinylId: string,
  from: From,
): Promise<void> {
  const at = new Date(`${f.at}Z`);
  const cell = pseudonym('cell', f.key);
  if (kind === 'new') {
    const mounting = pseudonym('mounting', `${f.cutter} ${f.blade}`);
    await store.insertForeignMounting(q, { id: mounting, cutter: f.cutter, blade: f.blade, at });
    const batch = f.batch
      ? await vinylStore.batchOf(q, { id: uuidv7(), vinylId, colourId: null, label: f.batch, personId: f.person })
      : undefined;
    await couponStore.insertCut(q, {
      id: f.key,
      kind: 'ordinary',
      personId: f.person,
      vinylId,
      colourId: null,
      batchId: batch?.id ?? null,
      cutterId: f.cutter,
      mountingId: mounting,
      wear: null,
      createdAt: at,
    });
    await cutStore.insertOrdinaryCut(q, f.key, card.wanted, false);
    await couponStore.insertCell(q, { id: cell, cutId: f.key, number: 1, setting: f.setting, lengthUm: 0 });
    await cardStore.insertConfirmation(q, {
      cutId: f.key,
      cardId: card.key,
      version: f.version,
      personId: f.person,
      ...(f.outcome ? { outcome: f.outcome } : {}),
      better: f.better ?? null,
      said: f.said,
      madeAt: at,
    });
    await store.cameFrom(q, 'confirmation', f.key, from.id);
  } else
    await store.amendConfirmation(q, {
      cutId: f.key,
      outcome: f.outcome ?? null,
      better: f.better ?? null,
      said: f.said,
    });
  // The latest grade is the one that counts: one that was taken back there is followed by what stands there now.
  await couponStore.insertGradeEvent(q, f.person, {
    id: uuidv7(),
    kind: 'grade',
    cell,
    figure: 1,
    passes: f.passes,
    grade: f.grade,
    device: uuidv4(),
    deviceAt: (kind === 'new' ? at : new Date()).toISOString(),
  });
}
