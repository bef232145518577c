import type { MilliCelsius } from '../units/index.ts';
import { fullPress, type Blank, type PressWay } from '../vinyls/index.ts';
import { oneHeat, type Film } from './troubles.ts';

/** How layers are pressed: tacked one by one and pressed whole at the end, or each for its full time. */
export const layerSchools = ['tack', 'full'] as const;
export type LayerSchool = (typeof layerSchools)[number];

export const pressDefaults = {
  /** The bare blank, dry and flat, s. */
  before: 5,
  /** A layer held just so far that its carrier comes off, s. */
  tack: 5,
  /** A line up to this width takes the longest time, from this one on the shortest, µm. Judgement, no source. */
  thin: 2_000,
  broad: 6_000,
  /** How long to wait before each kind of peel, s. "By the leaflet" waits for nobody. */
  waits: { hot: 0, warm: 10, lukewarm: 20, cool: 45, cold: 90, 'by the leaflet': 0 } as Record<
    PressWay['peel'],
    number
  >,
};

/** One thing the hands do at the press. */
export type PressStep = {
  does: 'before' | 'layer' | 'raise' | 'all';
  /** The film it is about; none for the bare blank and the last press. */
  film: string | undefined;
  purpose: 'warm' | 'tack' | 'full' | 'raise';
  /** m°C; undefined where the leaflet says it. */
  heat: MilliCelsius | undefined;
  /** How long, s; undefined where the leaflet says it. */
  seconds: number | undefined;
  pressure: PressWay['pressure'];
  cover: string | undefined;
  /** What lies under the blank. */
  support: 'as usual' | 'hard board';
  peel: PressWay['peel'] | undefined;
  /** From the end of the press to the peel, s. */
  wait: number;
  then: string | undefined;
};

const step = (more: Partial<PressStep> & Pick<PressStep, 'does' | 'purpose'>): PressStep => ({
  film: undefined,
  heat: undefined,
  seconds: undefined,
  pressure: undefined,
  cover: undefined,
  support: 'as usual',
  peel: undefined,
  wait: 0,
  then: undefined,
  ...more,
});

const longest = (way: PressWay | undefined): number | undefined => way?.seconds?.[1];

/**
 * How long a film is pressed for good, s: thin lines take the longer time of those that are said, broad shapes the shorter one. Source: common
 * practice, no source; where thin ends and broad begins is judgement.
 */
function timeFor(way: PressWay | undefined, thinUm: number | undefined): number | undefined {
  if (!way?.seconds) return undefined;
  const [short, long] = way.seconds;
  const { thin, broad } = pressDefaults;
  const share = thinUm === undefined ? 0 : Math.min(1, Math.max(0, (thinUm - thin) / (broad - thin)));
  return Math.round(long - share * (long - short));
}

/**
 * What the hands do at the press, in order, for films laid one on the other, the lowest first. Films that stick or are glued are left out.
 * Puff is raised last, by itself. Source: common practice, no published source: three schools exist; these are two of them.
 *
 * @example pressSteps([], { heat: undefined }, 'tack') // []
 */
export function pressSteps(films: readonly Film[], blank: Blank, school: LayerSchool): PressStep[] {
  const pressed = films.filter((f) => f.bond === 'heat');
  if (pressed.length === 0 || blank.heat === undefined) return [];
  // Puff has a heat of its own: it is pressed last, and the press changes for it.
  const flat = pressed.filter((f) => f.face !== 'relief');
  const shared = oneHeat(flat.length > 0 ? flat : pressed);
  const steps: PressStep[] = [];
  if (blank.kind === 'fabric')
    steps.push(
      step({
        does: 'before',
        purpose: 'warm',
        heat: shared ?? fullPress(pressed[0]!.press)?.heat,
        seconds: pressDefaults.before,
      }),
    );
  const last = pressed.at(-1)!;
  for (const film of pressed) {
    const full = fullPress(film.press, film.way);
    const own = film.press.find((w) => w.purpose === 'tack');
    const onLeather =
      blank.word === 'faux leather' ? film.press.find((w) => w.purpose === 'on faux leather') : undefined;
    const tacked = !onLeather && school === 'tack' && (film !== last || pressed.length > 1) && film.face !== 'relief';
    const way = onLeather ?? (tacked ? (own ?? full) : full) ?? own;
    const heat = onLeather?.heat ?? (film.face === 'relief' ? (way?.heat ?? shared) : (shared ?? way?.heat));
    steps.push(
      step({
        does: 'layer',
        film: film.id,
        purpose: tacked || (way === own && !full) ? 'tack' : 'full',
        heat,
        seconds: tacked ? (own ? (longest(own) ?? pressDefaults.tack) : pressDefaults.tack) : timeFor(way, film.thinUm),
        pressure: way?.pressure,
        cover: way?.cover,
        support: film.face === 'relief' ? 'hard board' : 'as usual',
        peel: way?.peel,
        wait: way ? pressDefaults.waits[way.peel] : 0,
        then: tacked ? undefined : way?.then,
      }),
    );
  }
  if (school === 'tack' && pressed.length > 1 && last.face !== 'relief') {
    const whole = pressed.map((f) => timeFor(fullPress(f.press, f.way), f.thinUm)).filter((s) => s !== undefined);
    steps.push(
      step({
        does: 'all',
        purpose: 'full',
        heat: shared ?? fullPress(last.press, last.way)?.heat,
        seconds: whole.length > 0 ? Math.max(...whole) : undefined,
        pressure: 'medium',
        cover: 'baking paper',
      }),
    );
  }
  for (const film of pressed)
    for (const way of film.press.filter((w) => w.purpose === 'raise'))
      steps.push(
        step({
          does: 'raise',
          film: film.id,
          purpose: 'raise',
          heat: way.heat,
          seconds: longest(way),
          pressure: way.pressure,
          cover: way.cover,
          support: 'hard board',
          then: way.then,
        }),
      );
  return steps;
}
