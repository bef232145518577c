import type { MilliCelsius } from '../units/index.ts';
import { fullPress, type Blank, type PressWay } from '../vinyls/index.ts';
import { isPrinted, SAME_HEAT, type Film } from './troubles.ts';

export const pressDefaults = {
  /** The bare blank, dry and flat, s. */
  before: 5,
  /** A layer held just so far that its carrier comes off, s. */
  tack: 5,
  /** The school of ten seconds: a layer and no more, s. */
  ten: 10,
  /** What is counted for a full press whose time only the leaflet says, s. */
  unsaid: 15,
  /** A line up to this width takes the longest time, from this one on the shortest, µm. Judgement, no source. */
  thin: 2_000,
  broad: 6_000,
  /** How long to wait before each kind of peel, s. "By the leaflet" waits for nobody. */
  waits: { hot: 0, warm: 10, lukewarm: 20, cool: 45, cold: 90, 'by the leaflet': 0 } as Record<
    PressWay['peel'],
    number
  >,
  /** Full presses a film takes in all before it suffers: plain film bears a doubled overlap and more, others less. Judgement, no source. */
  bears: { plain: 4, other: 2.5 },
  /** By how much a film shrinks in its first full press, as a share of its width: an assumption until somebody measures it. */
  shrink: 0.003,
  /** How fast a plate gets hotter and cooler, s a degree Celsius. Judgement until the person's own log says more. */
  warmth: { warm: 3, cool: 6 },
};

/** A film as it is pressed on one fabric: where its heat lies, how long, how it is peeled, what it bears. Heat in m°C, time in s. */
export type Laid = {
  id: string;
  name: string;
  from: MilliCelsius;
  to: MilliCelsius;
  /** Whether somebody said those heats of this very film: only then do they forbid. */
  said: boolean;
  usual: MilliCelsius | undefined;
  way: PressWay | undefined;
  /** How long for good; undefined where the leaflet says it. */
  full: number | undefined;
  tack: number;
  /** Whether it takes its own full press whatever the school, as on faux leather. */
  always: boolean;
  raises: readonly PressWay[];
  relief: boolean;
  printed: boolean;
  /** Why it does not go on this fabric at all, in words. */
  unfit: string | undefined;
  /** From the end of the press to the peel; and again when it is heated once more, where it is peeled cool. */
  wait: number;
  again: number;
  bears: number;
  shrink: number;
  measured: boolean;
  widthUm: number | undefined;
};

/** What is known of a film beside its own facts. */
export type LaidMore = {
  /** How wide its layer is, µm: says by how much it shrinks. */
  widthUm?: number | undefined;
  /** Share of its width lost in the first full press, as somebody measured it. */
  shrink?: number | undefined;
  bears?: number | undefined;
  /** Why it does not go on this fabric at all. */
  unfit?: string | undefined;
};

const longest = (way: PressWay | undefined): number | undefined => way?.seconds?.[1];

/**
 * How long a film is pressed for good, s: thin lines take the longer time of those that are said, broad shapes the shorter one. Source: common
 * practice, no source; where thin ends and broad begins is judgement.
 */
export function timeFor(way: PressWay | undefined, thinUm: number | undefined): number | undefined {
  if (!way?.seconds) return undefined;
  const [short, long] = way.seconds;
  const { thin, broad } = pressDefaults;
  const share = thinUm === undefined ? 0 : Math.min(1, Math.max(0, (thinUm - thin) / (broad - thin)));
  return Math.round(long - share * (long - short));
}

/** A film that is pressed, as it is on this blank. Undefined where nothing is pressed. Source: common practice, no source. */
export function laidFilm(film: Film, blank: Pick<Blank, 'word' | 'heat'>, more: LaidMore = {}): Laid | undefined {
  if (film.bond !== 'heat' || !film.heat || blank.heat === undefined) return undefined;
  const onLeather = blank.word === 'faux leather' && film.press.find((w) => w.purpose === 'on faux leather');
  const own = film.press.find((w) => w.purpose === 'tack');
  const whole = fullPress(film.press, film.way);
  const way = onLeather || whole || own;
  const heat =
    onLeather && onLeather.heat !== undefined
      ? { from: onLeather.heat - SAME_HEAT, to: Math.max(onLeather.heat, blank.heat), said: false }
      : film.heat;
  const { waits, bears, shrink, tack } = pressDefaults;
  const wait = way ? (way.wait ?? waits[way.peel]) : 0;
  return {
    id: film.id,
    name: film.name,
    from: heat.from,
    to: Math.max(heat.from, heat.to),
    said: heat.said === true,
    usual: (onLeather || whole || own)?.heat,
    way,
    full: onLeather ? longest(onLeather) : timeFor(whole, film.thinUm),
    tack: longest(own) ?? tack,
    always: onLeather !== false && onLeather !== undefined,
    raises: film.press.filter((w) => w.purpose === 'raise'),
    relief: film.face === 'relief',
    printed: isPrinted(film),
    unfit: more.unfit,
    wait,
    again: way?.peel === 'cold' || way?.peel === 'cool' ? wait : 0,
    bears: more.bears ?? (film.face === 'smooth' && !film.shifts ? bears.plain : bears.other),
    shrink: more.shrink ?? way?.shrink ?? shrink,
    measured: (more.shrink ?? way?.shrink) !== undefined,
    widthUm: more.widthUm,
  };
}
