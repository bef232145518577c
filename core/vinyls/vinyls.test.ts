import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { fahrenheitToMilliCelsius } from '../units/index.ts';
import { edits } from './likeness.ts';
import {
  behaviourFor,
  behaviourOf,
  blankKeys,
  blanks,
  fullWays,
  nameLikeness,
  onlyDifferent,
  overridesSchema,
  sameName,
  suitsBlank,
  vinylTypeKeys,
  type BlankKey,
  type VinylTypeKey,
} from './index.ts';

describe('what is said of one vinyl', () => {
  test('counts before its own type, that before the shipped one; nothing said follows the type', () => {
    expect(behaviourFor('smooth')).toEqual(behaviourOf('smooth'));
    const own = { mat: 'high grip', filmUm: 120 } as const;
    expect(behaviourFor('smooth', own, { filmUm: 140 })).toMatchObject({
      mat: 'high grip',
      filmUm: 140,
      carrierUm: 75,
    });
    expect(behaviourFor('smooth', undefined, {})).toEqual(behaviourOf('smooth'));
  });
  test('only what differs from the type is kept', () => {
    expect(onlyDifferent(behaviourOf('glitter'), { filmUm: 250, mat: 'high grip', tack: 'medium' })).toEqual({
      mat: 'high grip',
    });
  });
  test.each([
    [{ heat: { from: 170_000, to: 150_000 } }, 'the coldest press is above the hottest'],
    [{ press: [{ seconds: [20, 10], cover: 'x', peel: 'hot' }] }, 'the first number of seconds'],
    [{ filmUm: -1 }, ''],
    [{ colour: 'red' }, ''],
  ])('%j is refused', (said, why) => {
    const parsed = overridesSchema.safeParse(said);
    expect(parsed.success).toBe(false);
    expect(parsed.error!.issues[0]!.message).toContain(why);
  });
});

describe('facts of the types', () => {
  test.each([...vinylTypeKeys])('%s: sizes, heats and reasons hang together', (key) => {
    const b = behaviourOf(key);
    expect(b.filmUm).toBeGreaterThan(0);
    expect(b.factsBecause).not.toBe('');
    // Nothing is pressed that takes no heat, and the usual press lies within what it takes.
    expect(b.heat === undefined).toBe(b.carry === 'tape');
    for (const { way } of fullWays(b.press))
      if (way.heat !== undefined) {
        expect(way.heat).toBeGreaterThanOrEqual(b.heat!.from);
        expect(way.heat).toBeLessThanOrEqual(b.heat!.to);
      }
  });
  // Common practice, no source.
  test('puff grows, glitter wears a blade most, matless needs a length, two schools for translucent and metallic', () => {
    expect(behaviourOf('puff').growthUm).toBeGreaterThan(0);
    expect(Math.max(...vinylTypeKeys.map((k) => behaviourOf(k).wear))).toBe(behaviourOf('glitter').wear);
    expect(behaviourOf('matless').leadUm).toBeGreaterThan(0);
    for (const key of ['holographic', 'metallic-puff'] as const) expect(behaviourOf(key).cutSchools).toHaveLength(2);
  });
});

describe('what can be put on this', () => {
  const on = (type: VinylTypeKey, blank: BlankKey) => suitsBlank(behaviourOf(type), blanks[blank]);
  // Facts 5, 6 and 7. Source: common practice, no source.
  test.each<[VinylTypeKey, BlankKey, string]>([
    ['flock', 'long-fur', 'suits'],
    ['glitter', 'long-fur', 'suits'],
    ['smooth', 'long-fur', 'not'],
    ['smooth', 'short-fur', 'care'],
    ['smooth', 'plain-cloth', 'suits'],
    ['smooth', 'nylon', 'care'],
    ['metallic-puff', 'mesh', 'suits'],
    ['low-heat', 'nylon', 'care'],
    ['adhesive', 'glass', 'suits'],
    ['adhesive', 'plain-cloth', 'not'],
    ['adhesive', 'balloon', 'care'],
    ['smooth', 'glass', 'not'],
    ['smooth', 'wood', 'care'],
    ['low-heat', 'leather', 'care'],
    ['smooth', 'leather', 'care'],
    ['glitter', 'leather', 'care'],
    ['foil', 'leather', 'care'],
    ['reflective', 'stretch', 'not'],
    ['smooth', 'thin-bag', 'suits'],
    ['smooth', 'silk', 'not'],
    ['low-heat', 'silk', 'suits'],
    ['holographic', 'foam', 'care'],
    ['faux-leather', 'plain-cloth', 'not'],
    ['faux-leather', 'card', 'care'],
    ['flock', 'cap', 'care'],
    ['metallic-puff', 'cap', 'not'],
  ])('%s on %s: %s', (type, blank, verdict) => expect(on(type, blank)).toMatchObject({ verdict }));
  test('what is said of a place is what a crafter would say', () => {
    expect(on('foil', 'leather').reasons[0]).toMatch(/^265 °F .*10 s a layer, covered/);
    expect(on('holographic', 'foam').reasons.join(' ')).toMatch(/18 s at 320 °F/);
    expect(on('smooth', 'cap').reasons.join(' ')).toMatch(/wide.*marks of the press/);
    expect(on('glitter', 'cap').reasons.join(' ')).toMatch(/may cross the centre seam/);
    expect(blanks['plain-cloth'].word).toMatch(/flat tea towel/);
  });
  test('every answer has a reason and says what it rests on; on one blank the vinyls it suits are not all praised alike', () => {
    for (const blank of blankKeys) {
      const suits = vinylTypeKeys.map((type) => on(type, blank)).filter((s) => s.verdict === 'suits');
      for (const type of vinylTypeKeys) {
        const { reasons, rests } = on(type, blank);
        for (const reason of reasons) expect(reason).toMatch(/\.$/);
        expect(['common practice', 'heat']).toContain(rests);
      }
      for (const s of suits) expect(s.reasons.join(' ')).not.toMatch(/within/);
    }
  });
  test('heats nearer than presses differ are one heat; one that nobody said of the vinyl forbids nothing', () => {
    // 325 °F on what takes 320 °F.
    expect(on('glitter', 'long-fur').reasons.join(' ')).not.toMatch(/more than this takes/);
    for (const type of vinylTypeKeys)
      for (const blank of blankKeys.filter((k) => blanks[k].heat !== undefined))
        if (on(type, blank).rests === 'heat') expect(on(type, blank).verdict).toBe('care');
    const said = behaviourFor('glitter', { heat: { from: 165_000, to: 170_000 } });
    expect(suitsBlank(said, blanks.silk)).toMatchObject({ verdict: 'not', rests: 'heat' });
    expect(suitsBlank(said, blanks.silk).reasons[0]).toBe(
      'It wants at least 329 °F (165 °C); this takes 280 °F (138 °C) at most, we think.',
    );
  });
  test('what is said of the vinyl itself counts: a cool one may go where its type may not', () => {
    const cool = behaviourFor('foil', {
      heat: { from: fahrenheitToMilliCelsius(255), to: fahrenheitToMilliCelsius(270) },
      press: [{ heat: fahrenheitToMilliCelsius(260), seconds: [10, 10], cover: 'x', peel: 'cool' }],
    });
    expect(suitsBlank(cool, blanks.leather).verdict).toBe('care');
  });
});

describe('names that may be the same', () => {
  // Published pairs with their distance: Damerau (1964) names the four kinds of error; the pairs are ours.
  test.each([
    ['drift', 'drfit', 1],
    ['plain', 'plian', 1],
    ['starling', 'starlng', 1],
    ['kitten', 'sitting', 3],
    ['', 'abc', 3],
  ])('edits %s → %s: %i', (a, b, n) => expect(edits(a, b)).toBe(n));
  test.each([
    ['Ferrule & Sons Starling', 'ferrule and sons starling', true],
    ['Quillow Drift', 'Drift Quillow', true],
    ['Quillow Drift', 'Quilow Drfit', true],
    ['Larkfield Soft Film', 'Larkfield Softfilm', true],
    ["Ha'penny Roll", 'Hapenny Roll', true],
    ['Quillow Drift', 'Quillow Drift Deep', false],
    ['Plain', 'Plain Wide', false],
    ['Otterley Cling', 'Pagewell Dark', false],
    ['', '', false],
  ])('%s = %s: %s', (a, b, same) => expect(sameName(a, b)).toBe(same));
  test('likeness is the same both ways, one for itself, between nothing and one', () => {
    const name = fc.string({ unit: fc.constantFrom(...'abcde fgh'.split('')), minLength: 1, maxLength: 14 });
    fc.assert(
      fc.property(name, name, (a, b) => {
        const l = nameLikeness(a, b);
        expect(l).toBeCloseTo(nameLikeness(b, a), 12);
        expect(l).toBeGreaterThanOrEqual(0);
        expect(l).toBeLessThanOrEqual(1);
        if (a.trim()) expect(nameLikeness(a, a)).toBeCloseTo(1, 12);
      }),
    );
  });
});
