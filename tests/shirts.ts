import { v7 as uuidv7 } from 'uuid';
import { cellId, cutId, type StepKind } from '#core/job/index.ts';
import { answersFor } from '#work/jobs/cut.ts';
import { takeAll } from '#work/deliver.ts';
import { beginJob, chooseVinyl, setDrawing, setSize } from '#work/jobs/jobs.ts';
import { jobOf } from '#work/jobs/view.ts';
import type { Person } from '#work/people/person.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { device, form, grade, shirtForm } from './bench.ts';

// Shirts of two layers, the lower one peeled cool, for tests of the press.
const square =
  '<svg viewBox="0 0 100 100"><rect width="100" height="100" fill="#1f3a5f"/><rect x="30" y="30" width="40" height="40" fill="#b3202c"/></svg>';

/** A job of so many shirts. Answers its id and those of its vinyls, the lower one first. */
export async function shirts(person: Person, count: number): Promise<{ job: string; vinyls: string[] }> {
  const job = await beginJob(person, shirtForm({ count: String(count), name: `${count} shirts` }));
  await setDrawing(person, job, form({ svg: square }));
  const vinyls = [
    await addVinyl(person, { brand: 'Larkfield', name: 'Steady', type: 'matless', colour: 'navy', hex: '#1f3a5f' }),
    await addVinyl(person, { brand: 'Larkfield', name: 'Plain', type: 'matless', colour: 'red', hex: '#b3202c' }),
  ];
  const { layers } = await jobOf(person, job);
  for (const [i, layer] of layers.entries())
    await chooseVinyl(person, job, form({ layer: layer.id, vinyl: vinyls[i]! }));
  await setSize(
    person,
    job,
    form({ width: '9 in', from: 'below', down: '3 in', across: '0', anchorX: '0.5', anchorY: '0' }),
  );
  return { job, vinyls };
}

/** Does everything at the sheet but the press, or up to a kind of step, as an outbox would tell it. */
export async function upToThePress(
  person: Person,
  job: string,
  from: number,
  before: StepKind[] = ['press', 'wash'],
): Promise<void> {
  for (let i = 0; i < 60; i++) {
    const now = await jobOf(person, job);
    const step = now.sheet.steps.find((s) => s.state === 'open' && s.ready && !before.includes(s.kind));
    if (!step) return;
    const said = {
      job,
      step: step.id,
      attempt: step.attempt,
      rev: now.rev,
      device,
      id: uuidv7(),
      deviceAt: new Date(from + i * 1000).toISOString(),
    };
    if (step.kind === 'cut') {
      const bench = await benchOf(person);
      const answer = (await answersFor(person, bench, now)).find((a) => a.layer === step.layer);
      const setting = answer?.toSet?.setting ?? {
        model: 'marlow-24',
        version: 1,
        steps: { force: 100, depth: 4, speed: 10, passes: 1 },
      };
      await takeAll(person, [
        { ...said, kind: 'cut', part: step.about, setting, mounting: bench!.blade!.mounting, witness: false },
      ]);
    } else if (step.kind === 'lift') await takeAll(person, [grade(cellId(cutId(step.about, step.attempt)), 'clean')]);
    else await takeAll(person, [{ ...said, kind: 'done' }]);
  }
}
