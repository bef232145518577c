import { startingSetting } from '#core/controls/index.ts';
import { placeBeside, rankOf, shelfModel, type Rank, type Translated } from '#core/transfer/index.ts';
import type { VinylTypeKey } from '#core/vinyls/index.ts';
import * as store from '#store/shelf/cards.ts';
import type { Wanted } from '#store/coupons/coupons.ts';
import { db } from '#store/base/db.ts';
import * as shelfStore from '#store/shelf/translations.ts';
import type { SplitRow } from '#store/shelf/translations.ts';
import { shelfNow, translationFor } from './translate.ts';
import type { Bench } from '#work/workshop/bench.ts';

/** A card's number on the cutter on the bench: where it comes from, how sure it is. */
export type TranslatedOnBench = Omit<Translated, 'basis'> & {
  basis: Translated['basis'];
  /** The card's own number translated, and the chance that it comes out. */
  number: number;
  rank: Rank;
};
export type SplitOnBench = {
  by: SplitRow['by'];
  camps: { people: number; settings: number; values: string[]; number: number | undefined; here: boolean }[];
};

/** A card's number in the terms of the cutter on the bench, or why it cannot be said. */
export async function translatedOnBench(
  bench: Bench,
  card: store.CardRow,
): Promise<TranslatedOnBench | 'not comparable' | 'nothing' | undefined> {
  const row = await translationFor(bench, card.vinyl_id, card.wanted);
  if (!row) return undefined;
  if (!row.result) return row.basis === 'not comparable' ? 'not comparable' : 'nothing';
  const [place, standing] = await Promise.all([
    shelfStore.placesOf(db(), row.fit_id, [card.id]),
    shelfStore.cardStanding(db(), card.id),
  ]);
  const off = place[0]?.off ?? 0;
  return {
    ...row.result,
    number: placeBeside(bench.cutter.model, row.result, off),
    rank: rankOf(
      card.content.vinyl.type as VinylTypeKey,
      card.wanted,
      off,
      row.result.sd,
      standing?.standing ?? card.content.standing,
    ),
  };
}

/** The schools a vinyl's settings fall into, with the number of each on the cutter on the bench. */
export async function splitOnBench(
  bench: Bench | undefined,
  vinylId: string,
  wanted: Wanted,
): Promise<SplitOnBench | undefined> {
  const fit = await shelfNow(wanted);
  const row = fit && (await shelfStore.splitOf(db(), fit.id, vinylId));
  if (!row) return undefined;
  const said = bench && (await translationFor(bench, vinylId, wanted))?.result;
  const mine = bench && shelfModel(bench.cutter.model, startingSetting(bench.cutter.model));
  return {
    by: row.result.by,
    camps: row.result.camps.map((c) => ({
      people: c.people,
      settings: c.settings,
      values: c.values.map((v) => (row.result.by === 'model' ? modelWord(v) : v)),
      number: bench && said ? placeBeside(bench.cutter.model, said, c.off) : undefined,
      here: row.result.by === 'model' && mine !== undefined && c.values.includes(mine),
    })),
  };
}
/** "marlow-24@1 2 passes" as it is said: the key is its name in small letters. */
const modelWord = (id: string) => id.replace(/@\d+/, '').replace(/-/g, ' ');
