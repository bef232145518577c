import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { leafletSchema, peels, pressures, washes } from '#core/vinyls/index.ts';
import { parseDecimal, toMilliCelsius } from '#core/units/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/vinyls/vinyls.ts';
import { Invalid } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import type { Person } from '#work/people/person.ts';
import { line } from '#work/base/text.ts';
import { vinylRow } from './vinyls.ts';
import { needAccount } from '#work/people/owned.ts';

const number = (what: string, from: number, to: number) =>
  z
    .string()
    .trim()
    .transform((s) => (s === '' ? undefined : (parseDecimal(s) ?? NaN)))
    .refine((v) => v === undefined || (v >= from && v <= to), { message: `${what} is a number from ${from} to ${to}.` })
    .optional();
const choice = <T extends string>(list: readonly T[]) =>
  z.union([z.enum(list), z.literal('').transform(() => undefined)]).optional();
const leafletForm = z.object({
  source: line('where it stands', 120, { optional: true }).default(''),
  heat: number('The heat', 40, 480),
  heatUnit: z.enum(['C', 'F']).catch('C'),
  from: number('The time', 1, 180),
  to: number('The time', 1, 180),
  pressure: choice(pressures),
  peel: choice(peels),
  blade: number('The angle of the blade, in degrees,', 15, 75),
  passes: number('Passes', 1, 20),
  wash: choice(washes),
  cut: line('what it says of cutting', 200, { optional: true }).default(''),
});

/** Copies what the leaflet of a vinyl says. What was copied before stays; the newest counts. */
export async function addLeaflet(person: Person, vinylId: string, form: FormData): Promise<void> {
  needAccount(person, 'others see who copied it');
  const vinyl = await vinylRow(person, vinylId);
  const input = read(leafletForm, form);
  // A form that does not ask for everything leaves the rest as it was copied before.
  const before = (await store.leafletOf(db(), vinyl.id))?.content;
  const kept = Object.fromEntries(
    (['source', 'blade', 'passes', 'cut', 'wash'] as const).flatMap((k) =>
      form.has(k) || before?.[k] === undefined ? [] : [[k, before[k]]],
    ),
  );
  const [from, to] = [input.from ?? input.to, input.to ?? input.from];
  const parsed = leafletSchema.safeParse({
    source: input.source,
    ...(input.heat === undefined
      ? {}
      : {
          heat: Math.round(toMilliCelsius(input.heat, input.heatUnit)),
        }),
    ...(from === undefined ? {} : { seconds: [Math.round(from), Math.round(to!)] }),
    ...(input.pressure ? { pressure: input.pressure } : {}),
    ...(input.peel ? { peel: input.peel } : {}),
    ...(input.blade === undefined ? {} : { blade: Math.round(input.blade) }),
    ...(input.passes === undefined ? {} : { passes: Math.round(input.passes) }),
    ...(input.cut ? { cut: input.cut } : {}),
    ...(input.wash ? { wash: input.wash } : {}),
    ...kept,
  });
  if (!parsed.success) {
    const [field] = parsed.error.issues[0]!.path;
    throw new Invalid(
      field === 'heat'
        ? { heat: 'A press is meant to be 100 to 220 °C (212 to 428 °F).' }
        : { from: 'The first number of seconds is the smaller one.' },
    );
  }
  const { source: _, ...says } = parsed.data;
  if (Object.keys(says).length === 0) throw new Invalid({ heat: 'Copy at least one thing that it says.' });
  await store.insertLeaflet(db(), { id: uuidv7(), vinylId: vinyl.id, content: parsed.data, personId: person.id });
}

/** Says how one peels a vinyl oneself, or takes it back with an empty word. */
export async function sayPeel(person: Person, vinylId: string, form: FormData): Promise<void> {
  const vinyl = await vinylRow(person, vinylId);
  const { peel } = read(z.object({ peel: z.union([z.enum(peels), z.literal('')], 'There is no such peel.') }), form);
  if (peel === '') await store.leaveSchool(db(), person.id, vinyl.id, 'peel');
  else await store.followSchool(db(), person.id, vinyl.id, 'peel', peel);
}
