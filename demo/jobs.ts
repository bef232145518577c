import { v4 as uuidv4, v7 as uuidv7 } from 'uuid';
import { cellId, cutId } from '#core/job/index.ts';
import { answersFor } from '#work/jobs/cut.ts';
import { takeAll } from '#work/deliver.ts';
import { beginJob, chooseVinyl, setDrawing, setSize } from '#work/jobs/jobs.ts';
import { jobOf } from '#work/jobs/view.ts';
import type { Person } from '#work/people/person.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { form } from './form.ts';

const HOUR = 3_600_000;

type DemoJob = {
  blank: Record<string, string>;
  design: string;
  /** The vinyl of each layer of the drawing, the lowest first. */
  vinyls: string[];
  width: string;
  from: 'below' | 'centred';
  /** How long ago hands began, and the first step they have not done; all of it where none is named. */
  hoursAgo: number;
  until: ((step: { kind: string; press: number | undefined }) => boolean) | undefined;
};

const jobs: DemoJob[] = [
  {
    blank: {
      shape: 'band',
      surface: 'plain-cloth',
      width: '28 in',
      height: '4 in',
      side: 'front',
      edge: '2 in',
      top: '0.5 in',
      bottom: '0.5 in',
      size: '',
      fabric: 'ribbed satin cotton',
      hex: '#e9dfc8',
      count: '1',
      name: 'Sash for the harbour boat',
      keep: 'Parade sash',
    },
    design: 'sash',
    vinyls: ['Plain, navy', 'Starling, ember red'],
    width: '11 in',
    from: 'centred',
    hoursAgo: 220,
    until: undefined,
  },
  {
    blank: {
      shape: 'panel',
      surface: 'wood',
      width: '9 in',
      height: '13 in',
      side: 'front',
      edge: '0.75 in',
      top: '0.75 in',
      bottom: '0.75 in',
      size: '',
      fabric: '',
      hex: '#d8b98a',
      count: '1',
      name: 'Lantern panel',
      keep: '',
    },
    design: 'lantern',
    vinyls: ['Cling, reed green'],
    width: '5.5 in',
    from: 'centred',
    hoursAgo: 3,
    until: () => true,
  },
  {
    blank: {
      shape: 'panel',
      surface: 'plain-cloth',
      width: '14 in',
      height: '14 in',
      side: 'front',
      edge: '1 in',
      top: '1 in',
      bottom: '1 in',
      size: '',
      fabric: 'canvas',
      hex: '#8f2f2a',
      count: '1',
      name: 'Cover for the big drum',
      keep: '',
    },
    design: 'drum',
    vinyls: ['Plain, navy', 'Loft, maize'],
    width: '11 in',
    from: 'centred',
    hoursAgo: 2,
    until: (step) => step.kind === 'press' && step.press === 2,
  },
  {
    blank: {
      shape: 'shirt',
      surface: 'plain-cloth',
      width: '20 in',
      height: '28 in',
      side: 'front',
      edge: '2 in',
      top: '2.5 in',
      bottom: '3 in',
      size: 'M',
      fabric: 'cotton',
      hex: '#cfd8c4',
      count: '4',
      name: 'Shirts for the rowers',
      keep: '',
    },
    design: 'moth',
    vinyls: ['Drift Deep, midnight', 'Plain, chalk'],
    width: '9 in',
    from: 'below',
    hoursAgo: 1,
    until: (step) => step.kind === 'press',
  },
];

/** Jobs of one person of the demo: one done and washed, one just sized, one in the middle of its pressing, one with four pieces to press. */
export async function loadJobs(
  person: Person,
  vinyls: ReadonlyMap<string, string>,
  colours: ReadonlyMap<string, string>,
): Promise<void> {
  const device = uuidv4();
  for (const { blank, design, vinyls: chosen, width, from, hoursAgo, until } of jobs) {
    const id = await beginJob(person, form(blank));
    await setDrawing(person, id, form({ design }));
    for (const [i, layer] of (await jobOf(person, id)).layers.entries())
      await chooseVinyl(
        person,
        id,
        form({ layer: layer.id, vinyl: vinyls.get(chosen[i]!)!, colour: colours.get(chosen[i]!)! }),
      );
    await setSize(
      person,
      id,
      form({
        width,
        from,
        down: from === 'below' ? '3 in' : '0',
        across: '0',
        anchorX: '0.5',
        anchorY: from === 'centred' ? '0.5' : '0',
      }),
    );
    let at = Date.now() - hoursAgo * HOUR;
    for (let i = 0; i < 60; i++) {
      const job = await jobOf(person, id);
      const step = job.sheet.steps.find((s) => s.id === job.sheet.next);
      if (!step || until?.(step)) break;
      // A minute or a few a step; a day before it is washed.
      at += step.kind === 'wash' ? 26 * HOUR : 4 * 60_000;
      const said = { job: id, step: step.id, attempt: 1, rev: job.rev, device };
      const event = (more: object, after = 0) => ({
        id: uuidv7(),
        ...said,
        deviceAt: new Date(at + after).toISOString(),
        ...more,
      });
      if (step.kind === 'cut') {
        const answer = (await answersFor(person, await benchOf(person), job)).find((a) => a.layer === step.layer);
        await takeAll(person, [
          event({
            kind: 'cut',
            part: step.about,
            setting: answer!.toSet!.setting,
            mounting: (await benchOf(person))!.blade!.mounting,
            witness: false,
          }),
        ]);
      } else if (step.kind === 'lift')
        await takeAll(person, [
          {
            id: uuidv7(),
            kind: 'grade',
            cell: cellId(cutId(step.about, 1)),
            figure: 1,
            passes: 1,
            grade: 'clean',
            device,
            deviceAt: new Date(at).toISOString(),
          },
        ]);
      else if (step.kind === 'weed')
        await takeAll(person, [event({ kind: 'start' }), event({ kind: 'done' }, 190_000)]);
      else if (step.kind === 'wash')
        await takeAll(person, [
          event({ kind: 'outcome', pieces: [step.about], word: 'washed well', recipe: '' }),
          event({ kind: 'done' }),
        ]);
      else await takeAll(person, [event({ kind: 'done' })]);
    }
  }
}
