import type { MilliCelsius } from '../units/index.ts';
import type { Blank, PressWay, Support } from '../vinyls/index.ts';
import { pressDefaults, type Laid } from './laidFilm.ts';
import { SAME_HEAT } from './troubles.ts';

/**
 * How layers are pressed: each tacked and all pressed whole before the heat changes and at the end; each for its full time; or ten seconds
 * each and no more. Three schools that crafters follow, no published source.
 */
export const layerSchools = ['tack', 'full', 'ten'] as const;
export type LayerSchool = (typeof layerSchools)[number];

/** What two layers are to each other. Apart: so far from each other that not even their carriers meet. */
export const meetings = ['overlay', 'knock out', 'apart'] as const;
export type Meeting = (typeof meetings)[number];

/** What presses: how fast it gets hotter and cooler, s a degree Celsius, and where it has only a few heats, which, m°C. */
export type LayerSource = { warm: number; cool: number; heats?: readonly MilliCelsius[] | undefined };

/** Layers with all that decides how they are pressed. `meet` says what a lower one (first) and a higher one are to each other. */
export type Stack = {
  films: readonly Laid[];
  blank: Pick<Blank, 'word' | 'kind' | 'heat'>;
  source: LayerSource;
  meet: (below: number, above: number) => Meeting;
  /** Whether the higher one must not lie on the lower one, whatever the heat. */
  banned: (below: number, above: number) => boolean;
  /** Whether everything is covered at every press, or only what lies bare. */
  covered: boolean;
};

/** What is pressed on at once, by place in the stack, and at which heat. */
export type Group = { films: readonly number[]; heat: MilliCelsius };

/** One thing the hands do at the press. */
export type PressStep = {
  does: 'before' | 'layer' | 'raise' | 'all' | 'after' | 'back';
  /** The films it is about; none for the bare blank and the press of everything. */
  films: string[];
  purpose: 'warm' | 'tack' | 'full' | 'raise' | 'after' | 'back';
  /** m°C; undefined where the leaflet says it. */
  heat: MilliCelsius | undefined;
  /** How long, s; undefined where the leaflet says it. */
  seconds: number | undefined;
  pressure: PressWay['pressure'];
  cover: string | undefined;
  /** What lies under the blank. */
  support: Support;
  peel: PressWay['peel'] | undefined;
  /** From the end of the press to the peel, or to lifting the cover, s. */
  wait: number;
  /** Films below that are peeled cool: heated once more, everything waits for them again. */
  recool: string[];
  /** Before it the press changes its heat: by how much, m°C, and how long that takes, s. */
  change: { from: MilliCelsius; seconds: number } | undefined;
  then: string | undefined;
};

/** A rule that a press breaks. Heat: too much for one film while another is pressed on. */
export type Breach = {
  what: 'unfit' | 'lies on' | 'too hot' | 'too cool' | 'fabric' | 'pressed again';
  films: string[];
  heat: MilliCelsius;
  /** Whether it forbids the plan, or asks for care. */
  grade: 'not' | 'care';
};

/** What a plan costs, the weightiest first. */
export type LayerCost = {
  /** Rules that are broken, and those that ask for care. */
  forbidden: number;
  care: number;
  /** Heat changes, presses with film in them, seconds with waits and changes. */
  changes: number;
  presses: number;
  seconds: number;
};

export type Walk = {
  steps: PressStep[];
  cost: LayerCost;
  breaches: Breach[];
  /** Full presses each film takes in all, with those of the layers above it. */
  taken: { id: string; presses: number; bears: number }[];
  /** Full presses the fabric takes; the bare one is not counted. */
  onFabric: number;
  /** How far each film has shrunk when the next is laid on, µm. */
  shrunk: { id: string; under: string; um: number }[];
};

const paper = 'baking paper';
const ownCarrier = 'its own carrier';
/** Compares two costs by their order: below zero where the first is better. */
export const compareCosts = (a: LayerCost, b: LayerCost): number =>
  a.forbidden - b.forbidden ||
  a.care - b.care ||
  a.changes - b.changes ||
  a.presses - b.presses ||
  a.seconds - b.seconds;

/** How long a change of heat takes, s. */
export const changeTime = ({ warm, cool }: LayerSource, from: MilliCelsius, to: MilliCelsius): number =>
  Math.round((Math.abs(to - from) / 1000) * (to > from ? warm : cool));

/** What is broken when films are pressed on at a heat, on those that lie there already. */
export function breachesOf(stack: Stack, there: readonly number[], { films, heat }: Group): Breach[] {
  const all = stack.films;
  const found: Breach[] = [];
  const say = (what: Breach['what'], ids: readonly Laid[], grade: Breach['grade']) =>
    found.push({ what, films: ids.map((f) => f.id), heat, grade });
  for (const i of films) {
    const film = all[i]!;
    if (film.unfit) say('unfit', [film], 'not');
    // Cooler than it wants because of what lies there already: the pair is named.
    const mild =
      heat < film.from - SAME_HEAT ? there.map((j) => all[j]!).find((f) => f.to + SAME_HEAT < film.from) : undefined;
    if (mild) say('too hot', [mild, film], film.said && mild.said ? 'not' : 'care');
    else if (heat < film.from - SAME_HEAT) say('too cool', [film], film.said ? 'not' : 'care');
    if (heat > film.to + SAME_HEAT) say('too hot', [film], film.said ? 'not' : 'care');
    for (const j of there) {
      if (stack.meet(Math.min(i, j), Math.max(i, j)) === 'overlay' && stack.banned(j, i))
        say('lies on', [all[j]!, film], 'not');
    }
  }
  const above = all[films[0]!]!;
  for (const j of there) {
    const below = all[j]!;
    if (heat > below.to + SAME_HEAT) say('too hot', [below, above], below.said ? 'not' : 'care');
    if (below.relief) say('pressed again', [below, above], 'care');
  }
  if (stack.blank.heat !== undefined && heat > stack.blank.heat + SAME_HEAT)
    say('fabric', [above], above.said ? 'not' : 'care');
  return found;
}

/** How long a group is pressed, s: as it is said, and as it is counted where only the leaflet says it. */
export function groupTime(
  films: readonly Laid[],
  mode: 'tack' | 'full' | 'ten',
): { said: number | undefined; counted: number } {
  const { ten, unsaid } = pressDefaults;
  const times = films.map((f) =>
    f.always || mode === 'full' || f.relief ? f.full : mode === 'ten' ? Math.min(ten, f.full ?? ten) : f.tack,
  );
  const said = times.filter((t) => t !== undefined);
  return {
    said: said.length === times.length ? Math.max(...said) : undefined,
    counted: Math.max(...times.map((t) => t ?? unsaid)),
  };
}

/** How long one waits after a press, s: for what is peeled, and for what is peeled cool and was heated once more. */
export const waitAfter = (peeled: readonly Laid[], there: readonly Laid[]): number =>
  Math.max(0, ...peeled.map((f) => f.wait), ...there.map((f) => f.again));

/** How everything that lies there is pressed whole, s. */
export const wholeTime = (run: readonly Laid[]): { said: number | undefined; counted: number } => {
  const said = run.flatMap((f) => f.full ?? []);
  return {
    said: said.length > 0 ? Math.max(...said) : undefined,
    counted: Math.max(...run.map((f) => f.full ?? pressDefaults.unsaid)),
  };
};

/** How long the bare blank is pressed first, s: the longest that any of its films asks for. */
export const bareTime = ({ films }: Stack): number => {
  const said = films.flatMap((f) => f.way?.before ?? []);
  return said.length > 0 ? Math.max(...said) : pressDefaults.before;
};

/** What a film's first press at its own step is for. On faux leather each takes its own, whatever the school. */
const modeOf = (school: LayerSchool, alone: boolean): 'tack' | 'full' | 'ten' =>
  school === 'tack' ? (alone ? 'full' : 'tack') : school;

/**
 * Everything the hands do for groups of films in this order, with what it costs and breaks. The cost of a plan is what is counted here: a search
 * is free to find the order as it likes.
 */
export function walk(stack: Stack, groups: readonly Group[], school: LayerSchool): Walk {
  const { films: all, blank, source } = stack;
  const steps: PressStep[] = [];
  const breaches: Breach[] = [];
  const there: number[] = [];
  let plate: MilliCelsius | undefined;
  let run: number[] = [];
  let seconds = 0;
  let presses = 0;
  const heated = new Map<number, number>();
  let fabric = 0;
  const reference = Math.max(
    pressDefaults.ten,
    ...all.map((f) => f.full ?? 0),
    all.some((f) => f.full === undefined) ? pressDefaults.unsaid : 0,
  );
  const shrunk: Walk['shrunk'] = [];
  const at = (i: number) => all[i]!;
  const press = (
    more: Pick<PressStep, 'does' | 'purpose' | 'films'> & Partial<PressStep>,
    heat: MilliCelsius,
    counted: number,
  ) => {
    const change =
      plate === undefined || plate === heat ? undefined : { from: plate, seconds: changeTime(source, plate, heat) };
    plate = heat;
    const step: PressStep = {
      heat,
      seconds: counted,
      pressure: undefined,
      cover: undefined,
      support: blank.word === 'cap' ? 'mitt' : 'as usual',
      peel: undefined,
      wait: 0,
      recool: [],
      then: undefined,
      ...more,
      change,
    };
    seconds += counted + step.wait + (change?.seconds ?? 0);
    steps.push(step);
    if (more.does === 'before') return;
    presses++;
    fabric += counted / reference;
    for (const i of there)
      heated.set(i, (heated.get(i) ?? 0) + counted / Math.max(1, at(i).full ?? pressDefaults.unsaid));
  };
  const recool = () => there.filter((i) => at(i).again > 0).map((i) => at(i).id);
  const whole = () => {
    if (school !== 'tack' || run.length < 2 || runGroups < 2) return;
    const { said, counted } = wholeTime(run.map(at));
    press(
      {
        does: 'all',
        purpose: 'full',
        films: [],
        seconds: said,
        pressure: 'medium',
        cover: paper,
        wait: waitAfter([], there.map(at)),
        recool: recool(),
      },
      plate!,
      counted,
    );
  };
  let runGroups = 0;
  const alone = (k: number): boolean => {
    const same = (g: Group | undefined) =>
      g !== undefined && g.heat === groups[k]!.heat && !g.films.some((i) => at(i).relief);
    const ended = groups[k - 1]?.films.some((i) => at(i).printed);
    return (ended || !same(groups[k - 1])) && !same(groups[k + 1]);
  };
  if (groups.length > 0 && blank.kind === 'fabric')
    press({ does: 'before', purpose: 'warm', films: [] }, groups[0]!.heat, bareTime(stack));
  groups.forEach((group, k) => {
    const laid = group.films.map(at);
    const relief = laid.some((f) => f.relief);
    if (runGroups > 0 && (plate !== group.heat || relief)) {
      whole();
      run = [];
      runGroups = 0;
    }
    breaches.push(...breachesOf(stack, there, group));
    for (const j of there)
      for (const i of group.films)
        if (stack.meet(Math.min(i, j), Math.max(i, j)) !== 'apart' && at(j).widthUm)
          shrunk.push({
            id: at(j).id,
            under: at(i).id,
            um: Math.round(at(j).widthUm! * at(j).shrink * Math.min(1, heated.get(j) ?? 0)),
          });
    const mode = relief ? 'full' : laid.some((f) => f.always) ? 'full' : modeOf(school, alone(k));
    // What has no carrier to free is not tacked: its press is that of everything below it too.
    const printed = laid.some((f) => f.printed);
    const { said, counted } =
      school === 'tack' && printed ? wholeTime([...run.map(at), ...laid]) : groupTime(laid, mode);
    const bare = there.length > 0 || stack.covered;
    const below = recool();
    const way = laid[0]!.way;
    const wait = waitAfter(laid, there.map(at));
    there.push(...group.films);
    press(
      {
        does: 'layer',
        films: laid.map((f) => f.id),
        purpose:
          relief && laid.every((f) => f.raises.length === 0) ? 'raise' : mode === 'tack' && !printed ? 'tack' : 'full',
        seconds: said,
        pressure: way?.pressure,
        cover:
          way && bare && way.cover === ownCarrier
            ? `${way.cover}, and ${paper} over all`
            : (way?.cover ?? (bare ? paper : undefined)),
        ...(way?.support ? { support: way.support } : relief ? { support: 'hard board' as const } : {}),
        peel: way?.peel,
        wait,
        recool: below,
        then: mode === 'tack' && !printed ? undefined : way?.then,
      },
      group.heat,
      counted,
    );
    if (school === 'tack' && printed) {
      run = [];
      runGroups = 0;
    } else if (!relief) {
      run.push(...group.films);
      runGroups++;
    }
  });
  whole();
  for (const i of there)
    for (const way of at(i).raises) {
      const heat = way.heat ?? plate!;
      press(
        {
          does: 'raise',
          purpose: 'raise',
          films: [at(i).id],
          seconds: way.seconds?.[1],
          pressure: way.pressure,
          cover: way.cover,
          support: 'hard board',
          then: way.then,
        },
        heat,
        way.seconds?.[1] ?? pressDefaults.unsaid,
      );
    }
  // What follows the last peel, and what comes from the back: never over what has risen.
  const risen = there.some((i) => at(i).relief);
  const pressedWhole = steps.at(-1)?.does === 'all';
  for (const does of ['after', 'back'] as const) {
    const s = Math.max(0, ...there.map((i) => at(i).way?.[does] ?? 0));
    if (s > 0 && !risen && !(does === 'after' && pressedWhole))
      press(
        { does, purpose: does, films: [], cover: paper, wait: waitAfter([], there.map(at)), recool: recool() },
        plate!,
        s,
      );
  }
  return {
    steps,
    breaches,
    cost: {
      forbidden: breaches.filter((b) => b.grade === 'not').length,
      care: breaches.filter((b) => b.grade === 'care').length,
      changes: steps.filter((s) => s.change).length,
      presses,
      seconds,
    },
    taken: there.map((i) => ({
      id: at(i).id,
      presses: Math.round((heated.get(i) ?? 0) * 100) / 100,
      bears: at(i).bears,
    })),
    onFabric: Math.round(fabric * 100) / 100,
    shrunk,
  };
}
