import { v7 as uuidv7 } from 'uuid';
import { passesOf, type CutterModel } from '#core/controls/index.ts';
import { pseudonym, type Pack, type PackCard, type PackVersion } from '#core/pack/index.ts';
import type { FitInput, FitResult } from '#core/window/index.ts';
import * as cardStore from '#store/shelf/cards.ts';
import type { Wanted } from '#store/coupons/coupons.ts';
import { type Query, db, patiently, transaction } from '#store/base/db.ts';
import * as store from '#store/packs/packs.ts';
import * as vinylStore from '#store/vinyls/vinyls.ts';
import * as workshopStore from '#store/workshop/workshop.ts';
import { cardsChanged } from '#work/shelf/shared.ts';
import { proofOf, refreshCardStanding } from '#work/shelf/standing.ts';
import { posteriorOf } from '#work/coupons/readings.ts';
import { type From, modelId, compare, type Judged, type KnownVinyl } from './compare.ts';
import { bringConfirmation } from './bringConfirmation.ts';

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
  vinyls: Map<string, KnownVinyl>,
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
    if (v.leaflet && !(await vinylStore.leafletOf(q, here.id)))
      await vinylStore.insertLeaflet(q, {
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
