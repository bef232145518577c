import { beforeAll, describe, expect, test } from 'vitest';
import { causesOf } from '#core/job/index.ts';
import { handSchools, handTopics, peels, type HandTopic } from '#core/vinyls/index.ts';
import { jobOf } from '#work/jobs/view.ts';
import type { Person } from '#work/people/person.ts';
import { sayPeel } from '#work/vinyls/leaflet.ts';
import { addRecipe } from '#work/vinyls/recipes.ts';
import { followSchool } from '#work/vinyls/schools.ts';
import { words } from '../../app/messages/index.ts';
import { form } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { job, someone, vinyl } from '../pressed.ts';

// What hands do by habit is no note: each way of each topic on the list changes the step of the job in which the hands need it.
ownHouse();
let person: Person;
beforeAll(async () => {
  person = await someone();
});
const one = '<svg viewBox="0 0 100 100"><rect width="100" height="100" fill="#1f3a5f"/></svg>';

/** What the step of a topic shows for a way, read off the job. */
const steps: Record<HandTopic | 'peel', (view: Awaited<ReturnType<typeof jobOf>>) => unknown> = {
  mat: ({ layers: [l] }) => words.jobSheet.mat.grip[l!.hands.mat as keyof typeof words.jobSheet.mat.grip],
  weeding: ({ layers: [l] }) =>
    words.jobSheet.weed.hands.weeding[l!.hands.weeding as keyof typeof words.jobSheet.weed.hands.weeding],
  margin: ({ layers: [l] }) =>
    words.jobSheet.weed.hands.margin[l!.hands.margin as keyof typeof words.jobSheet.weed.hands.margin],
  cover: ({ press }) => press.find((s) => s.does === 'layer')!.cover,
  lifts: ({ layers: [l] }) =>
    causesOf('came up', { proven: true, onMat: false, lifts: l!.hands.lifts as 'wait' | 'again' })[0]!.remedy,
  after: ({ press }) => press.find((s) => s.does === 'after')?.seconds ?? 'none',
  peel: ({ press }) => press.find((s) => s.does === 'layer')!.peel,
};
/** What each way is to look like there. */
const wanted: Record<string, unknown> = {
  'cover bare': 'its own carrier',
  'cover covered': 'its own carrier, and baking paper over all',
  'lifts wait': 'wait and peel',
  'lifts again': 'press again',
  'after none': 'none',
  'after short': 15,
  'after long': 30,
};

describe('every way of every topic', () => {
  test.each([...handTopics, 'peel'] as const)('%s', async (topic) => {
    for (const type of ['smooth', 'glitter'] as const) {
      const ways = topic === 'peel' ? peels : (handSchools(type)[topic] ?? []).map((s) => s.key);
      const seen = new Set<unknown>();
      for (const way of ways) {
        const id = await vinyl(person, `${topic} ${way} ${type}`, type);
        if (topic === 'peel') await sayPeel(person, id, form({ peel: way }));
        else await followSchool(person, id, form({ topic, way }));
        const shown = steps[topic](await jobOf(person, await job(person, [id], { svg: one })));
        expect(shown, `${topic} ${way}`).toBeDefined();
        if (topic === 'peel') expect(shown).toBe(way);
        else if (`${topic} ${way}` in wanted) expect(shown).toBe(wanted[`${topic} ${way}`]);
        seen.add(shown);
      }
      // No two ways look alike there.
      expect(seen.size).toBe(ways.length);
    }
  });

  test('how wide the carrier is left also as one’s recipe says; a way one follows is nearer', async () => {
    const id = await vinyl(person, 'recipe');
    const made = await job(person, [id], { svg: one });
    const margin = async () => (await jobOf(person, made)).layers[0]!.hands.margin;
    expect(await margin()).toBeUndefined();
    await addRecipe(person, id, form({ heat: '305', unit: 'F', from: '12', to: '12', margin: 'kept', surface: '' }));
    expect(await margin()).toBe('kept');
    await followSchool(person, id, form({ topic: 'margin', way: 'trimmed' }));
    expect(await margin()).toBe('trimmed');
  });
});
