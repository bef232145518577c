import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import {
  bondGrades,
  kgFor,
  levelsOf,
  pressureOf,
  readPlaces,
  sourceKinds,
  warmthOf,
  type HandPressures,
  type HeatSource,
  type Level,
  type SourceKind,
} from '#core/press/index.ts';
import { parseDecimal, toMilliCelsius, apartInMilliCelsius } from '#core/units/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/workshop/workshop.ts';
import { Invalid } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import { enforceQuota } from '#work/people/limits.ts';
import type { Person } from '#work/people/person.ts';
import { lengthField } from '#work/base/lengths.ts';
import { line } from '#work/base/text.ts';
import { owned } from '#work/people/owned.ts';

const pressKinds = sourceKinds;
const degrees = (limits: { min: number; max: number }, message: string) =>
  z
    .string(message)
    .transform((s) => parseDecimal(s) ?? NaN)
    .refine((v) => v >= limits.min && v <= limits.max, { message });

/** What a form says of a press. @throws Invalid with a message a field */
function pressIn(person: Person, form: FormData): Omit<store.PressRow, 'id'> {
  const unit = person.length_unit;
  const shows = form.get('shows') === 'F' ? 'F' : 'C';
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
    hottest: toMilliCelsius(input.hottest, shows),
    shows,
    off: apartInMilliCelsius(input.off, shows),
  };
}

export async function addPress(person: Person, form: FormData): Promise<void> {
  const press = pressIn(person, form);
  await enforceQuota(person, 'presses');
  await store.insertPress(db(), { ...press, id: uuidv7(), personId: person.id });
}

export const pressById = (
  person: Person,
  id: string,
): Promise<store.PressRow & store.PressMeasured & { person_id: string }> =>
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

/** A press as what heats: with the words on its dial and what they mean on it. */
const toSource = (p: store.PressRow & store.PressMeasured): HeatSource => ({
  id: p.id,
  name: p.name,
  kind: p.kind as SourceKind,
  widthUm: p.width_um,
  lengthUm: p.length_um,
  hottest: p.hottest,
  shows: p.shows,
  off: p.off,
  levels: levelsOf(p.kind as SourceKind, p.levels),
  uneven: p.uneven,
});

/** What a person's presses are as what heats, and what light, medium and heavy are on each. */
export async function sourcesOf(
  person: Person | undefined,
): Promise<{ source: HeatSource; pressures: HandPressures }[]> {
  const all = person ? await store.pressesOf(db(), person.id) : [];
  return all.map((p) => ({ source: toSource(p), pressures: p.pressures }));
}

/** Every change of heat that somebody's press runs timed, with the press it was of. */
export type HeatLog = Awaited<ReturnType<typeof store.heatChanges>>;
export const heatLog = (person: Person): Promise<HeatLog> => store.heatChanges(db(), person.id);

const forces = ['light', 'medium', 'heavy'] as const;

/** What a press is on closer look: its words, its pressures with what they come to, and what another press would want for the same. */
export async function measuredPress(person: Person, id: string) {
  const row = await pressById(person, id);
  const others = (await store.pressesOf(db(), person.id)).filter((p) => p.id !== row.id);
  const area = row.width_um * row.length_um;
  const log = (await heatLog(person)).filter((c) => c.press === row.id);
  return {
    source: toSource(row),
    warmth: warmthOf(log),
    places: row.places ? { ...row.places, read: readNine(row.places) } : undefined,
    pressures: forces.map((force) => {
      const kg = row.pressures[force]?.kg;
      const other = others.find((o) => o.pressures[force]?.kg !== undefined);
      const kPa = kg === undefined ? undefined : pressureOf(kg, area);
      const otherKPa = other && pressureOf(other.pressures[force]!.kg!, other.width_um * other.length_um);
      return {
        force,
        turns: row.pressures[force]?.turns,
        kg,
        kPa: kPa === undefined ? undefined : Math.round(kPa * 10) / 10,
        asOn: other && otherKPa ? { name: other.name, kg: Math.round(kgFor(otherKPa, area)) } : undefined,
      };
    }),
  };
}

const optionalNumber = (what: string, most: number) =>
  z
    .string()
    .default('')
    .transform((s) => (s.trim() === '' ? undefined : (parseDecimal(s) ?? NaN)))
    .refine((v) => v === undefined || (v >= 0 && v <= most), { message: `${what}: 0 to ${most}.` });

/** Keeps what was measured of a press. A field that is left empty is not known. @throws Invalid with a message a field */
export async function measurePress(person: Person, id: string, form: FormData): Promise<void> {
  const row = await pressById(person, id);
  const words = levelsOf(row.kind as SourceKind, row.levels).map((l) => l.word);
  const input = read(
    z.object({
      ...Object.fromEntries(words.map((_, i) => [`level-${i}`, optionalNumber('What it has, measured', 500)])),
      uneven: optionalNumber('How much cooler', 100),
      ...Object.fromEntries(
        forces.flatMap((f) => [
          [`turns-${f}`, optionalNumber('Turns', 40)],
          [`kg-${f}`, optionalNumber('Kilograms', 400)],
        ]),
      ),
    }) as unknown as z.ZodType<Record<string, number | undefined>>,
    form,
  );
  const levels = words.flatMap((word, i): Level[] => {
    const degrees = input[`level-${i}`];
    // What swatches found stands until a thermometer says it.
    if (degrees === undefined) return row.levels.filter((l) => l.word === word && l.how === 'swatch');
    const heat = toMilliCelsius(degrees, row.shows);
    if (heat < 60_000 || heat > 260_000)
      throw new Invalid({ [`level-${i}`]: `Between 60 and 260 °C. This one reads °${row.shows}.` });
    return [{ word, heat, how: 'thermometer' }];
  });
  await store.measurePress(db(), row.id, {
    levels,
    uneven: apartInMilliCelsius(input.uneven ?? 0, row.shows),
    pressures: Object.fromEntries(
      forces.flatMap((f) => {
        const [turns, kg] = [input[`turns-${f}`], input[`kg-${f}`]];
        return turns === undefined && kg === undefined
          ? []
          : [[f, { ...(turns === undefined ? {} : { turns }), ...(kg === undefined ? {} : { kg }) }]];
      }),
    ),
  });
}

/** What nine squares of one swatch say of the plate. */
function readNine({ heat, seconds, grades }: NonNullable<store.PressMeasured['places']>) {
  return readPlaces(
    grades.map((g) => {
      const at = bondGrades.findIndex((b) => b === g);
      return at < 0 ? undefined : (at as 0 | 1 | 2);
    }),
    { heat, seconds },
    // So short that it hardly bonds: half of what would do is where a cool place shows.
    { heat, seconds: seconds * 1.6 },
  );
}

/** Keeps the same swatch in nine places: where the plate is cool, and by how much. @throws Invalid with a message a field */
export async function keepNine(person: Person, id: string, form: FormData): Promise<void> {
  const row = await pressById(person, id);
  const grade = z.union([z.enum(bondGrades), z.literal('').transform(() => null)]).default(null as never);
  const input = read(
    z.object({
      heat: degrees(row.shows === 'F' ? { min: 212, max: 430 } : { min: 100, max: 220 }, 'The heat it was set to.'),
      seconds: z.coerce.number('How long, seconds.').min(1, 'How long, seconds.').max(180, 'How long, seconds.'),
    }),
    form,
  );
  const grades = Array.from(
    { length: 9 },
    (_, i) => read(z.object({ g: grade }), { g: String(form.get(`place-${i}`) ?? '') }).g,
  );
  if (grades.every((g) => g === null)) throw new Invalid({ form: 'Grade the squares first: how far each bonded.' });
  const places = { heat: toMilliCelsius(input.heat, row.shows), seconds: input.seconds, grades };
  await store.keepPlaces(db(), row.id, places, Math.round(Math.max(0, readNine(places).uneven) * 1000));
}
