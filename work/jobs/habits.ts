import { z } from 'zod';
import {
  bySize,
  evenLength,
  placeTopics,
  shapeKeys,
  shapes,
  type PlaceHabits,
  type PlaceTopic,
  type ShapeKey,
} from '#core/place/index.ts';
import { layerSchools, type LayerSchool } from '#core/press/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/jobs/habits.ts';
import * as vinylStore from '#store/vinyls/vinyls.ts';
import { Invalid } from '#work/base/errors.ts';
import { optionalId, read } from '#work/base/forms.ts';
import type { Person } from '#work/people/person.ts';
import { vinylRow } from '#work/vinyls/vinyls.ts';

/** What somebody does by habit, whatever the vinyl. */
export type Habits = { place: PlaceHabits; layers: LayerSchool | undefined };

/** How often in a row something is done alike before it is offered as a habit. */
const ALIKE = 3;
/** Lengths nearer than this are one length to a hand, µm: an eighth of an inch. Judgement. */
const SAME_LENGTH = 3_200;

const topicOf = (topic: PlaceTopic, shape: ShapeKey) => `${topic} ${shape}`;

/** How somebody places designs on a shape, and presses layers, where they have said so. */
export async function habitsIn(person: Person | undefined, shape: ShapeKey): Promise<Habits> {
  const ways = person ? await store.ownWays(db(), person.id) : [];
  const said = (topic: string) => ways.find((w) => w.topic === topic)?.way || undefined;
  return {
    place: Object.fromEntries(
      placeTopics.flatMap((topic) => {
        const way = said(topicOf(topic, shape));
        return way ? [[topic, way]] : [];
      }),
    ) as PlaceHabits,
    layers: layerSchools.find((s) => s === said('layers')),
  };
}

/** Something that was done alike several times running: offered as a habit, never taken for one. */
export type Offer = { topic: PlaceTopic | 'layers' | 'lifts'; way: string; says: string; vinyl?: string };

/** What could be a habit of somebody's by now; nothing that was answered before. */
export async function offersFor(
  person: Person | undefined,
  job: {
    shape: ShapeKey;
    side: string;
    unit: 'mm' | 'in';
    vinyls: readonly { id: string; lifts: string | undefined }[];
  },
): Promise<Offer[]> {
  if (!person) return [];
  const [ways, places, schools, lifts] = await Promise.all([
    store.ownWays(db(), person.id),
    store.lastPlaces(db(), person.id, job, ALIKE),
    store.lastSchools(db(), person.id, ALIKE),
    store.lastLifts(db(), person.id, ALIKE),
  ]);
  const open = (topic: string) => !ways.some((w) => w.topic === topic);
  const offers: Offer[] = [];
  for (const topic of placeTopics) {
    // A side with a box of its own, as a name on the back, says nothing of the others.
    const known = shapes[job.shape].bySide?.[job.side] ? undefined : shapes[job.shape].ways?.[topic];
    if (!known || !open(topicOf(topic, job.shape)) || places.length < ALIKE) continue;
    // The first way is what is done anyhow.
    const way = known.slice(1).find(({ um }) =>
      places.every((p) => {
        const done = topic === 'drop' ? (p.from === 'below' ? p.down : null) : p.widthUm;
        const wanted = bySize(um, p.size);
        return (
          done !== null &&
          Math.min(Math.abs(done - wanted), Math.abs(done - evenLength(wanted, job.unit))) <= SAME_LENGTH
        );
      }),
    );
    if (way) offers.push({ topic, way: way.key, says: way.says });
  }
  const alike = <T>(of: readonly T[]) => (of.length >= ALIKE && of.every((x) => x === of[0]) ? of[0] : undefined);
  const school = alike(schools.map((s) => s.school));
  if (school && school !== 'tack' && open('layers')) offers.push({ topic: 'layers', way: school, says: school });
  const lift = alike(lifts.map((l) => l.remedy));
  const way = lift === 'wait and peel' ? 'wait' : lift && 'again';
  const vinyl = job.vinyls.find((v) => v.lifts === undefined);
  if (way && vinyl && open('lifts')) offers.push({ topic: 'lifts', way, says: way, vinyl: vinyl.id });
  return offers;
}

const habitForm = z.object({
  topic: z.enum([...placeTopics, 'layers', 'lifts']),
  way: z.string().max(40).default(''),
  shape: z.enum(shapeKeys),
  vinyl: optionalId,
});

/** Takes a habit on, or says that it is none: an empty way. What follows a vinyl is kept with the vinyl. */
export async function setHabit(person: Person, form: FormData): Promise<void> {
  const { topic, way, shape, vinyl } = read(habitForm, form);
  if (topic === 'lifts') {
    if (way !== '' && way !== 'wait' && way !== 'again') throw new Invalid({ form: 'There is no such way.' });
    if (way !== '' && vinyl)
      await vinylStore.followSchool(db(), person.id, (await vinylRow(person, vinyl)).id, 'lifts', way);
    else await store.setOwnWay(db(), person.id, 'lifts', '');
    return;
  }
  const known: readonly string[] =
    topic === 'layers' ? layerSchools : (shapes[shape].ways?.[topic] ?? []).map((w) => w.key);
  if (way !== '' && !known.includes(way)) throw new Invalid({ form: 'There is no such way.' });
  await store.setOwnWay(db(), person.id, topic === 'layers' ? topic : topicOf(topic, shape), way);
}
