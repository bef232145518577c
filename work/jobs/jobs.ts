import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import type { Artwork, FilmNeeds } from '#core/artwork/index.ts';
import { jobBlankSchema, jobLimits, planSchema, type JobBlank, type Plan } from '#core/job/index.ts';
import { evenLength, shapeKeys, shapes, usualSpot, usualWidth } from '#core/place/index.ts';
import type { PlaceHabits, Spot } from '#core/place/index.ts';
import { layerSchools } from '#core/press/index.ts';
import { blankKeys, type Behaviour } from '#core/vinyls/index.ts';
import type { LearntLeast } from '#core/weed/index.ts';
import { db, transaction, type Query } from '#store/base/db.ts';
import * as store from '#store/jobs/jobs.ts';
import { computedFirst } from '#work/base/compute.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { optionalId, read, ticked } from '#work/base/forms.ts';
import { lengthField } from '#work/base/lengths.ts';
import { line } from '#work/base/text.ts';
import { inTurn } from '#work/base/fairLimiter.ts';
import { enforceQuota } from '#work/people/limits.ts';
import { owned } from '#work/people/owned.ts';
import type { Person } from '#work/people/person.ts';
import { vinylOf } from '#work/vinyls/vinyls.ts';
import { habitsIn } from './habits.ts';
import { keepBlank } from './ownBlanks.ts';
import { pressById } from '#work/workshop/presses.ts';
import { loadsFor } from './loads.ts';
import { drawingIn, keepArtwork } from './artwork.ts';
import { measured } from './film.ts';
import { capitalise } from '#core/units/index.ts';

/** A job of one's own. @throws NotFound for anybody else's */
export const ownJob = (person: Person | undefined, id: string): Promise<store.JobRow> =>
  owned(person, 'change', 'job', id, (it) => store.jobById(db(), it));

/** The plan of a job that holds, with its revision and how wide the design was in each up to it. */
export async function planOf(id: string): Promise<{ plan: Plan; rev: number; widths: (number | undefined)[] }> {
  const { plan, rev, widths } = (await store.newestPlans(db(), [id]))[0]!;
  return { plan: planSchema.parse(plan), rev, widths: widths.map((w) => w ?? undefined) };
}

/** What a vinyl asks of a drawing: as weeding has shown on one's own coupons, else as its leaflet or type says. */
export const needsOf = (
  b: Pick<Behaviour, 'minFeatureUm' | 'minGapUm' | 'growthUm'>,
  learnt?: LearntLeast,
): FilmNeeds => ({
  line: learnt?.line ?? b.minFeatureUm,
  gap: learnt?.gap ?? b.minGapUm,
  growth: b.growthUm,
});

/** Writes a new revision of a plan. What hands did stays: events own it. */
export async function revise(person: Person, id: string, change: (plan: Plan) => Plan | Promise<Plan>): Promise<Plan> {
  const revised = async (q: Query) => {
    await ownJob(person, id);
    await store.lockJob(q, id);
    const { plan: before, rev } = await planOf(id);
    const changed = await change(before);
    const plan = planSchema.parse({ ...(await measured(changed)), loads: loadsFor(changed, before.loads) });
    if (JSON.stringify(plan) === JSON.stringify(before)) return before;
    if (rev >= jobLimits.revisions)
      throw new Invalid({ form: `This job was changed ${jobLimits.revisions} times. Begin a new one from here on.` });
    await store.insertPlan(q, id, rev + 1, plan);
    return plan;
  };
  return computedFirst(() => transaction(revised, inTurn));
}

const UM = { min: 10_000, max: 3_000_000 };
const margin = (what: string, unit: 'mm' | 'in') => lengthField(what, unit, { min: 0, max: 1_000_000 });
const blankForm = (unit: 'mm' | 'in') =>
  z.object({
    shape: z.enum(shapeKeys, 'Choose what you make.'),
    surface: z.enum(blankKeys, 'Choose what it is made of.'),
    width: lengthField('the width', unit, UM),
    height: lengthField('the height', unit, UM),
    side: line('which side of it', 30),
    top: margin('the free edge at the top', unit),
    bottom: margin('the free edge at the bottom', unit),
    edge: margin('the free edge at the sides', unit),
    size: line('a size', 20, { optional: true }).default(''),
    fabric: line('the cloth', 60, { optional: true }).default(''),
    hex: z
      .string()
      .regex(/^#[0-9a-f]{6}$/i, 'A colour is chosen, or written as #c21f2c.')
      .transform((s) => s.toLowerCase()),
    count: z.coerce
      .number('How many? A whole number.')
      .int('How many? A whole number.')
      .min(1, 'At least one.')
      .max(jobLimits.pieces, `At most ${jobLimits.pieces} in one job.`),
    name: line('a name for the job', 80, { optional: true }).default(''),
    keep: line('a name for this blank', 80, { optional: true }).default(''),
  });

function blankIn(person: Person, form: FormData): { blank: JobBlank; count: number; name: string; keep: string } {
  const input = read(blankForm(person.length_unit), form);
  if (2 * input.edge >= input.width) throw new Invalid({ edge: 'Nothing is left between the free edges.' });
  if (input.top + input.bottom >= input.height) throw new Invalid({ top: 'Nothing is left between the free edges.' });
  const blank = jobBlankSchema.parse({
    shape: input.shape,
    surface: input.surface,
    width: input.width,
    height: input.height,
    margins: { side: input.edge, top: input.top, bottom: input.bottom },
    size: input.size,
    fabric: input.fabric,
    hex: input.hex,
    side: input.side,
  });
  return { blank, count: input.count, name: input.name, keep: input.keep };
}

/** What a job is called that nobody named: "Shirt, M". */
const nameOf = ({ shape, size }: JobBlank): string => {
  const { word } = shapes[shape];
  return `${capitalise(word)}${size ? `, ${size}` : ''}`;
};

/** Begins a job with a measured blank. Answers its id. @throws Invalid with a message a field */
export async function beginJob(person: Person, form: FormData): Promise<string> {
  const { blank, count, name, keep } = blankIn(person, form);
  await enforceQuota(person, 'jobs');
  const id = uuidv7();
  const { layers } = await habitsIn(person, blank.shape);
  const plan = planSchema.parse({
    format: 'versipel-job-plan/1',
    ...(layers ? { school: layers } : {}),
    blank,
    pieces: Array.from({ length: count }, () => ({ id: uuidv7() })),
    layers: [],
    loads: [],
  });
  await transaction(async (q) => {
    await store.insertJob(q, {
      id,
      personId: person.id,
      name: name || nameOf(blank),
    });
    await store.insertPlan(q, id, 1, plan);
    await keepBlank(person, keep, blank);
  });
  return id;
}

/** Measures the blank anew. The design keeps its width where it still fits, its place goes with the shape. */
export async function changeBlank(person: Person, id: string, form: FormData): Promise<void> {
  const { blank, count, name, keep } = blankIn(person, form);
  if (name !== '') {
    await ownJob(person, id);
    await store.renameJob(db(), id, name);
  }
  const { place } = await habitsIn(person, blank.shape);
  await revise(person, id, (plan) => ({
    ...plan,
    blank,
    pieces: Array.from({ length: count }, (_, i) => plan.pieces[i] ?? { id: uuidv7() }),
    ...(plan.design && plan.blank.shape !== blank.shape
      ? { design: { ...plan.design, spot: usualSpot(shapes[blank.shape], place), sized: false } }
      : {}),
  }));
  await keepBlank(person, keep, blank);
}

/** Puts a drawing on the job: each colour of it a layer, as wide as is usual for the blank. Vinyls chosen before stay on their colours. */
export async function setDrawing(person: Person, id: string, form: FormData): Promise<void> {
  await ownJob(person, id);
  const { name, svg } = await drawingIn(form);
  const { hash, artwork } = await keepArtwork(svg);
  await revise(person, id, async (plan) => {
    const { place } = await habitsIn(person, plan.blank.shape);
    return withArtwork(plan, hash, artwork, name, person.length_unit, place);
  });
}

/** Where a design goes: where one lay before, else as the person does it or is usual, in whole steps as a hand sets them in their own unit. */
export function spotFor(
  { design, blank }: Pick<Plan, 'design' | 'blank'>,
  unit: 'mm' | 'in',
  habits: PlaceHabits,
): Spot {
  const usual = usualSpot(shapes[blank.shape], habits);
  return design?.spot ?? { ...usual, down: evenLength(usual.down, unit) };
}

/** A layer nobody has said anything of. */
export const newLayer = (path: string): Plan['layers'][number] => ({ id: uuidv7(), path });

function withArtwork(
  plan: Plan,
  hash: string,
  artwork: Artwork,
  name: string,
  unit: 'mm' | 'in',
  habits: PlaceHabits,
): Plan {
  const { blank } = plan;
  const size = { width: artwork.width, height: artwork.height };
  const same = plan.design?.artwork === hash;
  if (same) return plan;
  return {
    ...plan,
    // Another drawing takes the place of names.
    pieces: plan.pieces.map(({ id }) => ({ id })),
    design: {
      artwork: hash,
      name,
      widthUm: Math.max(1_000, evenLength(usualWidth(shapes[blank.shape], blank, blank, size, habits), unit)),
      sized: false,
      mirrored: false,
      spot: spotFor(plan, unit, habits),
    },
    layers: artwork.layers.map((l) => newLayer(l.id)),
  };
}

/** Chooses the vinyl of a layer. Answers whether every layer has one now. */
export async function chooseVinyl(person: Person, id: string, form: FormData): Promise<boolean> {
  const { layer, vinyl, colour } = read(z.object({ layer: z.uuid(), vinyl: z.uuid(), colour: optionalId }), form);
  const chosen = await vinylOf(person, vinyl, colour);
  const { layers } = await revise(person, id, (plan) => {
    if (!plan.layers.some((l) => l.id === layer)) throw new NotFound('No such layer.');
    return {
      ...plan,
      layers: plan.layers.map((l) => (l.id === layer ? { ...l, vinyl: chosen.id, colour: chosen.colour?.id } : l)),
    };
  });
  return layers.every((l) => l.vinyl !== undefined);
}

/** Says what is cut in the waste beside a layer: a test mark, a frame, lines that cut it into strips. */
export async function setWaste(person: Person, id: string, form: FormData): Promise<void> {
  const { layer, ...waste } = read(
    z.object({ layer: z.uuid(), mark: ticked, frame: ticked, lines: ticked, test: ticked, stencil: ticked }),
    form,
  );
  await revise(person, id, (plan) => {
    if (!plan.layers.some((l) => l.id === layer)) throw new NotFound('No such layer.');
    return { ...plan, layers: plan.layers.map((l) => (l.id === layer ? { ...l, ...waste } : l)) };
  });
}

const sizeForm = (unit: 'mm' | 'in') =>
  z.object({
    width: lengthField('the width of the design', unit, { min: 1_000, max: 3_000_000 }),
    from: z.enum(['below', 'centred', 'edge']),
    down: lengthField('how far below the top edge', unit, { min: 0, max: 3_000_000 }),
    across: lengthField('how far from the left edge', unit, { min: 0, max: 3_000_000 }),
    anchorX: z.coerce.number().min(0).max(1),
    anchorY: z.coerce.number().min(0).max(1),
    mirrored: ticked,
  });

/**
 * Says how wide the design is and where it goes. A design wider than its blank is refused, with how wide it may be.
 * @param settled whether the person is done with it, and not only on the way to another page
 */
export async function setSize(person: Person, id: string, form: FormData, settled = true): Promise<void> {
  const input = read(sizeForm(person.length_unit), form);
  await revise(person, id, (plan) => {
    if (!plan.design) throw new NotFound('There is no drawing on this job.');
    if (input.width > plan.blank.width)
      throw new Invalid({ width: 'That is wider than the blank. Make it narrower, or measure the blank again.' });
    const spot: Spot = {
      from: input.from,
      down: input.down,
      across: input.across,
      anchor: { x: input.anchorX, y: input.anchorY },
    };
    const sized = plan.design.sized || settled;
    return { ...plan, design: { ...plan.design, widthUm: input.width, spot, sized, mirrored: input.mirrored } };
  });
}

/** How its layers are pressed: a way of `layerSchools`. */
export async function setSchool(person: Person, id: string, form: FormData): Promise<void> {
  const { school } = read(z.object({ school: z.enum(layerSchools) }), form);
  await revise(person, id, (plan) => ({ ...plan, school }));
}

/** What it is pressed with: one of one's own presses, or whichever fits best. */
export async function setPress(person: Person, id: string, form: FormData): Promise<void> {
  const { press } = read(z.object({ press: optionalId }), form);
  if (press) await pressById(person, press);
  await revise(person, id, ({ press: _, ...plan }) => ({ ...plan, ...(press ? { press } : {}) }));
}

/** Puts a job away, or takes it up again. */
export async function archiveJob(person: Person, id: string, away: boolean): Promise<void> {
  await ownJob(person, id);
  await store.archiveJob(db(), id, away);
}
