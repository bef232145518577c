import {
  bothHeats,
  wholeDegrees,
  celsiusToMilliCelsius,
  fahrenheitToMilliCelsius,
  type MilliCelsius,
  capitalise,
} from '../units/index.ts';
import { pressDefaults } from './laidFilm.ts';
import { SAME_HEAT } from './troubles.ts';

export const sourceKinds = ['plate', 'hand press', 'cap press', 'small press', 'iron'] as const;
export type SourceKind = (typeof sourceKinds)[number];

/** Where a word on the dial comes to lie. Label: what such words usually mean; thermometer, swatch: on this very one. */
export type Level = { word: string; heat: MilliCelsius; how: 'label' | 'thermometer' | 'swatch' };

/** What presses: how hot it goes, what it shows, what size it closes over, m°C and µm. */
export type HeatSource = {
  id: string;
  name: string;
  kind: SourceKind;
  widthUm: number;
  lengthUm: number;
  hottest: MilliCelsius;
  shows: 'C' | 'F';
  /** What it really has against what it shows. */
  off: MilliCelsius;
  /** The words on its dial, coolest first; none where it shows degrees. */
  levels: readonly Level[];
  /** How much cooler its coolest place is than its middle; 0 where nobody looked. */
  uneven: MilliCelsius;
};

/**
 * What the words on a dial usually mean until somebody measures. Irons: the hottest sole plate that ISO 3758 allows at one, two and three dots
 * (110, 150, 200 °C; from memory), and the words that stand at them. Small presses: low is common practice, no source; what medium and high have nobody says: judgement, which a thermometer or a card of
 * swatches ends.
 */
export const usualLevels: Partial<Record<SourceKind, readonly Level[]>> = {
  iron: [
    { word: 'synthetics', heat: celsiusToMilliCelsius(110), how: 'label' },
    { word: 'wool, blend', heat: celsiusToMilliCelsius(150), how: 'label' },
    { word: 'cotton', heat: celsiusToMilliCelsius(200), how: 'label' },
  ],
  'small press': [
    { word: 'low', heat: fahrenheitToMilliCelsius(265), how: 'label' },
    { word: 'medium', heat: fahrenheitToMilliCelsius(300), how: 'label' },
    { word: 'high', heat: fahrenheitToMilliCelsius(340), how: 'label' },
  ],
};

/** The words of a source with what they mean on it: what was measured takes the place of what they usually mean. */
export function levelsOf(kind: SourceKind, measured: readonly Level[]): Level[] {
  const usual = usualLevels[kind] ?? [];
  const own = measured.filter((m) => !usual.some((u) => u.word === m.word));
  return [...usual.map((u) => measured.find((m) => m.word === u.word) ?? u), ...own].sort((a, b) => a.heat - b.heat);
}

/** What to set so that it has a heat: a word, or the number its display is to show; and what it then truly has. */
export type ToSetHeat = { says: string; truly: MilliCelsius; level: Level | undefined };

/** @example setFor({ levels: [], shows: 'F', off: 0 }, 151667).says // '305 °F' */
export function setFor(source: Pick<HeatSource, 'levels' | 'shows' | 'off'>, heat: MilliCelsius): ToSetHeat {
  const [level] = source.levels.toSorted((a, b) => Math.abs(a.heat - heat) - Math.abs(b.heat - heat));
  if (level) return { says: level.word, truly: level.heat, level };
  const shown = heat - source.off;
  return { says: `${wholeDegrees(shown, source.shows)} °${source.shows}`, truly: heat, level: undefined };
}

/** What is to be pressed: the heats its films take together, how large it is, and what it needs of a press. */
export type PressNeed = {
  from: MilliCelsius;
  to: MilliCelsius;
  widthUm: number;
  heightUm: number;
  /** A cap is pressed in parts; puff wants an even plate that closes on all of it at once. */
  cap: boolean;
  relief: boolean;
  /** Metallic puff: large, it failed under hand presses. */
  metallic?: boolean;
  /** Presses that recipes of one's own for its films are for. */
  own?: ReadonlySet<string>;
};
export type RankedSource = { id: string; fits: boolean; because: string };

/** From this width on puff is large, µm. Judgement; that large metallic puff failed under hand presses is common practice. */
const LARGE_PUFF = 150_000;
const evenRank: Record<SourceKind, number> = { plate: 0, 'hand press': 1, 'cap press': 2, 'small press': 3, iron: 4 };

/** "It closes over all of it at once, and it reaches 305 °F (152 °C)." */
const sentence = (parts: readonly string[]): string => {
  const all = parts.join(', and ');
  return `${capitalise(all)}.`;
};

/** Which of one's presses to take, the best first, each with the weightiest reason. Source: common practice, no published source. */
export function rankSources(sources: readonly HeatSource[], need: PressNeed): RankedSource[] {
  const judged = sources.map((s) => {
    const covers =
      (s.widthUm >= need.widthUm && s.lengthUm >= need.heightUm) ||
      (s.lengthUm >= need.widthUm && s.widthUm >= need.heightUm);
    const { truly, level } = setFor(s, Math.max(need.from, Math.min(need.to, (need.from + need.to) / 2)));
    const meets = s.levels.some((l) => l.heat >= need.from - SAME_HEAT && l.heat <= need.to + SAME_HEAT);
    const hot = s.levels.length > 0 ? meets : s.hottest >= need.from - SAME_HEAT;
    const fails = [
      hot
        ? ''
        : s.levels.length > 0
          ? `None of its words lies between ${bothHeats(need.from)} and ${bothHeats(need.to)}.`
          : `It goes to ${bothHeats(s.hottest)}; ${bothHeats(need.from)} is wanted.`,
      need.relief && !covers ? 'What rises wants a plate that closes over all of it at once.' : '',
      need.cap && s.kind === 'plate' ? 'A cap does not lie flat under a plate.' : '',
    ].filter(Boolean);
    const care = [
      level?.how === 'label' ? `Nobody has measured what “${level.word}” is on it: about ${bothHeats(truly)}.` : '',
      need.metallic && s.kind === 'hand press' && need.widthUm > LARGE_PUFF
        ? 'Large metallic puff failed under hand presses: make it smaller, or press it under a plate.'
        : '',
      need.relief && covers && (s.kind === 'iron' || s.kind === 'small press')
        ? 'Tiny puff goes with it: it closes over all of it at once. Press hard, and do not slide.'
        : '',
      covers || need.cap
        ? ''
        : s.kind === 'iron' || s.kind === 'small press'
          ? 'It is smaller than the design: press part by part, edges twice.'
          : 'It is smaller than the design: press in parts that overlap.',
      s.uneven >= 8_000 ? `Its coolest place has ${Math.round(s.uneven / 1000)} °C less than its middle.` : '',
    ].filter(Boolean);
    const own = need.own?.has(s.id) ?? false;
    const good = [
      own ? 'You have a recipe for it there' : '',
      covers ? 'it closes over all of it at once' : '',
      level
        ? level.how === 'label'
          ? ''
          : `“${level.word}” is ${bothHeats(level.heat)} on it`
        : hot
          ? `it reaches ${bothHeats(need.from)}`
          : '',
    ].filter(Boolean);
    const rank =
      fails.length * 1000 +
      care.length * 10 -
      (own ? 15 : 0) +
      (need.cap && s.kind === 'cap press' ? -5 : 0) +
      evenRank[s.kind] +
      s.uneven / 1e5;
    const because = fails[0] ?? care[0] ?? (good.length > 0 ? sentence(good) : 'It will do.');
    return { id: s.id, fits: fails.length === 0, because, rank };
  });
  return judged.toSorted((a, b) => a.rank - b.rank).map(({ id, fits, because }) => ({ id, fits, because }));
}

/** One change of heat that was timed: from one heat to another, m°C, in so many seconds. */
export type HeatChange = { from: MilliCelsius; to: MilliCelsius; seconds: number };

/**
 * How fast a source gets hotter and cooler, s a degree Celsius: the median of what its own log has, once there are two of a kind; else as is
 * usual. Changes that took over half an hour were no changes but breaks.
 */
export function warmthOf(log: readonly HeatChange[]): { warm: number; cool: number; timed: number } {
  const rates = (up: boolean) =>
    log
      .filter((c) => c.to !== c.from && c.to > c.from === up && c.seconds > 0 && c.seconds <= 1_800)
      .map((c) => c.seconds / (Math.abs(c.to - c.from) / 1000))
      .sort((a, b) => a - b);
  const median = (all: number[], usual: number) =>
    all.length < 2 ? usual : (all[Math.floor((all.length - 1) / 2)]! + all[Math.ceil((all.length - 1) / 2)]!) / 2;
  const [warm, cool] = [rates(true), rates(false)];
  return {
    warm: median(warm, pressDefaults.warmth.warm),
    cool: median(cool, pressDefaults.warmth.cool),
    timed: warm.length + cool.length,
  };
}

/** g, m/s² (standard gravity, ISO 80000-3). */
const GRAVITY = 9.80665;

/**
 * Pressure under a plate, kPa, from what a bathroom scale under it reads, kg: p = m·g/A.
 * @example pressureOf(40, 0.16e12).toFixed(2) // '2.45'
 */
export const pressureOf = (kg: number, areaUm2: number): number => (kg * GRAVITY) / (areaUm2 / 1e12) / 1000;
/** What the scale has to read under another plate for the same pressure, kg. */
export const kgFor = (kPa: number, areaUm2: number): number => (kPa * 1000 * (areaUm2 / 1e12)) / GRAVITY;

/** What light, medium and heavy are on one's own press: turns of its knob, or what a bathroom scale under it reads. */
type HandPressure = { turns?: number | undefined; kg?: number | undefined };
export type HandPressures = Partial<Record<'light' | 'medium' | 'heavy', HandPressure>>;
