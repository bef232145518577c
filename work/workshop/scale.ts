import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import {
  fitScale,
  parsePosition,
  AxisError,
  ScaleError,
  scaleDefaults,
  strengthAxis,
  type CutterModel,
  type ScaleFit,
} from '#core/controls/index.ts';
import { parseDecimal, capitalise } from '#core/units/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/workshop/workshop.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import type { Person } from '#work/people/person.ts';
import { ownCutter } from './cutters.ts';
import { isId } from '#work/people/owned.ts';

export type Scale = {
  cutter: { id: string; name: string; model: CutterModel };
  readings: { id: string; position: number; grams: number }[];
  fit: ScaleFit | undefined;
  /** Why there is no curve yet. */
  why: string | undefined;
};

/** The scale readings of a cutter and what they say. */
export async function scaleOf(person: Person | undefined, cutterId: string): Promise<Scale> {
  if (!person) throw new NotFound('No such cutter.');
  const cutter = await ownCutter(person, cutterId);
  const rows = await store.scaleReadings(db(), cutter.id);
  const readings = rows.map((r) => ({ id: r.id, position: r.position, grams: r.milligrams / 1000 }));
  const scale = { cutter: { id: cutter.id, name: cutter.name, model: cutter.model }, readings };
  if (readings.length < scaleDefaults.least)
    return { ...scale, fit: undefined, why: `Weigh at ${scaleDefaults.least} places or more, far apart.` };
  try {
    const fit = fitScale({
      format: 'versipel-scale/1',
      axis: strengthAxis(cutter.model),
      readings: readings.map(({ position, grams }) => ({ position, grams })),
    });
    return { ...scale, fit, why: undefined };
  } catch (error) {
    if (!(error instanceof ScaleError)) throw error;
    return { ...scale, fit: undefined, why: `${capitalise(error.message)}.` };
  }
}

const scaleForm = z.object({
  strength: z.string().max(120),
  grams: z
    .string()
    .transform((s) => parseDecimal(s) ?? NaN)
    .refine((v) => v >= 1 && v <= 5000, { message: 'A scale under the tip shows 1 to 5000 grams.' }),
});

export async function addScaleReading(person: Person, cutterId: string, form: FormData): Promise<void> {
  const cutter = await ownCutter(person, cutterId);
  const input = read(scaleForm, form);
  let position: number;
  try {
    position = parsePosition(strengthAxis(cutter.model), input.strength);
  } catch (error) {
    if (error instanceof AxisError) throw new Invalid({ strength: `${error.message}.` });
    throw error;
  }
  await store.setScaleReading(db(), {
    id: uuidv7(),
    cutterId: cutter.id,
    position,
    milligrams: Math.round(input.grams * 1000),
  });
}

export async function dropScaleReading(person: Person, cutterId: string, id: string): Promise<void> {
  const cutter = await ownCutter(person, cutterId);
  if (!isId(id)) throw new NotFound('No such reading.');
  await store.dropScaleReading(db(), cutter.id, id);
}
