import { nameLikeness, sameName } from '#core/vinyls/index.ts';
import { inTransaction } from '#store/base/db.ts';
import { asker } from '#work/base/asking.ts';
import { FairLimiter } from '#work/base/fairLimiter.ts';
import type { Person } from '#work/people/person.ts';
import { foundIds, namedVinyls, type Named } from './vinyls.ts';

export const fullName = (v: { brand: string; name: string }) => [v.brand, v.name].filter(Boolean).join(' ');

// Comparing names reads far more than it answers: so many at one moment, one of an asker.
const comparing = new FairLimiter({ together: 3, each: 1, waiting: 60, waitingEach: 4, seconds: 8 });

/** Vinyls whose name is so like another that they may be the same, the likest first. */
export async function alikeVinyls(person: Person | undefined, name: string, except?: string): Promise<Named[]> {
  if (name.trim().length < 3) return [];
  const look = async () => {
    const ids = (await foundIds(person, name, 12, true)).filter((id) => id !== except);
    return namedVinyls(person, ids);
  };
  // A transaction that asks holds its connection already: it does not wait for who waits for one.
  const rows = await (inTransaction() ? look() : comparing.take(asker(), look));
  return rows
    .filter((v) => sameName(name, fullName(v)) || sameName(name, v.name))
    .sort((a, b) => nameLikeness(name, fullName(b)) - nameLikeness(name, fullName(a)))
    .slice(0, 3);
}
