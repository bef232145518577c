import { bothHeats } from '../units/index.ts';
import type { PressWay } from './behaviour.ts';
import { saySeconds } from './behaviour.ts';

const figures = (way: PressWay): string =>
  [
    way.word === undefined ? '' : `“${way.word}”`,
    way.heat === undefined ? '' : bothHeats(way.heat),
    way.seconds ? saySeconds(way.seconds) : 'time not said',
    way.pressure ? `${way.pressure} pressure` : '',
    `under ${way.cover}`,
  ]
    .filter(Boolean)
    .join(', ');

/**
 * What follows a press, a sentence each: every further press of the same source with all its figures, and what somebody wrote.
 * @example whatFollows(behaviourOf('metallic-puff').press[0]) // ['Then 300 °F (149 °C), 10 s, heavy pressure, under baking paper.']
 */
export const whatFollows = (way: PressWay): string[] => [
  ...(way.then ? [way.then] : []),
  ...(way.next ?? []).flatMap((next) => [
    next.ask ? `${next.ask} If not, once more: ${figures(next)}.` : `Then ${figures(next)}.`,
    ...(next.then ? [next.then] : []),
  ]),
];
