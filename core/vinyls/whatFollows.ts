import { bothHeats, type MilliCelsius } from '../units/index.ts';
import type { PressWay } from './behaviour.ts';
import { saySeconds } from './behaviour.ts';

type SayHeat = (heat: MilliCelsius) => string;

const figures = (way: PressWay, say: SayHeat): string =>
  [
    way.word === undefined ? '' : `“${way.word}”`,
    way.heat === undefined ? '' : say(way.heat),
    way.seconds ? saySeconds(way.seconds) : 'time not said',
    way.pressure ? `${way.pressure} pressure` : '',
    `under ${way.cover}`,
  ]
    .filter(Boolean)
    .join(', ');

/**
 * What follows a press, a sentence each: every further press of the same source with all its figures, and what somebody wrote.
 * @param say a heat in words: in both scales, °F first, when left out
 * @example whatFollows(behaviourOf('metallic-puff').press[0]) // ['Then 300 °F (149 °C), 10 s, heavy pressure, under baking paper.']
 */
export const whatFollows = (way: PressWay, say: SayHeat = bothHeats): string[] => [
  ...(way.then ? [way.then] : []),
  ...(way.next ?? []).flatMap((next) => [
    next.ask ? `${next.ask} If not, once more: ${figures(next, say)}.` : `Then ${figures(next, say)}.`,
    ...(next.then ? [next.then] : []),
  ]),
];
