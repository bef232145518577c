import { describe, expect, it } from 'vitest';
import { fahrenheitToMilliCelsius as f } from '../units/index.ts';
import {
  kgFor,
  levelsOf,
  pressureOf,
  rankSources,
  setFor,
  warmthOf,
  type HeatSource,
  type PressNeed,
} from './heatSource.ts';

const source = (more: Partial<HeatSource>): HeatSource => ({
  id: 'plate',
  name: 'Big plate',
  kind: 'plate',
  widthUm: 380_000,
  lengthUm: 380_000,
  hottest: 220_000,
  shows: 'F',
  off: 0,
  levels: [],
  uneven: 0,
  ...more,
});
const iron = source({ id: 'iron', kind: 'iron', widthUm: 100_000, lengthUm: 200_000, levels: levelsOf('iron', []) });
const need: PressNeed = { from: f(300), to: f(330), widthUm: 250_000, heightUm: 250_000, cap: false, relief: false };

describe('what to set on one’s own press', () => {
  it('degrees as its display shows them, in its own scale; a plate that shows too little is set lower', () => {
    expect(setFor(source({}), f(305)).says).toBe('305 °F');
    expect(setFor(source({ shows: 'C', off: 4_000 }), 152_000).says).toBe('148 °C');
  });
  it('a word that was measured takes the place of what it usually means (irons: ISO 3758, from memory)', () => {
    expect(levelsOf('iron', []).map((l) => l.heat)).toEqual([110_000, 150_000, 200_000]);
    const mine = levelsOf('iron', [{ word: 'cotton', heat: 168_000, how: 'thermometer' }]);
    expect(setFor({ ...iron, levels: mine }, 165_000)).toMatchObject({ says: 'cotton', truly: 168_000 });
  });
  it('small presses: low is about 265 °F (common practice, no source)', () => {
    expect(levelsOf('small press', [])[0]).toMatchObject({ word: 'low', heat: f(265) });
  });
});

describe('which press to take, and why (common practice, no source)', () => {
  it('the plate that closes over all of it; an iron nobody measured comes after', () => {
    const [first, second] = rankSources([iron, source({})], need);
    expect(first).toMatchObject({ id: 'plate', fits: true, because: expect.stringMatching(/closes over all/) });
    expect(second).toMatchObject({ id: 'iron', fits: true, because: expect.stringMatching(/measured/) });
  });
  it('what is too cool does not fit; what rises wants a plate; a cap no plate', () => {
    expect(rankSources([source({ hottest: f(280) })], need)[0]).toMatchObject({
      fits: false,
      because: expect.stringMatching(/280 °F/),
    });
    expect(rankSources([iron], { ...need, relief: true })[0]!.fits).toBe(false);
    // Tiny puff by iron is done; large metallic puff failed under hand presses (common practice, no source).
    const tiny = rankSources([iron], { ...need, relief: true, widthUm: 60_000, heightUm: 40_000 })[0]!;
    expect(tiny.fits).toBe(true);
    const hand = source({ id: 'h', kind: 'hand press' });
    const large = (widthUm: number) =>
      rankSources([hand], { ...need, relief: true, metallic: true, widthUm, heightUm: 40_000 })[0]!.because;
    expect(large(250_000)).toMatch(/failed under hand presses/);
    expect(large(60_000)).not.toMatch(/failed/);
    expect(rankSources([source({}), source({ id: 'cap', kind: 'cap press' })], { ...need, cap: true })[0]!.id).toBe(
      'cap',
    );
  });
  it('an uneven plate comes after an even one', () => {
    const [first, second] = rankSources([source({ id: 'old', uneven: 12_000 }), source({})], need);
    expect([first!.id, second!.because]).toEqual(['plate', 'Its coolest place has 12 °C less than its middle.']);
  });
});

describe('pressure and change of heat in hand terms', () => {
  it('kg on a bathroom scale to pressure and back: p = m·g/A (standard gravity, ISO 80000-3)', () => {
    expect(pressureOf(40, 0.16e12)).toBeCloseTo(2.4517, 3);
    // The same pressure under a plate of a quarter of the size takes a quarter of the weight.
    expect(kgFor(pressureOf(40, 0.16e12), 0.04e12)).toBeCloseTo(10, 9);
  });
  it('its own log says how fast it changes once it has two of a kind', () => {
    expect(warmthOf([{ from: 100_000, to: 120_000, seconds: 40 }])).toMatchObject({ warm: 3, cool: 6 });
    const log = [40, 60, 50].map((seconds) => ({ from: 100_000, to: 120_000, seconds }));
    expect(warmthOf([...log, { from: 150_000, to: 100_000, seconds: 7_200 }])).toEqual({
      warm: 2.5,
      cool: 6,
      timed: 3,
    });
  });
});
