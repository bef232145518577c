import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import {
  cutterModelSchema,
  fitScale,
  parsePosition,
  AxisError,
  ScaleError,
  scaleDefaults,
  shippedModels,
  strengthAxis,
  type CutterModel,
  type ScaleFit,
} from '#core/controls/index.ts';
import { celsiusToMilliCelsius, fahrenheitToMilliCelsius, mmToMicrometres, parseDecimal } from '#core/units/index.ts';
import type { VinylTypeKey } from '#core/vinyls/index.ts';
import { bladeWear, lifeLeft, matGrip, PLAIN_LIFE, type BladeWear, type MatGrip } from '#core/wear/index.ts';
import { afterCommit, db, transaction } from '#store/base/db.ts';
import * as store from '#store/workshop/workshop.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import { needRoom } from '#work/people/limits.ts';
import type { Person } from '#work/people/people.ts';
import { can } from '#work/people/permissions.ts';
import { refreshOverdue } from '#work/coupons/readings.ts';
import { lengthField } from '#work/base/lengths.ts';
import { line } from '#work/base/text.ts';

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

function toBench(row: store.CutterRow): Bench {
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

/** Puts the shipped cutter models into the database; those already published stay as they are. */
export async function publishShippedModels(): Promise<void> {
  for (const model of shippedModels) await store.publishModel(db(), model);
}

export async function benchOf(person: Person | undefined): Promise<Bench | undefined> {
  const row = person && (await store.benchOf(db(), person.id));
  return row && toBench(row);
}

/** The types a blade's life is told for: from what spares it to what wears it most. */
const LIFE_TYPES: readonly VinylTypeKey[] = ['smooth', 'holographic', 'glitter'];

export type Blade = {
  id: string;
  name: string;
  angle: number;
  offsetUm: number;
  cutUm: number;
  lifeUm: number;
  wear: BladeWear;
  /** How far it still goes, in µm, on a few types. */
  left: [VinylTypeKey, number][];
  cutter: string | undefined;
};
export type Mat = {
  id: string;
  name: string;
  grip: 'light' | 'ordinary' | 'high';
  widthUm: number;
  lengthUm: number;
  loads: number;
  washes: number;
  left: MatGrip;
  inUse: boolean;
};
export type Press = {
  id: string;
  name: string;
  kind: string;
  widthUm: number;
  lengthUm: number;
  hottest: number;
  shows: 'C' | 'F';
  off: number;
};

export async function workshopOf(person: Person | undefined): Promise<{
  cutters: Bench[];
  blades: Blade[];
  mats: Mat[];
  presses: Press[];
}> {
  if (!person) return { cutters: [], blades: [], mats: [], presses: [] };
  const [cutters, blades, mats, presses] = await Promise.all([
    store.cuttersOf(db(), person.id),
    store.bladesOf(db(), person.id),
    store.matsOf(db(), person.id),
    store.pressesOf(db(), person.id),
  ]);
  return {
    cutters: cutters.map(toBench),
    blades: blades.map((b) => {
      const wear = bladeWear(b.runs, b.before_um, b.life_um);
      return {
        id: b.id,
        name: b.name,
        angle: b.angle,
        offsetUm: b.offset_um,
        cutUm: b.cut_um,
        lifeUm: b.life_um,
        wear,
        left: lifeLeft(wear, b.life_um, LIFE_TYPES),
        cutter: b.cutter_id ?? undefined,
      };
    }),
    mats: mats.map((m) => ({
      id: m.id,
      name: m.name,
      grip: m.grip,
      widthUm: m.width_um,
      lengthUm: m.length_um,
      loads: m.loads,
      washes: m.washes,
      left: matGrip(m.loads, m.washes),
      inUse: m.in_use,
    })),
    presses: presses.map((p) => ({
      id: p.id,
      name: p.name,
      kind: p.kind,
      widthUm: p.width_um,
      lengthUm: p.length_um,
      hottest: p.hottest,
      shows: p.shows,
      off: p.off,
    })),
  };
}

/** The cutter models a person can choose from: those that ship and their own. */
export const cutterModels = async (person?: Person): Promise<CutterModel[]> =>
  (await store.newestModels(db(), person?.id ?? null)).map((r) => r.definition);

/** The newest version of a cutter's model, where the cutter still has an older one. */
export const newerModel = (model: CutterModel, all: readonly CutterModel[]): CutterModel | undefined =>
  all.find((m) => m.key === model.key && m.version > model.version);

/** A typed number of metres as µm. */
const metres = (what: string, max: number) =>
  z
    .string()
    .transform((s) => (s.trim() === '' ? 0 : (parseDecimal(s) ?? NaN)))
    .refine((v) => Number.isFinite(v), { message: `${what} is a number of metres, for example 18 or 2,5.` })
    .refine((v) => !(v < 0 || v > max), { message: `${what} lies between 0 and ${max} m.` })
    .transform((v) => mmToMicrometres(v * 1000));

const angle = z
  .string()
  .transform((s) => parseDecimal(s) ?? NaN)
  .refine((v) => Number.isInteger(v) && v >= 15 && v <= 75, {
    message: 'The tip angle is a whole number from 15 to 75 degrees.',
  });

/** How far the tip trails behind the middle of the holder: 0 to 2 mm, typed in mm. */
const offset = z
  .string()
  .default('0.25')
  .transform((s) => (s.trim() === '' ? 0.25 : (parseDecimal(s) ?? NaN)))
  .refine((v) => v >= 0 && v <= 2, { message: 'The blade offset lies between 0 and 2 mm; 0.25 is usual.' })
  .transform(mmToMicrometres);
const life = z
  .string()
  .default('')
  .transform((s) => (s.trim() === '' ? PLAIN_LIFE / 1e6 : (parseDecimal(s) ?? NaN)))
  .refine((v) => v >= 1 && v <= 1000, { message: 'How long a blade lasts lies between 1 and 1000 m of plain film.' })
  .transform((v) => Math.round(v * 1e6));

const cutterForm = z.object({
  model: z.string().min(1, 'Choose a cutter model.'),
  name: line('a name for the cutter', 80),
  blade: line('a name for the blade', 80),
  angle,
  offset,
  life,
  used: metres('What the blade has cut', 1000),
});

/** A new cutter with its blade mounted, put on the bench. */
export async function addCutter(person: Person, form: FormData): Promise<string> {
  const input = read(cutterForm, form);
  const model = (await cutterModels(person)).find((m) => m.key === input.model);
  if (!model) throw new Invalid({ model: 'Choose a cutter model from the list.' });
  await needRoom(person, 'cutters');
  const ids = { cutter: uuidv7(), blade: uuidv7(), mounting: uuidv7() };
  await transaction(async (q) => {
    await store.insertCutter(q, {
      id: ids.cutter,
      personId: person.id,
      name: input.name,
      modelKey: model.key,
      modelVersion: model.version,
    });
    await store.insertBlade(q, {
      id: ids.blade,
      personId: person.id,
      name: input.blade,
      angle: input.angle,
      offsetUm: input.offset,
      lifeUm: input.life,
      cutBeforeUm: input.used,
    });
    await store.insertMounting(q, ids.mounting, ids.cutter, ids.blade);
    await store.putOnBench(q, person.id, ids.cutter);
  });
  return ids.cutter;
}

async function ownCutter(person: Person, id: string): Promise<store.CutterRow> {
  const cutter = z.uuid().safeParse(id).success ? await store.cutterById(db(), id) : undefined;
  if (!cutter || !can(person, 'change', { owner: cutter.person_id })) throw new NotFound('No such cutter.');
  return cutter;
}

/**
 * Takes a cutter to the newest version of its model. What was cut before keeps its version; its settings are read in the new
 * one by what the controls show.
 */
export async function takeNewerModel(person: Person, cutterId: string): Promise<void> {
  const cutter = await ownCutter(person, cutterId);
  const newer = newerModel(cutter.model, await cutterModels(person));
  if (!newer) throw new Invalid({ form: `${cutter.name} has the newest version of its controls already.` });
  await store.setModelVersion(db(), cutter.id, newer.version);
  await readAgain();
}

export async function putOnBench(person: Person, cutterId: string): Promise<void> {
  await ownCutter(person, cutterId);
  await store.putOnBench(db(), person.id, cutterId);
}

/** A blade change moves every number a little: read again now, without making anybody wait. The task catches what this misses. */
const readAgain = () => afterCommit(() => void refreshOverdue().catch(() => undefined));

const bladeForm = z.object({
  cutter: z.string(),
  name: line('a name for the blade', 80),
  angle,
  offset,
  life,
  used: metres('What it has cut', 1000),
});

/** A new blade, mounted in place of the one on the cutter. */
export async function addBlade(person: Person, form: FormData): Promise<void> {
  const input = read(bladeForm, form);
  const cutter = await ownCutter(person, input.cutter);
  const id = uuidv7();
  await transaction(async (q) => {
    await store.insertBlade(q, {
      id,
      personId: person.id,
      name: input.name,
      angle: input.angle,
      offsetUm: input.offset,
      lifeUm: input.life,
      cutBeforeUm: input.used,
    });
    await store.unmount(q, cutter.id, id);
    await store.insertMounting(q, uuidv7(), cutter.id, id);
  });
  await readAgain();
}

/** Mounts a blade one has on a cutter one has. */
export async function mountBlade(person: Person, cutterId: string, bladeId: string): Promise<void> {
  const cutter = await ownCutter(person, cutterId);
  const owner = z.uuid().safeParse(bladeId).success ? await store.bladeOwner(db(), bladeId) : undefined;
  if (!owner || !can(person, 'change', { owner: owner.person_id })) throw new NotFound('No such blade.');
  await transaction(async (q) => {
    await store.unmount(q, cutter.id, bladeId);
    await store.insertMounting(q, uuidv7(), cutter.id, bladeId);
  });
  await readAgain();
}

// Models of one's own -------------------------------------------------------------------------------------------------------

/** The first complaint about a model, in a sentence. */
const modelProblem = (error: z.ZodError): string => {
  const issue = error.issues[0]!;
  const where = issue.path.map((p) => (typeof p === 'number' ? `${p + 1}` : String(p))).join(' ');
  return `${where ? `${where}: ` : ''}${issue.message}.`;
};

/**
 * Publishes a model from its JSON, as a form or a file states it. A model that is known already, to the letter, is taken as it
 * is; the next version of one's own is added beside the ones before; a key that is somebody else's gets a new one.
 * @returns the key
 */
export async function publishModel(person: Person, text: string): Promise<string> {
  let raw: unknown;
  if (text.length > 200_000) throw new Invalid({ model: 'That is too long for a cutter model.' });
  try {
    raw = JSON.parse(text);
  } catch {
    throw new Invalid({ model: 'That is not JSON: export a model to see one.' });
  }
  const parsed = cutterModelSchema.safeParse(raw);
  if (!parsed.success) throw new Invalid({ model: modelProblem(parsed.error) });
  let model = parsed.data;
  const known = await store.modelByVersion(db(), model.key, model.version);
  // jsonb keeps no order of keys: compared as values.
  if (known && same(known.definition, model)) return model.key;
  const owner = await store.modelOwner(db(), model.key);
  const own = owner?.person_id === person.id;
  if (owner && !own) model = { ...model, key: `${model.key.slice(0, 30)}-${uuidv7().slice(-8)}`, version: 1 };
  else if (own && known)
    throw new Invalid({
      model: `Version ${model.version} of ${known.definition.name} is published and stays as it is. Give this one a higher version.`,
    });
  if (!own) await needRoom(person, 'models');
  await transaction(async (q) => {
    await store.publishModel(q, model);
    if (!own) await store.setModelOwner(q, model.key, person.id);
  });
  return model.key;
}

const ordered = (value: unknown): unknown =>
  Array.isArray(value)
    ? value.map(ordered)
    : value && typeof value === 'object'
      ? Object.fromEntries(
          Object.entries(value)
            .sort(([a], [b]) => (a < b ? -1 : 1))
            .map(([k, v]) => [k, ordered(v)]),
        )
      : value;
const same = (a: unknown, b: unknown): boolean => JSON.stringify(ordered(a)) === JSON.stringify(ordered(b));

/** A model as a file. */
export async function modelFile(person: Person | undefined, key: string): Promise<{ name: string; body: string }> {
  const model = (await cutterModels(person)).find((m) => m.key === key);
  if (!model) throw new NotFound('No such model.');
  return { name: `${model.key}-${model.version}.json`, body: `${JSON.stringify(model, null, 2)}\n` };
}

// A scale under the tip -----------------------------------------------------------------------------------------------------

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
    return { ...scale, fit: undefined, why: `${error.message[0]!.toUpperCase()}${error.message.slice(1)}.` };
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
  if (!z.uuid().safeParse(id).success) throw new NotFound('No such reading.');
  await store.dropScaleReading(db(), cutter.id, id);
}

// Mats and presses ----------------------------------------------------------------------------------------------------------

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
  await needRoom(person, 'mats');
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
  if (!z.uuid().safeParse(id).success) throw new NotFound('No such mat.');
  return id;
};
export async function washMat(person: Person, id: string): Promise<void> {
  if (!(await store.washMat(db(), person.id, ownMat(id)))) throw new NotFound('No such mat.');
}
/** The mat that cuts are laid on from now on; none with an empty id. */
export async function layMat(person: Person, id: string): Promise<void> {
  if (!(await store.layMat(db(), person.id, id === '' ? null : ownMat(id)))) throw new NotFound('No such mat.');
}
export const retireMat = (person: Person, id: string) => store.retireMat(db(), person.id, ownMat(id));

export const pressKinds = ['plate', 'hand press', 'cap press', 'iron'] as const;
const degrees = (limits: { min: number; max: number }, message: string) =>
  z
    .string(message)
    .transform((s) => parseDecimal(s) ?? NaN)
    .refine((v) => v >= limits.min && v <= limits.max, { message });

export async function addPress(person: Person, form: FormData): Promise<void> {
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
  await needRoom(person, 'presses');
  await store.insertPress(db(), {
    id: uuidv7(),
    personId: person.id,
    name: input.name,
    kind: input.kind,
    width_um: input.width,
    length_um: input.length,
    hottest: toMc(input.hottest),
    shows,
    // A difference of degrees has no zero point to move.
    off: Math.round(input.off * (shows === 'F' ? 1000 / 1.8 : 1000)),
  });
}
export async function retirePress(person: Person, id: string): Promise<void> {
  if (!z.uuid().safeParse(id).success) throw new NotFound('No such press.');
  await store.retirePress(db(), person.id, id);
}

/** What one entry of a list is taken to cut heavier than the one before, in log load, until it is learnt. Common practice, no source. */
const ENTRY_STEP = 0.2;

/**
 * A model as the form states it, field by field. What is not a number is left as it was typed, for the schema to name.
 * @throws Invalid at the field that holds no number, or whose start is not on its axis
 */
export function modelFromForm(form: FormData): unknown {
  const text = (key: string) => String(form.get(key) ?? '').trim();
  const fields: Record<string, string> = {};
  const number = (key: string): number => {
    const value = parseDecimal(text(key));
    if (value === undefined || text(key) === '') fields[key] = 'This is a number.';
    return value ?? NaN;
  };
  const names = (key: string, least: number): string[] => {
    const list = text(key)
      .split(/[,;\n]/)
      .map((s) => s.trim())
      .filter(Boolean);
    if (list.length < least) fields[key] = `Name at least ${least}, separated by commas.`;
    return list;
  };
  const slug = (s: string, fallback: string) =>
    (
      s
        .normalize('NFKD')
        .toLowerCase()
        .replace(/[^a-z0-9]+/g, '-')
        .replace(/^[^a-z]+|-+$/g, '') || fallback
    ).slice(0, 30);
  if (text('name') === '') fields.name = 'Give the model a name.';
  const count = Math.min(6, Math.max(1, Number(text('axes')) || 1));
  const used = new Set<string>();
  const axes = Array.from({ length: count }, (_, i) => {
    const at = (key: string) => `axis-${i}-${key}`;
    const word = text(at('word'));
    if (word === '') fields[at('word')] = 'Say what the cutter calls it.';
    let key = slug(word, `axis-${i + 1}`);
    if (used.has(key)) key = `${key}-${i + 1}`;
    used.add(key);
    const common = { key, word, role: text(at('role')) };
    const kind = text(at('kind'));
    let axis: Record<string, unknown>;
    if (kind === 'dial') axis = { ...common, kind, stops: names(at('stops'), 2), halves: text(at('halves')) === 'yes' };
    else if (kind === 'list') {
      const entries = names(at('entries'), 2);
      const plain = Math.max(0, entries.indexOf(text(at('start'))));
      const modifiers = text(at('modifier')) === '' ? [] : names(at('modifier'), 2);
      axis = {
        ...common,
        kind,
        entries: entries.map((name, e) => ({ name, load: Number(((e - plain) * ENTRY_STEP).toFixed(3)) })),
        ...(modifiers.length > 0
          ? { modifier: { word: 'pressure', names: modifiers, normal: Math.floor((modifiers.length - 1) / 2) } }
          : {}),
      };
    } else {
      const step = text(at('step')) === '' ? 1 : number(at('step'));
      const [min, max] = [number(at('min')) / step, number(at('max')) / step];
      for (const [end, value] of [
        ['min', min],
        ['max', max],
      ] as const)
        if (Number.isFinite(value) && Math.abs(value - Math.round(value)) > 1e-9)
          fields[at(end)] = `This is no whole number of steps of ${step}.`;
      axis = {
        ...common,
        kind: 'number',
        min: Math.round(min),
        max: Math.round(max),
        step,
        scale: text(at('log')) === 'yes' ? 'log' : 'linear',
      };
    }
    const start = text(at('start'));
    const alone = cutterModelSchema.shape.axes.element.safeParse(axis);
    if (start !== '' && alone.success)
      try {
        axis.start = parsePosition(alone.data, start);
      } catch (error) {
        if (!(error instanceof AxisError)) throw error;
        fields[at('start')] = `${error.message}.`;
      }
    if (!alone.success && Object.keys(fields).length === 0) fields[at('word')] = modelProblem(alone.error);
    return axis;
  });
  if (Object.keys(fields).length > 0) throw new Invalid(fields);
  return {
    key: `${slug(text('name'), 'own')}-${uuidv7().slice(-8)}`,
    version: 1,
    name: text('name'),
    about: text('about'),
    axes,
  };
}
