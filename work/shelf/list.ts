import type { CutterModel, Setting } from '#core/controls/index.ts';
import type { Standing } from '#core/proof/index.ts';
import { placeBeside, rankOf, type Rank, type Translated } from '#core/transfer/index.ts';
import type { VinylTypeKey } from '#core/vinyls/index.ts';
import { shownFit, type ShownFit } from '#core/window/index.ts';
import * as store from '#store/shelf/cards.ts';
import type { Wanted } from '#store/coupons/coupons.ts';
import { db } from '#store/base/db.ts';
import * as shelfStore from '#store/shelf/translations.ts';
import type { Person } from '#work/people/person.ts';
import { searchWords } from '#work/base/searchWords.ts';
import { saidByShelf } from './translate.ts';
import type { Bench } from '#work/workshop/bench.ts';
import { homeOf } from './cards.ts';

export type ListedCard = {
  id: string;
  own: boolean;
  author: string;
  /** The server it came from, or "a pack"; undefined where it was published here. */
  home: string | undefined;
  visibility: store.CardRow['visibility'];
  hidden: boolean;
  vinyl: store.CardContent['vinyl'] & { id: string };
  model: CutterModel;
  wanted: Wanted;
  controls: Setting;
  standing: Standing;
  /** One sentence: what it stands at, and why. */
  why: string;
  result: ShownFit;
  /** Whether the result is for the cutter on the bench: the model of the strip. */
  here: 'same model' | 'translated' | undefined;
  /** The number to set on the cutter on the bench, where it can be said. */
  number: number | undefined;
  rank: Rank | undefined;
  /** How closely the place is known there, as a share: 0.1 is a tenth more or less. */
  closeness: number | undefined;
  crafters: number;
  models: number;
  confirmed: number;
  graded: number;
  split: boolean;
};

/** What the shelf ranks at most: beyond, what fits the search best comes first. */
const RANKED = 300;

/**
 * The shelf: public cards and one's own, those that promise most on the cutter on the bench first. Reads rows only.
 *
 * Where it can be said what a card means on the bench, cards are ranked by the chance that they come out there, doubt counted
 * against them; the others follow, those on the same model first.
 */
export async function listCards(
  person: Person | undefined,
  bench: Bench | undefined,
  search: string,
  limit = 100,
): Promise<ListedCard[]> {
  const model = bench && { key: bench.cutter.model.key, version: bench.cutter.model.version };
  const rows = await store.listCards(db(), person?.id ?? null, searchWords(search), model ?? null, RANKED);
  const list: ListedCard[] = [];
  for (const wanted of ['clean', 'through'] as const) {
    const mine = rows.filter((r) => r.wanted === wanted);
    if (mine.length === 0) continue;
    const shelf = await placesOnBench(
      bench,
      wanted,
      mine.map((r) => r.vinyl_id),
      mine.map((r) => r.id),
    );
    for (const row of mine) {
      const own = row.person_id === person?.id;
      const said = shelf.translated.get(row.vinyl_id);
      const off = shelf.off.get(row.id);
      const standing = row.standing ?? row.content.standing;
      const sameModel = row.shared !== null;
      const type = row.content.vinyl.type as VinylTypeKey;
      list.push({
        id: row.id,
        own,
        author: row.author,
        home: homeOf(row),
        visibility: row.visibility,
        hidden: row.hidden_at !== null,
        vinyl: { ...row.content.vinyl, id: row.vinyl_id },
        model: row.content.model,
        wanted,
        controls: row.content.controls,
        standing,
        why: row.proof?.sentence ?? '',
        result: !own && said ? said.shown : shownFit(!own && sameModel ? row.shared! : row.content.result),
        here: own ? undefined : said ? 'translated' : sameModel ? 'same model' : undefined,
        number: own || !said || !bench ? undefined : placeBeside(bench.cutter.model, said, off ?? 0),
        rank: said && !own ? rankOf(type, wanted, off ?? 0, said.sd, standing) : undefined,
        closeness: said?.sd,
        crafters: said?.crafters ?? row.crafters ?? 1,
        models: said?.models ?? 1,
        confirmed: row.confirmed,
        graded: row.graded,
        split: shelf.split.has(row.vinyl_id),
      });
    }
  }
  // What was searched for is what is wanted: how well the words fit stands first, in tenths; among equals the rank.
  const order = new Map(rows.map((r, i) => [r.id, i]));
  const fit = new Map(rows.map((r) => [r.id, Math.round(10 * r.fit)]));
  const worth = (c: ListedCard) => (c.own ? -1 : (c.rank?.worth ?? (c.here ? 0.4 : 0)));
  return list
    .sort((a, b) => fit.get(b.id)! - fit.get(a.id)! || worth(b) - worth(a) || order.get(a.id)! - order.get(b.id)!)
    .slice(0, limit);
}

/** What the shelf says of vinyls and cards on the cutter on the bench. */
async function placesOnBench(
  bench: Bench | undefined,
  wanted: Wanted,
  vinyls: readonly string[],
  cards: readonly string[],
) {
  const translated = new Map<string, Translated>();
  if (!bench) return { translated, off: new Map<string, number>(), split: new Set<string>() };
  const said = await saidByShelf(bench, vinyls, wanted);
  for (const [id, row] of said.translations) if (row.result) translated.set(id, row.result);
  const places = said.fit === undefined ? [] : await shelfStore.placesOf(db(), said.fit, cards);
  return {
    translated,
    off: new Map(places.map((p) => [p.card_id, p.off])),
    split: new Set(said.splits.keys()),
  };
}
