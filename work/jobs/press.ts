import { takesOf, type Plan } from '#core/job/index.ts';
import {
  isPrinted,
  laidFilm,
  meetingOf,
  overSurface,
  pressPlan,
  withHabits,
  type HandHabits,
  type SaidWay,
  rankSources,
  setFor,
  stepNames,
  type HandPressures,
  type HeatSource,
  type Meeting,
  warmthOf,
} from '#core/press/index.ts';
import type { Blank, BlankKey, PressWay } from '#core/vinyls/index.ts';
import { db } from '#store/base/db.ts';
import * as vinylStore from '#store/vinyls/vinyls.ts';
import type { Person } from '#work/people/person.ts';
import { heatLog, sourcesOf, type HeatLog } from '#work/workshop/presses.ts';
import { appliedOf } from './applied.ts';
import type { PlannedFilm, PressPlanView, PressStepView } from './pressView.ts';
import { partsOn, sayParts } from './parts.ts';
import { answerFrom, saidOf, type SaidOf } from '#work/vinyls/pressAnswers.ts';
import type { Vinyl } from '#work/vinyls/vinyls.ts';

/** What is said of how the vinyls of plans are pressed, and what somebody presses with and does by habit. */
export type PressHabits = {
  said: ReadonlyMap<string, SaidOf>;
  /** What they do at a vinyl whatever its figures: topic and way, by vinyl. */
  hands: ReadonlyMap<string, HandHabits>;
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
  vinyls: readonly Vinyl[],
  surface: BlankKey,
  presses: PressesOf | Promise<PressesOf> = pressesOf(person),
): Promise<PressHabits> {
  if (vinyls.length === 0) return { said: new Map(), hands: new Map(), ...(await presses) };
  const [said, hands, own] = await Promise.all([
    saidOf(person, vinyls, surface),
    person
      ? vinylStore.handHabits(
          db(),
          person.id,
          vinyls.map((v) => v.id),
        )
      : [],
    presses,
  ]);
  const byVinyl = new Map<string, HandHabits>();
  for (const h of hands) byVinyl.set(h.vinyl_id, { ...byVinyl.get(h.vinyl_id), [h.topic]: h.way });
  return { said, hands: byVinyl, ...own };
}

const titleOf = (v: Vinyl) => `${v.brand} ${v.name}`.trim();

/** What hands do at a vinyl: as they follow it, and how wide the carrier is left as the recipe says that answers. */
export function handsOf(vinyl: Vinyl, habits: PressHabits, surface: BlankKey): HandHabits {
  const margin = answerFrom(vinyl, surface, habits.said.get(vinyl.id), undefined).said?.way.margin;
  return { ...(margin ? { margin } : {}), ...habits.hands.get(vinyl.id) };
}

/** A way in the words of a dial with the heat that its words have there: that of its label, until somebody measures it. */
function onDial(way: PressWay, press: HeatSource | undefined): PressWay {
  if (!press) return way;
  const { word, ...rest } = way;
  const heat = press.levels.find((l) => l.word === word)?.heat;
  return {
    ...(word === undefined ? way : heat === undefined ? rest : { ...rest, heat }),
    ...(way.next ? { next: way.next.map((n) => onDial(n, press)) } : {}),
  };
}

/** So much less a word may have than its label says, m°C: an iron is not accused of a heat that nobody has measured. Judgement, no source. */
const UNMEASURED = 10_000;
const bearing = (blank: Blank, press: HeatSource | undefined): Blank =>
  blank.heat !== undefined && press?.levels.some((l) => l.how === 'label')
    ? { ...blank, heat: blank.heat + UNMEASURED }
    : blank;

/**
 * The films of a plan, the lowest first, as this person presses them with a press, or with any: each by its one press answer, with what hands do by
 * habit changed in it, field by field.
 */
function filmsOf(
  plan: Plan,
  vinyls: ReadonlyMap<string, Vinyl>,
  habits: PressHabits,
  press: HeatSource | undefined,
): PlannedFilm[] {
  return plan.layers.flatMap((l): PlannedFilm[] => {
    const vinyl = vinyls.get(l.id);
    if (!vinyl) return [];
    const said = habits.said.get(vinyl.id);
    const answer = answerFrom(vinyl, plan.blank.surface, said, press);
    const tack = said?.tacks.find((t) => t.press === undefined || t.press === press?.id)?.way;
    const hand = withHabits(answer.said?.way, habits.hands.get(vinyl.id));
    return [
      {
        ...vinyl.behaviour,
        id: l.id,
        type: vinyl.type,
        name: vinyl.colour ? `${titleOf(vinyl)} ${vinyl.colour.name}` : titleOf(vinyl),
        press: [
          ...(hand.way ? [onDial(hand.way, press)] : []),
          ...(tack ? [tack] : vinyl.behaviour.press.filter((w) => w.purpose === 'tack')),
        ],
        answer,
        habits: [...hand.says, ...(tack ? ['You tack it as you wrote.'] : [])],
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
  const pressed = films.filter((f) => laidFilm(f, takesOf(plan.blank)) !== undefined);
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
      metallic: pressed.some((f) => f.type === 'metallic-puff'),
      own,
    },
  );
  const best = ranked.find((r) => r.fits);
  const id = ranked.some((r) => r.id === plan.press) ? plan.press : best?.id;
  return { chosen: sources.find((s) => s.source.id === id), ranked };
}

/** What hands do to take films off their backing. */
const backingOff = (vinyls: ReadonlyMap<string, Vinyl>, ids: readonly string[]): string[] => [
  ...new Set(ids.flatMap((id) => vinyls.get(id)!.behaviour.tips.flatMap((t) => (t.at === 'backing' ? [t.says] : [])))),
];

/** By which source the film is pressed that a press takes its figures of. */
const byOf = (films: readonly PlannedFilm[], named: readonly string[]): SaidWay['source'] | undefined =>
  films.find((f) => f.id === named[0])?.answer.said?.source;

/**
 * What is pressed of each piece of a plan, in order, with what each step is called, and the films as they are pressed. Which press is taken is
 * said first, by how the films are pressed with any; then each is pressed as one's recipe for that press has it.
 */
export function pressOf(
  plan: Plan,
  vinyls: ReadonlyMap<string, Vinyl>,
  habits: PressHabits,
): { films: PlannedFilm[]; steps: PressStepView[]; plan: PressPlanView } {
  const blank = takesOf(plan.blank);
  const own = new Set(
    [...habits.said.values()].flatMap((s) => s.ways.flatMap((w) => (w.source.startsWith('own') && w.press) || [])),
  );
  const { chosen, ranked } = sourceFor(plan, filmsOf(plan, vinyls, habits, undefined), own, habits.sources);
  const films = filmsOf(plan, vinyls, habits, chosen?.source);
  const by = bearing(blank, chosen?.source);
  const warmth = warmthOf(habits.changes.filter((c) => c.press === (chosen?.source.id ?? null)));
  const planned = pressPlan(
    films,
    by,
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
    const ids = s.does === 'layer' || s.does === 'raise' || s.does === 'backing off' ? named : [];
    const hand = s.purpose === 'hand';
    return {
      ...s,
      layers: ids,
      kind: hand ? ('apply' as const) : ('press' as const),
      byHand: hand,
      lifts: films.some((f) => ids.includes(f.id) && isPrinted(f)) ? ('cover' as const) : ('carrier' as const),
      parts: chosen && !hand ? partsOn(plan, ids, chosen.source) : 1,
      says: hand ? backingOff(vinyls, ids) : [],
      rest: undefined,
      toSet: chosen && s.heat !== undefined ? setFor(chosen.source, s.heat).says : undefined,
      hand: s.pressure && sayHand(chosen?.pressures[s.pressure]),
      by: byOf(films, named),
      over: overSurface(s.heat, by),
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
      lacks: planned.lacks.map(({ film, what }) => ({
        film: films.find((f) => f.id === film)!.name,
        layer: film,
        vinyl: vinyls.get(film)!.id,
        what,
      })),
      cautions: [
        ...planned.cautions,
        ...sayParts(
          pressed,
          films.filter((f) => f.bond === 'heat'),
        ),
      ],
      said: films.flatMap(({ id, name, answer, habits: hands }) =>
        answer.pressed ? [{ layer: id, name, source: answer.said?.source, by: answer.said?.by, habits: hands }] : [],
      ),
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
