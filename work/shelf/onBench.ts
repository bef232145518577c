import { startingSetting } from '#core/controls/index.ts';
import { placeBeside, rankOf, shelfModel, type Rank, type Translated } from '#core/transfer/index.ts';
import type { VinylTypeKey } from '#core/vinyls/index.ts';
import * as store from '#store/shelf/cards.ts';
import type { Wanted } from '#store/coupons/coupons.ts';
import { db } from '#store/base/db.ts';
import * as shelfStore from '#store/shelf/translations.ts';
import type { Split } from '#core/answer/index.ts';
import { saidByShelf, translationFor, type TranslationRow } from './translate.ts';
import type { Bench } from '#work/workshop/bench.ts';

/** A card's number on the cutter on the bench: where it comes from, how sure it is. */
export type TranslatedOnBench = Omit<Translated, 'basis'> & {
  basis: Translated['basis'];
  /** The card's own number translated, and the chance that it comes out. */
  number: number;
  rank: Rank;
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

/** What others found for some vinyls on the cutter on the bench, and the camps their settings fall into, with the number of each. */
export async function shelfOnBench(
  bench: Bench | undefined,
  vinylIds: readonly string[],
  wanted: Wanted,
): Promise<{ translations: Map<string, TranslationRow>; splits: Map<string, Split> }> {
  const { translations, splits } = await saidByShelf(bench, vinylIds, wanted);
  const mine =
    bench && splits.size > 0 ? shelfModel(bench.cutter.model, startingSetting(bench.cutter.model)) : undefined;
  const onBench = ([vinyl, { by, camps }]: [string, shelfStore.SplitRow]): [string, Split] => {
    const here = translations.get(vinyl)?.result;
    return [
      vinyl,
      {
        by,
        camps: camps.map((c) => ({
          people: c.people,
          settings: c.settings,
          values: c.values.map((v) => (by === 'model' ? modelWord(v) : v)),
          number: bench && here ? placeBeside(bench.cutter.model, here, c.off) : undefined,
          here: by === 'model' && mine !== undefined && c.values.includes(mine),
        })),
      },
    ];
  };
  return { translations, splits: new Map([...splits].map(onBench)) };
}

/** The camps of one vinyl. */
export const splitOnBench = async (bench: Bench | undefined, vinylId: string, wanted: Wanted) =>
  (await shelfOnBench(bench, [vinylId], wanted)).splits.get(vinylId);
/** "marlow-24@1 2 passes" as it is said: the key is its name in small letters. */
const modelWord = (id: string) => id.replace(/@\d+/, '').replace(/-/g, ' ');
