import type { MilliCelsius } from '../units/index.ts';
import { fullPress, type Blank, type PressWay } from '../vinyls/index.ts';
import { isPrinted, SAME_HEAT, type Film } from './troubles.ts';

export const pressDefaults = {
  /** The bare blank, dry and flat, s; under relief, which moisture ruins. Common practice, no source. */
  before: 5,
  dry: 10,
  /** A layer held just so far that its carrier comes off, s; one on a thick carrier. Common practice, no source. */
  tack: 3,
  thickTack: 5,
  /** A carrier from this thickness on is a thick one, µm. Judgement, no source. */
  thickCarrier: 130,
  /** What is counted for a press whose time nobody says, s. */
  unsaid: 15,
  /** A line up to this width takes the longest time, from this one on the shortest, µm. Judgement, no source. */
  thin: 2_000,
  broad: 6_000,
  /** Heats nearer than this are set as one, the lower film's: no dial tells them apart. m°C. */
  oneSetting: 2_000,
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

/** A film as it is pressed on one fabric: its presses, each whole and of one source, how it is peeled, what it bears. Heat in m°C, time in s. */
export type Laid = {
  id: string;
  name: string;
  /** Between which heats somebody said that this very film is pressed: nothing else forbids one. */
  stated: { from: MilliCelsius; to: MilliCelsius } | undefined;
  /** The press that presses it on; undefined where nobody says one. */
  way: PressWay | undefined;
  /** What follows it by the same source: a covered second press, the press that raises it. */
  next: readonly PressWay[];
  /** How it is tacked as a base, where somebody says so: figures of their own. */
  base: PressWay | undefined;
  /** How long it is pressed; undefined where nobody says. */
  full: number | undefined;
  tack: number;
  /** Whether it takes its own full press whatever the method: nothing of it is tacked. */
  alone: boolean;
  relief: boolean;
  printed: boolean;
  onLeather: boolean;
  /** Why it does not go on this fabric at all, in words. */
  unfit: string | undefined;
  /** From the end of the press to the peel, s. */
  wait: number;
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

/**
 * How long a film is pressed, s: thin lines take the longer time of those that are said, broad shapes the shorter one. Source: common practice, no
 * source; where thin ends and broad begins is judgement.
 */
export function timeFor(way: PressWay | undefined, thinUm: number | undefined): number | undefined {
  if (!way?.seconds) return undefined;
  const [short, long] = way.seconds;
  const { thin, broad } = pressDefaults;
  const share = thinUm === undefined ? 0 : Math.min(1, Math.max(0, (thinUm - thin) / (broad - thin)));
  return Math.round(long - share * (long - short));
}

/** A thick carrier takes longer to come off: that of film that goes without a mat is one. Common practice, no source; from where on is judgement. */
const isThick = (film: Film): boolean => film.mat === 'none' || (film.carrierUm ?? 0) >= pressDefaults.thickCarrier;

/** A film that is pressed, as it is on this blank. Undefined where nothing is pressed. Source: common practice, no source. */
export function laidFilm(film: Film, blank: Pick<Blank, 'key' | 'heat'>, more: LaidMore = {}): Laid | undefined {
  if (film.bond !== 'heat' || blank.heat === undefined) return undefined;
  const own = film.press.find((w) => w.purpose === 'tack');
  const onLeather = blank.key === 'leather';
  const way =
    (onLeather ? film.press.find((w) => w.purpose === 'on faux leather') : undefined) ?? fullPress(film.press);
  // A tack that names its heat is a way of its own; one without is a habit of hands.
  const base = own?.heat === undefined ? undefined : own;
  const relief = film.face === 'relief';
  const printed = isPrinted(film);
  const full = timeFor(way, film.thinUm);
  const next = way?.next ?? [];
  const { waits, bears, shrink, tack, thickTack } = pressDefaults;
  return {
    id: film.id,
    name: film.name,
    stated: film.heat?.said ? { from: film.heat.from, to: Math.max(film.heat.from, film.heat.to) } : undefined,
    way,
    next,
    base,
    full,
    tack: own?.seconds?.[1] ?? (isThick(film) ? thickTack : tack),
    alone: onLeather || relief || printed || next.length > 0 || way?.heat === undefined || full === undefined,
    relief,
    printed,
    onLeather,
    unfit: more.unfit,
    wait: way ? (way.wait ?? waits[way.peel]) : 0,
    bears: more.bears ?? (film.face === 'smooth' && !film.shifts ? bears.plain : bears.other),
    shrink: more.shrink ?? way?.shrink ?? shrink,
    measured: (more.shrink ?? way?.shrink) !== undefined,
    widthUm: more.widthUm,
  };
}

/** Whether a heat lies between those that somebody stated, or nobody stated any. */
export const withinStated = ({ stated }: Pick<Laid, 'stated'>, heat: MilliCelsius): boolean =>
  !stated || (heat >= stated.from - SAME_HEAT && heat <= stated.to + SAME_HEAT);
