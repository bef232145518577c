import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { strengthAxis } from '#core/controls/index.ts';
import { vinylTypeKeys, wantedOfType, type VinylTypeKey } from '#core/vinyls/index.ts';
import type { FitResult } from '#core/window/index.ts';
import { db, transaction } from '#store/db.ts';
import * as store from '#store/vinyls.ts';
import { NotFound } from './errors.ts';
import { read } from './forms.ts';
import type { Person } from './people.ts';
import { can } from './permissions.ts';
import { typeReading } from './readings.ts';
import { searchWords } from './search.ts';
import { line } from './text.ts';
import type { Bench } from './workshop.ts';

export type Vinyl = {
  id: string;
  brand: string;
  name: string;
  type: VinylTypeKey;
  colour: { id: string; name: string; hex: string } | undefined;
  own: boolean;
};

const toVinyl = (row: store.VinylRow, person: Person | undefined): Vinyl => ({
  id: row.id,
  brand: row.brand,
  name: row.name,
  type: row.type as VinylTypeKey,
  colour: row.colour_id ? { id: row.colour_id, name: row.colour!, hex: row.hex! } : undefined,
  own: row.person_id === person?.id,
});

const vinylForm = z.object({
  brand: line('the brand', 80, { optional: true }),
  name: line('the vinyl’s name', 120),
  type: z.enum(vinylTypeKeys, 'Choose what type it is.'),
  colour: line('a colour', 80),
  hex: z
    .string()
    .regex(/^#[0-9a-fA-F]{6}$/, 'Choose a colour.')
    .transform((s) => s.toLowerCase()),
});

export async function addVinyl(
  person: Person,
  form: FormData | Record<string, unknown>,
  visibility = 'private',
): Promise<string> {
  const input = read(vinylForm, form);
  const id = uuidv7();
  await transaction(async (q) => {
    await store.insertVinyl(q, {
      id,
      brand: input.brand,
      name: input.name,
      type: input.type,
      personId: person.id,
      visibility,
    });
    await store.insertColour(q, { id: uuidv7(), vinylId: id, name: input.colour, hex: input.hex });
  });
  return id;
}

export async function vinylOf(person: Person | undefined, id: string): Promise<Vinyl> {
  const row = z.uuid().safeParse(id).success ? await store.vinylById(db(), id) : undefined;
  if (!row || !can(person, 'see', { owner: row.person_id, visibility: row.visibility }))
    throw new NotFound('No such vinyl.');
  return toVinyl(row, person);
}

/** Where a number comes from: one's own cells, others on the same cutter model, or the type alone. */
export type From = 'here' | 'others' | 'type';

export type VinylRow = Vinyl & {
  /** The current reading for the cutter on the bench. */
  result: FitResult | undefined;
  from: From;
  crafters: number;
  kept: number | undefined;
  standing: string | undefined;
  adopted: boolean;
};

const NOBODY = '00000000-0000-0000-0000-000000000000';

/** The vinyls a person sees, for the cutter on their bench. Reads rows only; a type never read on this model is fitted once. */
export async function listVinyls(
  person: Person | undefined,
  bench: Bench | undefined,
  search: string,
  limit = 200,
): Promise<VinylRow[]> {
  const words = searchWords(search);
  const rows = await store.listVinyls(
    db(),
    person?.id ?? NOBODY,
    bench ? { id: bench.cutter.id, model: bench.cutter.model.key, version: bench.cutter.model.version } : null,
    words,
    vinylTypeKeys.filter((t) => wantedOfType(t) === 'through'),
    limit,
  );
  const byType = new Map<VinylTypeKey, FitResult>();
  const list: VinylRow[] = [];
  for (const row of rows) {
    const vinyl = toVinyl(row, person);
    const own = row.result && row.result.evidence.cells > 0 ? row.result : undefined;
    const from: From = own ? 'here' : row.shared ? 'others' : 'type';
    let result = own ?? row.shared ?? row.result ?? undefined;
    if (!result && bench) {
      result = byType.get(vinyl.type) ?? (await typeReading(bench.cutter.model, vinyl.type));
      byType.set(vinyl.type, result);
    }
    const axis = bench && strengthAxis(bench.cutter.model);
    list.push({
      ...vinyl,
      result,
      from,
      crafters: row.crafters ?? 0,
      adopted: row.adopted,
      kept: axis && row.kept ? row.kept.steps[axis.key] : undefined,
      standing: row.standing ?? undefined,
    });
  }
  return list;
}
