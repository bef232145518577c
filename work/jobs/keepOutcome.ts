import {
  pressedSeconds,
  pressId,
  shownPresses,
  standingEvents,
  type JobEvent,
  type Plan,
  type ShownPress,
} from '#core/job/index.ts';
import { v5 as uuidv5 } from 'uuid';
import type { Query } from '#store/base/db.ts';
import * as store from '#store/jobs/jobs.ts';
import * as recipeStore from '#store/vinyls/recipes.ts';
import { pressById } from '#store/workshop/workshop.ts';
import { Invalid } from '#work/base/errors.ts';
import type { Person } from '#work/people/person.ts';
import type { Vinyl } from '#work/vinyls/vinyls.ts';
import { habitsOf, pressOf } from './press.ts';
import { waysPressed } from './waysPressed.ts';
import { vinylsOfPlan } from './view.ts';

type OutcomeEvent = JobEvent & { kind: 'outcome' };

/** What the hands were shown: as the event carries it; of an older one, which carries nothing, as it is planned now. */
async function shownFor(
  q: Query,
  person: Person,
  event: OutcomeEvent,
  plan: Plan,
  vinyls: ReadonlyMap<string, Vinyl>,
): Promise<{ shown: readonly ShownPress[]; press: string | null }> {
  if (event.presses) {
    const press = event.press && (await pressById(q, event.press));
    if (event.press && (!press || press.person_id !== person.id))
      throw new Invalid({ form: 'No such press of yours.' });
    return { shown: event.presses, press: event.press ?? null };
  }
  const planned = pressOf(plan, vinyls, await habitsOf(person, [...vinyls.values()], plan.blank.surface));
  return { shown: shownPresses(planned.steps), press: planned.plan.source?.id ?? null };
}

/** What the hands were shown when a piece was pressed: a wash, days later, speaks of that. */
const shownAt = (events: readonly JobEvent[], piece: string): ShownPress[] | undefined =>
  events
    .flatMap((e) =>
      e.kind === 'outcome' && !e.step.startsWith('wash/') && e.pieces.includes(piece) ? [e.presses] : [],
    )
    .findLast((presses) => presses !== undefined);

/** Under which id the outcome of each piece is kept: that of its event, or made of both. */
export const outcomeIds = (event: string, pieces: readonly string[]): string[] =>
  pieces.map((piece) => (pieces.length > 1 ? uuidv5(piece, event) : event));

/** How a piece came out of the press is evidence for the way each of its films was pressed. */
export async function keepOutcome(q: Query, person: Person, event: OutcomeEvent, plan: Plan): Promise<void> {
  const vinyls = await vinylsOfPlan(person, plan);
  const { shown, press } = await shownFor(q, person, event, plan, vinyls);
  const at = event.step.startsWith('apply/') ? 'apply' : event.step.startsWith('wash/') ? 'wash' : 'press';
  const standing = standingEvents(await store.eventsOf(q, [event.job]));
  const pressed = [...vinyls.values()].filter((v) => v.behaviour.bond === 'heat').length;
  const ids = outcomeIds(event.id, event.pieces);
  for (const [i, pieceId] of event.pieces.entries()) {
    const of = ({ what }: ShownPress) => standing.filter((e) => e.step === `press/${pressId(pieceId, what)}`);
    const ways = waysPressed(
      (at === 'wash' && shownAt(standing, pieceId)) || shown,
      at,
      (p) => pressedSeconds(of(p)),
      (p) => of(p).some((e) => e.kind === 'start' || e.kind === 'done'),
    );
    for (const [layer, { way, presses }] of ways) {
      const vinyl = vinyls.get(layer);
      // A vinyl that is gone by now is evidence for nothing.
      if (!vinyl) continue;
      await recipeStore.insertPressOutcome(q, {
        eventId: ids[i]!,
        vinylId: vinyl.id,
        personId: person.id,
        jobId: event.job,
        pieceId,
        surface: plan.blank.surface,
        pressId: at === 'apply' ? null : press,
        way,
        presses,
        word: event.word,
        kind: 'job',
        school: pressed > 1 ? plan.school : null,
        at: new Date(Math.min(Date.now(), Date.parse(event.deviceAt))),
      });
    }
  }
}
