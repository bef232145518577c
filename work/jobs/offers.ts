import { rankVinyls, takesOf, type RankedVinyl, type VinylOffer } from '#core/job/index.ts';
import { suitsBlank, type Suits } from '#core/vinyls/index.ts';
import { db } from '#store/base/db.ts';
import * as vinylStore from '#store/vinyls/vinyls.ts';
import { listVinyls, type VinylRow } from '#work/answer/list.ts';
import type { Person } from '#work/people/person.ts';
import { behaviourOfRow } from '#work/vinyls/vinyls.ts';
import { stockOf } from '#work/vinyls/stock.ts';
import type { Bench } from '#work/workshop/bench.ts';
import type { JobView } from './view.ts';

/** A vinyl in one of its colours that could show a layer. */
export type Offer = VinylOffer & {
  vinyl: VinylRow;
  colourId: string | undefined;
  colour: string | undefined;
  reasons: string[];
  verdict: Suits;
};

/** Vinyls for each layer of a job, the best first: what the surface takes, what is in stock and proven, then the nearer colour. */
export async function offersFor(
  person: Person | undefined,
  bench: Bench | undefined,
  job: Pick<JobView, 'plan' | 'layers'>,
  search: string,
  limit = 8,
): Promise<{ layer: string; offers: RankedVinyl<Offer>[] }[]> {
  const [rows, stock] = await Promise.all([listVinyls(person, bench, search, 60), stockOf(person)]);
  const ids = rows.map((r) => r.id);
  const [full, colours] = await Promise.all([vinylStore.vinylsByIds(db(), ids), vinylStore.coloursOfMany(db(), ids)]);
  const blank = takesOf(job.plan.blank);
  const offers = rows.flatMap((vinyl): Offer[] => {
    const row = full.find((f) => f.id === vinyl.id);
    if (!row) return [];
    const verdict = suitsBlank(behaviourOfRow(row), blank);
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
      inStock: stock.some(
        (p) => p.vinyl.id === vinyl.id && (p.colourId === undefined || p.colourId === c.id) && p.leftUm > 0,
      ),
      standing: vinyl.standing,
    }));
  });
  return job.layers.map((l) => ({ layer: l.id, offers: rankVinyls(offers, l.drawn).slice(0, limit) }));
}
