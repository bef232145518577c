import { bothHeats } from '../units/index.ts';
import type { Blank } from '../vinyls/index.ts';
import { pressDefaults, type Laid } from './laidFilm.ts';
import { bestGroups } from './layerSearch.ts';
import {
  compareCosts,
  layerSchools,
  walk,
  type Breach,
  type Group,
  type LayerCost,
  type LayerSchool,
  type Meeting,
  type PressStep,
  type Stack,
  type Walk,
} from './layerWalk.ts';

export type LayerHelp = {
  do: 'swap' | 'knock out' | 'press apart' | 'another school' | 'another vinyl';
  films: string[];
  says: string;
};
export type LayerAlternative = { what: string; school: LayerSchool; cost: LayerCost; loses: string };

export type LayerPlan = {
  verdict: 'plan' | 'care' | 'refused';
  school: LayerSchool;
  /** One sentence. */
  says: string;
  /** Where it is refused: what comes nearest, for whoever goes on all the same. */
  steps: PressStep[];
  cost: LayerCost;
  taken: Walk['taken'];
  onFabric: number;
  shrunk: Walk['shrunk'];
  /** What wants care in a plan that holds. */
  cautions: string[];
  /** What makes it impossible, in words, and which films. */
  because: { films: string[]; says: string }[];
  /** What would make it possible: each was tried and gives a plan. */
  helps: LayerHelp[];
  alternatives: LayerAlternative[];
};

/** A stack, and how many full presses its fabric bears; undefined where nobody says. */
export type LayersToPlan = Stack & { bears?: number | undefined };

type Tried = { groups: Group[]; walked: Walk; school: LayerSchool; holds: boolean };

/** On faux leather each layer takes its own short press, whatever the school. */
const schoolFor = (stack: Stack, school: LayerSchool): LayerSchool =>
  stack.films.some((f) => f.always) ? 'full' : school;

function attempt(stack: LayersToPlan, asked: LayerSchool): Tried {
  const school = schoolFor(stack, asked);
  const groups = bestGroups(stack, school);
  const walked = walk(stack, groups, school);
  return { groups, walked, school, holds: walked.cost.forbidden === 0 && bearsIt(stack, walked) };
}

const bearsIt = ({ bears }: LayersToPlan, { onFabric }: Walk): boolean =>
  bears === undefined || onFabric <= bears + 0.01;

/**
 * How layers are pressed: in which order, at once or one by one, at which heats, what takes the full time, what cools before what. Best by: rules
 * that are broken, heat changes, presses, seconds. Where no plan holds it says which films and what would help; each help was tried.
 * @param school the way the person presses layers
 */
export function planLayers(stack: LayersToPlan, school: LayerSchool): LayerPlan {
  const best = attempt(stack, school);
  const { walked } = best;
  const because = reasons(stack, best);
  return {
    verdict: best.holds ? (walked.cost.care > 0 ? 'care' : 'plan') : 'refused',
    school: best.school,
    says: best.holds ? sayPlan(walked) : `No plan holds: ${because[0]?.says ?? ''}`,
    steps: walked.steps,
    cost: walked.cost,
    taken: best.holds ? walked.taken : [],
    onFabric: walked.onFabric,
    shrunk: best.holds ? walked.shrunk : [],
    cautions: best.holds ? cautions(stack, walked) : [],
    because,
    helps: best.holds ? [] : helps(stack, best),
    alternatives: best.holds ? alternatives(stack, best) : [],
  };
}

/** How long something takes, as it is said: "45 s", "3 min". */
export const minutes = (seconds: number): string => (seconds < 90 ? `${seconds} s` : `${Math.round(seconds / 60)} min`);
const times = (n: number, word: string): string => `${n} ${word}${n === 1 ? '' : word.endsWith('press') ? 'es' : 's'}`;

/** "One heat, 4 presses, about 3 min with the waits." */
function sayPlan({ cost: { changes, presses, seconds } }: Walk): string {
  return `${changes === 0 ? 'One heat for all' : `${times(changes, 'change')} of heat`}, ${times(presses, 'press')}, about ${minutes(seconds)} with the waits.`;
}

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
      return `${a} on ${stack.blank.word.split(':')[0]}: ${film.unfit}`;
    case 'too cool':
      return `${a} wants at least ${bothHeats(film.from)}`;
    case 'fabric':
      return `${a} wants at least ${bothHeats(film.from)}, and ${stack.blank.word.split(':')[0]} takes ${bothHeats(stack.blank.heat!)} at most`;
    case 'too hot': {
      const other = stack.films.find((f) => f.id === films[1]);
      return other
        ? `${a} lies there and takes ${bothHeats(film.to)} at most, while ${b} wants at least ${bothHeats(other.from)}`
        : `${a} takes ${bothHeats(film.to)} at most, not ${bothHeats(heat)}`;
    }
  }
}

const sentence = (s: string): string => `${s[0]!.toUpperCase()}${s.slice(1).replace(/\.$/, '')}.`;

function reasons(stack: LayersToPlan, { walked, holds }: Tried): LayerPlan['because'] {
  if (holds) return [];
  const found = walked.breaches
    .filter((b) => b.grade === 'not')
    .map((b) => ({ films: b.films, says: sentence(sayBreach(stack, b)) }));
  return found.length > 0
    ? found
    : [
        {
          films: stack.films.map((f) => f.id),
          says: `It takes ${walked.onFabric} full presses in all; this fabric bears ${stack.bears}.`,
        },
      ];
}

/** The same stack with two layers another way round: the higher one drawn below. */
function swapped(stack: LayersToPlan, a: number, b: number): LayersToPlan {
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
const meeting = (stack: LayersToPlan, pairs: readonly (readonly [number, number])[], how: Meeting): LayersToPlan => ({
  ...stack,
  meet: (i, j) => (pairs.some(([a, b]) => (a === i && b === j) || (a === j && b === i)) ? how : stack.meet(i, j)),
});
function without(stack: LayersToPlan, gone: number): LayersToPlan {
  const kept = stack.films.map((_, i) => i).filter((i) => i !== gone);
  return {
    ...stack,
    films: kept.map((i) => stack.films[i]!),
    meet: (i, j) => stack.meet(kept[i]!, kept[j]!),
    banned: (i, j) => stack.banned(kept[i]!, kept[j]!),
  };
}

/** What would make it possible, the least first: each is tried, and said only where a plan comes of it. */
function helps(stack: LayersToPlan, tried: Tried): LayerHelp[] {
  const found: LayerHelp[] = [];
  const at = (id: string) => stack.films.findIndex((f) => f.id === id);
  const name = (i: number) => stack.films[i]!.name;
  const holds = (changed: LayersToPlan) => attempt(changed, tried.school).holds;
  const pairs = new Map<string, [number, number]>();
  for (const { films } of tried.walked.breaches.filter((b) => b.grade === 'not'))
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
  const unfit = tried.walked.breaches.find((b) => b.grade === 'not' && (b.what === 'unfit' || b.what === 'fabric'));
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

export const schoolWords: Record<LayerSchool, string> = {
  tack: 'Tack each layer and press all of it whole at the end.',
  full: 'Press each layer for its full time.',
  ten: 'Press each layer for ten seconds and no more.',
};

function cautions(stack: LayersToPlan, { breaches, taken, shrunk }: Walk): string[] {
  const by = (id: string): Laid => stack.films.find((f) => f.id === id)!;
  const much = taken.filter((t) => t.presses > by(t.id).bears + 0.01);
  const off = shrunk.filter((s) => s.um >= 300);
  const widest = off.toSorted((a, b) => b.um - a.um)[0];
  return [
    ...new Set([
      ...breaches
        .filter((b) => b.grade === 'care')
        .map((b) => `${sentence(sayBreach(stack, b))} So its type goes: look at the leaflet.`),
      ...much.map(
        (t) =>
          `${by(t.id).name} takes ${t.presses} full presses in all, more than the ${by(t.id).bears} it bears well: press shorter, or knock it out.`,
      ),
      ...(widest
        ? [
            `${by(widest.id).name} is about ${(widest.um / 1000).toFixed(1)} mm narrower when ${by(widest.under).name} is laid on it, ${by(widest.id).measured ? 'as you measured' : 'an assumption you can correct'}: lay from the middle out.`,
          ]
        : []),
    ]),
  ];
}

/** What another school would mean, against the one that is followed: presses, time, and the heat that lower layers take. */
function besides(best: Tried, other: Tried): string {
  const [a, b] = [best.walked.cost, other.walked.cost];
  if (b.forbidden > a.forbidden || b.care > a.care || b.changes > a.changes) return loses(a, b);
  const presses = b.presses - a.presses;
  const most = (t: Tried) => Math.max(...t.walked.taken.map((x) => x.presses));
  const heat = Math.round((most(other) - most(best)) * 10) / 10;
  return (
    [
      presses === 0 ? '' : `${times(Math.abs(presses), 'press')} ${presses > 0 ? 'more' : 'less'}`,
      a.seconds === b.seconds
        ? ''
        : `${minutes(Math.abs(b.seconds - a.seconds))} ${b.seconds > a.seconds ? 'longer' : 'shorter'}`,
      other.school === 'ten' ? 'no layer gets the full time that is said of it' : '',
      heat === 0
        ? ''
        : `the layer that is heated most takes ${Math.abs(heat)} full presses ${heat > 0 ? 'more' : 'less'}`,
    ]
      .filter(Boolean)
      .join(', ') || 'comes to the same'
  );
}

/** The first point, by the order of costs, at which one loses. */
function loses(best: LayerCost, other: LayerCost): string {
  const more = (a: number, b: number) => b - a;
  if (other.forbidden > best.forbidden) return 'it breaks a rule';
  if (other.care > best.care) return 'more in it wants care';
  if (other.changes !== best.changes)
    return other.changes > best.changes
      ? `${times(more(best.changes, other.changes), 'change')} of heat more, about ${minutes(Math.max(0, other.seconds - best.seconds))}`
      : `${times(best.changes - other.changes, 'change')} of heat less, yet not your way`;
  if (other.presses !== best.presses)
    return other.presses > best.presses
      ? `${times(more(best.presses, other.presses), 'press')} more`
      : `${times(best.presses - other.presses, 'press')} less, yet more heat for what lies below`;
  return other.seconds > best.seconds ? `${minutes(other.seconds - best.seconds)} longer` : 'no better';
}

function alternatives(stack: LayersToPlan, best: Tried): LayerAlternative[] {
  const found: LayerAlternative[] = [];
  const { cost } = best.walked;
  const add = (what: string, { walked, school }: Pick<Tried, 'walked' | 'school'>) => {
    const why = bearsIt(stack, walked)
      ? loses(cost, walked.cost)
      : `${walked.onFabric} full presses in all; this fabric bears ${stack.bears}`;
    found.push({ what, school, cost: walked.cost, loses: sentence(why) });
  };
  const addSchool = (other: Tried) =>
    bearsIt(stack, other.walked)
      ? found.push({
          what: schoolWords[other.school],
          school: other.school,
          cost: other.walked.cost,
          loses: sentence(besides(best, other)),
        })
      : add(schoolWords[other.school], other);
  if (!stack.films.some((f) => f.always) && stack.films.length > 1)
    for (const school of layerSchools) if (school !== best.school) addSchool(attempt(stack, school));
  const own = best.groups.map((g) => ({ ...g, heat: stack.films[g.films[0]!]!.usual ?? g.heat }));
  if (own.some((g, i) => g.heat !== best.groups[i]!.heat))
    add('Each at the heat it is usually pressed at.', { walked: walk(stack, own, best.school), school: best.school });
  if (best.groups.some((g) => g.films.length > 1)) {
    const single = best.groups.flatMap((g) => g.films.map((i) => ({ films: [i], heat: g.heat })));
    add('One by one instead of at once.', { walked: walk(stack, single, best.school), school: best.school });
  }
  return found.sort((a, b) => compareCosts(a.cost, b.cost));
}

/** A stack of what is known of films on a blank. */
export function stackOf(
  films: readonly Laid[],
  blank: Pick<Blank, 'word' | 'kind' | 'heat'>,
  more: Partial<Omit<Stack, 'films' | 'blank'>> & { bears?: number | undefined } = {},
): LayersToPlan {
  return {
    films,
    blank,
    source: more.source ?? pressDefaults.warmth,
    meet: more.meet ?? (() => 'overlay'),
    banned: more.banned ?? ((below) => films[below]!.relief || films[below]!.printed),
    covered: more.covered ?? false,
    bears: more.bears,
  };
}
