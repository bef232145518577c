import { describe, expect, it } from 'vitest';
import { applySteps, pressPlan } from '../press/index.ts';
import { shapeKeys, shapes, type ShapeKey } from '../place/index.ts';
import {
  behaviourOf,
  blankKeys,
  blanks,
  moments,
  suitsBlank,
  typeTips,
  vinylTypeKeys,
  type BlankKey,
  type VinylTypeKey,
} from '../vinyls/index.ts';
import { MOST_TIPS, tipsAt, tipSteps, type TipStep } from './tips.ts';
import { takesOf } from './plan.ts';

// On which step each tip stands, written down by hand from how the work is done. Common practice, no source.
const printables: VinylTypeKey[] = ['printable', 'glitter-printable'];
const hard: BlankKey[] = ['wood', 'cork', 'card'];
const relief: VinylTypeKey[] = ['puff', 'metallic-puff'];
/** Step → tip → for which types, on which surfaces; all where nothing is said. */
const stands: Record<string, Record<string, { types?: VinylTypeKey[]; notTypes?: VinylTypeKey[]; on?: BlankKey[] }>> = {
  mat: { 'same place': { types: printables }, 'tape the edges': { types: ['faux-leather'] } },
  cut: {
    'as glitter': { types: ['glitter-printable'] },
    curls: { types: ['matless'] },
    thin: { types: ['budget-adhesive'] },
  },
  lift: { 'check first': { types: ['faux-leather'] } },
  weed: {
    'roll the mat off': { notTypes: ['matless'] },
    'weeds hard': { types: ['glitter'] },
    'thin joints': { types: ['holographic'] },
    'finger marks': { types: ['foil'] },
    'ink scratches': { types: printables },
    'thick carrier': { types: ['matless'] },
    fuzz: { types: ['faux-leather'] },
  },
  'backing off': { 'off its backing': { types: printables }, 'loose letters': { types: printables } },
  before: {
    lint: { on: ['plain-cloth'] },
    flatten: { on: ['short-fur'] },
  },
  'layer, closed': {
    'trim close': { on: ['long-fur'] },
    pillow: { on: ['mesh'], notTypes: relief },
    'no pulling': { on: ['stretch'] },
    'no fold': { on: ['thin-bag'] },
    'low and few': { on: ['silk'] },
    gives: { on: ['foam'] },
    'short and covered': { on: hard },
    'hold the carrier': { types: ['flock'] },
    'hard and dry': { types: ['puff'] },
    board: { types: ['metallic-puff'] },
    'heat tape': { types: ['holographic'] },
    creases: { types: ['reflective'] },
    'little heat': { types: ['low-heat'] },
  },
  'layer, open': {
    'with the pile': { on: ['long-fur'] },
    'tearing noise': { on: ['mesh'] },
    'under a weight': { on: ['card'] },
    'hold it flat': { on: ['leather'] },
    'thin lines': { types: ['smooth'] },
    'only tacked': { types: ['smooth-glitter'] },
    'will not come off': { types: ['metallic-puff'] },
    'cold again': { types: ['holographic'] },
    'almost cold': { types: ['matless'] },
  },
  lay: { bubbles: { types: ['budget-adhesive'] } },
  /** Whichever step is the first with the blank in the hands. */
  first: {
    'hidden place': { on: ['nylon'] },
    stiffener: { on: ['cap'] },
    'blow it up': { on: ['balloon'] },
  },
};

/** The steps of a job in one film on one surface, each by its name in the table above, and as `tipsAt` is asked about it. */
function stepsOf(type: VinylTypeKey, surface: BlankKey, shape: ShapeKey): [string, TipStep][] {
  const b = behaviourOf(type);
  const blank = takesOf({ shape, surface });
  const { bond, face } = b;
  const film = { ...b, id: 'f', name: type, type, bond, face, widthUm: 60_000 };
  const pressed = pressPlan([film], blank, { warm: 3, cool: 6 }, { school: 'full' }).steps;
  const applied = applySteps([film], blank).map((s) => s.does);
  const steps = tipSteps([
    ...pressed.map(({ does, films }) => ({
      kind: does === 'backing off' ? ('apply' as const) : ('press' as const),
      does,
      films,
    })),
    ...applied.map((does) => ({ kind: 'apply' as const, does, films: ['f'] })),
  ]);
  return [
    ...(['trim', 'mat', 'cut', 'lift', 'weed'] as const).map((kind): [string, TipStep] => [kind, { kind }]),
    ...steps.flatMap((step): [string, TipStep][] =>
      step.does !== 'layer'
        ? [[step.does!, step]]
        : step.again
          ? [['again', step]]
          : [
              ['layer, closed', step],
              ['layer, open', { ...step, first: false, opened: true }],
            ],
    ),
    ['wash', { kind: 'wash' }],
  ];
}
const shirt: ShapeKey = 'shirt';
const pairs = blankKeys.flatMap((surface) =>
  vinylTypeKeys
    .filter((type) => suitsBlank(behaviourOf(type), blanks[surface]).verdict !== 'not')
    .map((type) => [surface, type] as const),
);

describe('each tip stands on its step', () => {
  it.each(pairs)('%s, %s: these tips, and no others', (surface, type) => {
    const b = behaviourOf(type);
    for (const [name, step] of stepsOf(type, surface, shirt)) {
      // What is done to the blank alone is about no film.
      const films = name === 'before' || name === 'clean' ? [] : [b];
      const wanted = [stands[name], step.first ? stands.first : undefined].flatMap((tips) =>
        Object.entries(tips ?? {}).flatMap(([key, { types, notTypes, on }]) =>
          (!types || types.includes(type)) && !notTypes?.includes(type) && (!on || on.includes(surface)) ? [key] : [],
        ),
      );
      const told = tipsAt(step, films, takesOf({ shape: shirt, surface }), shirt).map((t) => t.key);
      expect(told.toSorted(), `${name} of ${type} on ${surface}`).toEqual(wanted.toSorted());
      expect(told.length).toBeLessThanOrEqual(MOST_TIPS);
    }
  });
  it('every tip there is stands somewhere: on a step, or where the design is made', () => {
    const named = new Set(Object.values(stands).flatMap((s) => Object.keys(s)));
    const all = [
      ...Object.values(typeTips).flat(),
      ...blankKeys.flatMap((k) => blanks[k].tips),
      ...shapeKeys.flatMap((k) => shapes[k].tips),
    ];
    for (const t of all) {
      expect(moments).toContain(t.at);
      if (t.at !== 'design' && t.key !== 'seam') expect(named, t.key).toContain(t.key);
    }
    // Nobody sets anything by a tip: figures stand in the step itself.
    for (const t of all.filter((x) => x.at === 'press')) expect(t.says, t.key).not.toMatch(/\d+ ?°/);
  });
  it('a seam is padded where there may be one, and never under puff; a soft toy is not pressed bare', () => {
    const at = (type: VinylTypeKey, shape: ShapeKey) =>
      tipsAt({ kind: 'press', does: 'layer' }, [behaviourOf(type)], blanks['plain-cloth'], shape).map((t) => t.key);
    expect(at('smooth', 'stocking')).toContain('seam');
    expect(at('smooth', 'shirt')).not.toContain('seam');
    for (const type of relief) expect(at(type, 'toy')).not.toContain('seam');
    const does = (shape: ShapeKey) => stepsOf('smooth', 'short-fur', shape).map(([name]) => name);
    expect(does('toy')).not.toContain('before');
    expect(does('shirt')).toContain('before');
  });
  it('who weeds on the mat is not told to unload first', () => {
    const at = (hands: object) =>
      tipsAt({ kind: 'weed' }, [behaviourOf('smooth')], blanks['plain-cloth'], shirt, hands).map((t) => t.key);
    expect(at({})).toEqual(['roll the mat off']);
    expect(at({ weeding: 'on-mat' })).toEqual([]);
  });
});
