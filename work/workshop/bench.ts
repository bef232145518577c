import type { CutterModel } from '#core/controls/index.ts';
import { bladeWear, type BladeWear } from '#core/wear/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/workshop/workshop.ts';
import type { Person } from '#work/people/person.ts';

/** What is under the hands: a cutter and the blade on it. */
export type Bench = {
  cutter: { id: string; name: string; model: CutterModel };
  blade:
    | {
        id: string;
        mounting: string;
        name: string;
        angle: number;
        offsetUm: number;
        cutUm: number;
        lifeUm: number;
        wear: BladeWear;
        mountedAt: string;
      }
    | undefined;
};

export function toBench(row: store.CutterRow): Bench {
  return {
    cutter: { id: row.id, name: row.name, model: row.model },
    blade:
      row.mounting_id === null
        ? undefined
        : {
            id: row.blade_id!,
            mounting: row.mounting_id,
            name: row.blade_name!,
            angle: row.blade_angle!,
            offsetUm: row.blade_offset_um!,
            cutUm: row.blade_cut_um!,
            lifeUm: row.blade_life_um!,
            wear: bladeWear(row.blade_runs, row.blade_before_um!, row.blade_life_um!),
            mountedAt: row.mounted_at!.toISOString(),
          },
  };
}

export async function benchOf(person: Person | undefined): Promise<Bench | undefined> {
  const row = person && (await store.benchOf(db(), person.id));
  return row && toBench(row);
}
