import type { Plan } from '#core/job/index.ts';
import {
  laidFilm,
  meetingOf,
  pressPlan,
  rankSources,
  setFor,
  stepNames,
  type HandPressures,
  type HeatSource,
  type Meeting,
  warmthOf,
} from '#core/press/index.ts';
import { blanks, type BlankKey } from '#core/vinyls/index.ts';
import { db } from '#store/base/db.ts';
import * as vinylStore from '#store/vinyls/vinyls.ts';
import type { Person } from '#work/people/person.ts';
import { heatLog, sourcesOf, type HeatLog } from '#work/workshop/presses.ts';
import { appliedOf } from './applied.ts';
import type { PlannedFilm, PressPlanView, PressStepView } from './pressView.ts';
import { partsOn, sayParts } from './parts.ts';
import { ownRecipes, waysWith, withOwnWays, type OwnRecipes } from '#work/vinyls/ownWays.ts';
import type { Vinyl } from '#work/vinyls/vinyls.ts';

/** How somebody presses the vinyls of plans: recipes of their own, else the way they follow. */
export type PressHabits = {
  recipes: OwnRecipes;
  followed: ReadonlyMap<string, number>;
  /** What they press with, and the changes of heat of each that were timed: its own log. */
  sources: readonly { source: HeatSource; pressures: HandPressures }[];
  changes: HeatLog;
};

/** What a person presses with: the same for all of their jobs. */
export type PressesOf = Pick<PressHabits, 'sources' | 'changes'>;
export async function pressesOf(person: Person | undefined): Promise<PressesOf> {
  if (!person) return { sources: [], changes: [] };
  const [sources, changes] = await Promise.all([sourcesOf(person), heatLog(person)]);
  return { sources, changes };
}

/** How a person presses some vinyls on a surface. Whoever asks for many jobs reads the presses once. */
export async function habitsOf(
  person: Person | undefined,
  vinylIds: readonly string[],
  surface: BlankKey,
  presses: PressesOf | Promise<PressesOf> = pressesOf(person),
): Promise<PressHabits> {
  if (!person || vinylIds.length === 0) return { recipes: new Map(), followed: new Map(), ...(await presses) };
  const [recipes, followed, own] = await Promise.all([
    ownRecipes(person, vinylIds, surface),
    vinylStore.followedPress(db(), person.id, vinylIds),
    presses,
  ]);
  return { recipes, followed: new Map(followed.map((f) => [f.vinyl_id, Number(f.way) - 1])), ...own };
}

const titleOf = (v: Vinyl) => `${v.brand} ${v.name}`.trim();

/** The films of a plan, the lowest first, as this person presses them with a press, or with any. */
function filmsOf(
  plan: Plan,
  vinyls: ReadonlyMap<string, Vinyl>,
  habits: PressHabits,
  press: string | undefined,
): PlannedFilm[] {
  return plan.layers.flatMap((l): PlannedFilm[] => {
    const vinyl = vinyls.get(l.id);
    if (!vinyl) return [];
    const own = waysWith(habits.recipes, vinyl.id, press);
    return [
      {
        ...vinyl.behaviour,
        id: l.id,
        type: vinyl.type,
        name: vinyl.colour ? `${titleOf(vinyl)} ${vinyl.colour.name}` : titleOf(vinyl),
        press: withOwnWays(vinyl.behaviour.press, own),
        way: own ? undefined : habits.followed.get(vinyl.id),
        thinUm: l.thinUm,
        widthUm: l.box && plan.design ? l.box.width * plan.design.widthUm : undefined,
      },
    ];
  });
}

/** What two layers of a plan are to each other by where they lie; pieces that show names of their own lie anyhow. */
function meetingIn(plan: Plan, a: string, b: string): Meeting {
  const [p, q] = [a, b].map((id) => plan.layers.find((l) => l.id === id)?.box);
  if (!p || !q || !plan.design || plan.pieces.some((x) => x.name)) return 'overlay';
  const um = (box: typeof p) => ({
    x: box.x * plan.design!.widthUm,
    y: box.y * plan.design!.widthUm,
    width: box.width * plan.design!.widthUm,
    height: box.height * plan.design!.widthUm,
  });
  return meetingOf(um(p), um(q));
}

/** Light, medium or heavy as hands know it on one's own press: "3 turns, 22 kg on the scale". */
const sayHand = (hand: HandPressures['light']): string | undefined =>
  hand &&
  [hand.turns === undefined ? '' : `${hand.turns} turns`, hand.kg === undefined ? '' : `${hand.kg} kg on the scale`]
    .filter(Boolean)
    .join(', ');

/** The press a plan is pressed with: the one that was chosen, else the one that fits best. */
function sourceFor(plan: Plan, films: readonly PlannedFilm[], own: Set<string>, sources: PressHabits['sources']) {
  const pressed = films.filter((f) => laidFilm(f, blanks[plan.blank.surface]) !== undefined);
  if (sources.length === 0 || pressed.length === 0 || !plan.design) return { chosen: undefined, ranked: [] };
  const ranked = rankSources(
    sources.map((s) => s.source),
    {
      from: Math.max(...pressed.map((f) => f.heat?.from ?? 0)),
      to: Math.min(...pressed.map((f) => f.heat?.to ?? Infinity)),
      widthUm: plan.design.widthUm,
      heightUm: Math.max(...plan.layers.map((l) => (l.box ? (l.box.y + l.box.height) * plan.design!.widthUm : 0))),
      cap: plan.blank.surface === 'cap',
      relief: pressed.some((f) => f.face === 'relief'),
      own,
    },
  );
  const best = ranked.find((r) => r.fits);
  const id = ranked.some((r) => r.id === plan.press) ? plan.press : best?.id;
  return { chosen: sources.find((s) => s.source.id === id), ranked };
}

/**
 * What is pressed of each piece of a plan, in order, with what each step is called, and the films as they are pressed. Which press is taken is
 * said first, by how the films are pressed with any; then each is pressed as one's recipe for that press has it.
 */
export function pressOf(
  plan: Plan,
  vinyls: ReadonlyMap<string, Vinyl>,
  habits: PressHabits,
): { films: PlannedFilm[]; steps: PressStepView[]; plan: PressPlanView } {
  const blank = blanks[plan.blank.surface];
  const own = new Set([...habits.recipes.values()].flatMap((rs) => rs.flatMap((r) => r.press ?? [])));
  const { chosen, ranked } = sourceFor(plan, filmsOf(plan, vinyls, habits, undefined), own, habits.sources);
  const films = filmsOf(plan, vinyls, habits, chosen?.source.id);
  const warmth = warmthOf(habits.changes.filter((c) => c.press === (chosen?.source.id ?? null)));
  const planned = pressPlan(
    films,
    blank,
    {
      warm: warmth.warm,
      cool: warmth.cool,
      heats: chosen?.source.levels.length ? chosen.source.levels.map((l) => l.heat) : undefined,
    },
    { school: plan.school },
    (below, above) => meetingIn(plan, below, above),
  );
  const names = stepNames(planned.steps);
  const pressed = planned.steps.map(({ films: named, ...s }, i) => {
    // The last press and what follows it are of everything, whichever film's figures they take.
    const ids = s.does === 'layer' || s.does === 'raise' ? named : [];
    return {
      ...s,
      layers: ids,
      kind: 'press' as const,
      parts: chosen ? partsOn(plan, ids, chosen.source) : 1,
      says: [],
      rest: undefined,
      toSet: chosen && s.heat !== undefined ? setFor(chosen.source, s.heat).says : undefined,
      hand: s.pressure && sayHand(chosen?.pressures[s.pressure]),
      what: names[i]!,
    };
  });
  return {
    films,
    steps: [...pressed, ...appliedOf(plan, films)],
    plan: {
      verdict: planned.verdict,
      school: planned.school,
      says: planned.says,
      because: planned.because,
      helps: planned.helps,
      alternatives: planned.alternatives,
      offers: planned.offers,
      lacks: planned.lacks.map(({ film, what }) => ({ film: films.find((f) => f.id === film)!.name, what })),
      cautions: [
        ...planned.cautions,
        ...sayParts(
          pressed,
          films.filter((f) => f.bond === 'heat'),
        ),
      ],
      taken: planned.taken,
      onFabric: planned.onFabric,
      source: chosen && {
        id: chosen.source.id,
        name: chosen.source.name,
        because: ranked.find((r) => r.id === chosen.source.id)!.because,
        kind: chosen.source.kind,
        words: chosen.source.levels.length > 0,
        shows: chosen.source.shows,
        off: chosen.source.off,
        open: planned.steps.some((s) => s.heat !== undefined && setFor(chosen.source, s.heat).level?.how === 'label'),
      },
      sources: ranked.map((r) => ({ ...r, name: habits.sources.find((s) => s.source.id === r.id)!.source.name })),
    },
  };
}
