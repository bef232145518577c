import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  atStrength,
  formatPosition,
  limitsOf,
  shippedModel,
  startingSetting,
  strengthAxis,
} from '../controls/index.ts';
import type { Grade } from '../grades/index.ts';
import { seededRandom } from '../stats/index.ts';
import { camps, type CampPoint } from './camps.ts';
import { sayMissing, standing, standingInputSchema, type ProofEvidence, type StandingInput } from './standing.ts';
import { byOccasion, gradeBetween, isTrialOf, outcomeOf, recipeOf, sayBetween } from './trials.ts';

const ON = '2026-11-20';
const cuts = (
  n: number,
  over: Partial<ProofEvidence> | ((i: number) => Partial<ProofEvidence>) = {},
): ProofEvidence[] =>
  Array.from({ length: n }, (_, i) => ({
    kind: 'job',
    day: `2026-11-${String(1 + (i % 4)).padStart(2, '0')}`,
    person: 'a',
    outcome: 'worked',
    ...(typeof over === 'function' ? over(i) : over),
  }));
const stand = (evidence: ProofEvidence[], more: Partial<StandingInput> = {}) =>
  standing({ format: 'versipel-standing/1', on: ON, evidence, ...more });
const failed = (n: number, person = 'b', day = '2026-11-10') => cuts(n, { outcome: 'failed', person, day });

describe('standing', () => {
  test('29 clean of 30 on 4 days: proven, with the bound of Wilson (Newcombe 1998, table I gives 0.8333 for 29 of 30)', () => {
    const r = stand(cuts(30, (i) => (i === 7 ? { outcome: 'failed' } : {})));
    expect(r.sentence).toBe('proven: 29 clean of 30 on 4 days');
    expect(r.lower).toBeCloseTo(0.8333, 4);
    expect([r.cuts, r.clean, r.days, r.people]).toEqual([30, 29, 4, 1]);
  });

  test('draft, tried, proven: by cuts and by days', () => {
    expect(stand([]).standing).toBe('draft');
    expect(stand([], { beside: 6 }).sentence).toBe('tried beside it: 6 cells lie beside it, none at this number yet');
    expect(stand(cuts(1)).standing).toBe('tried');
    expect(stand(cuts(8)).standing).toBe('tried');
    expect(stand(cuts(9)).standing).toBe('proven');
    expect(stand(cuts(9, { day: '2026-11-01' })).sentence).toContain('one more good cut on another day would prove it');
  });

  test('twelve cuts of one busy afternoon are neither one cut nor twelve: 12 / (1 + 11 × 0.5) (design effect, Kish 1965)', () => {
    const busy = cuts(12, { day: '2026-11-01', occasion: 'an afternoon' });
    expect(stand(busy).worth).toBeCloseTo(12 / 6.5, 4);
    expect(stand(busy).cuts).toBe(12);
    expect(stand(cuts(12, (i) => ({ occasion: `occasion ${i}` }))).worth).toBeCloseTo(12, 4);
    expect(stand(busy, { rules: { occasionLikeness: 1 } }).worth).toBeCloseTo(1, 4);
    // The same words of two people are two occasions.
    const two = cuts(12, (i) => ({ occasion: 'an afternoon', person: i % 2 ? 'a' : 'b' }));
    expect(stand(two).worth).toBeCloseTo((2 * 6) / 3.5, 4);
    // Two such afternoons do not prove what two days of single cuts would.
    const again = cuts(12, { day: '2026-11-02', occasion: 'another' });
    expect(stand([...busy, ...again]).standing).toBe('tried');
    expect(stand(cuts(24)).standing).toBe('proven');
  });

  test('bad news moves it as fast as good news: two failures running undo any record, as many good cuts mend it', () => {
    for (const good of [9, 50, 500]) {
      const before = cuts(good);
      expect(stand([...before, ...failed(2)]).standing).toBe('doubted');
      const mended = cuts(9, (i) => ({ person: `p${i}`, day: '2026-11-15' }));
      expect(stand([...before, ...failed(2), ...mended]).standing).not.toBe('doubted');
    }
    expect(stand(failed(2)).standing).toBe('doubted');
    expect(stand(failed(1)).standing).toBe('tried');
  });

  test('somebody’s own repeats weigh less than strangers', () => {
    const own = stand([...cuts(40), ...failed(2)]);
    const strangers = stand([...cuts(40, (i) => ({ person: `p${i}` })), ...failed(2)]);
    expect(own.share).toBeLessThan(strangers.share);
    expect(own.lower).toBeLessThan(strangers.lower);
    const weight = (r: typeof own, person: string) => r.byPerson.find((p) => p.person === person)!.weight;
    expect(weight(own, 'a')).toBeLessThan(10);
    expect(weight(own, 'b')).toBeGreaterThan(1.5);
  });

  test('old evidence fades, and at last the setting is retired', () => {
    const fresh = stand(cuts(12));
    const old = stand(cuts(12), { on: '2028-06-01' });
    expect(old.lower).toBeLessThan(fresh.lower);
    expect(old.worth).toBeLessThan(0.6 * fresh.worth);
    expect(stand(cuts(12), { on: '2031-06-01' }).sentence).toMatch(/^retired: nothing new since 2026-11-04$/);
    expect(stand(cuts(12), { retired: true }).standing).toBe('retired');
  });

  test('another version of the setting and another batch are told apart', () => {
    const evidence = [
      ...cuts(10, { recipe: 'now' }),
      ...failed(3).map((e) => ({ ...e, recipe: 'before' })),
      ...cuts(4, { recipe: 'now', batch: 'L2' }),
      ...failed(3, 'c', '2026-11-04').map((e) => ({ ...e, recipe: 'now', batch: 'L3' })),
    ];
    const now = stand(evidence, { recipe: 'now', batch: 'L2' });
    expect([now.standing, now.cuts]).toEqual(['tried', 4]);
    expect(now.apart.map((a) => [a.recipe, a.batch, a.standing])).toEqual(
      expect.arrayContaining([
        ['before', undefined, 'doubted'],
        ['now', 'L3', 'doubted'],
        ['now', undefined, 'proven'],
      ]),
    );
    // Without a batch in hand all count, and each batch is told beside.
    const all = stand(evidence, { recipe: 'now' });
    expect(all.cuts).toBe(17);
    expect(all.apart.map((a) => a.batch)).toEqual(expect.arrayContaining(['L2', 'L3', undefined]));
  });

  test('thresholds are data', () => {
    expect(stand(cuts(4), { rules: { provenBound: 0.5 } }).standing).toBe('proven');
    expect(stand([...cuts(9), ...failed(2)], { rules: { alarm: 9 } }).standing).not.toBe('doubted');
  });

  test('one more good cut never lowers it, one more failure never raises it', () => {
    const order = ['draft', 'doubted', 'tried', 'proven'];
    const event = fc.record({
      person: fc.constantFrom('a', 'b', 'c'),
      outcome: fc.constantFrom('worked' as const, 'failed' as const, 'almost' as const),
      day: fc.constantFrom('2026-11-01', '2026-11-02', '2026-11-03'),
    });
    fc.assert(
      fc.property(fc.array(event, { maxLength: 25 }), (list) => {
        const evidence = list.map((e): ProofEvidence => ({ kind: 'job', ...e }));
        const at = stand(evidence);
        const last = { kind: 'job' as const, person: 'stranger', day: '2026-11-19' };
        const worse = stand([...evidence, { ...last, outcome: 'failed' }]);
        const better = stand([...evidence, { ...last, outcome: 'worked' }]);
        if (at.standing !== 'draft') {
          expect(order.indexOf(worse.standing)).toBeLessThanOrEqual(order.indexOf(at.standing));
          expect(order.indexOf(better.standing)).toBeGreaterThanOrEqual(order.indexOf(at.standing));
        }
        expect(worse.lower).toBeLessThanOrEqual(at.lower + 1e-9);
        expect(at.lower).toBeLessThanOrEqual(at.share + 1e-9);
        expect(at.upper).toBeGreaterThanOrEqual(at.share - 1e-9);
      }),
      { numRuns: 300 },
    );
  });

  test('bad input is told where', () => {
    const bad = standingInputSchema.safeParse({ format: 'versipel-standing/1', on: '2026-02-30', evidence: [] });
    expect(bad.error!.issues[0]!.path).toEqual(['on']);
    const person = standingInputSchema.safeParse({
      format: 'versipel-standing/1',
      on: ON,
      evidence: [{ kind: 'job', day: ON, person: '', outcome: 'worked' }],
    });
    expect(person.error!.issues[0]!.path).toEqual(['evidence', 0, 'person']);
  });
});

describe('trials of a setting', () => {
  const model = shippedModel('marlow-24', 2) ?? shippedModel('marlow-24', 1)!;
  const at = (force: number, steps: Record<string, number> = {}) => {
    const base = startingSetting(model);
    return { ...base, steps: { ...base.steps, force, ...steps } };
  };
  test('the same place, or one nobody could tell from it; other speeds and passes are other cuts', () => {
    const setting = at(120);
    expect(isTrialOf(model, setting, { setting: at(120), passes: 1 })).toBe(true);
    expect(isTrialOf(model, setting, { setting: at(128), passes: 1 })).toBe(true);
    expect(isTrialOf(model, setting, { setting: at(140), passes: 1 })).toBe(false);
    expect(isTrialOf(model, setting, { setting: at(120, { speed: 9 }), passes: 1 })).toBe(false);
    expect(isTrialOf(model, setting, { setting: at(120), passes: 2 })).toBe(false);
  });

  test('cells on both sides say what lies between, as far as more never cuts less', () => {
    const cell = (force: number, grade: 'uncut' | 'hangs' | 'clean' | 'scored' | 'through') => ({
      setting: at(force),
      passes: 1,
      grade,
    });
    const between = (...cells: ReturnType<typeof cell>[]) => gradeBetween(model, at(120), 'clean', cells);
    expect(between(cell(105, 'clean'), cell(138, 'clean'))).toBe('clean');
    expect(between(cell(105, 'clean'), cell(138, 'scored'))).toBeUndefined();
    expect(between(cell(105, 'scored'), cell(138, 'through'))).toBe('scored');
    expect(between(cell(105, 'uncut'), cell(138, 'hangs'))).toBe('hangs');
    expect(between(cell(105, 'scored'), cell(138, 'clean'))).toBeUndefined();
    expect(between(cell(60, 'clean'), cell(300, 'clean'))).toBeUndefined();
  });

  test('a grade as an outcome', () => {
    expect(['uncut', 'hangs', 'clean', 'scored', 'through'].map((g) => outcomeOf(g as 'clean', 'clean'))).toEqual([
      'failed',
      'almost',
      'worked',
      'failed',
      'failed',
    ]);
    expect(outcomeOf('scored', 'through')).toBe('almost');
    expect(recipeOf(at(120))).toBe(
      recipeOf({ ...at(120), steps: Object.fromEntries(Object.entries(at(120).steps).reverse()) }),
    );
  });
});

describe('schools', () => {
  const point = (at: number, i: number, more: Partial<CampPoint> = {}): CampPoint => ({
    at,
    sd: 0.05,
    person: `p${i}`,
    ...more,
  });
  const twoCamps = (attribute: (i: number) => Partial<CampPoint>) =>
    [0, 0.03, -0.02, 0.01, 0.4, 0.43, 0.38, 0.41].map((at, i) => point(at, i, attribute(i)));

  test.each([
    ['model', (i: number) => ({ model: i < 4 ? 'north' : 'south' })],
    ['batch', (i: number) => ({ batch: i < 4 ? 'L1' : 'L2', model: i % 2 ? 'north' : 'south' })],
    ['blade', (i: number) => ({ blade: i < 4 ? '45°' : '60°', batch: i % 2 ? 'L1' : 'L2' })],
    ['camps', (i: number) => ({ model: i % 2 ? 'north' : 'south', batch: i % 3 ? 'L1' : 'L2' })],
  ] as const)('told apart by %s', (by, attribute) => {
    const { split } = camps({ points: twoCamps(attribute) });
    expect(split!.by).toBe(by);
    expect(split!.camps.map((c) => c.people)).toEqual([4, 4]);
    expect(split!.camps[0]!.points).toEqual([0, 1, 2, 3]);
  });

  test('one place is one place, and one person is no school', () => {
    expect(camps({ points: [0, 0.1, -0.1, 0.05].map((at, i) => point(at, i)) }).split).toBeUndefined();
    expect(camps({ points: twoCamps((i) => ({ person: i < 4 ? `p${i}` : 'one' })) }).split).toBeUndefined();
    expect(camps({ points: [] }).split).toBeUndefined();
  });

  test('among vinyls whose settings differ by chance alone, hardly one in fifty is said to be split', () => {
    const random = seededRandom(11);
    let split = 0;
    for (let v = 0; v < 600; v++) {
      const n = 4 + (v % 14);
      const points = Array.from({ length: n }, (_, i) => point(Math.hypot(0.06, 0.05) * random.normal(), i));
      if (camps({ points }).split) split++;
    }
    expect(split / 600).toBeLessThan(0.03);
  });
});

describe('what is missing, and what was seen on both sides', () => {
  const row = (day: string, outcome: 'worked' | 'failed' = 'worked') =>
    ({ kind: 'job', day, person: 'a', outcome }) as const;
  const ask = (evidence: StandingInput['evidence']) =>
    standing({ format: 'versipel-standing/1', on: '2026-11-28', evidence });

  test('as many good cuts more as it says prove it, and one fewer does not', () => {
    for (const n of [1, 3, 6]) {
      const rows = Array.from({ length: n }, () => row('2026-11-27'));
      const { missing, sentence } = ask(rows);
      expect(missing!.days).toBe(1);
      expect(sentence).toContain(sayMissing(missing!));
      const later = (k: number) => Array.from({ length: k }, () => row('2026-11-28'));
      expect(ask([...rows, ...later(missing!.cuts)]).standing).toBe('proven');
      if (missing!.cuts > 1) expect(ask([...rows, ...later(missing!.cuts - 1)]).standing).toBe('tried');
    }
    expect(ask([row('2026-11-26'), row('2026-11-27')]).missing!.days).toBe(0);
  });
  test('what is proven misses nothing; what fails too often is promised nothing', () => {
    const many = Array.from({ length: 14 }, (_, i) => row(i % 2 ? '2026-11-27' : '2026-11-26'));
    expect(ask(many).missing).toBeUndefined();
    expect(sayMissing({ cuts: 1, days: 0 })).toBe('one more good cut would prove it');
    expect(sayMissing({ cuts: 5, days: 1 })).toBe('5 more good cuts, one on another day, would prove it');
  });
  test('a number nobody cut is never called tried: what was seen on both sides is said', () => {
    const between = { ...row('2026-11-27'), kind: 'coupon', between: '5½ and 7 were clean, 6 lies between' } as const;
    expect(ask([between]).sentence).toMatch(/^tried beside it: 5½ and 7 were clean, 6 lies between;/);
    expect(ask([between, row('2026-11-28')]).sentence).toMatch(/^tried: 2 clean of 2/);
  });
  test('the cells on both sides, nearest first, in the words of the cutter', () => {
    const model = shippedModel('oxbow-dial', 1)!;
    const setting = startingSetting(model);
    const axis = strengthAxis(model);
    const cell = (at: number, grade: Grade) => ({ setting: atStrength(model, setting, at), passes: 1, grade });
    const mid = Math.round((limitsOf(axis).min + limitsOf(axis).max) / 2);
    const here = atStrength(model, setting, mid);
    const said = (at: number) => formatPosition(axis, at);
    expect(sayBetween(model, here, [cell(mid - 2, 'hangs'), cell(mid - 1, 'clean'), cell(mid + 2, 'clean')])).toBe(
      `${said(mid - 1)} and ${said(mid + 2)} were clean, ${said(mid)} lies between`,
    );
    expect(sayBetween(model, here, [cell(mid - 1, 'clean'), cell(mid + 1, 'scored')])).toBe(
      `${said(mid - 1)} was clean, ${said(mid + 1)} scored, ${said(mid)} lies between`,
    );
    expect(sayBetween(model, here, [cell(mid - 1, 'clean')])).toBeUndefined();
  });
});

describe('reports by person and occasion', () => {
  const report = (person: string, at: string, outcome: 'worked' | 'almost' | 'failed' = 'worked', batch?: string) => ({
    kind: 'confirmation' as const,
    day: at.slice(0, 10),
    person,
    outcome,
    at,
    ...(batch ? { batch } : {}),
  });
  test('six taps within minutes are one report, and none of them proves more than it', () => {
    const taps = [0, 1, 2, 4, 5, 6].map((m) => report('a', `2026-05-01T10:0${m}:00Z`));
    expect(byOccasion(taps)).toHaveLength(1);
    const stand = (evidence: ReturnType<typeof byOccasion>) =>
      standing({ format: 'versipel-standing/1', on: '2026-05-02', evidence });
    expect(stand(byOccasion(taps))).toMatchObject({ cuts: 1, clean: 1 });
  });
  test('other people, other batches and later cuts are occasions of their own', () => {
    expect(
      byOccasion([
        report('a', '2026-05-01T10:00:00Z'),
        report('b', '2026-05-01T10:01:00Z'),
        report('a', '2026-05-01T10:02:00Z', 'worked', 'B-7'),
        report('a', '2026-05-01T11:00:00Z'),
      ]),
    ).toHaveLength(4);
  });
  test('an occasion that went both ways is between them', () => {
    const [one] = byOccasion([report('a', '2026-05-01T10:05:00Z'), report('a', '2026-05-01T10:00:00Z', 'failed')]);
    expect(one!.outcome).toBe('almost');
  });
});
