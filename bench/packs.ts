import { z } from 'zod';
import { shippedModels } from '#core/controls/index.ts';
import { PackError, parseGuarded, readPack, sealPack, writePack, type PackBody } from '#core/pack/index.ts';
import { seededRandom } from '#core/stats/index.ts';

/**
 * What reading a pack costs a megabyte, and what a hostile file costs, each against `JSON.parse` of an honest pack in the same run: a guard
 * that reads anything twice shows as a ratio that grows with the size of the file.
 */
export const casesSchema = z.strictObject({
  format: z.literal('versipel-pack-cases/1'),
  cards: z.array(z.int().min(1).max(2000)).min(1).describe('cards of honest packs'),
  hostile: z.array(z.enum(['deep', 'keys', 'quotes', 'escapes', 'digits', 'slashes', 'lines'])),
  megabytes: z.number().min(1).max(19).describe('size of a hostile file'),
  repeats: z.int().min(1).max(50),
});
type Cases = z.infer<typeof casesSchema>;

export const makeCases = (_seed: number, each: number): Cases => ({
  format: 'versipel-pack-cases/1',
  cards: [100, 400, 1600],
  hostile: ['deep', 'keys', 'quotes', 'escapes', 'digits', 'slashes', 'lines'],
  megabytes: 16,
  repeats: each,
});

const nym = (n: number) => `00000000-0000-8000-8000-${String(n).padStart(12, '0')}`;
const key = (kind: number, n: number) => `0190000${kind}-0000-7000-8000-${String(n).padStart(12, '0')}`;

/** Cards of twelve cells each on forty machines. */
function honest(cards: number, seed: number): string {
  const random = seededRandom(seed);
  const [model] = shippedModels;
  const setting = (force: number) => ({ model: model!.key, version: 1, steps: { force, speed: 4, passes: 1 } });
  const words = ['uncut', 'hangs', 'clean', 'scored', 'through'] as const;
  const body: PackBody = {
    format: 'versipel-pack/1',
    made: '2026-11-20T12:00:00.000Z',
    home: 'https://shelf.example',
    title: 'Made for measuring',
    author: 'Nobody',
    licence: 'cc0',
    people: Array.from({ length: 40 }, (_, i) => ({ key: nym(i), name: `Crafter ${i}` })),
    models: [model!],
    vinyls: Array.from({ length: cards }, (_, i) => ({
      key: key(1, i),
      brand: 'Quillow',
      name: `Sort ${i}`,
      type: 'smooth',
      recipe: {},
      nicknames: [],
      colours: [],
    })),
    cutters: Array.from({ length: 40 }, (_, i) => ({
      key: nym(100 + i),
      person: nym(i),
      model: { key: model!.key, version: 1 },
      scales: [],
    })),
    blades: [],
    cards: Array.from({ length: cards }, (_, i) => {
      const forces = Array.from({ length: 12 }, () => 60 + Math.floor(random.uniform() * 120));
      return {
        key: key(2, i),
        person: nym(i % 40),
        vinyl: key(1, i),
        wanted: 'clean',
        confirmations: [],
        versions: [
          {
            number: 1,
            published: '2026-11-18T09:30:00.000Z',
            change: '',
            licence: 'cc0',
            cutter: nym(100 + (i % 40)),
            vinyl: { brand: 'Quillow', name: `Sort ${i}`, type: 'smooth', colour: '', hex: '#b9b2a3' },
            setting: setting(110),
            conditions: '',
            asked: { target: {} },
            cells: forces.map((strength, k) => ({
              coupon: `cut${k % 3}`,
              strength,
              figures: [{ grades: [{ passes: 1, grade: words[Math.floor(strength / 37) % 5]! }] }],
            })),
            evidence: forces.map((force) => ({
              at: '2026-11-17T18:05:00.000',
              kind: 'coupon',
              setting: setting(force),
              passes: 1,
              grade: words[Math.floor(force / 37) % 5]!,
              angle: 45,
              colour: '',
              batch: '',
            })),
          },
        ],
      };
    }),
  };
  return writePack(sealPack(body));
}

function hostile(kind: Cases['hostile'][number], size: number): string {
  const fill = (part: string) => part.repeat(Math.ceil(size / part.length));
  switch (kind) {
    case 'deep':
      return fill('[');
    case 'keys':
      return `{${Array.from({ length: Math.floor(size / 14) }, (_, i) => `"k${i}":1`).join(',')}}`;
    case 'quotes':
      return `[${fill('"",')}""]`;
    case 'escapes':
      return `["${fill('\\u0041')}"]`;
    case 'digits':
      return `[${fill('9')}]`;
    case 'slashes':
      return `["${fill('\\\\')}"]`;
    case 'lines':
      return `{"a":[${fill('"b",\n')}"c"],"a":1}`;
  }
}

type Group = { case: string; megabytes: number; msPerMegabyte: number; ratio: number; said: string };

const timed = (work: () => void): number => {
  const from = performance.now();
  work();
  return performance.now() - from;
};
const median = (list: number[]): number => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)]!;

export function run(cases: Cases, seed: number): Group[] {
  const measure = (name: string, text: string, floor: number, work: () => void): Group => {
    const megabytes = text.length / 1e6;
    let said = 'read';
    const ms = median(
      Array.from({ length: cases.repeats }, () =>
        timed(() => {
          try {
            work();
          } catch (error) {
            if (!(error instanceof PackError)) throw error;
            said = error.message;
          }
        }),
      ),
    );
    return { case: name, megabytes, msPerMegabyte: ms / megabytes, ratio: ms / megabytes / floor, said };
  };
  const packs = cases.cards.map((n) => ({ n, text: honest(n, seed) }));
  const { text } = packs.at(-1)!;
  const floor =
    median(Array.from({ length: cases.repeats }, () => timed(() => JSON.parse(text)))) / (text.length / 1e6);
  return [
    ...packs.map(({ n, text: pack }) => measure(`${n} cards, read`, pack, floor, () => void readPack(pack))),
    ...packs.map(({ n, text: pack }) => measure(`${n} cards, guard`, pack, floor, () => void parseGuarded(pack))),
    ...cases.hostile.map((kind) => {
      const bad = hostile(kind, cases.megabytes * 1e6);
      return measure(kind, bad, floor, () => void readPack(bad));
    }),
  ];
}

export const table = (groups: Group[]): string =>
  groups
    .map(
      (g) =>
        `${g.case.padEnd(20)} ${g.megabytes.toFixed(1).padStart(5)} MB ${g.msPerMegabyte.toFixed(1).padStart(7)} ms/MB ${g.ratio.toFixed(1).padStart(6)} × JSON.parse  ${g.said.slice(0, 70)}`,
    )
    .join('\n');
