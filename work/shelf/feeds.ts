import { sayStrength, strengthAxis } from '#core/controls/index.ts';
import * as store from '#store/shelf/cards.ts';
import { db } from '#store/base/db.ts';
import { homeOf } from './cards.ts';
import { searchWords } from '#work/base/searchWords.ts';
import { vinylRow } from '#work/vinyls/vinyls.ts';

type FeedEntry = {
  card: string;
  version: number;
  title: string;
  says: string;
  author: string;
  at: Date;
  licence: store.Licence;
};
export type FeedOf = { title: string; about: string; entries: FeedEntry[] };

const NEWEST = 50;

function entryOf(row: store.NewestCard): FeedEntry {
  const { model, controls, vinyl } = row.content;
  const axis = strengthAxis(model);
  const home = homeOf(row);
  return {
    card: row.id,
    version: row.number,
    title: `${[vinyl.brand, vinyl.name].filter(Boolean).join(' ')}: ${sayStrength(axis, controls.steps[axis.key]!)} on ${model.name}`,
    says: [row.why ?? row.content.result.sentence, row.change].filter(Boolean).join(' — '),
    author: home === undefined ? row.author : `${row.author} (${home})`,
    at: row.published_at,
    licence: row.licence,
  };
}

/** New cards and versions for a vinyl, newest first. */
export async function vinylFeed(vinylId: string): Promise<FeedOf> {
  const row = await vinylRow(undefined, vinylId);
  const name = [row.brand, row.name].filter(Boolean).join(' ');
  return {
    title: `${name} on the shelf`,
    about: `Settings that crafters share for ${name}.`,
    entries: (await store.newestCards(db(), row.id, [], NEWEST)).map(entryOf),
  };
}

/** New cards and versions that fit a search; all of them without one. */
export async function searchFeed(search: string): Promise<FeedOf> {
  const words = searchWords(search);
  return {
    title: words.length > 0 ? `The shelf: ${search.slice(0, 200)}` : 'The shelf',
    about: 'Settings that crafters share.',
    entries: (await store.newestCards(db(), null, words, NEWEST)).map(entryOf),
  };
}
