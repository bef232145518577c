import { SAME_HEAT } from './troubles.ts';
import type { MilliCelsius } from '../units/index.ts';
import { pressDefaults, type Laid } from './laidFilm.ts';
import {
  bareTime,
  breachesOf,
  changeTime,
  groupTime,
  waitAfter,
  wholeTime,
  type Group,
  type LayerSchool,
  type Stack,
} from './layerWalk.ts';

/** Up to so many layers every order and every grouping is weighed; above, layers keep the order of the drawing, each by itself. */
export const SEARCHED = 6;

/** Heats worth trying: where a film begins, ends or is usually pressed, within what the source can do. */
export function heatsToTry({ films, source, blank }: Stack): MilliCelsius[] {
  if (source.heats && source.heats.length > 0) return [...new Set(source.heats)].sort((a, b) => a - b);
  const cap = blank.heat ?? Infinity;
  const all = films.flatMap((f) => [f.from, f.to, ...(f.usual === undefined ? [] : [f.usual])]);
  // What the fabric takes at most is a heat of its own: a film may be pressed just so hot.
  return [...new Set([...all, ...(Number.isFinite(cap) ? [cap] : [])].map((h) => Math.min(h, cap + SAME_HEAT)))].sort(
    (a, b) => a - b,
  );
}

/** Whether films may be pressed on at once: carriers apart, and peeled, pressed and raised alike. */
export function atOnce(stack: Stack, members: readonly number[]): boolean {
  const [first, ...others] = members.map((i) => stack.films[i]!);
  if (!first) return false;
  if (
    others.some(
      (f) => f.way?.peel !== first.way?.peel || f.way?.pressure !== first.way?.pressure || f.relief !== first.relief,
    )
  )
    return false;
  return members.every((a, n) =>
    members.slice(n + 1).every((b) => stack.meet(Math.min(a, b), Math.max(a, b)) === 'apart'),
  );
}

const subsets = (of: readonly number[]): number[][] =>
  of.reduce<number[][]>((sets, x) => [...sets, ...sets.map((s) => [...s, x])], [[]]).filter((s) => s.length > 0);

/** Where in its run a group stands under the school of tacking: before it may follow what. */
type Phase = 'closed' | 'one' | 'more' | 'free';
/** `run`: the longest full time among the layers of the run, s. */
type State = { mask: number; heat: number; phase: Phase; run: number };
type Reached = State & { cost: number; groups: Group[] };

const weigh = (forbidden: number, care: number, changes: number, presses: number, seconds: number): number =>
  (((forbidden * 128 + care) * 64 + changes) * 64 + presses) * 100_000 + seconds;
/** Between plans that cost the same, the one nearer to what each film is usually pressed at. Far below a second in all. */
const nearness = (films: readonly Laid[], heat: MilliCelsius): number =>
  films.reduce((s, f) => s + (f.usual === undefined ? 0 : ((heat - f.usual) / 1000) ** 2), 0) / 1e7;

/**
 * The order, the groups and the heats that cost least by `compareCosts`. Dynamic programming over what lies there, the heat of the plate, and
 * how far a run of tacked layers has come (Held and Karp 1962); exact up to `SEARCHED` layers.
 */
export function bestGroups(stack: Stack, school: LayerSchool): Group[] {
  const { films, source, blank } = stack;
  const n = films.length;
  if (n === 0) return [];
  const heats = heatsToTry(stack);
  const at = (i: number) => films[i]!;
  const members = remember((mask: number) => films.map((_, i) => i).filter((i) => mask & (1 << i)));
  const lying = remember((mask: number) => members(mask).map(at));
  /** What must lie there before a layer: what it lies on, as it is drawn. */
  const below = films.map((_, i) =>
    films.reduce((mask, _f, j) => (j < i && stack.meet(j, i) === 'overlay' ? mask | (1 << j) : mask), 0),
  );
  // Beyond what is searched: the order of the drawing, relief last.
  const drawn = films.map((_, i) => i).sort((a, b) => Number(at(a).relief) - Number(at(b).relief) || a - b);
  const ready = remember((mask: number): number[][] => {
    if (n > SEARCHED) return [[drawn.find((i) => !(mask & (1 << i)))!]];
    const open = films.map((_, i) => i).filter((i) => !(mask & (1 << i)) && (below[i]! & ~mask) === 0);
    return subsets(open).filter((s) => s.length === 1 || atOnce(stack, s));
  });
  const breaks = new Map<number, { not: number; care: number }>();
  const brokenBy = (mask: number, into: number, group: number[], at: number) => {
    const key = (at * 8192 + mask) * 8192 + into;
    let found = breaks.get(key);
    if (!found) {
      const all = breachesOf(stack, members(mask), { films: group, heat: heats[at]! });
      found = { not: all.filter((b) => b.grade === 'not').length, care: all.filter((b) => b.grade === 'care').length };
      breaks.set(key, found);
    }
    return found;
  };
  const started: Reached = {
    mask: 0,
    heat: -1,
    phase: 'closed',
    run: 0,
    cost: blank.kind === 'fabric' ? bareTime(stack) : 0,
    groups: [],
  };
  let layer = new Map<string, Reached>([['', started]]);
  const done: Reached[] = [];
  const full = 2 ** n - 1;
  /** Everything is pressed whole where a run of several groups ends. */
  const ended = (s: Reached): Reached =>
    s.phase === 'more'
      ? {
          ...s,
          phase: 'closed',
          run: 0,
          cost: s.cost + weigh(0, 0, 0, 1, s.run + waitAfter([], lying(s.mask))),
        }
      : s;
  const keep = (into: Map<string, Reached>, s: Reached) => {
    const key = `${s.mask} ${s.heat} ${s.phase} ${s.run}`;
    const before = into.get(key);
    if (!before || s.cost < before.cost) into.set(key, s);
  };
  // By how many layers lie there: every step adds at least one.
  for (let count = 0; count <= n; count++) {
    const later = new Map<string, Reached>();
    for (const s of layer.values()) {
      if (bits(s.mask) > count) {
        keep(later, s);
        continue;
      }
      if (s.mask === full) {
        if (s.phase !== 'one') done.push(ended(s));
        continue;
      }
      for (const group of ready(s.mask)) {
        const laid = group.map(at);
        const relief = laid.some((f) => f.relief);
        const printed = laid.some((f) => f.printed);
        const mask = group.reduce((m, i) => m | (1 << i), s.mask);
        for (const [place, heat] of heats.entries()) {
          const continues = !relief && s.heat === heat && (s.phase === 'one' || s.phase === 'more');
          // A run is as long as its heat lasts: what follows at the same heat belongs to it.
          if (s.phase === 'one' && !continues) continue;
          if (school === 'tack' && !relief && s.phase === 'closed' && s.heat === heat) continue;
          const from = continues ? s : ended(s);
          const { not, care } = brokenBy(s.mask, mask, group, place);
          const change = from.heat >= 0 && from.heat !== heat ? 1 : 0;
          const base =
            from.cost +
            nearness(laid, heat) +
            weigh(
              not,
              care,
              change,
              1,
              waitAfter(laid, lying(s.mask)) + (change ? changeTime(source, from.heat, heat) : 0),
            );
          const go = (phase: Phase, seconds: number, run: number) =>
            keep(later, {
              mask,
              heat,
              phase,
              run,
              cost: base + seconds,
              groups: [...s.groups, { films: group, heat }],
            });
          const time = (mode: 'tack' | 'full' | 'ten') => groupTime(laid, mode).counted;
          const run = Math.max(continues ? s.run : 0, wholeTime(laid).counted);
          if (relief) go('free', time('full'), 0);
          else if (school !== 'tack') go('free', time(laid.some((f) => f.always) ? 'full' : school), 0);
          else if (printed) go('free', run, 0);
          else if (continues) go('more', time('tack'), run);
          else {
            go('closed', time('full'), 0);
            go('one', time('tack'), run);
          }
        }
      }
    }
    layer = later;
  }
  const raised = (s: Reached): number => {
    let heat = s.heat;
    let cost = s.cost;
    for (const way of s.groups.flatMap((g) => g.films).flatMap((i) => at(i).raises)) {
      const next = way.heat ?? heat;
      const change = next === heat ? 0 : 1;
      cost += weigh(
        0,
        0,
        change,
        1,
        (way.seconds?.[1] ?? pressDefaults.unsaid) + (change ? changeTime(source, heat, next) : 0),
      );
      heat = next;
    }
    return cost;
  };
  const [best] = done.map((s) => ({ s, cost: raised(s) })).sort((a, b) => a.cost - b.cost);
  return best!.s.groups;
}

/** A function of a number that works each out once. */
function remember<T>(of: (n: number) => T): (n: number) => T {
  const known = new Map<number, T>();
  return (n) => {
    let found = known.get(n);
    if (found === undefined) known.set(n, (found = of(n)));
    return found;
  };
}

const bits = (mask: number): number => {
  let n = 0;
  for (let m = mask; m; m &= m - 1) n++;
  return n;
};
