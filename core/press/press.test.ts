import { describe, expect, it } from 'vitest';
import { fahrenheitToMilliCelsius as f } from '../units/index.ts';
import {
  behaviourOf,
  blankKeys,
  blanks,
  suitsBlank,
  vinylTypeKeys,
  type Blank,
  type VinylTypeKey,
} from '../vinyls/index.ts';
import { pressDefaults } from './laidFilm.ts';
import { pressPlan } from './pressPlan.ts';
import type { LayerSchool } from './pressSequence.ts';
import { stackAdvice } from './stackAdvice.ts';
import { pairTrouble, stackTroubles, type Film } from './troubles.ts';

const film = (type: VinylTypeKey, more: Partial<Film> = {}) => ({
  ...behaviourOf(type),
  id: type,
  name: type,
  ...more,
});
const cloth = blanks['plain-cloth'];
const pressSteps = (films: Film[], blank: Blank, school: LayerSchool) =>
  pressPlan(films, blank, pressDefaults.warmth, { school }).steps;
/** A stack in short: what is done, for what, how long, what lies under. */
const short = (types: VinylTypeKey[], school: LayerSchool, blank = cloth) =>
  pressSteps(
    types.map((t, i) => film(t, { id: `${t} ${i}` })),
    blank,
    school,
  ).map(
    (s) =>
      `${s.does}${s.films.length > 0 ? ` ${s.films.join()}` : ''}: ${s.purpose} ${s.seconds ?? '?'} s${s.support === 'hard board' ? ', hard board' : ''}`,
  );

describe('steps at the press, five stacks (common practice, no source)', () => {
  it('one plain film: warm the blank, press it for good', () => {
    expect(short(['smooth'], 'tack')).toEqual(['before: dry 5 s', 'layer smooth 0: full 15 s']);
  });
  it('thin lines take the longer time, broad shapes the shorter, what lies between a time between', () => {
    const seconds = (thinUm: number) => pressSteps([film('smooth', { thinUm })], cloth, 'full').at(-1)!.seconds;
    expect([800, 2_000, 4_000, 6_000, Infinity].map(seconds)).toEqual([15, 15, 13, 10, 10]);
  });
  it('two plain films, school of tacking: each is held, all is pressed once at the end', () => {
    expect(short(['smooth', 'smooth'], 'tack')).toEqual([
      'before: dry 5 s',
      'layer smooth 0: tack 3 s',
      'layer smooth 1: tack 3 s',
      'last smooth 0: full 15 s',
    ]);
  });
  it('two plain films, school of full times: each for its full time', () => {
    expect(short(['smooth', 'smooth'], 'full')).toEqual([
      'before: dry 5 s',
      'layer smooth 0: full 15 s',
      'layer smooth 1: full 15 s',
    ]);
  });
  it('puff over plain: puff comes last, on a hard board, and nothing is pressed after it', () => {
    const steps = short(['smooth', 'puff'], 'tack');
    expect(steps.at(-1)).toMatch(/^layer puff 1: raise 8 s, hard board$/);
  });
  it('a base of which nobody says the full press is asked for under plain film', () => {
    expect(short(['reflective', 'smooth'], 'tack')).toEqual([
      'before: dry 5 s',
      'layer reflective 0: full ? s',
      'layer smooth 1: full 15 s',
    ]);
  });
  it('metallic puff is raised by a step of its own, last', () => {
    const steps = pressSteps([film('smooth'), film('metallic-puff')], cloth, 'tack');
    expect(steps.at(-1)!.support).toBe('hard board');
    expect(steps.at(-1)!.films).toEqual(['metallic-puff']);
  });
  it('on faux leather: its own press, covered, peeled at once', () => {
    const [layer] = pressSteps([film('foil')], blanks.leather, 'tack');
    expect(layer).toMatchObject({ heat: f(265), seconds: 10, peel: 'hot', wait: 0 });
  });
  it('nothing is pressed where nothing may be, or nothing needs it', () => {
    expect(pressSteps([film('adhesive')], blanks.glass, 'tack')).toEqual([]);
    expect(pressSteps([film('smooth')], blanks.glass, 'tack')).toEqual([]);
  });
});

describe('what must not meet', () => {
  it('nothing goes over puff; the cure names it', () => {
    const trouble = pairTrouble(film('puff'), film('smooth'))!;
    expect(trouble.grade).toBe('not');
    expect(trouble.helps).toMatch(/puff last/);
    expect(pairTrouble(film('smooth'), film('puff'))).toBeUndefined();
  });
  it('heats that were said and do not overlap are a trouble; a rule of thumb is none', () => {
    const hot = film('smooth', { heat: { from: f(350), to: f(370), said: true } });
    const mild = film('low-heat', { heat: { from: f(250), to: f(290), said: true } });
    // The hot one below is pressed first; above, it would be too much for what lies there.
    expect(pairTrouble(hot, mild)?.grade).toBe('care');
    expect(pairTrouble(mild, hot)?.grade).toBe('not');
    expect(pairTrouble(film('smooth'), film('low-heat'))?.grade).not.toBe('not');
  });
  it('textured glitter below is a caution, no ban', () => {
    expect(pairTrouble(film('glitter'), film('smooth'))?.grade).toBe('care');
  });
  it('films side by side do not meet', () => {
    expect(stackTroubles([film('puff'), film('smooth')], cloth, () => false).filter((t) => t.grade === 'not')).toEqual(
      [],
    );
  });
  it('18 types on each surface: a verdict and a reason each', () => {
    expect(vinylTypeKeys).toHaveLength(18);
    for (const type of vinylTypeKeys)
      for (const key of blankKeys) {
        const { verdict, reasons } = suitsBlank(behaviourOf(type), blanks[key]);
        expect(['suits', 'care', 'not'], `${type} on ${key}`).toContain(verdict);
        expect(reasons[0]!.length, `${type} on ${key}`).toBeGreaterThan(5);
        const troubles = stackTroubles([film(type)], blanks[key]);
        expect(troubles.length > 0, `${type} on ${key}`).toBe(verdict !== 'suits');
      }
  });
});

describe('laid on each other, or side by side (common practice, no source)', () => {
  const advice = (below: VinylTypeKey, above: VinylTypeKey) => stackAdvice(film(below), film(above));
  it('plain on plain is laid on, twice as thick; nothing is laid on puff', () => {
    expect(advice('smooth', 'smooth')).toMatchObject({
      do: 'overlay',
      because: 'easier',
      overlay: { thickUm: 160, heats: 2 },
      beside: { thickUm: 80, heats: 1 },
    });
    expect(advice('puff', 'smooth')).toMatchObject({ do: 'side by side', because: 'must' });
  });
  it('textured glitter below is a caution, what shows through lies on the blank itself', () => {
    expect(advice('glitter', 'smooth')).toMatchObject({ do: 'overlay', because: 'grain', trouble: { grade: 'care' } });
    expect(advice('smooth', 'holographic')).toMatchObject({ do: 'side by side', because: 'shows through' });
  });
});
