import { describe, expect, it } from 'vitest';
import { seededRandom } from '../stats/index.ts';
import { fahrenheitToMilliCelsius as f } from '../units/index.ts';
import { blankKeys, type VinylTypeKey } from '../vinyls/index.ts';
import { layers, layersInputSchema, type LayersInput } from './layersInput.ts';
import { layerSchools } from './pressSequence.ts';
import { stepNames } from './stepNames.ts';

type Asked = Record<string, unknown>;
const plan = (asked: Asked) => layers(layersInputSchema.parse({ format: 'versipel-layers/1', ...asked }));
const F = (degrees: number) => ({ degrees, unit: 'F' as const });
/** A film that somebody states: its own heat, seconds and pressure. */
const said = (id: string, type: VinylTypeKey, heat: number, s: number, more: Asked = {}) => ({
  id,
  type,
  usual: F(heat),
  seconds: [s, s],
  ...more,
});
/** A plan in short: what is done, at what, how long. */
const short = (asked: Asked) =>
  plan(asked).steps.map(
    (s) =>
      `${s.does}${s.films.length > 0 ? ` ${s.films.join('+')}` : ''}: ${s.purpose} ${s.fahrenheit ?? '?'} °F ${s.seconds ?? '?'} s${s.pressure ? ` ${s.pressure}` : ''}${s.ask ? ` (${s.ask})` : ''}`,
  );
const cloth = 'plain-cloth';

// Facts of the trade: common practice, no source.
describe('worked stacks', () => {
  it('glitter 325 °F 15 s and metallic puff 280 °F 8 s heavy: two heats, each its own, the dry press longer', () => {
    expect(
      short({
        fabric: cloth,
        layers: [said('glitter', 'glitter', 325, 15), said('puff', 'metallic-puff', 280, 8, { pressure: 'heavy' })],
      }),
    ).toEqual([
      'before: dry 325 °F 10 s',
      'layer glitter: full 325 °F 15 s heavy',
      'layer puff: raise 280 °F 8 s heavy',
    ]);
  });
  it('a reflective base under metallic puff the first way stays at its tack: the puff’s heat is that of the base', () => {
    const steps = plan({
      fabric: cloth,
      layers: [
        { id: 'base', type: 'reflective' },
        { id: 'puff', type: 'metallic-puff' },
      ],
    }).steps;
    expect(steps.map((s) => [s.does, s.purpose, s.fahrenheit, s.seconds, s.pressure, s.peel])).toEqual([
      ['before', 'dry', 300, 10, undefined, undefined],
      ['layer', 'tack', 300, 10, 'heavy', 'by the leaflet'],
      ['layer', 'full', 300, 10, 'heavy', 'cold'],
      ['raise', 'raise', 300, 10, 'heavy', undefined],
    ]);
    for (const s of steps) expect(s.support).toBe('hard board');
  });
  it('plain and printable: the plain film has its own full press before the plate changes', () => {
    expect(
      short({ fabric: cloth, layers: [said('plain', 'smooth', 350, 30), said('print', 'printable', 374, 12)] }),
    ).toEqual([
      'before: dry 350 °F 5 s',
      'layer plain: full 350 °F 30 s',
      'backing off print: hand ? °F ? s',
      'layer print: full 374 °F 12 s',
    ]);
  });
  it('matless below plain: two heats in the order of the layers, the thick carrier tacked longer where there is a run', () => {
    expect(
      short({ fabric: cloth, layers: [said('matless', 'matless', 315, 30), said('plain', 'smooth', 305, 15)] }),
    ).toEqual(['before: dry 315 °F 5 s', 'layer matless: full 315 °F 30 s', 'layer plain: full 305 °F 15 s']);
    expect(
      short({ fabric: cloth, layers: [said('matless', 'matless', 315, 30), said('plain', 'smooth', 315, 15)] }),
    ).toEqual([
      'before: dry 315 °F 5 s',
      'layer matless: tack 315 °F 5 s',
      'layer plain: tack 315 °F 3 s',
      'last matless: full 315 °F 30 s',
    ]);
  });
  it('five films on faux leather: 265 °F, ten seconds each, none refused, nothing counted', () => {
    const five = plan({
      fabric: 'leather',
      layers: ['a', 'b', 'c', 'd', 'e'].map((id, i) => ({
        id,
        type: (['smooth', 'glitter', 'foil'] as const)[i % 3]!,
      })),
    });
    expect(five.verdict).not.toBe('refused');
    expect(five.steps.map((s) => [s.fahrenheit, s.seconds, s.peel])).toEqual(Array(5).fill([265, 10, 'hot']));
    expect(five.taken).toEqual([]);
  });
  it('plain and low-heat: each at its own heat, the low one pressed once more, covered, for a time nobody says', () => {
    const { steps, lacks } = plan({
      fabric: cloth,
      layers: [said('plain', 'smooth', 305, 15), { id: 'low', type: 'low-heat' }],
    });
    expect(steps.map((s) => [s.does, s.fahrenheit, s.seconds])).toEqual([
      ['before', 305, 5],
      ['layer', 305, 15],
      ['layer', 265, 5],
      ['layer', 265, undefined],
    ]);
    expect(lacks).toEqual([{ film: 'low', what: ['seconds'] }]);
    expect(stepNames(steps)).toEqual(['before', 'layer plain', 'layer low', 'layer low 2']);
  });
  it('a heat that the surface does not take is said at the number, and the plan is not refused for it', () => {
    const { verdict, cautions } = plan({ fabric: 'mesh', layers: [said('print', 'printable', 374, 12)] });
    expect(verdict).toBe('care');
    expect(cautions.join(' ')).toMatch(/374 °F \(190 °C\), and mesh takes 320 °F \(160 °C\) at most, we think/);
  });
  it('metallic puff the second way asks whether it has risen before it is pressed once more', () => {
    const way = plan({ fabric: cloth, layers: [{ id: 'puff', type: 'metallic-puff' }] }).steps;
    expect(way.every((s) => s.ask === undefined)).toBe(true);
  });
  it('where nobody says a figure it is left out and asked for, not refused', () => {
    const { verdict, lacks, steps } = plan({ fabric: cloth, layers: [{ id: 'foil', type: 'foil' }] });
    expect(verdict).toBe('plan');
    expect(lacks).toEqual([{ film: 'foil', what: ['heat', 'seconds'] }]);
    expect(steps.at(-1)).toMatchObject({ does: 'layer', heat: undefined, seconds: undefined });
  });
  it('foam and caps are not pressed bare; cloth is', () => {
    const does = (fabric: string) => plan({ fabric, layers: [said('a', 'smooth', 305, 15)] }).steps.map((s) => s.does);
    expect([does('foam'), does('cap'), does(cloth)]).toEqual([['layer'], ['layer'], ['before', 'layer']]);
  });
  it('one heat for two that are pressed at two is an offer beside the plan', () => {
    const { steps, offers } = plan({
      fabric: cloth,
      layers: [said('hot', 'smooth', 350, 30), said('mild', 'smooth', 305, 15)],
    });
    expect(new Set(steps.map((s) => s.fahrenheit))).toEqual(new Set([350, 305]));
    expect(offers).toEqual([expect.stringMatching(/^305 °F \(152 °C\) for both would save .*; not tried yet\.$/)]);
  });
  it('a press that has only a few heats takes the nearest, and what is not near is said', () => {
    const { steps, cautions } = plan({
      fabric: cloth,
      source: { heats: [265, 300, 340].map(F) },
      layers: [said('a', 'smooth', 305, 15), said('b', 'smooth', 325, 15)],
    });
    expect(steps.filter((s) => s.does === 'layer').map((s) => s.fahrenheit)).toEqual([300, 340]);
    expect(cautions.join(' ')).toMatch(/^b is pressed at 325 °F \(163 °C\); the nearest this press has is 340 °F/);
  });
  it('heats that no dial tells apart are one setting, the lower film’s, and that is said', () => {
    const { steps, cautions } = plan({
      fabric: cloth,
      layers: [said('a', 'smooth', 305, 15), said('b', 'smooth', 307, 20)],
    });
    expect(new Set(steps.map((s) => s.fahrenheit))).toEqual(new Set([305]));
    expect(cautions.join(' ')).toMatch(/307 °F .* is set as 305 °F/);
  });
});

describe('methods', () => {
  const two = { fabric: cloth, layers: [said('a', 'smooth', 305, 15), said('b', 'smooth', 305, 15)] };
  it('tacked and pressed at the end, the top layer’s own press as the last, each for its full time', () => {
    const does = (school: string, asked: Asked = two) => short({ ...asked, school }).slice(1);
    expect(does('tack')).toEqual(['layer a: tack 305 °F 3 s', 'layer b: tack 305 °F 3 s', 'last a: full 305 °F 15 s']);
    expect(does('top')).toEqual(['layer a: tack 305 °F 3 s', 'layer b: full 305 °F 15 s']);
    expect(does('full')).toEqual(['layer a: full 305 °F 15 s', 'layer b: full 305 °F 15 s']);
    // A top layer that is pressed shorter than what lies below does not press that whole.
    expect(does('top', { ...two, layers: [said('a', 'smooth', 305, 30), said('b', 'smooth', 305, 10)] })).toContain(
      'last a: full 305 °F 30 s',
    );
  });
  it('films whose carriers are apart are pressed at once, else one after the other', () => {
    const box = (x: number) => ({ x, y: 0, width: 50_000, height: 50_000 });
    const at = (x: number) =>
      plan({
        fabric: cloth,
        layers: [said('red', 'smooth', 305, 15, { area: box(0) }), said('blue', 'smooth', 305, 15, { area: box(x) })],
      }).steps.map((s) => `${s.does} ${s.films.join('+')}`.trim());
    expect(at(70_000)).toEqual(['before', 'layer red+blue']);
    expect(at(55_000)).toEqual(['before', 'layer red', 'layer blue', 'last red']);
  });
});

describe('what does not hold', () => {
  it('stated heats that do not meet are refused with the pair and what would help; the other way round they hold', () => {
    const mild = said('mild', 'low-heat', 265, 5, { heat: { from: 250, to: 275, unit: 'F' } });
    const hot = said('hot', 'smooth', 340, 15, { heat: { from: 330, to: 350, unit: 'F' } });
    const refused = plan({ fabric: cloth, layers: [mild, hot] });
    expect(refused).toMatchObject({ verdict: 'refused', steps: [], because: [{ films: ['mild', 'hot'] }] });
    expect(refused.helps.map((h) => h.do)).toEqual(['swap', 'knock out', 'press apart', 'press apart']);
    expect(plan({ fabric: cloth, layers: [hot, mild] })).toMatchObject({ verdict: 'plan', cost: { changes: 1 } });
  });
  it('what is judged of a type forbids nothing', () => {
    expect(
      plan({ fabric: cloth, layers: [{ id: 'low', type: 'low-heat' }, said('hot', 'smooth', 350, 30)] }).verdict,
    ).not.toBe('refused');
  });
  it('nothing goes over what has risen, nothing on what is printed', () => {
    for (const type of ['puff', 'printable'] as const) {
      const refused = plan({ fabric: cloth, layers: [{ id: 'low', type }, said('plain', 'smooth', 305, 15)] });
      expect(refused.verdict).toBe('refused');
      expect(refused.helps.map((h) => h.do)).toContain('swap');
    }
  });
  it('more presses than somebody says the fabric bears are refused; what we think it bears is a caution', () => {
    const six = Array.from({ length: 6 }, (_, i) => said(`l${i}`, 'smooth', 305, 15));
    expect(plan({ fabric: { surface: cloth, bears: 3 }, school: 'full', layers: six }).verdict).toBe('refused');
    expect(plan({ fabric: { surface: cloth, bears: 3 }, layers: six }).verdict).toBe('plan');
  });
  it('bad input is said with its place', () => {
    const problem = (asked: Asked) =>
      layersInputSchema.safeParse({ format: 'versipel-layers/1', ...asked }).error!.issues[0]!;
    expect(
      problem({ fabric: 'silk', layers: [said('a', 'smooth', 305, 15), said('a', 'smooth', 305, 15)] }),
    ).toMatchObject({
      path: ['layers', 1, 'id'],
    });
    expect(
      problem({ fabric: 'silk', layers: [{ id: 'a', type: 'smooth', heat: { from: 900, to: 950, unit: 'C' } }] })
        .message,
    ).toMatch(/between 40 and 260/);
  });
});

describe('300 random stacks', () => {
  const random = seededRandom(21);
  const pick = <T>(of: readonly T[]): T => of[Math.floor(random.uniform() * of.length)]!;
  const types = [
    'smooth',
    'glitter',
    'smooth-glitter',
    'holographic',
    'matless',
    'low-heat',
    'reflective',
    'printable',
    'puff',
    'metallic-puff',
  ] as const;
  const stack = (): LayersInput =>
    layersInputSchema.parse({
      format: 'versipel-layers/1',
      fabric: pick(blankKeys.filter((b) => ['plain-cloth', 'thin-bag', 'short-fur', 'leather'].includes(b))),
      school: pick(layerSchools),
      layers: Array.from({ length: 1 + Math.floor(5 * random.uniform()) }, (_, i) => {
        const s = pick([5, 8, 10, 15, 30]);
        return said(`f${i}`, pick(types), pick([265, 280, 300, 305, 320, 350, 374]), s, {
          ...(random.uniform() < 0.5 ? { pressure: pick(['light', 'medium', 'heavy']) } : {}),
          ...(random.uniform() < 0.5 ? { peel: pick(['hot', 'warm', 'cool', 'cold']) } : {}),
          ...(random.uniform() < 0.3 ? { tack: pick([2, 5, 10]) } : {}),
        });
      }),
    });
  it('every press is one film’s own heat, time and pressure; every film gets its full press; no name stands twice', () => {
    let seen = 0;
    for (let n = 0; n < 300; n++) {
      const input = stack();
      const result = layers(input);
      if (result.verdict === 'refused') continue;
      seen++;
      const names = stepNames(result.steps);
      expect(new Set(names).size).toBe(names.length);
      const of = (id: string) => input.layers.find((l) => l.id === id)!;
      const relief = input.layers.some((l) => ['puff', 'metallic-puff'].includes(l.type));
      // What is stated on faux leather is stated of every film: there its own figures are the leaflet's of leather only where it says none.
      for (const s of result.steps) {
        if (s.purpose === 'hand') expect([s.heat, s.seconds]).toEqual([undefined, undefined]);
        if (s.does === 'before' || s.purpose === 'hand') continue;
        const film = of(s.films[0]!);
        expect(Math.abs(s.heat! - f(film.usual!.degrees))).toBeLessThanOrEqual(2_000);
        expect([film.seconds![0], film.tack ?? (film.type === 'matless' ? 5 : 3)]).toContain(s.seconds);
        expect(s.pressure).toBe(relief ? 'heavy' : film.pressure);
      }
      for (const film of input.layers) {
        const whole = result.steps.some(
          (s) =>
            (s.does === 'last' || (s.does === 'layer' && s.purpose !== 'tack')) &&
            Math.abs(s.heat! - f(film.usual!.degrees)) <= 2_000 &&
            s.seconds! >= film.seconds![0] &&
            // It is pressed on by then.
            result.steps.indexOf(s) >= result.steps.findIndex((x) => x.films.includes(film.id)),
        );
        expect(whole, `${film.id} of stack ${n}`).toBe(true);
      }
    }
    expect(seen).toBeGreaterThan(100);
  });
});
