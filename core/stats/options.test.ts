import { expect, test } from 'vitest';
import { matGrip } from '../wear/index.ts';
import { fitMixed } from '../transfer/mixed.ts';
import { checked, SHARE } from './options.ts';

test('an option outside its range is named, with the range and what it was', () => {
  expect(checked({ credible: 0.9 }, { credible: SHARE })).toEqual({ credible: 0.9 });
  expect(() => checked({ credible: 1 }, { credible: SHARE })).toThrow('invalid credible; not in (0, 1): 1');
  expect(() => checked({ credible: NaN }, { credible: SHARE })).toThrow('invalid credible; not in (0, 1): NaN');
  expect(() => checked({ draws: 2.5 }, { draws: { from: 1, to: 10, whole: true } })).toThrow('[1, 10], whole: 2.5');
  expect(() => checked({ drews: 2 } as object, { draws: SHARE } as object)).toThrow('no option called "drews"');
});

test('where options and numbers enter they are looked at: mats and mixed models', () => {
  expect(() => matGrip(NaN, 0)).toThrow('invalid loads');
  expect(() => matGrip(3, -1)).toThrow('invalid washes');
  const data = { y: Float64Array.of(1, 2, 3), fixed: [], random: [] };
  expect(() => fitMixed(data as never, { maxIterations: 0 })).toThrow(
    'invalid maxIterations; not in [1, 10000], whole: 0',
  );
  expect(() => fitMixed(data as never, { tolerence: 1 } as never)).toThrow('no option called');
});
