import { expect, test } from 'vitest';
import { behaviourOf } from './behaviour.ts';
import { whatFollows } from './whatFollows.ts';

test('further presses are said with all their figures, a question before the last', () => {
  const [cold, warm] = behaviourOf('metallic-puff').press;
  expect(whatFollows(cold!)).toEqual(['Then 300 °F (149 °C), 10 s, heavy pressure, under baking paper.']);
  expect(whatFollows(warm!)).toEqual([
    'Then 280 °F (138 °C), 8 s, heavy pressure, under baking paper.',
    'Risen all over? If not, once more: 280 °F (138 °C), 8 s, heavy pressure, under baking paper.',
  ]);
  expect(whatFollows(behaviourOf('low-heat').press[0]!)).toEqual([
    'Then 265 °F (129 °C), time not said, under baking paper.',
    'Longer on a big design.',
  ]);
  expect(whatFollows(behaviourOf('smooth').press[0]!)).toEqual([]);
});
