import { v7 as uuidv7 } from 'uuid';
import type { CutterModel, Setting } from '#core/controls/index.ts';
import { PackError, type Pack, type PackVersion } from '#core/pack/index.ts';
import type { Wanted } from '#store/coupons/coupons.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/packs/packs.ts';
import { packOnThread } from '#work/base/compute.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { count } from '#work/people/limits.ts';
import type { Person } from '#work/people/person.ts';
import { can } from '#work/people/permissions.ts';
import { FOREIGN_WEIGHT, type CardState, type KnownVinyl, type From, compare, modelId } from './compare.ts';
import { needAccount } from '#work/people/owned.ts';

/** Takes a pack to look at. Nothing is added to the shelf yet. @throws Invalid at "file": one line */
export async function seePack(person: Person, bytes: Uint8Array, address: string): Promise<string> {
  needAccount(person, 'what you bring in bears your name');
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
    return await packOnThread(bytes);
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
  vinyls: { key: string; brand: string; name: string; state: KnownVinyl['state'] }[];
  /** What it brought, once it is in. */
  brought: { id: string; vinyl: PackVersion['vinyl']; author: string; model: CutterModel; setting: Setting }[];
  counts: Record<CardState, number>;
};

export async function ownSource(person: Person | undefined, id: string): Promise<store.SourceRow> {
  const row = /^[0-9a-f-]{36}$/.test(id) ? await store.sourceById(db(), id) : undefined;
  if (!row || row.kind !== 'file' || !can(person, 'change', { owner: row.brought_by }))
    throw new NotFound('No such pack.');
  return row;
}
export const fromOf = (row: store.SourceRow, vouched = row.vouched): From => ({
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
  const compared = pack && (await compare(db(), pack, fromOf(row, can(person, 'moderate'))));
  const counts = { new: 0, more: 0, same: 0, conflict: 0 };
  for (const c of compared?.cards ?? []) counts[c.state]++;
  const { at, done_at: _d, brought_by: _b, checksum: _c, ...rest } = row;
  return {
    ...rest,
    at: at.toISOString(),
    steward: can(person, 'moderate'),
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
