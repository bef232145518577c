import { describe, expect, test } from 'vitest';
import { fahrenheitToMilliCelsius as f, milliCelsiusToFahrenheit } from '../units/index.ts';
import {
  behaviourOf,
  blanks,
  fullPress,
  fullWays,
  handSchools,
  handTopics,
  saySeconds,
  suitsBlank,
  vinylTypeKeys,
  vinylTypes,
  type VinylTypeKey,
} from './index.ts';

describe('every type', () => {
  test.each([...vinylTypeKeys])('%s: side, cut and press fit together', (key) => {
    const b = behaviourOf(key);
    // What is cut from the back lies with its face or its carrier down, and the other way about.
    expect(vinylTypes[key].cutFrom === 'back').toBe(b.side !== 'backing down');
    expect(b.tips.length).toBeGreaterThan(0);
    expect(b.because).not.toBe('');
    for (const way of b.press) {
      if (way.seconds) expect(way.seconds[0]).toBeLessThanOrEqual(way.seconds[1]);
      // Nothing that is ironed on is pressed colder than 250 °F or hotter than 400 °F.
      if (way.heat !== undefined) {
        const fahrenheit = milliCelsiusToFahrenheit(way.heat);
        expect(fahrenheit).toBeGreaterThan(250);
        expect(fahrenheit).toBeLessThan(400);
      }
    }
    // Adhesive film is never pressed; all else is, or serves as a ground for what is.
    expect(b.press.length > 0).toBe(b.bond !== 'sticks');
  });
  // Check values of the trade. Source: common practice, no source.
  test.each([
    ['smooth', 305, [10, 15], 'by the leaflet'],
    ['glitter', 325, undefined, 'by the leaflet'],
    ['puff', 280, [8, 8], 'by the leaflet'],
    ['holographic', 320, [15, 20], 'cold'],
    ['low-heat', 265, [5, 5], 'lukewarm'],
    ['printable', 374, [12, 12], 'cool'],
    ['glitter-printable', 310, [15, 20], 'cool'],
    ['matless', 315, [30, 30], 'cool'],
    ['metallic-puff', 300, [10, 10], 'cold'],
  ] as const)('%s is pressed as crafters press it', (key, fahrenheit, seconds, peel) => {
    const way = fullPress(behaviourOf(key).press);
    expect(milliCelsiusToFahrenheit(way!.heat!)).toBeCloseTo(fahrenheit, 2);
    expect([way!.seconds, way!.peel]).toEqual([seconds, peel]);
  });
  const fahrenheits = (key: VinylTypeKey, purpose: string) =>
    behaviourOf(key).press.flatMap((w) =>
      (w.purpose ?? 'full') === purpose && w.heat !== undefined ? [Math.round(milliCelsiusToFahrenheit(w.heat))] : [],
    );

  // Fact 1. Source: common practice, no source.
  test('a tack is not a press: where only a tack is known no full press is said', () => {
    for (const key of ['smooth-glitter', 'reflective'] as const) {
      expect(fullPress(behaviourOf(key).press)).toBeUndefined();
      expect(fahrenheits(key, 'tack')).toEqual([300]);
    }
    expect(fullPress(behaviourOf('foil').press)).toBeUndefined();
    for (const key of ['smooth', 'glitter', 'foil'] as const)
      expect(fahrenheits(key, 'on faux leather')).toEqual([265]);
    // Whoever follows a way that is there no more, or none, is still shown a full one.
    expect(fullPress(behaviourOf('smooth').press, 'gone')).toBe(behaviourOf('smooth').press[0]);
    expect(fullPress(behaviourOf('smooth').press, '350 30')).toBe(behaviourOf('smooth').press[1]);
    // Every shipped way has a key of its own within its type; what somebody wrote without one is known by its place.
    for (const type of vinylTypeKeys) {
      const keys = fullWays(behaviourOf(type).press).map((w) => w.key);
      expect(new Set(keys).size, type).toBe(keys.length);
      expect(
        keys.every((k) => /^[a-z0-9 -]{1,40}$/.test(k) && !k.startsWith('way ')),
        type,
      ).toBe(true);
    }
    expect(fullWays([{ cover: 'x', peel: 'hot' }])).toMatchObject([{ key: 'way 1' }]);
    expect(fullPress([{ cover: 'x', peel: 'hot' }])).toBeDefined();
  });
  // Fact 2. Source: common practice, no source.
  test('printables: the one with grain cooler, without a mask, three ways of cutting, the plain one on cotton', () => {
    const glitter = fullPress(behaviourOf('glitter-printable').press)!;
    expect(milliCelsiusToFahrenheit(glitter.upTo!)).toBeCloseTo(330, 2);
    for (const key of ['printable', 'glitter-printable'] as const) {
      expect(behaviourOf(key).carry).toBe('none');
      expect(behaviourOf(key).cutSchools).toHaveLength(3);
      expect(behaviourOf(key).tips.some((t) => t.at === 'backing' && t.says.includes('mask'))).toBe(true);
    }
    expect(behaviourOf('glitter-printable').cutSchools[0]!.key).toBe('glitter-more');
    expect(suitsBlank(behaviourOf('printable'), blanks['plain-cloth']).verdict).toBe('suits');
  });
  // Fact 5. Source: common practice, no source.
  test('metallic puff: a hard board, never in parts, so not on a cap; care on a thin bag; raised by a second press', () => {
    const b = behaviourOf('metallic-puff');
    expect(b.tips[0]!.says).toMatch(/hard smooth board.*never in parts/);
    expect(suitsBlank(b, blanks.cap)).toMatchObject({ verdict: 'not' });
    expect(suitsBlank(b, blanks['thin-bag']).verdict).toBe('care');
    // Two ways, each a sequence with figures of its own: tacked cold and raised; or pressed, raised, and asked.
    const ways = b.press.map((w) => [w, ...(w.next ?? [])].map((p) => [p.heat, p.seconds![0], p.pressure, p.ask]));
    expect(ways).toEqual([
      [
        [f(300), 10, 'heavy', undefined],
        [f(300), 10, 'heavy', undefined],
      ],
      [
        [f(280), 8, 'heavy', undefined],
        [f(280), 8, 'heavy', undefined],
        [f(280), 8, 'heavy', 'Risen all over?'],
      ],
    ]);
    for (const w of b.press) expect(w.support).toBe('hard board');
  });
  // Fact 8. Source: common practice, no source.
  test('a reason nobody gave is not given', () => {
    expect(behaviourOf('metallic-puff').cutSchools.every((s) => s.because === undefined)).toBe(true);
    expect(behaviourOf('holographic').cutSchools.map((s) => s.because)).toEqual([
      'it is thicker',
      'cut as glitter it came out less well',
    ]);
  });
  // Fact 9. Source: common practice, no source.
  test('four ways to press plain film, one for puff; a lead for matless; each layer on faux leather peeled at once', () => {
    expect(fahrenheits('smooth', 'full')).toEqual([305, 350, 315, 330]);
    expect(fullWays(behaviourOf('puff').press)).toHaveLength(1);
    expect(behaviourOf('smooth').press.every((w) => w.pressure === undefined)).toBe(true);
    expect(behaviourOf('matless').leadUm).toBe(43_000);
    expect(fullPress(behaviourOf('faux-leather').press)).toBeUndefined();
    expect(behaviourOf('faux-leather').press[0]!.then).toMatch(/at once.*after the last/);
    expect(behaviourOf('low-heat').because).toMatch(/quick/);
    expect(
      behaviourOf('adhesive')
        .tips.map((t) => t.says)
        .join(' '),
    ).toMatch(/On a round one slit the transfer tape, never the film/);
  });
  // Fact 10. Source: common practice, no source.
  test('ways of the hand: mat, weeding, cover, margin, what to do when it lifts, what follows; never how it is peeled', () => {
    expect(handSchools('smooth').mat!.map((s) => s.key)).toEqual(['light', 'ordinary']);
    expect(handSchools('glitter').mat!.map((s) => s.key)).toEqual(['ordinary', 'high grip']);
    expect(Object.keys(handSchools('smooth'))).toEqual([...handTopics]);
    expect(Object.keys(handSchools('adhesive'))).toEqual(['weeding']);
    for (const key of vinylTypeKeys)
      for (const schools of Object.values(handSchools(key))) expect(schools.length).toBeGreaterThan(1);
    expect(behaviourOf('smooth').cutSchools.map((s) => s.key)).toEqual(['as-it-is', 'one-more']);
  });
});

test('seconds are said as people say them', () => {
  expect([saySeconds([10, 10]), saySeconds([15, 20]), saySeconds(undefined)]).toEqual([
    '10 s',
    '15 to 20 s',
    'time not said',
  ]);
});
