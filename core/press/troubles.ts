import { milliCelsiusToFahrenheit, type MilliCelsius } from '../units/index.ts';
import { fullPress, suitsBlank, type Behaviour, type Blank } from '../vinyls/index.ts';

/** A film of a stack: what it is called, and how it lies and presses. */
export type Film = Pick<Behaviour, 'bond' | 'heat' | 'notOn' | 'press' | 'minFeatureUm' | 'face'> & {
  id: string;
  /** As the crafter calls it. */
  name: string;
  /** The place of the way to press that the person follows. */
  way?: number | undefined;
  /** The thinnest line of its artwork, µm: it says how long it is pressed. */
  thinUm?: number | undefined;
};

/** What must not meet, or wants care: which films, why, and what would help. */
export type Trouble = { grade: 'not' | 'care'; films: string[]; why: string; helps: string };

const both = (mc: MilliCelsius) => `${Math.round(milliCelsiusToFahrenheit(mc))} °F (${Math.round(mc / 1000)} °C)`;

/** Heats nearer than this are the same heat: presses differ by more. m°C. Common practice, no source. */
const SAME_HEAT = 6_000;

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
      grade: 'not',
      films: [below.id, above.id],
      why: `${hot.name} wants at least ${both(hot.heat!.from)}; ${mild.name} takes ${both(mild.heat!.to)} at most.`,
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

/**
 * One heat for all films of a stack, m°C: within what each takes, nearest to the usual press of the topmost; undefined where there is none,
 * or nothing is known. Source: common practice, no published source.
 */
export function oneHeat(films: readonly Film[]): MilliCelsius | undefined {
  const pressed = films.filter((f) => f.bond === 'heat' && f.heat);
  if (pressed.length === 0) return undefined;
  const from = Math.max(...pressed.map((f) => f.heat!.from));
  const to = Math.min(...pressed.map((f) => f.heat!.to));
  if (from > to + SAME_HEAT) return undefined;
  const usual = pressed.toReversed().flatMap((f) => fullPress(f.press, f.way)?.heat ?? [])[0];
  return Math.max(from, Math.min(Math.max(from, to), usual ?? from));
}
