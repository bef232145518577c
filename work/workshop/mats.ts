import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { usableWidth } from '#core/controls/index.ts';
import type { Under } from '#core/job/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/workshop/workshop.ts';
import { NotFound } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import { enforceQuota } from '#work/people/limits.ts';
import type { Person } from '#work/people/person.ts';
import { lengthField } from '#work/base/lengths.ts';
import { line } from '#work/base/text.ts';
import { isId, owned } from '#work/people/owned.ts';

const matForm = (unit: 'mm' | 'in') =>
  z.object({
    name: line('a name for the mat', 80),
    grip: z.enum(['light', 'ordinary', 'high'], 'Choose how it grips.'),
    width: lengthField('the width', unit, { min: 50_000, max: 2_000_000 }),
    length: lengthField('the length', unit, { min: 50_000, max: 5_000_000 }),
    loads: z
      .string()
      .default('0')
      .transform((s) => (s.trim() === '' ? 0 : Number(s)))
      .refine((n) => Number.isInteger(n) && n >= 0 && n <= 10_000, {
        message: 'Loads since it was washed: a whole number; a guess will do.',
      }),
  });

export async function addMat(person: Person, form: FormData): Promise<void> {
  const input = read(matForm(person.length_unit), form);
  await enforceQuota(person, 'mats');
  const id = uuidv7();
  await store.insertMat(db(), {
    id,
    personId: person.id,
    name: input.name,
    grip: input.grip,
    widthUm: input.width,
    lengthUm: input.length,
    loads: input.loads,
  });
  await store.layMat(db(), person.id, id);
}

const ownMat = (id: string): string => {
  if (!isId(id)) throw new NotFound('No such mat.');
  return id;
};
export async function washMat(person: Person, id: string): Promise<void> {
  if (!(await store.washMat(db(), person.id, ownMat(id)))) throw new NotFound('No such mat.');
}
/** The mat that cuts are laid on from now on; none with an empty id. */
export async function layMat(person: Person, id: string): Promise<void> {
  if (!(await store.layMat(db(), person.id, id === '' ? null : ownMat(id)))) throw new NotFound('No such mat.');
}

/** A mat of 12 × 24 in, where nobody has said which one lies under. */
const USUAL = { widthUm: 304_800, lengthUm: 609_600 };

/** What lies under the blade, and what else could. */
export type UnderBlade = Under & {
  /** The mat on the bench; undefined where nobody has said which. */
  inUse: { id: string; name: string; loads: number } | undefined;
  others: { id: string; name: string; widthUm: number; lengthUm: number }[];
};

/** What lies under the blade of a person's bench as it is now: what is added or said right later counts from then on. */
export async function underBlade(person: Person | undefined): Promise<UnderBlade> {
  const [mats, cutter] = person
    ? await Promise.all([store.matsOf(db(), person.id), store.benchOf(db(), person.id)])
    : [[], undefined];
  const toOther = ({ id, name, width_um: widthUm, length_um: lengthUm }: store.MatRow) => ({
    id,
    name,
    widthUm,
    lengthUm,
  });
  const mat = mats.find((m) => m.in_use);
  return {
    mat: mat ? { widthUm: mat.width_um, lengthUm: mat.length_um } : USUAL,
    usableUm: cutter && (cutter.usable_width_um ?? usableWidth(cutter.model)),
    inUse: mat && { id: mat.id, name: mat.name, loads: mat.loads },
    others: mats.filter((m) => !m.in_use).map(toOther),
  };
}

export const matById = (person: Person, id: string): Promise<store.OwnMat> =>
  owned(person, 'change', 'mat', id, (it) => store.matById(db(), it));

/** Says a mat right. */
export async function correctMat(person: Person, id: string, form: FormData): Promise<void> {
  await matById(person, id);
  const { name, grip, width, length, loads } = read(matForm(person.length_unit), form);
  await store.updateMat(db(), id, { name, grip, width_um: width, length_um: length, loads });
}
