import type { CutterModel } from '#core/controls/index.ts';
import { afterCommit, db } from '#store/base/db.ts';
import { owned } from '#work/people/owned.ts';
import * as store from '#store/workshop/workshop.ts';
import * as vinyls from '#store/vinyls/vinyls.ts';
import { readForBlade } from '#work/coupons/readings.ts';
import type { Person } from '#work/people/person.ts';
import { ownCutter } from '#work/workshop/cutters.ts';
import { toBench } from '#work/workshop/bench.ts';
import { named, type Named } from '#work/vinyls/vinyls.ts';
import { vinylRows } from './list.ts';

/** How long a new blade waits for every number to be read, ms. */
const PATIENCE = 10_000;
/** Vinyls that are looked at, pinned and last used first. */
const MOST = 60;

/** What to set on a cutter for all that is in hand: vinyl → place. */
async function numbersOn(person: Person, cutterId: string): Promise<Map<string, number>> {
  const row = await store.cutterById(db(), cutterId);
  const found = new Map<string, number>();
  if (!row) return found;
  const mine = await vinyls.myVinyls(db(), person.id, MOST);
  for (const { id, answer } of await vinylRows(person, toBench(row), mine, { patience: PATIENCE }))
    if (answer.position !== undefined && answer.from !== 'type') found.set(id, answer.position);
  return found;
}

/**
 * Puts a blade on a cutter and says which numbers it moved: a sharper blade cuts the same with less. What is moved is read at once, so
 * that every screen says the new numbers from then on.
 * @param mount what puts the blade on
 */
export async function changeBlade(person: Person, cutterId: string, mount: () => Promise<void>): Promise<void> {
  const cutter = await ownCutter(person, cutterId);
  const before = await numbersOn(person, cutter.id);
  await mount();
  // Read once the blade is on: what is read depends on it, and no transaction waits for a thread.
  await afterCommit(async () => {
    await readForBlade(person.id, cutter.id);
    const after = await numbersOn(person, cutter.id);
    const moved = [...after].flatMap(([vinyl, now]) => {
      const then = before.get(vinyl);
      return then === undefined || then === now ? [] : [{ vinyl, before: then, after: now }];
    });
    await store.setMoved(db(), cutter.id, moved);
  });
}

export type MovedNumber = { vinyl: Named; before: number; after: number };

/** The numbers that the blade on a cutter moved when it was put on. */
export async function movedBy(
  person: Person | undefined,
  cutterId: string,
): Promise<{
  cutter: { name: string; model: CutterModel };
  on: { blade: string; mountedAt: string; moved: MovedNumber[] } | undefined;
}> {
  const { id, name, model } = await owned(person, 'change', 'cutter', cutterId, (it) => store.cutterById(db(), it));
  const cutter = { name, model };
  const row = await store.movedOf(db(), id);
  if (!row) return { cutter, on: undefined };
  const known = new Map(
    (
      await vinyls.vinylsByIds(
        db(),
        row.moved.map((m) => m.vinyl),
      )
    ).map((v) => [v.id, named(v, person)]),
  );
  return {
    cutter,
    on: {
      blade: row.blade,
      mountedAt: row.mounted_at.toISOString(),
      moved: row.moved.flatMap((m) => {
        const vinyl = known.get(m.vinyl);
        return vinyl ? [{ vinyl, before: m.before, after: m.after }] : [];
      }),
    },
  };
}
