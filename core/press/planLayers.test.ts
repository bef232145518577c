import { describe, expect, it } from 'vitest';
import { seededRandom } from '../stats/index.ts';
import { fahrenheitToMilliCelsius as f } from '../units/index.ts';
import type { Laid } from './laidFilm.ts';
import { bestGroups } from './layerSearch.ts';
import { layers, layersInputSchema } from './layersInput.ts';
import { compareCosts, layerSchools, walk, type Group, type LayerSchool, type Meeting } from './layerWalk.ts';
import { planLayers, stackOf, type LayersToPlan } from './planLayers.ts';

const F = (from: number, to: number) => ({ from, to, unit: 'F' as const });
type Asked = Partial<Parameters<typeof layersInputSchema.parse>[0] & object> & object;
const plan = (asked: Asked) => layers(layersInputSchema.parse({ format: 'versipel-layers/1', ...asked }));
const done = (asked: Asked) => plan(asked).steps.map((s) => `${s.does} ${s.films.join('+')}`.trim());
const plain = (id: string, more = {}) => ({ id, type: 'smooth', ...more });

describe('layers at the press, stacks of every kind (common practice, no source)', () => {
  it.each(layerSchools)(
    'puff over two plain, school %s: puff is the last thing pressed, on a hard board, by itself',
    (school) => {
      const { verdict, steps } = plan({
        fabric: 'plain-cloth',
        school,
        layers: [plain('white'), plain('red'), { id: 'puff', type: 'puff' }],
      });
      expect(verdict).toBe('plan');
      expect(steps.at(-1)).toMatchObject({ films: ['puff'], purpose: 'raise', support: 'hard board' });
      expect(steps.filter((s) => s.films.includes('puff'))).toHaveLength(1);
      // What is only tacked is pressed whole before the puff rises.
      expect(steps.some((s) => s.does === 'all')).toBe(school === 'tack');
    },
  );
  it('a film that is peeled cold below three that are peeled hot: all is covered and cools again each time', () => {
    const { steps } = plan({
      fabric: 'plain-cloth',
      layers: [
        { id: 'holo', type: 'holographic', peel: 'cold' },
        ...['a', 'b', 'c'].map((id) => plain(id, { peel: 'hot' })),
      ],
    });
    const over = steps.filter((s) => s.does === 'layer' && s.films[0] !== 'holo');
    expect(over).toHaveLength(3);
    for (const s of [...over, steps.at(-1)!])
      expect(s).toMatchObject({ recool: ['holo'], wait: 90, cover: expect.stringMatching(/baking paper/) });
  });
  it('six thin layers on a fabric that bears three presses: tacked they fit, pressed whole they do not, and it says so', () => {
    const six = {
      fabric: { surface: 'plain-cloth', bears: 3 },
      layers: [1, 2, 3, 4, 5, 6].map((n) => plain(`l${n}`, { thinUm: 900 })),
    };
    const tacked = plan(six);
    expect(tacked).toMatchObject({ verdict: 'plan', onFabric: 3 });
    expect(tacked.alternatives.every((a) => /bears 3/.test(a.loses))).toBe(true);
    const whole = plan({ ...six, school: 'full' });
    expect(whole).toMatchObject({ verdict: 'refused', steps: [] });
    expect(whole.helps.map((h) => h.says)).toContainEqual(expect.stringMatching(/^Tack each layer/));
  });
  it('two heats that do not meet are refused with the pair and what would help; the other way round they hold', () => {
    const mild = { id: 'mild', type: 'low-heat', heat: F(250, 275) };
    const hot = plain('hot', { heat: F(330, 350) });
    const refused = plan({ fabric: 'plain-cloth', layers: [mild, hot] });
    expect(refused).toMatchObject({ verdict: 'refused', steps: [], because: [{ films: ['mild', 'hot'] }] });
    expect(refused.helps.map((h) => h.do)).toEqual(['swap', 'knock out', 'press apart', 'press apart']);
    const turned = plan({ fabric: 'plain-cloth', layers: [hot, mild] });
    expect(turned).toMatchObject({ verdict: 'plan', cost: { changes: 1 } });
    expect(turned.steps.filter((s) => s.does === 'layer').map((s) => s.purpose)).toEqual(['full', 'full']);
  });
  it('an ordinary vinyl on a fabric for low heat is refused, with the heat to look for', () => {
    const refused = plan({ fabric: 'silk', layers: [plain('red')] });
    expect(refused.verdict).toBe('refused');
    expect(refused.helps[0]).toMatchObject({ do: 'another vinyl', says: expect.stringMatching(/280 °F \(138 °C\)/) });
  });
  it('two colours on mesh: pressed at once where their carriers are apart, else one after the other', () => {
    const box = (x: number) => ({ x, y: 0, width: 50_000, height: 50_000 });
    const at = (x: number) => ({
      fabric: 'mesh',
      layers: [plain('red', { area: box(0) }), plain('blue', { area: box(x) })],
    });
    expect(done(at(70_000))).toEqual(['before', 'layer red+blue']);
    expect(done(at(55_000))).toEqual(['before', 'layer red', 'layer blue', 'all']);
    for (const s of plan(at(70_000)).steps) expect(s.heat).toBeLessThanOrEqual(f(320));
  });
  it('a printable above a glitter: one heat for both, the grain is a caution; below anything it is refused', () => {
    const glitter = { id: 'glitter', type: 'glitter', heat: F(300, 330) };
    const over = plan({
      fabric: 'plain-cloth',
      layers: [glitter, { id: 'print', type: 'printable', heat: F(310, 375) }],
    });
    expect(over).toMatchObject({
      verdict: 'care',
      cost: { changes: 0, forbidden: 0 },
      cautions: [expect.stringMatching(/grain/)],
    });
    const under = plan({ fabric: 'plain-cloth', layers: [{ id: 'print', type: 'printable' }, plain('red')] });
    expect(under).toMatchObject({ verdict: 'refused', because: [{ films: ['print', 'red'] }] });
    expect(under.helps.map((h) => h.do)).toContain('swap');
  });
  it('plain, glitter and foil on faux leather: one low heat, ten seconds each, covered, peeled at once', () => {
    const { steps, cost } = plan({
      fabric: 'leather',
      layers: [plain('a'), { id: 'b', type: 'glitter' }, { id: 'c', type: 'foil' }],
    });
    expect(cost).toMatchObject({ changes: 0, presses: 3 });
    for (const s of steps)
      expect(s).toMatchObject({ heat: f(265), seconds: 10, peel: 'hot', wait: 0, cover: 'baking paper' });
  });
  it('a press with three heats of its own: the plan keeps to them', () => {
    const heats = [265, 300, 340].map((degrees) => ({ degrees, unit: 'F' as const }));
    const { steps } = plan({ fabric: 'plain-cloth', source: { heats }, layers: [plain('a', { heat: F(290, 330) })] });
    expect(new Set(steps.map((s) => s.heat))).toEqual(new Set([f(300)]));
  });
  it('bad input is said with its place', () => {
    const problem = (asked: Asked) =>
      layersInputSchema.safeParse({ format: 'versipel-layers/1', ...asked }).error!.issues[0]!;
    expect(problem({ fabric: 'silk', layers: [plain('a'), plain('a')] })).toMatchObject({ path: ['layers', 1, 'id'] });
    expect(
      problem({ fabric: 'silk', layers: [plain('a')], pairs: [{ below: 'a', above: 'b', how: 'apart' }] }).message,
    ).toMatch(/no layer b/);
    expect(
      problem({ fabric: 'silk', layers: [plain('a', { heat: { from: 900, to: 950, unit: 'C' } })] }).message,
    ).toMatch(/between 40 and 260/);
  });
});

/** Every order, every grouping that may be, every heat: the least cost of all of them. Written on its own, by force. */
function byForce(stack: LayersToPlan, school: LayerSchool) {
  const n = stack.films.length;
  const heats = stack.source.heats!;
  let best: ReturnType<typeof walk>['cost'] | undefined;
  const low = (i: number, j: number) => stack.meet(Math.min(i, j), Math.max(i, j));
  const extend = (groups: Group[], left: number[]) => {
    if (left.length === 0) {
      const { cost } = walk(stack, groups, school);
      if (!best || compareCosts(cost, best) < 0) best = cost;
      return;
    }
    for (let set = 1; set < 1 << left.length; set++) {
      const group = left.filter((_, k) => set & (1 << k));
      const rest = left.filter((i) => !group.includes(i));
      // Nothing is laid on before what it is drawn on; at once goes only what is apart and alike.
      if (group.some((i) => left.some((j) => j < i && low(j, i) === 'overlay'))) continue;
      const ways = group.map((i) => stack.films[i]!);
      if (group.some((i) => group.some((j) => i !== j && low(i, j) !== 'apart'))) continue;
      if (new Set(ways.map((w) => [w.way?.peel, w.way?.pressure, w.relief].join())).size > 1) continue;
      for (const heat of heats) extend([...groups, { films: group, heat }], rest);
    }
  };
  extend(
    [],
    Array.from({ length: n }, (_, i) => i),
  );
  return best!;
}

describe('the plan against every other one', () => {
  const source = seededRandom(20);
  const random = () => source.uniform();
  const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)]!;
  const film = (i: number): Laid => {
    const from = pick([265, 280, 300, 320]);
    const relief = random() < 0.15;
    const peel = pick(['hot', 'cool', 'cold'] as const);
    const wait = { hot: 0, cool: 45, cold: 90 }[peel];
    return {
      id: `f${i}`,
      name: `film ${i}`,
      from: f(from),
      to: f(from + pick([0, 20, 50])),
      said: random() < 0.7,
      usual: undefined,
      way: { cover: 'its own carrier', peel, pressure: pick(['medium', 'heavy'] as const) },
      full: pick([8, 15, 20, undefined]),
      tack: pick([2, 5, 10]),
      always: false,
      raises:
        relief && random() < 0.5
          ? [{ purpose: 'raise', seconds: [8, 8], cover: 'baking paper', peel: 'by the leaflet' }]
          : [],
      relief,
      printed: !relief && random() < 0.15,
      unfit: undefined,
      wait,
      again: peel === 'hot' ? 0 : wait,
      bears: 4,
      shrink: 0.003,
      measured: false,
      widthUm: 200_000,
    };
  };
  const stack = (n: number, heats: readonly number[]): LayersToPlan => {
    const meets = new Map<string, Meeting>();
    return stackOf(
      Array.from({ length: n }, (_, i) => film(i)),
      { word: 'cloth', kind: 'fabric', heat: f(pick([300, 340, 380])) },
      {
        source: { warm: 3, cool: 6, heats: heats.map(f) },
        meet: (a, b) => {
          const key = `${a} ${b}`;
          if (!meets.has(key)) meets.set(key, pick(['overlay', 'overlay', 'knock out', 'apart'] as const));
          return meets.get(key)!;
        },
      },
    );
  };
  const compare = (n: number, heats: readonly number[], times: number) => {
    for (let k = 0; k < times; k++) {
      const made = stack(n, heats);
      for (const school of layerSchools) {
        const found = walk(made, bestGroups(made, school), school).cost;
        expect(found, `${n} layers, stack ${k}, ${school}`).toEqual(byForce(made, school));
      }
    }
  };
  it('is never worse on stacks of one to four layers, three heats: rules, heat changes, presses, seconds', () => {
    for (const n of [1, 2, 3, 4]) compare(n, [270, 300, 330], 25);
  });
  it('nor on stacks of five and six', () => {
    compare(5, [280, 320], 10);
    compare(6, [280, 320], 4);
  });
  it('a help that is said gives a plan when it is followed', () => {
    let tried = 0;
    for (let k = 0; k < 150; k++) {
      const made = stack(3, [270, 300, 330, 350]);
      const { verdict, helps } = planLayers(made, 'tack');
      if (verdict !== 'refused') continue;
      for (const help of helps.filter((h) => h.do === 'knock out' && h.films.length === 2)) {
        tried++;
        const [a, b] = help.films.map((id) => made.films.findIndex((x) => x.id === id)) as [number, number];
        const knocked = {
          ...made,
          meet: (i: number, j: number) => (i === a && j === b ? ('knock out' as const) : made.meet(i, j)),
        };
        expect(planLayers(knocked, 'tack').verdict).not.toBe('refused');
      }
    }
    expect(tried).toBeGreaterThan(5);
  });
});
