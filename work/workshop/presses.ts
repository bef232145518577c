import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { celsiusToMilliCelsius, fahrenheitToMilliCelsius, parseDecimal } from '#core/units/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/workshop/workshop.ts';
import { read } from '#work/base/forms.ts';
import { needRoom } from '#work/people/limits.ts';
import type { Person } from '#work/people/person.ts';
import { lengthField } from '#work/base/lengths.ts';
import { line } from '#work/base/text.ts';
import { owned } from '#work/people/owned.ts';

export const pressKinds = ['plate', 'hand press', 'cap press', 'iron'] as const;
const degrees = (limits: { min: number; max: number }, message: string) =>
  z
    .string(message)
    .transform((s) => parseDecimal(s) ?? NaN)
    .refine((v) => v >= limits.min && v <= limits.max, { message });

/** What a form says of a press. @throws Invalid with a message a field */
function pressIn(person: Person, form: FormData): Omit<store.PressRow, 'id'> {
  const unit = person.length_unit;
  const shows = form.get('shows') === 'F' ? 'F' : 'C';
  const toMc = shows === 'F' ? fahrenheitToMilliCelsius : celsiusToMilliCelsius;
  const input = read(
    z.object({
      name: line('a name for the press', 80),
      kind: z.enum(pressKinds, 'Choose what it is.'),
      width: lengthField('the width', unit, { min: 20_000, max: 2_000_000 }),
      length: lengthField('the length', unit, { min: 20_000, max: 2_000_000 }),
      hottest: degrees(
        shows === 'F' ? { min: 212, max: 500 } : { min: 100, max: 260 },
        shows === 'F' ? 'The hottest lies between 212 and 500 °F.' : 'The hottest lies between 100 and 260 °C.',
      ),
      off: degrees({ min: -60, max: 60 }, 'How far off it is: −60 to 60 degrees; 0 where nobody measured.'),
    }),
    form,
  );
  return {
    name: input.name,
    kind: input.kind,
    width_um: input.width,
    length_um: input.length,
    hottest: toMc(input.hottest),
    shows,
    // A difference of degrees has no zero point to move.
    off: Math.round(input.off * (shows === 'F' ? 1000 / 1.8 : 1000)),
  };
}

export async function addPress(person: Person, form: FormData): Promise<void> {
  const press = pressIn(person, form);
  await needRoom(person, 'presses');
  await store.insertPress(db(), { ...press, id: uuidv7(), personId: person.id });
}

export const pressById = (person: Person, id: string): Promise<store.PressRow & { person_id: string }> =>
  owned(person, 'change', 'press', id, (it) => store.pressById(db(), it));

/** Says a press right. */
export async function correctPress(person: Person, id: string, form: FormData): Promise<void> {
  await pressById(person, id);
  await store.updatePress(db(), { ...pressIn(person, form), id });
}

/** How large a person's largest press closes, µm; undefined where nobody has said. An iron is moved about: it closes over anything. */
export async function largestPlaten(
  person: Person | undefined,
): Promise<{ width: number; length: number } | undefined> {
  const all = person ? await store.pressesOf(db(), person.id) : [];
  if (all.some((p) => p.kind === 'iron')) return undefined;
  const [largest] = all.toSorted((a, b) => b.width_um * b.length_um - a.width_um * a.length_um);
  return largest && { width: largest.width_um, length: largest.length_um };
}
