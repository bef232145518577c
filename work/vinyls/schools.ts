import { z } from 'zod';
import { behaviourFor, fullWays, handSchools, handTopics, type VinylTypeKey } from '#core/vinyls/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/vinyls/vinyls.ts';
import { Invalid } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import { type Person, NOBODY } from '#work/people/person.ts';
import { vinylRow } from './vinyls.ts';

export type SchoolVoice = {
  way: string;
  followers: number;
  mine: boolean;
  names: string[];
  cuts: number;
  good: number;
};
const topics = ['press', 'cut', ...handTopics] as const;
export type Topic = (typeof topics)[number];
export type Schools = Record<Topic, SchoolVoice[]>;

/** Who follows which way for a vinyl, and what speaks for it. */
export async function schoolsOf(person: Person | undefined, vinylId: string): Promise<Schools> {
  const rows = await store.schoolsOf(db(), vinylId, person?.id ?? NOBODY);
  return Object.fromEntries(
    topics.map((topic) => [topic, rows.filter((r) => r.topic === topic).map(({ topic: _, ...voice }) => voice)]),
  ) as Schools;
}

/** Follows a way, or leaves it with an empty one. */
export async function followSchool(person: Person, vinylId: string, form: FormData): Promise<void> {
  const row = await vinylRow(person, vinylId);
  const { topic, way } = read(
    z.object({ topic: z.enum(topics), way: z.string().regex(/^[a-z0-9 -]{0,40}$/, 'There is no such way.') }),
    form,
  );
  const behaviour = behaviourFor(row.type as VinylTypeKey, row.own_behaviour ?? undefined, row.behaviour);
  const known =
    topic === 'press'
      ? [...fullWays(behaviour.press), ...fullWays(behaviour.press, true)].map(({ key }) => key)
      : topic === 'cut'
        ? behaviour.cutSchools.map((s) => s.key)
        : (handSchools(row.type as VinylTypeKey)[topic] ?? []).map((s) => s.key);
  if (way === '') return void (await store.leaveSchool(db(), person.id, row.id, topic));
  if (!known.includes(way)) throw new Invalid({ form: 'There is no such way for this vinyl.' });
  await store.followSchool(db(), person.id, row.id, topic, way);
}
