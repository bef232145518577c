import { suitsBlank, type Behaviour, type Blank, type Suits } from '#core/vinyls/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/vinyls/vinyls.ts';
import type { Person } from '#work/people/person.ts';
import { behaviourOfRow } from '#work/vinyls/vinyls.ts';
import { listVinyls, type VinylRow } from './list.ts';
import type { Bench } from '#work/workshop/bench.ts';

export type OnBlank = {
  vinyl: VinylRow;
  suits: Suits;
  /** How much of a blank shows through it. */
  opacity: Behaviour['opacity'];
  /** Whether it is somebody's own, or in use: what one has comes first. */
  inHand: boolean;
};

/** Which vinyls suit a blank, those in hand first: by what crafters say of the type, and by what is said of the vinyl itself. */
export async function vinylsFor(
  person: Person | undefined,
  bench: Bench | undefined,
  blank: Blank,
  limit = 60,
): Promise<OnBlank[]> {
  const [rows, mine] = await Promise.all([
    listVinyls(person, bench, '', limit),
    person ? store.myVinyls(db(), person.id, limit) : Promise.resolve<string[]>([]),
  ]);
  const ids = rows.map((r) => r.id);
  const full = new Map((await store.vinylsByIds(db(), ids)).map((r) => [r.id, behaviourOfRow(r)]));
  const order = { suits: 0, care: 1, not: 2 };
  return rows
    .map((vinyl) => {
      const behaviour = full.get(vinyl.id)!;
      return {
        vinyl,
        suits: suitsBlank(behaviour, blank),
        opacity: behaviour.opacity,
        inHand: vinyl.own || mine.includes(vinyl.id),
      };
    })
    .sort((a, b) => order[a.suits.verdict] - order[b.suits.verdict] || Number(b.inHand) - Number(a.inHand));
}
