import type { School } from './facts.ts';
import { behaviourOf } from './behaviour.ts';
import type { VinylTypeKey } from './types.ts';

/** What crafters do in several ways beside the number and the press figures. */
export const handTopics = ['mat', 'weeding', 'cover', 'margin', 'lifts', 'after'] as const;
export type HandTopic = (typeof handTopics)[number];

const pressedAlike: Record<Exclude<HandTopic, 'mat' | 'weeding'>, readonly School[]> = {
  cover: [
    { key: 'bare', says: 'the first press bare, through the carrier' },
    { key: 'covered', says: 'always covered' },
  ],
  margin: [
    { key: 'kept', says: 'leave the carrier wide', because: 'it helps to centre' },
    { key: 'trimmed', says: 'trim it close', because: 'it helps on fur, and its edge leaves no mark' },
  ],
  lifts: [
    { key: 'again', says: 'press a few seconds more', because: 'most do' },
    { key: 'wait', says: 'wait until it is cooler' },
  ],
  after: [
    { key: 'none', says: 'nothing after the peel' },
    { key: 'short', says: '10 to 15 s more, covered' },
    { key: 'long', says: '30 s more, covered' },
  ],
};
const weeding: readonly School[] = [
  { key: 'on-mat', says: 'weed it on the mat', because: 'it keeps still' },
  { key: 'off-mat', says: 'take it off the mat first', because: 'weeding costs the mat its grip' },
];
const mats: Partial<Record<VinylTypeKey, readonly School[]>> = {
  smooth: [
    { key: 'light', says: 'a mat of light grip' },
    { key: 'ordinary', says: 'an ordinary mat' },
  ],
  glitter: [
    { key: 'ordinary', says: 'an ordinary mat' },
    { key: 'high grip', says: 'a mat of high grip' },
  ],
};

/**
 * The ways crafters go with a type of vinyl, topic by topic; no topic where only one way is known. How it is peeled is no school: it goes
 * by the product, and is asked beside the leaflet.
 * Source: common practice, no published source.
 * @example Object.keys(handSchools('adhesive')) // ['weeding']
 */
export function handSchools(type: VinylTypeKey): Partial<Record<HandTopic, readonly School[]>> {
  const mat = mats[type];
  return {
    ...(mat ? { mat } : {}),
    weeding,
    ...(behaviourOf(type).bond === 'heat' ? pressedAlike : {}),
  };
}
