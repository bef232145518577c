import { bothHeats } from '../units/index.ts';
import { suitsBlank, type Behaviour, type Blank } from '../vinyls/index.ts';

/** A film of a stack: what it is called, and how it lies and presses. */
export type Film = Pick<
  Behaviour,
  'bond' | 'heat' | 'notOn' | 'press' | 'minFeatureUm' | 'face' | 'side' | 'shifts'
> & {
  id: string;
  /** As the crafter calls it. */
  name: string;
  mat?: Behaviour['mat'];
  carrierUm?: Behaviour['carrierUm'];
  /** The thinnest line of its artwork, µm: it says how long it is pressed. */
  thinUm?: number | undefined;
};

/** What must not meet, or wants care: which films, why, and what would help. */
export type Trouble = { grade: 'not' | 'care'; films: string[]; why: string; helps: string };

/** A film that is printed on: its face is up, and belongs on top. */
export const isPrinted = (film: Pick<Film, 'bond' | 'side'>): boolean =>
  film.bond === 'heat' && film.side === 'backing down';

/** Heats nearer than this are the same heat: presses differ by more. m°C. Common practice, no source. */
export const SAME_HEAT = 6_000;

/**
 * Why one film must not lie on another, or wants care there. Undefined where they may meet.
 * Source: common practice, no published source.
 */
export function pairTrouble(below: Film, above: Film): Trouble | undefined {
  if (below.face === 'relief')
    return {
      grade: 'not',
      films: [below.id, above.id],
      why: `Nothing goes on ${below.name}: it rises, and what lies on it lifts off.`,
      helps: `Press ${below.name} last, on top, or cut its shape out of ${above.name} so that both lie side by side.`,
    };
  if (isPrinted(below) && above.bond === 'heat')
    return {
      grade: 'not',
      films: [below.id, above.id],
      why: `${below.name} is printed: what lies on it covers the print, and its ink takes no second press.`,
      helps: `Lay ${below.name} on top, or cut its shape out of ${above.name} so that both lie side by side.`,
    };
  if (below.bond === 'heat' && above.bond === 'sticks')
    return {
      grade: 'care',
      films: [below.id, above.id],
      why: `${above.name} sticks by itself and takes no heat.`,
      helps: `Press everything else first and let it cool; ${above.name} comes last.`,
    };
  const [a, b] = [below.heat, above.heat];
  if (a?.said && b?.said && (a.from > b.to + SAME_HEAT || b.from > a.to + SAME_HEAT)) {
    const [hot, mild] = a.from > b.to ? [below, above] : [above, below];
    return {
      // What lies on top comes after: it need not see the heat of what lies below.
      grade: hot === below ? 'care' : 'not',
      films: [below.id, above.id],
      why: `${hot.name} wants at least ${bothHeats(hot.heat!.from)}; ${mild.name} takes ${bothHeats(mild.heat!.to)} at most.`,
      helps:
        hot === below
          ? `Press ${hot.name} for its full time first; ${mild.name} then at its own heat.`
          : `Lay ${mild.name} on top instead, or choose a film for it that takes more heat.`,
    };
  }
  if (below.face === 'grain')
    return {
      grade: 'care',
      films: [below.id, above.id],
      why: `The grain of ${below.name} shows through what lies on it.`,
      helps: 'Some like the relief. For a flat look cut the shape out of it instead.',
    };
  return undefined;
}

/**
 * Everything that speaks against a stack on a blank, the worst first. Films the lowest first.
 * @param lies whether one film covers any of another one; films side by side do not meet
 */
export function stackTroubles(
  films: readonly Film[],
  blank: Blank,
  lies: (below: Film, above: Film) => boolean = () => true,
): Trouble[] {
  const troubles: Trouble[] = [];
  for (const film of films) {
    const { verdict, reasons } = suitsBlank(film, blank);
    if (verdict === 'suits') continue;
    troubles.push({
      grade: verdict,
      films: [film.id],
      why: `${film.name} on ${blank.word.split(':')[0]}: ${reasons[0]}`,
      helps: verdict === 'not' ? 'Choose another vinyl for it.' : 'Try a scrap in a place nobody sees.',
    });
  }
  films.forEach((above, i) => {
    for (const below of films.slice(0, i)) {
      const trouble = lies(below, above) ? pairTrouble(below, above) : undefined;
      if (trouble) troubles.push(trouble);
    }
  });
  return troubles.sort((a, b) => Number(a.grade === 'care') - Number(b.grade === 'care'));
}
