import { seenOf } from '#work/base/seen.ts';
import { shownOn } from './shownPlan.ts';
import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { artworkLimits, letteringLimits } from '#core/artwork/index.ts';
import { jobLimits } from '#core/job/index.ts';
import { Invalid } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import type { Person } from '#work/people/person.ts';
import { keepArtwork } from './artwork.ts';
import { habitsIn } from './habits.ts';
import { newLayer, ownJob, revise, spotFor } from './jobs.ts';
import { jobOf } from './view.ts';

const namesSchema = z
  .array(
    z.strictObject({
      says: z.string().trim().min(1).max(letteringLimits.letters),
      svg: z.string().max(artworkLimits.bytes),
      widthUm: z.int().min(1_000).max(3_000_000),
    }),
  )
  .min(1, 'No name is there to put on it.')
  .max(jobLimits.pieces, `At most ${jobLimits.pieces} names in one job.`);

const namesForm = z.object({
  names: z.string().transform((text, context) => {
    try {
      return namesSchema.parse(JSON.parse(text));
    } catch {
      context.addIssue({ code: 'custom', message: 'These names cannot be read. Load the page again.' });
      return z.NEVER;
    }
  }),
});

/** What a job says of names: those it has, the box they may take, its vinyl and colour. */
export async function namesOf(person: Person | undefined, id: string) {
  const job = await jobOf(person, id);
  const { plan } = job;
  const { margins } = plan.blank;
  const room = {
    width: plan.blank.width - 2 * margins.side,
    height: plan.blank.height - margins.top - margins.bottom,
  };
  const width = Math.min(room.width, 127_000);
  return {
    id,
    seen: seenOf(shownOn('names', plan)),
    name: job.name,
    names: plan.pieces.flatMap((p) => p.name?.says ?? []),
    box: { width, height: Math.min(room.height, Math.round(0.3 * width)) },
    vinyl: job.layers[0]?.vinyl?.id,
    hex: job.layers[0]?.hex,
  };
}

/** Puts a list of names on a job: a piece for each, in one vinyl; every name keeps the size it was fitted to. */
export async function setNames(person: Person, id: string, form: FormData): Promise<void> {
  await ownJob(person, id);
  const { names } = read(namesForm, form);
  const widest = names.reduce((a, b) => (b.widthUm > a.widthUm ? b : a));
  const kept: { says: string; artwork: string; share: number }[] = [];
  // One after the other: a list of names is one person's, and the threads are everybody's.
  for (const { says, svg, widthUm } of names) {
    const { hash, artwork } = await keepArtwork(svg);
    if (artwork.layers.length !== 1) throw new Invalid({ form: `${says} is not in one colour.` });
    kept.push({ says, artwork: hash, share: widthUm / widest.widthUm });
  }
  await revise(person, id, async (plan) => ({
    ...plan,
    pieces: kept.map((name, i) => ({ id: plan.pieces[i]?.id ?? uuidv7(), name })),
    design: {
      artwork: kept[names.indexOf(widest)]!.artwork,
      name: names.length === 1 ? widest.says : `${names.length} names`,
      widthUm: Math.min(plan.blank.width, widest.widthUm),
      sized: false,
      mirrored: false,
      spot: spotFor(plan, person.length_unit, (await habitsIn(person, plan.blank.shape)).place),
    },
    layers: [plan.layers[0] ? { ...plan.layers[0], path: 'l1' } : newLayer('l1')],
  }));
}
