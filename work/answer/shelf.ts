import { wantedOfType, type VinylTypeKey } from '#core/vinyls/index.ts';
import type { ShownFit } from '#core/window/index.ts';
import { listCards, type ListedCard } from '#work/shelf/list.ts';
import type { CardView } from '#work/shelf/view.ts';
import type { Person } from '#work/people/person.ts';
import type { Bench } from '#work/workshop/bench.ts';
import type { Answer } from '#core/answer/index.ts';
import type { PressAnswer } from '#core/press/index.ts';
import { db } from '#store/base/db.ts';
import { vinylsByIds } from '#store/vinyls/vinyls.ts';
import { pressAnswersOf } from '#work/vinyls/pressAnswers.ts';
import { vinylRows } from './list.ts';

/** What to set for the vinyl of a card on the cutter on the bench, with what its strip is drawn from. */
export type HereAnswer = { answer: Answer; result: ShownFit };

/** The shelf, each card with what to set for its vinyl here: the number that every other screen says. */
export async function shelfFor(
  person: Person | undefined,
  bench: Bench | undefined,
  search: string,
): Promise<(ListedCard & { onBench: HereAnswer | undefined })[]> {
  const cards = await listCards(person, bench, search);
  const here = await answersFor(
    person,
    bench,
    cards.map((c) => c.vinyl.id),
  );
  return cards.map((c) => ({
    ...c,
    onBench: c.wanted === wantedOfType(c.vinyl.type as VinylTypeKey) ? here.get(c.vinyl.id) : undefined,
  }));
}

/** The same for the vinyl of one card. */
export async function answerForCard(
  person: Person | undefined,
  bench: Bench | undefined,
  card: CardView,
): Promise<HereAnswer | undefined> {
  if (card.wanted !== wantedOfType(card.content.vinyl.type as VinylTypeKey)) return undefined;
  return (await answersFor(person, bench, [card.vinylId])).get(card.vinylId);
}

/** How the vinyl of a card is pressed, as its bench card says it. */
export async function pressForCard(person: Person | undefined, vinylId: string): Promise<PressAnswer | undefined> {
  const [row] = await vinylsByIds(db(), [vinylId]);
  return row && (await pressAnswersOf(person, [row])).get(row.id);
}

async function answersFor(person: Person | undefined, bench: Bench | undefined, vinyls: readonly string[]) {
  const found = new Map<string, HereAnswer>();
  if (!bench) return found;
  for (const { id, answer, result } of await vinylRows(person, bench, [...new Set(vinyls)]))
    // A guess from the type says nothing that a card does not say better.
    if (result && answer.from !== 'type') found.set(id, { answer, result });
  return found;
}
