import { expect, test } from 'vitest';
import { layers, layersInputSchema } from './layersInput.ts';
import { stepNames } from './stepNames.ts';

test('names stand as they are the first time, and bear their number from the second on', () => {
  const step = (does: string, ...films: string[]) => ({ does, films });
  expect(
    stepNames([
      step('before'),
      step('layer', 'a', 'b'),
      step('last', 'a'),
      step('layer', 'c'),
      step('last', 'a'),
      step('raise', 'c'),
      step('raise', 'c'),
      step('back'),
    ]),
  ).toEqual(['before', 'layer a b', 'all', 'layer c', 'all 2', 'raise c', 'raise c 2', 'back']);
});

test('four films at 300, 300, 270 and 270 °F: no two presses of a piece bear one name', () => {
  const film = (id: string, degrees: number) => ({
    id,
    type: 'smooth' as const,
    heat: { from: degrees - 5, to: degrees + 5, unit: 'F' as const },
    usual: { degrees, unit: 'F' as const },
    seconds: [15, 15] as [number, number],
  });
  const { steps } = layers(
    layersInputSchema.parse({
      format: 'versipel-layers/1',
      fabric: 'plain-cloth',
      layers: [film('a', 300), film('b', 300), film('c', 270), film('d', 270)],
    }),
  );
  const names = stepNames(steps);
  expect(new Set(names).size).toBe(names.length);
  expect(names.length).toBeGreaterThan(4);
});
