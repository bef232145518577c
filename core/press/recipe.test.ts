import { describe, expect, it } from 'vitest';
import { fahrenheitToMilliCelsius as f } from '../units/index.ts';
import { behaviourOf, type PressWay } from '../vinyls/index.ts';
import {
  beyond,
  evidenceOf,
  recipeInputSchema,
  recipes,
  recipeStanding,
  sameWay,
  type Pressed,
  sayHeld,
  type PressOutcome,
  type PressWord,
} from './recipe.ts';

const way: PressWay = { heat: f(305), seconds: [15, 15], pressure: 'medium', cover: 'its own carrier', peel: 'warm' };
const seen = (day: string, piece: string, word: PressWord, more: Partial<PressOutcome> = {}): PressOutcome => ({
  day,
  person: 'ottoline',
  piece,
  of: `job of ${day}`,
  kind: 'job',
  way,
  word,
  ...more,
});
const days = [
  '2026-10-01',
  '2026-10-05',
  '2026-10-09',
  '2026-10-13',
  '2026-10-17',
  '2026-10-21',
  '2026-10-25',
  '2026-10-29',
  '2026-11-02',
  '2026-11-06',
];
const ON = '2026-11-20';

describe('where a recipe stands (planted outcomes; the rule is that of settings)', () => {
  const good = days.map((d) => seen(d, 'front', 'bonded'));
  it('nobody, tried, proven, then doubted by two that came off in the wash', () => {
    const at = (outcomes: PressOutcome[]) => recipeStanding(way, outcomes, ON).standing;
    expect(at([])).toBe('draft');
    expect(at(good.slice(0, 2))).toBe('tried');
    expect(at(good)).toBe('proven');
    const bad = [seen('2026-11-10', 'back', 'came off in the wash'), seen('2026-11-12', 'back', 'not bonded')];
    expect(at([...good, ...bad])).toBe('doubted');
    expect(sayHeld(recipeStanding(way, [...good, ...bad], ON))).toBe(
      'Doubted: it failed lately; held on 10 of 12 pieces, on 12 days.',
    );
  });
  it('twelve shirts of one afternoon are neither one nor twelve', () => {
    const batch = Array.from({ length: 12 }, (_, i) => seen('2026-11-01', `shirt ${i}`, 'bonded'));
    expect(recipeStanding(way, batch, ON).standing).toBe('tried');
  });
  it('of one piece the last word counts, and what the press is not to blame for counts nothing', () => {
    const washed = [
      seen('2026-11-01', 'front', 'bonded'),
      seen('2026-11-03', 'front', 'came off in the wash', { of: 'job of 2026-11-01' }),
    ];
    expect(evidenceOf(washed).map((e) => e.outcome)).toEqual(['failed']);
    expect(evidenceOf([seen('2026-11-01', 'front', 'slipped')])).toEqual([]);
  });
  it('what was pressed otherwise says nothing of it; near enough is the same', () => {
    const other = (more: Partial<PressWay>) => sameWay(way, { way: { ...way, ...more } });
    expect(other({ heat: f(310) })).toBe(true);
    expect(other({ heat: f(350) })).toBe(false);
    expect(other({ seconds: [17, 17] })).toBe(true);
    expect(other({ seconds: [30, 30] })).toBe(false);
    expect(other({ peel: 'cold' })).toBe(false);
    expect(other({ pressure: undefined })).toBe(true);
    const hot = days.map((d) => seen(d, 'front', 'scorched', { way: { ...way, heat: f(380) } }));
    expect(recipeStanding(way, [...good, ...hot], ON).standing).toBe('proven');
  });
});

describe('recipes of a vinyl on a fabric', () => {
  const ask = (more: object) =>
    recipes(
      recipeInputSchema.parse({ format: 'versipel-recipe/1', on: ON, type: 'smooth', surface: 'plain-cloth', ...more }),
    );
  it('a way of several presses is told apart press by press; one behind a question may be left out; one far off says nothing', () => {
    const next = { heat: f(280), seconds: [8, 8] as [number, number], cover: 'baking paper', peel: 'warm' as const };
    const raised = { ...next, next: [next, { ...next, ask: 'Risen all over?' }] };
    const done = { heat: f(280), seconds: [8, 8] as [number, number], peel: 'warm' as const };
    const so = (...presses: Pressed[]) => sameWay(raised, { way: presses[0]!, presses });
    expect([so(done), so(done, done), so(done, done, done), so(done, done, done, done)]).toEqual([
      false,
      true,
      true,
      false,
    ]);
    expect(so(done, { ...done, heat: f(300) })).toBe(false);
    expect(so(done, { ...done, seconds: [3, 3], meant: 8 })).toBe(false);
    // Within its stated range, and yet far off what it was meant to be: a way of its own.
    const range = { ...next, seconds: [10, 15] as [number, number] };
    expect(sameWay(range, { way: { ...done, seconds: [11, 11] } })).toBe(true);
    expect(sameWay(range, { way: { ...done, seconds: [11, 11], meant: 15 } })).toBe(false);
    // Of older outcomes only the press that holds it is known.
    expect(sameWay(raised, { way: done })).toBe(true);
  });
  it('the schools of its type stand side by side; the proven one comes first', () => {
    expect(ask({}).recipes.map((r) => r.standing.standing)).toEqual(['draft', 'draft', 'draft', 'draft']);
    const hot = {
      heat: f(350),
      seconds: [30, 30] as [number, number],
      pressure: 'medium' as const,
      peel: 'hot' as const,
    };
    const proven = ask({ outcomes: days.map((day) => ({ day, piece: 'front', of: day, way: hot, word: 'bonded' })) })
      .recipes[0]!;
    expect(proven).toMatchObject({
      says: expect.stringMatching(/^350 °F \(177 °C\), 30 s/),
      standing: { standing: 'proven' },
    });
  });
  it('thin lines take the longer time of those that are said', () => {
    expect(ask({ thinUm: 900 }).recipes[0]!.seconds).toBe(15);
    expect(ask({ thinUm: 20_000 }).recipes[0]!.seconds).toBe(10);
  });
  it('what neither film nor fabric bears is said', () => {
    expect(beyond({ ...way, heat: f(380) }, behaviourOf('smooth').heat, 'silk')).toEqual([
      'This vinyl takes 350 °F (177 °C) at most, as its type goes.',
      'Silk, viscose takes 280 °F (138 °C) at most, we think.',
    ]);
    expect(beyond(way, behaviourOf('smooth').heat, 'plain-cloth')).toEqual([]);
  });
});
