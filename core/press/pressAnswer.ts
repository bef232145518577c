import { bothHeats, capitalise } from '../units/index.ts';
import { fullWays, type Blank, type BlankKey, type Leaflet, type PressWay } from '../vinyls/index.ts';
import type { StandingResult } from '../proof/index.ts';
import { isPrinted, type Film } from './troubles.ts';

/** Where a way to press comes from, the one to trust most first. Source of the order: common practice, no source. */
export const pressSources = [
  'own proven',
  'own tried',
  'own written',
  'chosen',
  'leaflet',
  'proven by others',
  'type',
] as const;
type PressSource = (typeof pressSources)[number];

/** A way that somebody said, and what became of it. */
export type SaidWay = {
  source: PressSource | 'own doubted' | 'tried by others';
  way: PressWay;
  /** The recipe it is, where it is one. */
  id?: string | undefined;
  /** Who else said so, or where it stands. */
  by?: string | undefined;
  /** How much it speaks of this very fabric and press: more is closer. */
  close?: number | undefined;
  /** The press it is for. */
  press?: string | undefined;
};

/** How a film is pressed on a surface, by one source; what the others say stands beside it. */
export type PressAnswer = {
  /** Undefined where nobody says a press, or nothing is pressed there. */
  said: SaidWay | undefined;
  beside: SaidWay[];
  /** Whether something is pressed there at all: on glass no press has a number. */
  pressed: boolean;
  /** Where its heat is more than the surface takes: said at the number, wherever it stands. */
  overSurface: string | undefined;
};

/** What a recipe of one's own is as a source. */
export const ownSource = (standing: StandingResult['standing']): SaidWay['source'] =>
  standing === 'proven'
    ? 'own proven'
    : standing === 'doubted'
      ? 'own doubted'
      : standing === 'tried' || standing === 'retired'
        ? 'own tried'
        : 'own written';

/** A maker's leaflet as a way of one press: what it states, and nothing else. Undefined where it says nothing of the press. */
export function leafletWay(leaflet: Leaflet | undefined, film: Pick<Film, 'bond' | 'side'>): PressWay | undefined {
  if (!leaflet || (leaflet.heat === undefined && !leaflet.seconds)) return undefined;
  return {
    ...(leaflet.heat === undefined ? {} : { heat: leaflet.heat }),
    ...(leaflet.seconds ? { seconds: leaflet.seconds } : {}),
    ...(leaflet.pressure ? { pressure: leaflet.pressure } : {}),
    // How it lies under the plate is no figure: film without a carrier is covered.
    cover: isPrinted(film) ? 'a cover sheet' : 'its own carrier',
    peel: leaflet.peel ?? 'by the leaflet',
  };
}

/** Says where a heat is more than a surface takes. @param heat m°C */
export function overSurface(heat: number | undefined, blank: Pick<Blank, 'word' | 'heat'>): string | undefined {
  if (heat === undefined || blank.heat === undefined || heat <= blank.heat) return undefined;
  const word = blank.word.split(':')[0]!;
  return `${capitalise(word)} takes ${bothHeats(blank.heat)} at most, we think.`;
}

/**
 * The one answer to "how do I press this": by what is one's own and proven, else tried, else written, else the way one chose, else the leaflet, else
 * what others have proven, else the first way of its type. What is doubted stands beside, never first. The answer is one source's, whole: what that
 * source does not say is not filled in from another.
 * @param said the ways that somebody said, of one source the newest first
 * @param iron where it is pressed with one: only a way in the words of its dial, or one for this very iron, speaks of it; degrees do once somebody
 *   has measured what its words have
 */
export function pressAnswer(
  film: Pick<Film, 'bond' | 'press'>,
  blank: Pick<Blank, 'key' | 'word' | 'heat'>,
  said: readonly SaidWay[],
  iron?: { measured: boolean },
): PressAnswer {
  const pressed = film.bond === 'heat' && blank.heat !== undefined;
  if (!pressed) return { said: undefined, beside: [], pressed, overSurface: undefined };
  const rank = ({ source }: SaidWay): number => pressSources.findIndex((s) => s === source);
  // On faux leather film is pressed cooler and shorter than on cloth: what was said without naming it speaks of cloth.
  const onLeather = blank.key === 'leather' ? film.press.find((w) => w.purpose === 'on faux leather') : undefined;
  const byDial = (s: SaidWay): boolean =>
    iron ? s.way.word !== undefined || s.press !== undefined || iron.measured : s.way.word === undefined;
  const speaks = (s: SaidWay): boolean =>
    byDial(s) && (!onLeather || (s.source.startsWith('own') && (s.close ?? 0) >= 2));
  const usual: SaidWay[] = [
    ...(onLeather ? [{ source: 'type' as const, way: { ...onLeather, purpose: undefined } }] : []),
    ...(iron ? fullWays(film.press, true) : []).map(({ way }): SaidWay => ({ source: 'type', way })),
    ...fullWays(film.press).map(({ way }): SaidWay => ({ source: 'type', way })),
  ];
  const all = [...said, ...usual];
  const first = all
    .filter((s) => rank(s) >= 0 && speaks(s))
    .toSorted((a, b) => rank(a) - rank(b) || (b.close ?? 0) - (a.close ?? 0))[0];
  const answer = first ?? (onLeather && !iron ? usual[0] : undefined);
  return {
    said: answer,
    beside: all.filter((s) => s !== answer),
    pressed,
    overSurface: overSurface(answer?.way.heat, blank),
  };
}

/** The surface that is meant where none is known: lists, charts and labels say so. */
export const anySurface = 'plain-cloth' satisfies BlankKey;
