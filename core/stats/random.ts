import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';
import { normalQuantile } from './normal.ts';

/** A seeded source of random numbers: the same seed gives the same numbers on every machine. */
export type Random = {
  /** Uniform on the open interval (0, 1). */
  uniform(): number;
  /** Standard normal, by inversion. */
  normal(): number;
};

/** Spreads neighbouring seeds over all 32 bits (the finaliser of MurmurHash3). */
function mix(seed: number): number {
  let h = seed | 0;
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return h ^ (h >>> 16);
}

/**
 * A random source from an integer seed. The generator is xoroshiro128+ (Blackman & Vigna 2018). Seeds that differ in a bit
 * begin alike with it, so they are mixed and the first numbers are thrown away.
 */
export function seededRandom(seed: number): Random {
  const generator = xoroshiro128plus(mix(seed + 0x9e3779b9));
  for (let i = 0; i < 24; i++) generator.next();
  const uniform = () => ((generator.next() >>> 0) + 0.5) / 4294967296;
  return { uniform, normal: () => normalQuantile(uniform()) };
}

/** A 32-bit seed from any text (FNV-1a), for drawing the same speckle for the same name every time. */
export function seedFromText(text: string): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  return hash | 0;
}
