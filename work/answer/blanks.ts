import { suitsBlank, type Blank, type Suits } from '#core/vinyls/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/vinyls/vinyls.ts';
import type { Person } from '#work/people/person.ts';
import { behaviourOfRow } from '#work/vinyls/vinyls.ts';
import { listVinyls, type VinylRow } from './list.ts';
import type { Bench } from '#work/workshop/bench.ts';

export type OnBlank = { vinyl: VinylRow; suits: Suits };

/** Which vinyls suit a blank, those in hand first: by what crafters say of the type, and by what is said of the vinyl itself. */
export async function vinylsFor(
  person: Person | undefined,
  bench: Bench | undefined,
  blank: Blank,
  limit = 60,
): Promise<OnBlank[]> {
  const rows = await listVinyls(person, bench, '', limit);
  const ids = rows.map((r) => r.id);
  const full = new Map((await store.vinylsByIds(db(), ids)).map((r) => [r.id, behaviourOfRow(r)]));
  const order = { suits: 0, care: 1, not: 2 };
  return rows
    .map((vinyl) => ({ vinyl, suits: suitsBlank(full.get(vinyl.id)!, blank) }))
    .sort((a, b) => order[a.suits.verdict] - order[b.suits.verdict]);
}
