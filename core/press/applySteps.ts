import type { Behaviour, Blank, VinylTypeKey } from '../vinyls/index.ts';

/** One thing the hands do with a film that is not pressed: stuck on, painted through, glued, put together. */
export type ApplyStep = {
  does: 'clean' | 'tape' | 'gather' | 'lay' | 'paint' | 'off' | 'glue' | 'finish';
  films: string[];
  /** What to do, short lines in order. */
  says: string[];
  /** How long it rests before the next, s; undefined where nothing waits. */
  rest: number | undefined;
};

/** A film that sticks or is glued, as it is laid. */
export type AppliedFilm = {
  id: string;
  name: string;
  type: VinylTypeKey;
  bond: 'heat' | 'sticks' | 'glue';
  face: 'smooth' | 'grain' | 'pile' | 'relief';
  /** What carries it to its place; tape when left out. */
  carry?: Behaviour['carry'] | undefined;
  /** How wide its layer is, µm. */
  widthUm: number;
  /** Painted through, and taken off again: any film that sticks serves, the cheap one best. */
  stencil?: boolean | undefined;
};

const applyDefaults = {
  /** From this width on it is laid by a hinge, and wet on smooth hard ground, µm. Common practice, no source. */
  wide: 100_000,
  wet: 250_000,
  /** Glued halves under a weight, s. Common practice: an hour. */
  weight: 3_600,
  /** A thin coat of paint until the next, s. Judgement: the tin says it. */
  coat: 1_800,
};

/** Whether a film is painted through and taken off again: one for stencils whatever is said, any other that sticks where somebody says so. */
export const isStencil = (film: Pick<AppliedFilm, 'type' | 'bond' | 'stencil'>): boolean =>
  film.type === 'stencil' || (film.bond === 'sticks' && film.stencil === true);

/** Which tape holds which film. Ordinary tape is fine; on the grain of a glitter film none that was tried holds. Common practice, no source. */
export const tapeFor = (film: Pick<AppliedFilm, 'face' | 'carry'>): string =>
  film.carry === 'mask'
    ? 'A mask sheet.'
    : film.face === 'grain'
      ? 'No tape that was tried holds on its grain: lay it by hand.'
      : 'Ordinary transfer tape.';

/**
 * What the hands do with films that stick by themselves, that one paints through, or that are glued, in order; empty where all is pressed.
 * Several films are gathered on the tape first, the topmost at the bottom of the tape, and laid at once. Source: common practice, no source.
 */
export function applySteps(
  films: readonly AppliedFilm[],
  blank: Pick<Blank, 'key' | 'curved'> & { round?: boolean },
): ApplyStep[] {
  const stuck = films.filter((f) => f.bond === 'sticks');
  const glued = films.filter((f) => f.bond === 'glue');
  const steps: ApplyStep[] = [];
  const add = (does: ApplyStep['does'], of: readonly AppliedFilm[], says: readonly string[], rest?: number) =>
    steps.push({ does, films: of.map((f) => f.id), says: says.filter(Boolean), rest });
  if (stuck.length > 0) {
    const round = blank.curved === true || blank.round === true;
    const balloon = blank.key === 'balloon';
    const wide = Math.max(...stuck.map((f) => f.widthUm));
    const stencils = stuck.every(isStencil);
    add(
      'clean',
      [],
      [
        'Wipe it free of grease with rubbing alcohol, let it dry; dust shows as bubbles.',
        'Neither cold nor damp: below about 10 °C (50 °F) nothing sticks. Bring it to the warm first.',
      ],
    );
    const order = stuck.toReversed();
    if (stuck.length > 1)
      add('gather', stuck, [
        `Gather them on one tape: first ${order.map((f) => f.name).join(', then ')}, each laid under the last by its marks.`,
        ...new Set(stuck.map((f) => tapeFor(f))),
      ]);
    else if (stuck[0]!.carry !== 'none')
      add('tape', stuck, [tapeFor(stuck[0]!), 'Rub it down, turn it over, peel the backing off it, low and slowly.']);
    add('lay', stuck, [
      stuck.length === 1 && stuck[0]!.carry === 'none' ? 'Peel it off its backing and lay it by hand.' : '',
      wide >= applyDefaults.wide
        ? 'By a hinge: tape it across the middle, peel one half, lay it, then the other.'
        : 'From the middle out, dry.',
      wide >= applyDefaults.wet && !round
        ? 'On glass and smooth hard ground wet: a spray of water with a drop of soap, slide it into place, squeeze the water out, wait.'
        : '',
      round ? 'It is round: slit the tape every thumb’s width from the edge in, never the film.' : '',
      balloon ? 'Hard to make stick: small words only.' : '',
      'Rub it down from the middle out. Peel the tape back on itself, low; what comes along is rubbed down again.',
      balloon
        ? 'Bubbles are rubbed out to the edge: never a needle.'
        : 'Bubbles: prick them at the edge with a needle and rub towards the hole. Small ones go in days.',
    ]);
    if (stencils)
      add(
        'paint',
        stuck,
        [
          'Rub the edges down once more. Dab thin coats on, hardly any paint on the brush.',
          'The paint must suit the ground, or it peels.',
        ],
        applyDefaults.coat,
      );
    if (stencils)
      add('off', stuck, [
        'Pull the stencil off while the last coat is still soft, back on itself. Touch up with a fine brush.',
      ]);
  }
  if (glued.length > 0) {
    add(
      'glue',
      glued,
      ['Trim the fuzz off the edge. Glue the halves back to back, edges meeting; a weight on top.'],
      applyDefaults.weight,
    );
    add('finish', glued, ['Punch the hole, tie the ribbon.']);
  }
  return steps;
}
