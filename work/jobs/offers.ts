import { isProposal, rankVinyls, takesOf, type OfferWord, type RankedVinyl, type VinylOffer } from '#core/job/index.ts';
import { isPrinted } from '#core/press/index.ts';
import { suitsBlank, type Suits } from '#core/vinyls/index.ts';
import { db } from '#store/base/db.ts';
import * as vinylStore from '#store/vinyls/vinyls.ts';
import { listVinyls, vinylRows, type VinylRow } from '#work/answer/list.ts';
import type { Person } from '#work/people/person.ts';
import { behaviourOfRow } from '#work/vinyls/vinyls.ts';
import { stockOf } from '#work/vinyls/stock.ts';
import type { Bench } from '#work/workshop/bench.ts';
import { revise } from './jobs.ts';
import { isCovered, isOnFilm, jobOf, type JobView } from './view.ts';

/** A vinyl in one of its colours that could show a layer. */
export type Offer = VinylOffer & {
  vinyl: VinylRow;
  colourId: string | undefined;
  colour: string | undefined;
  reasons: string[];
  verdict: Suits;
};

/** Vinyls in each of their colours, as they would show a layer of a job. */
async function asOffers(
  person: Person | undefined,
  { plan }: Pick<JobView, 'plan'>,
  rows: readonly VinylRow[],
): Promise<Offer[]> {
  const ids = rows.map((r) => r.id);
  const [full, colours, stock] = await Promise.all([
    vinylStore.vinylsByIds(db(), ids),
    vinylStore.coloursOfMany(db(), ids),
    stockOf(person),
  ]);
  const blank = takesOf(plan.blank);
  return rows.flatMap((vinyl): Offer[] => {
    const row = full.find((f) => f.id === vinyl.id);
    if (!row) return [];
    const behaviour = behaviourOfRow(row);
    const verdict = suitsBlank(behaviour, blank);
    const own = colours.filter((c) => c.vinyl_id === vinyl.id);
    const shades = own.length > 0 ? own : [{ id: undefined, name: undefined, hex: vinyl.colour?.hex ?? '#808080' }];
    return shades.map((c): Offer => ({
      id: `${vinyl.id} ${c.id ?? ''}`,
      vinyl,
      colourId: c.id,
      colour: c.name,
      hex: c.hex,
      suits: verdict.verdict,
      verdict,
      reasons: verdict.reasons,
      opacity: behaviour.opacity,
      raised: behaviour.face === 'relief',
      printed: isPrinted(behaviour),
      inStock: stock.some(
        (p) => p.vinyl.id === vinyl.id && (p.colourId === undefined || p.colourId === c.id) && p.leftUm > 0,
      ),
      standing: vinyl.standing,
    }));
  });
}

type Layered = Pick<JobView, 'plan' | 'layers'>;
/** What each layer of a job asks of a vinyl. */
const placeOf = (job: Layered, i: number) => ({
  blank: job.plan.blank.hex,
  covered: isCovered(job.layers, i),
  onFilm: isOnFilm(job.layers, i),
});

/** Vinyls for each layer of a job, the best first. */
export async function offersFor(
  person: Person | undefined,
  bench: Bench | undefined,
  job: Layered,
  search: string,
  limit = 8,
): Promise<{ layer: string; offers: RankedVinyl<Offer>[] }[]> {
  const offers = await asOffers(person, job, await listVinyls(person, bench, search, 60));
  return job.layers.map((l, i) => ({
    layer: l.id,
    offers: rankVinyls(offers, l.drawn, placeOf(job, i)).slice(0, limit),
  }));
}

/** What speaks for the vinyl that each layer has, and against it. */
export async function whyOffered(
  person: Person | undefined,
  bench: Bench | undefined,
  job: Layered,
): Promise<{ layer: string; row: VinylRow | undefined; words: OfferWord[] }[]> {
  const ids = [...new Set(job.layers.flatMap((l) => l.vinyl?.id ?? []))];
  const offers = await asOffers(person, job, await vinylRows(person, bench, ids));
  return job.layers.flatMap((l, i) => {
    const of = offers.find((o) => o.vinyl.id === l.vinyl?.id && (!l.vinyl.colour || o.colourId === l.vinyl.colour.id));
    return of ? [{ layer: l.id, row: of.vinyl, words: rankVinyls([of], l.drawn, placeOf(job, i))[0]!.words }] : [];
  });
}

/**
 * Gives every layer that has none the vinyl that stands first for it, where that is in hand and nothing speaks against it. No film is given to
 * two colours of a drawing.
 * @returns whether every layer has one now
 */
export async function proposeVinyls(person: Person, bench: Bench | undefined, id: string): Promise<boolean> {
  const job = await jobOf(person, id);
  const found = await offersFor(person, bench, job, '');
  const given = new Set(job.layers.map((l) => `${l.vinyl?.id} ${l.vinyl?.colour?.id ?? ''}`));
  const chosen = new Map<string, Offer>();
  for (const { layer, offers } of found) {
    if (job.layers.find((l) => l.id === layer)?.vinyl) continue;
    const first = offers.find((o) => isProposal(o) && !given.has(o.id));
    if (!first) continue;
    given.add(first.id);
    chosen.set(layer, first);
  }
  if (chosen.size > 0)
    await revise(person, id, (plan) => ({
      ...plan,
      layers: plan.layers.map((l) => {
        const offer = chosen.get(l.id);
        return offer && !l.vinyl ? { ...l, vinyl: offer.vinyl.id, colour: offer.colourId } : l;
      }),
    }));
  return job.layers.every((l) => l.vinyl || chosen.has(l.id));
}
