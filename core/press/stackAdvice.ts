import type { Behaviour } from '../vinyls/index.ts';
import { pairTrouble, type Film, type Trouble } from './troubles.ts';

/** A film with how thick it is and what shows through it. */
export type LaidFilm = Film & Pick<Behaviour, 'filmUm' | 'opacity'>;

/** Two films of which one covers some of the other: laid on each other, or side by side. */
export type StackAdvice = {
  do: 'overlay' | 'side by side';
  because: 'must' | 'shows through' | 'grain' | 'easier';
  trouble: Trouble | undefined;
  /** How thick it gets, µm, and how often the lower film is under heat, either way. */
  overlay: { thickUm: number; heats: number };
  beside: { thickUm: number; heats: number };
};

/**
 * Whether one film is laid on another one or its shape is cut out of it. Laid on, it is easy to place and gets thicker, and the lower film
 * takes the heat twice; side by side it stays as thin as one film, and any shift shows. Source: common practice, no source.
 */
export function stackAdvice(below: LaidFilm, above: LaidFilm): StackAdvice {
  const trouble = pairTrouble(below, above);
  const because =
    trouble?.grade === 'not'
      ? 'must'
      : above.opacity !== 'opaque'
        ? 'shows through'
        : below.face === 'grain'
          ? 'grain'
          : 'easier';
  return {
    // A grain that shows is liked by some: a caution, no ban.
    do: because === 'must' || because === 'shows through' ? 'side by side' : 'overlay',
    because,
    trouble,
    overlay: { thickUm: below.filmUm + above.filmUm, heats: 2 },
    beside: { thickUm: Math.max(below.filmUm, above.filmUm), heats: 1 },
  };
}
