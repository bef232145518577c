import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { db, transaction } from '#store/base/db.ts';
import * as store from '#store/workshop/workshop.ts';
import { read } from '#work/base/forms.ts';
import type { Person } from '#work/people/person.ts';
import { line } from '#work/base/text.ts';
import { angle, offset, life, metres } from './fields.ts';
import { lifeSoFar } from './workshop.ts';
import { ownCutter, readAgain } from './cutters.ts';
import { owned } from '#work/people/owned.ts';

const bladeForm = z.object({
  cutter: z.string(),
  name: line('a name for the blade', 80),
  angle,
  offset,
  life,
  used: metres('What it has cut', 1000),
});

export const ownBlade = (person: Person, id: string): Promise<store.OwnBlade> =>
  owned(person, 'change', 'blade', id, (it) => store.bladeById(db(), it));

/** Says a blade right: its name, its tip, how long it lasts, what it had cut before it was noted. Numbers on it are read again. */
export async function correctBlade(person: Person, id: string, form: FormData): Promise<void> {
  await ownBlade(person, id);
  const input = read(bladeForm.omit({ cutter: true }), form);
  await store.updateBlade(db(), id, {
    name: input.name,
    angle: input.angle,
    offset_um: input.offset,
    life_um: input.life,
    before_um: input.used,
  });
  await readAgain();
}

/** A new blade, mounted in place of the one on the cutter. */
export async function addBlade(person: Person, form: FormData): Promise<void> {
  const input = read(bladeForm, form);
  const cutter = await ownCutter(person, input.cutter);
  const said = String(form.get('life') ?? '').trim() !== '';
  const id = uuidv7();
  await transaction(async (q) => {
    await store.unmount(q, cutter.id, id);
    // Nobody said how long it lasts: as long as those before it did, the one that comes off now among them.
    const lifeUm = said ? input.life : ((await lifeSoFar(person))?.lifeUm ?? input.life);
    await store.insertBlade(q, {
      id,
      personId: person.id,
      name: input.name,
      angle: input.angle,
      offsetUm: input.offset,
      lifeUm,
      cutBeforeUm: input.used,
    });
    await store.insertMounting(q, uuidv7(), cutter.id, id);
  });
  await readAgain();
}

/** Mounts a blade one has on a cutter one has. */
export async function mountBlade(person: Person, cutterId: string, bladeId: string): Promise<void> {
  const cutter = await ownCutter(person, cutterId);
  await ownBlade(person, bladeId);
  await transaction(async (q) => {
    await store.unmount(q, cutter.id, bladeId);
    await store.insertMounting(q, uuidv7(), cutter.id, bladeId);
  });
  await readAgain();
}
