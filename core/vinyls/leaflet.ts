import { z } from 'zod';
import type { PressWay } from './behaviour.ts';
import { heatLimits, peels, pressures } from './overrides.ts';

const seconds = z.int().min(1).max(180);
const oneLine = (max: number) =>
  z
    .string()
    .max(max)
    .regex(/^[^\p{Cc}\u2028\u2029]*$/u, 'one line without control characters');

/** When what was pressed may be washed first. Common practice, no source: a day later; by some leaflets at once. */
export const washes = ['a day later', 'at once'] as const;

/**
 * What a maker says of its vinyl, as it stands in the leaflet: a source of its own beside what crafters do, never mixed with it.
 * Heat in m°C, time in seconds.
 */
export const leafletSchema = z.strictObject({
  source: oneLine(120).describe('where it stands: "leaflet in the pack, spring 2026"').default(''),
  heat: z.int().min(heatLimits.min).max(heatLimits.max).optional(),
  seconds: z
    .tuple([seconds, seconds])
    .refine(([from, to]) => from <= to, { message: 'the first number of seconds is the smaller one' })
    .optional(),
  pressure: z.enum(pressures).optional(),
  peel: z.enum(peels).optional(),
  blade: z.int().min(15).max(75).describe('angle of the blade, degrees').optional(),
  passes: z.int().min(1).max(20).describe('how often to go round').optional(),
  wash: z.enum(washes).optional().describe('when it may be washed first'),
  /** What else it says about cutting, in its own words. */
  cut: oneLine(200).optional(),
});
export type Leaflet = z.infer<typeof leafletSchema>;

/** How somebody here does it: the way of pressing they follow, and how they peel, where they said. */
export type PressVoice = {
  way?: Pick<PressWay, 'heat' | 'seconds' | 'pressure' | 'peel'> | undefined;
  peel?: string | undefined;
};

/** What somebody here cut it with, where they shared that. */
export type CutVoice = { blade?: number | undefined; passes?: number | undefined };

export const leafletDefaults = {
  /** Heats nearer than this are the same heat: presses differ by as much over one plate, m°C. Common practice, no source. */
  heat: 6000,
  /** Times nearer than this share of the longer one are the same time. */
  seconds: 0.2,
  /** Blades are sold in steps of 15 degrees: nearer than half of that they are of one kind. Common practice, no source. */
  blade: 7.5,
  /** Fewer voices than this are said as they are, and contradict nobody. */
  voices: 3,
};

/** Hot from the press, warm, or cooled: what matters is which of the three. */
export type PeelKind = 'hot' | 'warm' | 'cool';
const peelKinds: Record<string, PeelKind> = { hot: 'hot', warm: 'warm', lukewarm: 'warm', cool: 'cool', cold: 'cool' };
export const peelKind = (peel: string | undefined): PeelKind | undefined =>
  peel === undefined ? undefined : peelKinds[peel];

export type Beside<T> = {
  leaflet: T;
  /** How many here said anything of it, how many do as it says, and what most of the others do. */
  voices: number;
  alike: number;
  most: { value: T; n: number } | undefined;
  /** Whether most crafters here do otherwise. */
  contradicts: boolean;
};
export type LeafletBeside = {
  peel: Beside<PeelKind> | undefined;
  heat: Beside<number> | undefined;
  seconds: Beside<number> | undefined;
  pressure: Beside<string> | undefined;
  blade: Beside<number> | undefined;
  passes: Beside<number> | undefined;
};

/**
 * What a maker says beside what crafters here do, thing by thing. Neither changes the other.
 *
 * @param voices one a crafter; what somebody said of the peel outweighs the peel of the way they follow
 * @param cuts one a crafter who shared a number for it or said how somebody's came out
 * @returns for each thing the leaflet speaks of the count of those who do as it says, and what most others do
 */
export function besideLeaflet(
  leaflet: Leaflet,
  voices: readonly PressVoice[],
  cuts: readonly CutVoice[] = [],
): LeafletBeside {
  const beside = <T extends string | number>(
    said: T | undefined,
    here: readonly (T | undefined)[],
    same: (a: T, b: T) => boolean = (a, b) => a === b,
  ): Beside<T> | undefined => {
    if (said === undefined) return undefined;
    const heard = here.filter((v) => v !== undefined);
    const others = heard.filter((v) => !same(v, said));
    const counts = new Map<T, number>();
    for (const v of others) counts.set(v, (counts.get(v) ?? 0) + 1);
    const most = [...counts].sort((a, b) => b[1] - a[1])[0];
    return {
      leaflet: said,
      voices: heard.length,
      alike: heard.length - others.length,
      most: most && { value: most[0], n: most[1] },
      contradicts: heard.length >= leafletDefaults.voices && others.length > heard.length / 2,
    };
  };
  const mean = (s: readonly [number, number] | undefined) => s && (s[0] + s[1]) / 2;
  return {
    peel: beside(
      peelKind(leaflet.peel),
      voices.map((v) => peelKind(v.peel) ?? peelKind(v.way?.peel)),
    ),
    heat: beside(
      leaflet.heat,
      voices.map((v) => v.way?.heat),
      (a, b) => Math.abs(a - b) < leafletDefaults.heat,
    ),
    seconds: beside(
      mean(leaflet.seconds),
      voices.map((v) => mean(v.way?.seconds)),
      (a, b) => Math.abs(a - b) <= leafletDefaults.seconds * Math.max(a, b),
    ),
    pressure: beside<string>(
      leaflet.pressure,
      voices.map((v) => v.way?.pressure),
    ),
    blade: beside(
      leaflet.blade,
      cuts.map((c) => c.blade),
      (a, b) => Math.abs(a - b) < leafletDefaults.blade,
    ),
    passes: beside(
      leaflet.passes,
      cuts.map((c) => c.passes),
    ),
  };
}
