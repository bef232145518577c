import type { MilliCelsius } from '../units/index.ts';
import type { Blank, PressWay, Support } from '../vinyls/index.ts';
import { pressDefaults, withinStated, type Laid } from './laidFilm.ts';
import { SAME_HEAT } from './troubles.ts';

/**
 * How layers are pressed: each tacked and all pressed whole before the heat changes and at the end; the same, the top layer's own press being that
 * last one; or each for its full time. Three methods that crafters follow, no published source.
 */
export const layerSchools = ['tack', 'top', 'full'] as const;
export type LayerSchool = (typeof layerSchools)[number];

/** What two layers are to each other. Apart: so far from each other that not even their carriers meet. */
export const meetings = ['overlay', 'knock out', 'apart'] as const;
export type Meeting = (typeof meetings)[number];

/** What presses: how fast it gets hotter and cooler, s a degree Celsius, and where it has only a few heats, which, m°C. */
export type LayerSource = { warm: number; cool: number; heats?: readonly MilliCelsius[] | undefined };

/** Layers with all that decides how they are pressed. `meet` says what a lower one (first) and a higher one are to each other. */
export type Stack = {
  films: readonly Laid[];
  blank: Pick<Blank, 'key' | 'word' | 'kind' | 'heat' | 'bare' | 'bears'>;
  source: LayerSource;
  meet: (below: number, above: number) => Meeting;
  /** Whether the higher one must not lie on the lower one, whatever the heat. */
  banned: (below: number, above: number) => boolean;
  /** Whether everything is covered at every press, or only what lies bare. */
  covered: boolean;
};

/** What a step of a plan does, and what for. What hands do between two presses has no heat and no seconds. */
export const pressDoes = ['before', 'layer', 'last', 'raise', 'after', 'back', 'backing off'] as const;
export const pressPurposes = ['dry', 'tack', 'full', 'raise', 'after', 'back', 'hand'] as const;

/** One thing the hands do at the press. Its figures are those of one press of one film; what nobody says is undefined. */
export type PressStep = {
  does: (typeof pressDoes)[number];
  /** The films it presses on; of `last`, `after` and `back` the film whose figures it takes. None for the bare blank. */
  films: string[];
  purpose: (typeof pressPurposes)[number];
  /** m°C; undefined where nobody says it. */
  heat: MilliCelsius | undefined;
  /** How long, s; undefined where nobody says it. */
  seconds: number | undefined;
  pressure: PressWay['pressure'];
  cover: string | undefined;
  /** What lies under the blank. */
  support: Support;
  peel: PressWay['peel'] | undefined;
  /** From the end of the press to the peel, or to lifting the cover, s. */
  wait: number;
  /** Before it the press changes its heat: from which, m°C, and how long that takes, s. */
  change: { from: MilliCelsius; seconds: number } | undefined;
  /** A question whose yes leaves this press out. */
  ask: string | undefined;
  /** What hands do after the peel, where somebody wrote it. */
  then: string | undefined;
};

/** A rule that a press breaks. */
export type Breach = {
  what: 'unfit' | 'lies on' | 'too hot' | 'fabric' | 'pressed again';
  films: string[];
  heat: MilliCelsius | undefined;
  /** Whether it forbids the plan, or asks for care. */
  grade: 'not' | 'care';
};

/** What a plan costs. */
export type LayerCost = { changes: number; presses: number; seconds: number };

export type Sequence = {
  steps: PressStep[];
  cost: LayerCost;
  breaches: Breach[];
  /** Full presses each film takes in all, with those of the layers above it; none are counted on faux leather. */
  taken: { id: string; presses: number; bears: number }[];
  /** Full presses the fabric takes; the bare one is not counted. */
  onFabric: number;
  /** How far each film has shrunk when the next is laid on, µm. */
  shrunk: { id: string; under: string; um: number }[];
  /** Heats that were set as one though two sources say them. */
  oneSetting: [MilliCelsius, MilliCelsius][];
  /** Films whose heat the press does not have: what they want, and what is set. */
  apart: { id: string; wants: MilliCelsius; set: MilliCelsius }[];
};

/** What is pressed on at once, by place in the stack. */
type Group = { films: readonly number[]; heat: MilliCelsius | undefined };
/** Groups that one full press holds: alone in it, each takes its own. */
type Run = Group[];

const paper = 'baking paper';
const ownCarrier = 'its own carrier';

/** How long a change of heat takes, s. */
export const changeTime = ({ warm, cool }: LayerSource, from: MilliCelsius, to: MilliCelsius): number =>
  Math.round((Math.abs(to - from) / 1000) * (to > from ? warm : cool));

/** What is set for a heat: itself, or on a press that has only a few the nearest of them. */
const setOn = ({ heats }: LayerSource, heat: MilliCelsius | undefined): MilliCelsius | undefined =>
  heat === undefined || !heats || heats.length === 0
    ? heat
    : heats.reduce((a, b) => (Math.abs(b - heat) < Math.abs(a - heat) ? b : a));

const near = (a: MilliCelsius, b: MilliCelsius): boolean => Math.abs(a - b) <= pressDefaults.oneSetting;
const alike = <T>(a: T | undefined, b: T | undefined): boolean => a === undefined || b === undefined || a === b;

/** Films that stay at their own stated tack: what rises over them presses them whole, at their heat or hotter. */
function heldByRelief(stack: Stack): Set<number> {
  const held = new Set<number>();
  stack.films.forEach((film, i) => {
    if (film.base?.heat === undefined) return;
    const over = stack.films.some(
      (f, j) =>
        j > i &&
        f.relief &&
        f.way?.heat !== undefined &&
        f.way.heat >= film.base!.heat! - pressDefaults.oneSetting &&
        stack.meet(i, j) === 'overlay',
    );
    if (over) held.add(i);
  });
  return held;
}

/** The press that presses a film on: its own, or its stated tack where that is all it gets. */
const pressOn = (film: Laid, held: boolean): PressWay | undefined => (held ? film.base : film.way);

/**
 * In which order films are laid, and which at once: the lowest first, never before what they lie on; what needs no other heat than the plate has
 * comes before what does; what rises comes last.
 */
function ordered(stack: Stack, held: ReadonlySet<number>): Group[] {
  const { films, meet, source } = stack;
  const heatOf = (i: number) => setOn(source, pressOn(films[i]!, held.has(i))?.heat);
  let left = films.map((_, i) => i);
  const groups: Group[] = [];
  let plate: MilliCelsius | undefined;
  while (left.length > 0) {
    const ready = left.filter((i) => left.every((j) => j >= i || meet(j, i) !== 'overlay'));
    const flat = ready.filter((i) => !films[i]!.relief);
    const may = flat.length > 0 ? flat : ready;
    // What is stated to take less than another one needs comes after that, where neither lies on the other.
    const suffers = (i: number) =>
      may.some((k) => k !== i && films[i]!.stated && (heatOf(k) ?? 0) > films[i]!.stated!.to + SAME_HEAT);
    const unhurt = may.filter((i) => !suffers(i));
    const among = unhurt.length > 0 ? unhurt : may;
    const first =
      among.find((i) => plate !== undefined && heatOf(i) !== undefined && near(heatOf(i)!, plate)) ?? among[0]!;
    const together = [first];
    for (const i of among)
      if (
        i !== first &&
        together.every((j) => meet(Math.min(i, j), Math.max(i, j)) === 'apart') &&
        pressedAlike(films[first]!, films[i]!) &&
        !held.has(i) &&
        !held.has(first)
      )
        together.push(i);
    together.sort((a, b) => a - b);
    groups.push({ films: together, heat: heatOf(first) });
    plate = heatOf(first) ?? plate;
    left = left.filter((i) => !together.includes(i));
  }
  return groups;
}

/** Whether two films are pressed by the same figures, so that one press serves both. */
function pressedAlike(a: Laid, b: Laid): boolean {
  const [p, q] = [a.way, b.way];
  return (
    p !== undefined &&
    q !== undefined &&
    p.heat === q.heat &&
    a.full === b.full &&
    a.tack === b.tack &&
    p.pressure === q.pressure &&
    p.peel === q.peel &&
    a.wait === b.wait &&
    a.relief === b.relief &&
    a.alone === b.alone &&
    a.next.length === 0 &&
    b.next.length === 0
  );
}

/** Groups that follow each other at one heat and one pressure, and may be tacked: one full press holds them. */
function runsOf({ films }: Stack, groups: readonly Group[], school: LayerSchool, held: ReadonlySet<number>): Run[] {
  const runs: Run[] = [];
  let open: Run | undefined;
  for (const group of groups) {
    const first = films[group.films[0]!]!;
    const free = group.films.every((i) => !films[i]!.alone && !held.has(i)) && school !== 'full';
    // What has no carrier to free is not tacked; its own press may hold what lies below it.
    const ends = first.printed && first.full !== undefined && group.heat !== undefined;
    const fits = (run: Run) =>
      group.heat !== undefined &&
      near(run[0]!.heat!, group.heat) &&
      run.every((g) => g.films.every((i) => alike(films[i]!.way?.pressure, first.way?.pressure)));
    if (open && fits(open) && (free || (ends && first.full! >= longest(films, open)))) {
      open.push(group);
      if (!free) open = undefined;
      continue;
    }
    const run = [group];
    runs.push(run);
    open = free ? run : undefined;
  }
  return runs;
}
const longest = (films: readonly Laid[], run: Run): number =>
  Math.max(...run.flatMap((g) => g.films.map((i) => films[i]!.full ?? 0)));

/**
 * Everything the hands do at the press for a stack, in order. Each press takes heat, seconds and pressure of one film and one source; two heats
 * are two heats; before the plate changes its heat, what was tacked gets its full press.
 * Source: common practice, no published source.
 */
export function pressSequence(stack: Stack, school: LayerSchool): Sequence {
  const { films: all, blank, source } = stack;
  const at = (i: number) => all[i]!;
  const held = heldByRelief(stack);
  const risen = all.some((f) => f.relief);
  const steps: PressStep[] = [];
  const breaches: Breach[] = [];
  const there: number[] = [];
  const heated = new Map<number, number>();
  const shrunk: Sequence['shrunk'] = [];
  const oneSetting: Sequence['oneSetting'] = [];
  let [seconds, presses, fabric] = [0, 0, 0];
  let plate: MilliCelsius | undefined;
  const { unsaid } = pressDefaults;
  const reference = Math.max(10, ...all.map((f) => f.full ?? unsaid));

  const press = (more: Pick<PressStep, 'does' | 'purpose' | 'films' | 'heat' | 'seconds'> & Partial<PressStep>) => {
    const { heat } = more;
    const change =
      plate === undefined || heat === undefined || plate === heat
        ? undefined
        : { from: plate, seconds: changeTime(source, plate, heat) };
    plate = heat ?? plate;
    const step: PressStep = {
      pressure: undefined,
      cover: undefined,
      support: blank.key === 'cap' ? 'mitt' : 'as usual',
      peel: undefined,
      wait: 0,
      ask: undefined,
      then: undefined,
      ...more,
      change,
    };
    // What rises wants a hard board from the first press on, and every film is pressed firmly there.
    if (risen) step.support = 'hard board';
    if (risen && step.does !== 'before') step.pressure = 'heavy';
    const counted = step.ask ? 0 : (step.seconds ?? unsaid);
    seconds += counted + step.wait + (change?.seconds ?? 0);
    steps.push(step);
    if (step.does === 'before' || step.ask) return;
    presses++;
    fabric += counted / reference;
    for (const i of there) heated.set(i, (heated.get(i) ?? 0) + counted / Math.max(1, at(i).full ?? unsaid));
  };

  const lay = (group: Group, heat: MilliCelsius | undefined, tacked: boolean) => {
    const laid = group.films.map(at);
    const [first] = group.films;
    const stays = held.has(first!);
    const way = pressOn(laid[0]!, stays);
    breaches.push(...breachesOf(stack, there, group.films, heat));
    for (const j of there)
      for (const i of group.films)
        if (stack.meet(Math.min(i, j), Math.max(i, j)) !== 'apart' && at(j).widthUm)
          shrunk.push({
            id: at(j).id,
            under: at(i).id,
            um: Math.round(at(j).widthUm! * at(j).shrink * Math.min(1, heated.get(j) ?? 0)),
          });
    const bare = there.length > 0 || stack.covered;
    there.push(...group.films);
    const printed = laid.filter((f) => f.printed);
    if (printed.length > 0)
      steps.push({
        does: 'backing off',
        purpose: 'hand',
        films: printed.map((f) => f.id),
        heat: undefined,
        seconds: undefined,
        pressure: undefined,
        cover: undefined,
        support: 'as usual',
        peel: undefined,
        wait: 0,
        change: undefined,
        ask: undefined,
        then: undefined,
      });
    const relief = laid.some((f) => f.relief);
    press({
      does: 'layer',
      films: laid.map((f) => f.id),
      purpose: tacked || stays ? 'tack' : relief && laid[0]!.next.length === 0 ? 'raise' : 'full',
      heat,
      seconds: stays ? way?.seconds?.[1] : tacked ? Math.max(...laid.map((f) => f.tack)) : laid[0]!.full,
      pressure: way?.pressure,
      cover:
        way && bare && way.cover === ownCarrier
          ? `${way.cover}, and ${paper} over all`
          : (way?.cover ?? (bare ? paper : ownCarrier)),
      ...(way?.support ? { support: way.support } : {}),
      peel: way?.peel,
      wait: stays ? (way?.wait ?? pressDefaults.waits[way!.peel]) : laid[0]!.wait,
      then: tacked ? undefined : way?.then,
    });
    if (!relief) follow(laid[0]!);
  };
  /** What follows the press of a film by the same source. */
  const follow = (film: Laid) => {
    for (const way of film.next) {
      const rises = film.relief || way.purpose === 'raise';
      press({
        does: rises ? 'raise' : 'layer',
        films: [film.id],
        purpose: rises ? 'raise' : 'full',
        heat: setOn(source, way.heat),
        seconds: way.seconds?.[1],
        pressure: way.pressure,
        cover: way.cover,
        ...(way.support ? { support: way.support } : {}),
        ask: way.ask,
        then: way.then,
      });
    }
  };

  const groups = ordered(stack, held);
  const bare = bareTime(stack, risen);
  if (groups.length > 0 && blank.kind === 'fabric' && bare > 0)
    press({
      does: 'before',
      purpose: 'dry',
      films: [],
      heat: groups.find((g) => g.heat !== undefined)?.heat,
      seconds: bare,
    });
  for (const run of runsOf(stack, groups, school, held)) {
    const heat = run[0]!.heat;
    for (const { heat: own } of run)
      if (own !== heat && own !== undefined && heat !== undefined) oneSetting.push([heat, own]);
    const top = at(run.at(-1)!.films[0]!);
    const whole = longest(all, run);
    // The top layer's own press is the last one where it is long enough; one that is printed comes to that in any case.
    const topHolds = run.length > 1 && (school === 'top' || top.printed) && (top.full ?? 0) >= whole;
    run.forEach((group, k) => lay(group, heat, run.length > 1 && !(topHolds && k === run.length - 1)));
    if (run.length < 2 || topHolds) continue;
    const longestOf = run.flatMap((g) => g.films.map(at)).find((f) => f.full === whole)!;
    press({
      does: 'last',
      purpose: 'full',
      films: [longestOf.id],
      heat,
      seconds: longestOf.full,
      pressure: longestOf.way?.pressure,
      cover: paper,
    });
  }
  for (const i of there) if (at(i).relief) follow(at(i));
  // What follows the last peel, and what comes from the back: never over what has risen.
  const pressedWhole = steps.at(-1)?.does === 'last';
  for (const does of ['after', 'back'] as const) {
    const by = there.map(at).sort((a, b) => (b.way?.[does] ?? 0) - (a.way?.[does] ?? 0))[0];
    const s = by?.way?.[does] ?? 0;
    if (s > 0 && !risen && !(does === 'after' && pressedWhole))
      press({ does, purpose: does, films: [by!.id], heat: plate, seconds: s, cover: paper });
  }
  const counts = !all.some((f) => f.onLeather);
  return {
    steps,
    breaches,
    cost: { changes: steps.filter((s) => s.change).length, presses, seconds },
    taken: counts
      ? there.map((i) => ({
          id: at(i).id,
          presses: Math.round((heated.get(i) ?? 0) * 100) / 100,
          bears: at(i).bears,
        }))
      : [],
    onFabric: counts ? Math.round(fabric * 100) / 100 : 0,
    shrunk,
    oneSetting,
    apart: there.flatMap((i) => {
      const wants = pressOn(at(i), held.has(i))?.heat;
      const set = setOn(source, wants);
      return wants !== undefined && Math.abs(set! - wants) > SAME_HEAT ? [{ id: at(i).id, wants, set: set! }] : [];
    }),
  };
}

/** How long the bare blank is pressed first, s: as somebody says, else as the blank wants it; longer and dry under what rises. */
function bareTime({ films, blank }: Stack, risen: boolean): number {
  const said = films.flatMap((f) => f.way?.before ?? []);
  if (said.length > 0) return Math.max(...said, risen ? pressDefaults.dry : 0);
  if (risen) return pressDefaults.dry;
  return blank.bare ?? pressDefaults.before;
}

/** What is broken when films are pressed on at a heat, on those that lie there already. Only what somebody stated forbids a heat. */
function breachesOf(
  stack: Stack,
  there: readonly number[],
  films: readonly number[],
  heat: MilliCelsius | undefined,
): Breach[] {
  const found: Breach[] = [];
  const say = (what: Breach['what'], ids: readonly Laid[], grade: Breach['grade']) =>
    found.push({ what, films: ids.map((f) => f.id), heat, grade });
  for (const i of films) {
    const film = stack.films[i]!;
    if (film.unfit) say('unfit', [film], 'not');
    for (const j of there) {
      const below = stack.films[j]!;
      if (stack.meet(Math.min(i, j), Math.max(i, j)) === 'overlay' && stack.banned(j, i))
        say('lies on', [below, film], 'not');
      if (heat !== undefined && below.stated && heat > below.stated.to + SAME_HEAT)
        say('too hot', [below, film], 'not');
      if (below.relief && !film.relief) say('pressed again', [below, film], 'care');
    }
    if (heat !== undefined && !withinStated(film, heat)) say('too hot', [film], 'care');
    const cap = stack.blank.heat;
    if (cap !== undefined && heat !== undefined && heat > cap)
      say('fabric', [film], film.stated && film.stated.from > cap + SAME_HEAT ? 'not' : 'care');
  }
  return found;
}
