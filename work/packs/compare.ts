import { cutterModelSchema, type CutterModel } from '#core/controls/index.ts';
import {
  checksum,
  pseudonym,
  type Pack,
  type PackCard,
  type PackConfirmation,
  type PackVersion,
} from '#core/pack/index.ts';
import type { Query } from '#store/base/db.ts';
import * as store from '#store/packs/packs.ts';
import { gist, packConfirmation, packVersion, versionSum } from './versions.ts';

/** What a cut from elsewhere counts against one made here, unless a steward says that it counts in full. */
export const FOREIGN_WEIGHT = 0.5;

export type KnownVinyl = { state: 'known' | 'same name' | 'new'; id: string };
export type CardState = 'new' | 'more' | 'same' | 'conflict';
export type Change = { kind: 'new' | 'amended'; confirmation: PackConfirmation };
export type Judged = {
  card: PackCard;
  state: CardState;
  /** Why it is left out, or some of it. */
  why: string[];
  versions: PackVersion[];
  found: Change[];
};
type Compared = { vinyls: Map<string, KnownVinyl>; models: CutterModel[]; cards: Judged[] };

/** Who brings something in, and how it is to count. */
export type From = { id: string; home: string; vouched: boolean; broughtBy: string };

export const modelId = (m: { key: string; version: number }) => `${m.key} ${m.version}`;

/**
 * Lays a pack beside what is here: what is new, what is there already, what contradicts. Nothing here is ever changed by a pack but what
 * came from the same place.
 */
export async function compare(q: Query, pack: Pack, from: From): Promise<Compared> {
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
    elsewhere.map((v): [string, KnownVinyl] => {
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
