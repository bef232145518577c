import { bothHeats } from '../units/index.ts';
import { suitsBlank, type Blank } from '../vinyls/index.ts';
import { laidFilm, type Laid } from './laidFilm.ts';
import {
  changeTime,
  layerSchools,
  pressSequence,
  type Breach,
  type LayerCost,
  type LayerSchool,
  type LayerSource,
  type Meeting,
  type PressStep,
  type Sequence,
  type Stack,
} from './pressSequence.ts';
import { pairTrouble, type Film } from './troubles.ts';

type LayerHelp = {
  do: 'swap' | 'knock out' | 'press apart' | 'another school' | 'another vinyl';
  films: string[];
  says: string;
};
type LayerAlternative = { what: string; school: LayerSchool; cost: LayerCost; loses: string };
/** What a press of a plan lacks because nobody says it. */
type Lacking = { film: string; what: ('heat' | 'seconds')[] };

export type PressPlan = {
  verdict: 'plan' | 'care' | 'refused';
  school: LayerSchool;
  /** One sentence. */
  says: string;
  /** Where it is refused: what comes nearest, for whoever goes on all the same. */
  steps: PressStep[];
  cost: LayerCost;
  taken: Sequence['taken'];
  onFabric: number;
  shrunk: Sequence['shrunk'];
  /** Figures that nobody says: the plan holds, and asks for them. */
  lacks: Lacking[];
  /** What could be done otherwise, and nobody has tried. */
  offers: string[];
  /** What wants care in a plan that holds. */
  cautions: string[];
  /** What makes it impossible, in words, and which films. */
  because: { films: string[]; says: string }[];
  /** What would make it possible: each was tried and gives a plan. */
  helps: LayerHelp[];
  alternatives: LayerAlternative[];
  /** Films that stick by themselves: they come last, on what has cooled. */
  last: string[];
};

/** A film of a plan with what is known of its layer. */
export type PlanFilm = Film & { widthUm?: number | undefined; shrink?: number | undefined; bears?: number | undefined };

/** What a person does at every press, whatever the film. */
export type PressWont = {
  school: LayerSchool;
  /** Everything is covered at every press, not only what lies bare. */
  covered?: boolean;
  /** Full presses that somebody says the fabric bears. */
  bears?: number | undefined;
};

/** A stack, and how many full presses somebody says its fabric bears. */
type Bearing = Stack & { bears?: number | undefined };
type Tried = { sequence: Sequence; school: LayerSchool; holds: boolean };

function attempt(stack: Bearing, school: LayerSchool): Tried {
  const sequence = pressSequence(stack, school);
  const holds = sequence.breaches.every((b) => b.grade === 'care') && bearsIt(stack, sequence);
  return { sequence, school, holds };
}

const bearsIt = ({ bears }: Bearing, { onFabric }: Sequence): boolean =>
  bears === undefined || onFabric <= bears + 0.01;

/**
 * How films are pressed on a blank, the lowest first: the one composition for jobs, papers and the command line. Every press takes heat, seconds
 * and pressure of one film by one source; what nobody says is left out, and said. Where no plan holds it says which films and what would help; each
 * help was tried.
 * @param meet what two films are to each other, the lower one first; one lies on the other where it is left out
 */
export function pressPlan(
  films: readonly PlanFilm[],
  blank: Blank,
  source: LayerSource,
  wont: PressWont,
  meet: (below: string, above: string) => Meeting = () => 'overlay',
): PressPlan {
  const all = films.map((film) => {
    const suits = suitsBlank(film, blank);
    const laid = laidFilm(film, blank, {
      widthUm: film.widthUm,
      shrink: film.shrink,
      bears: film.bears,
      unfit: suits.verdict === 'not' && suits.rests !== 'heat' ? suits.reasons[0] : undefined,
    });
    return { film, laid, suits };
  });
  const pressed = all.flatMap((a) => (a.laid ? [{ film: a.film, laid: a.laid }] : []));
  const meets = (i: number, j: number): Meeting => meet(pressed[i]!.film.id, pressed[j]!.film.id);
  const stack: Bearing = {
    films: pressed.map((p) => p.laid),
    blank,
    source,
    meet: meets,
    // Heat is weighed by itself; all else that two films must not do stands in the table of pairs.
    banned: (i, j) => {
      const [below, above] = [pressed[i]!.film, pressed[j]!.film];
      return pairTrouble({ ...below, heat: undefined }, { ...above, heat: undefined })?.grade === 'not';
    },
    covered: wont.covered ?? false,
    bears: wont.bears,
  };
  const best = attempt(stack, wont.school);
  // What nothing presses on: no film that wants heat goes there, and no film that sticks goes on what does not take it.
  const never = all
    .filter((a) => !a.laid && a.suits.verdict === 'not')
    .map(({ film, suits }) => ({
      films: [film.id],
      says: `${film.name} on ${wordOf(blank)}: ${suits.reasons[0]}`,
    }));
  const holds = best.holds && never.length === 0;
  const because = [...never, ...reasons(stack, best)];
  const grain = pressed.flatMap(({ film }, j) =>
    pressed.slice(0, j).flatMap(({ film: below }, i) => {
      const trouble = below.face === 'grain' && meets(i, j) === 'overlay' ? pairTrouble(below, film) : undefined;
      return trouble?.grade === 'care' ? [`${trouble.why} ${trouble.helps}`] : [];
    }),
  );
  const { sequence } = best;
  const warned = [...new Set([...grain, ...cautions(stack, sequence)])];
  const care = grain.length > 0 || sequence.breaches.length > 0;
  return {
    verdict: !holds ? 'refused' : care ? 'care' : 'plan',
    school: best.school,
    says: holds ? sayPlan(sequence) : `No plan holds: ${because[0]?.says ?? ''}`,
    steps: sequence.steps,
    cost: sequence.cost,
    taken: holds ? sequence.taken : [],
    onFabric: sequence.onFabric,
    shrunk: holds ? sequence.shrunk : [],
    lacks: lacksOf(sequence.steps),
    offers: holds ? offersOf(stack, sequence) : [],
    cautions: holds ? warned : [],
    because,
    helps: holds ? [] : helps(stack, best),
    alternatives: holds ? alternatives(stack, best) : [],
    last: all.filter((a) => a.film.bond === 'sticks').map((a) => a.film.id),
  };
}

/** Figures of presses that nobody says, film by film. A question's press is asked for with the one before it. */
function lacksOf(steps: readonly PressStep[]): Lacking[] {
  const found = new Map<string, Set<'heat' | 'seconds'>>();
  for (const s of steps.filter((x) => x.purpose !== 'hand'))
    for (const film of s.films)
      for (const what of ['heat', 'seconds'] as const)
        if (s[what] === undefined) found.set(film, (found.get(film) ?? new Set()).add(what));
  return [...found].map(([film, what]) => ({ film, what: [...what] }));
}

/** One heat for two that are pressed at two: what it would save, and that nobody has tried it. */
function offersOf(stack: Bearing, { steps }: Sequence): string[] {
  const named = steps.filter((s) => s.does === 'layer' && s.heat !== undefined);
  const heats = [...new Set(named.map((s) => s.heat!))];
  if (heats.length !== 2 || stack.films.some((f) => f.relief)) return [];
  const [a, b] = heats as [number, number];
  const cooler = Math.min(a, b);
  const saved = changeTime(stack.source, a, b);
  const both = stack.films.filter((f) => f.stated);
  const stated =
    both.length === stack.films.length && both.every((f) => cooler >= f.stated!.from && cooler <= f.stated!.to);
  return saved < 60
    ? []
    : [
        `${bothHeats(cooler)} for both would save ${minutes(saved)}; ${stated ? 'what is stated of both allows it, and you have not tried it' : 'not tried yet'}.`,
      ];
}

/** How long something takes, as it is said: "45 s", "3 min". */
export const minutes = (seconds: number): string => (seconds < 90 ? `${seconds} s` : `${Math.round(seconds / 60)} min`);
const times = (n: number, word: string): string => `${n} ${word}${n === 1 ? '' : word.endsWith('press') ? 'es' : 's'}`;

/** "Same temperature throughout, 4 presses, about 3 min with the waits." */
function sayPlan({ cost: { changes, presses, seconds } }: Sequence): string {
  return `${changes === 0 ? 'Same temperature throughout' : `${times(changes, 'change')} of temperature`}, ${times(presses, 'press')}, about ${minutes(seconds)} with the waits.`;
}

const wordOf = (blank: Pick<Blank, 'word'>): string => blank.word.split(':')[0]!;
const nameOf = (stack: Stack, id: string): string => stack.films.find((f) => f.id === id)?.name ?? id;

function sayBreach(stack: Stack, { what, films, heat }: Breach): string {
  const [a, b] = films.map((id) => nameOf(stack, id));
  const film = stack.films.find((f) => f.id === films[0])!;
  switch (what) {
    case 'lies on':
      return film.relief
        ? `nothing goes on ${a}, which rises: ${b} would lift off`
        : `${b} would lie on ${a}, which is printed and belongs on top`;
    case 'pressed again':
      return `${a} has risen when ${b} is pressed, and would be pressed flat`;
    case 'unfit':
      return `${a} on ${wordOf(stack.blank)}: ${film.unfit}`;
    case 'fabric':
      return `${a} is pressed at ${bothHeats(heat!)}, and ${wordOf(stack.blank)} takes ${bothHeats(stack.blank.heat!)} at most, we think`;
    case 'too hot': {
      const said = film.stated!;
      return films[1] === undefined
        ? `${a} is stated for ${bothHeats(said.from)} to ${bothHeats(said.to)}, and is pressed at ${bothHeats(heat!)}`
        : `${a} lies there and takes ${bothHeats(said.to)} at most, while ${b} is pressed at ${bothHeats(heat!)}`;
    }
  }
}

const sentence = (s: string): string => `${s[0]!.toUpperCase()}${s.slice(1).replace(/\.$/, '')}.`;

function reasons(stack: Bearing, { sequence, holds }: Tried): PressPlan['because'] {
  if (holds) return [];
  const found = sequence.breaches
    .filter((b) => b.grade === 'not')
    .map((b) => ({ films: b.films, says: sentence(sayBreach(stack, b)) }));
  return found.length > 0
    ? found
    : [
        {
          films: stack.films.map((f) => f.id),
          says: `It takes ${sequence.onFabric} full presses in all; this fabric bears ${stack.bears}.`,
        },
      ];
}

/** The same stack with two layers another way round: the higher one drawn below. */
function swapped(stack: Bearing, a: number, b: number): Bearing {
  const order = stack.films.map((_, i) => (i === a ? b : i === b ? a : i));
  const old = (i: number, j: number) => [order[i]!, order[j]!] as const;
  return {
    ...stack,
    films: order.map((i) => stack.films[i]!),
    meet: (i, j) => {
      const [x, y] = old(i, j);
      return stack.meet(Math.min(x, y), Math.max(x, y));
    },
    banned: (i, j) => stack.banned(...old(i, j)),
  };
}
const meeting = (stack: Bearing, pairs: readonly (readonly [number, number])[], how: Meeting): Bearing => ({
  ...stack,
  meet: (i, j) => (pairs.some(([a, b]) => (a === i && b === j) || (a === j && b === i)) ? how : stack.meet(i, j)),
});
function without(stack: Bearing, gone: number): Bearing {
  const kept = stack.films.map((_, i) => i).filter((i) => i !== gone);
  return {
    ...stack,
    films: kept.map((i) => stack.films[i]!),
    meet: (i, j) => stack.meet(kept[i]!, kept[j]!),
    banned: (i, j) => stack.banned(kept[i]!, kept[j]!),
  };
}

/** What would make it possible, the least first: each is tried, and said only where a plan comes of it. */
function helps(stack: Bearing, tried: Tried): LayerHelp[] {
  const found: LayerHelp[] = [];
  const at = (id: string) => stack.films.findIndex((f) => f.id === id);
  const name = (i: number) => stack.films[i]!.name;
  const holds = (changed: Bearing) => attempt(changed, tried.school).holds;
  const pairs = new Map<string, [number, number]>();
  for (const { films } of tried.sequence.breaches.filter((b) => b.grade === 'not'))
    if (films.length === 2) {
      const [a, b] = [at(films[0]!), at(films[1]!)].sort((x, y) => x - y) as [number, number];
      pairs.set(`${a} ${b}`, [a, b]);
    }
  for (const [a, b] of pairs.values()) {
    if (stack.meet(a, b) !== 'overlay') continue;
    if (holds(swapped(stack, a, b)))
      found.push({
        do: 'swap',
        films: [stack.films[a]!.id, stack.films[b]!.id],
        says: `Swap them: ${name(a)} over ${name(b)}.`,
      });
    if (holds(meeting(stack, [[a, b]], 'knock out')))
      found.push({
        do: 'knock out',
        films: [stack.films[a]!.id, stack.films[b]!.id],
        says: `Cut the shape of ${name(b)} out of ${name(a)}, so that both lie side by side.`,
      });
  }
  for (const school of layerSchools)
    if (school !== tried.school && attempt(stack, school).holds)
      found.push({ do: 'another school', films: [], says: `${schoolWords[school]} It holds so.` });
  const overlaid = stack.films.flatMap((_, a) =>
    stack.films.flatMap((_f, b) => (a < b && stack.meet(a, b) !== 'apart' ? [[a, b] as const] : [])),
  );
  if (found.length === 0 && overlaid.length > 0 && holds(meeting(stack, overlaid, 'apart')))
    found.push({
      do: 'knock out',
      films: stack.films.map((f) => f.id),
      says: 'Cut the shapes out of each other and lay them all at once, as loose pieces: they are then pressed together.',
    });
  const unfit = tried.sequence.breaches.find((b) => b.grade === 'not' && (b.what === 'unfit' || b.what === 'fabric'));
  if (unfit && stack.blank.heat !== undefined)
    found.push({
      do: 'another vinyl',
      films: unfit.films,
      says: `Take a vinyl for ${nameOf(stack, unfit.films[0]!)} that is pressed at ${bothHeats(stack.blank.heat)} or less and holds on this fabric.`,
    });
  const odd = stack.films.flatMap((_, i) => (stack.films.length > 1 && holds(without(stack, i)) ? [i] : []));
  for (const i of odd)
    found.push({
      do: 'press apart',
      films: [stack.films[i]!.id],
      says: `Press ${name(i)} on a piece of its own and sew or glue that on, or take another vinyl for it.`,
    });
  return found;
}

const schoolWords: Record<LayerSchool, string> = {
  tack: 'Tack each layer and press all of it whole at the end.',
  top: 'Tack each layer; the top layer’s own press is the last one.',
  full: 'Press each layer for its full time.',
};

function cautions(stack: Bearing, { breaches, taken, shrunk, oneSetting, apart, onFabric }: Sequence): string[] {
  const by = (id: string): Laid => stack.films.find((f) => f.id === id)!;
  const much = taken.filter((t) => t.presses > by(t.id).bears + 0.01);
  const off = shrunk.filter((s) => s.um >= 300);
  const widest = off.toSorted((a, b) => b.um - a.um)[0];
  const { bears } = stack.blank;
  return [
    ...breaches.filter((b) => b.grade === 'care').map((b) => sentence(sayBreach(stack, b))),
    ...apart.map(
      ({ id, wants, set }) =>
        `${by(id).name} is pressed at ${bothHeats(wants)}; the nearest this press has is ${bothHeats(set)}: try a scrap.`,
    ),
    ...oneSetting.map(([set, own]) => `${bothHeats(own)} is set as ${bothHeats(set)}: no dial tells them apart.`),
    ...(stack.bears === undefined && bears !== undefined && onFabric > bears + 0.01
      ? [`It takes ${onFabric} full presses in all, more than the ${bears} we think ${wordOf(stack.blank)} bears.`]
      : []),
    ...much.map(
      (t) =>
        `${by(t.id).name} takes ${t.presses} full presses in all, more than the ${by(t.id).bears} we think it bears: press shorter, or knock it out.`,
    ),
    ...(widest
      ? [
          `${by(widest.id).name} is about ${(widest.um / 1000).toFixed(1)} mm narrower when ${by(widest.under).name} is laid on it, ${by(widest.id).measured ? 'as you measured' : 'an assumption you can correct'}: lay from the middle out.`,
        ]
      : []),
  ];
}

/** What another method would mean, against the one that is followed: presses, time, and the heat that lower layers take. */
function besides(best: Sequence, other: Sequence): string {
  const presses = other.cost.presses - best.cost.presses;
  const seconds = other.cost.seconds - best.cost.seconds;
  const most = (t: Sequence) => Math.max(0, ...t.taken.map((x) => x.presses));
  const heat = Math.round((most(other) - most(best)) * 10) / 10;
  return (
    [
      presses === 0 ? '' : `${times(Math.abs(presses), 'press')} ${presses > 0 ? 'more' : 'less'}`,
      seconds === 0 ? '' : `${minutes(Math.abs(seconds))} ${seconds > 0 ? 'longer' : 'shorter'}`,
      heat === 0
        ? ''
        : `the layer that is heated most takes ${Math.abs(heat)} full presses ${heat > 0 ? 'more' : 'less'}`,
    ]
      .filter(Boolean)
      .join(', ') || 'comes to the same'
  );
}

function alternatives(stack: Bearing, best: Tried): LayerAlternative[] {
  if (stack.films.length < 2 || stack.films.some((f) => f.onLeather)) return [];
  return layerSchools
    .filter((school) => school !== best.school)
    .map((school) => attempt(stack, school))
    .map(({ sequence, school }) => ({
      what: schoolWords[school],
      school,
      cost: sequence.cost,
      loses: sentence(
        bearsIt(stack, sequence)
          ? besides(best.sequence, sequence)
          : `${sequence.onFabric} full presses in all; this fabric bears ${stack.bears}`,
      ),
    }));
}
