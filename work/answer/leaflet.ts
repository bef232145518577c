import { besideLeaflet, fullWays, type Behaviour, type Leaflet, type LeafletBeside } from '#core/vinyls/index.ts';
import { passesOf } from '#core/controls/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/vinyls/vinyls.ts';
import { sayHome } from '#work/base/text.ts';
import { type Person, NOBODY } from '#work/people/person.ts';

export type LeafletView = {
  leaflet: Leaflet;
  who: string;
  /** The server it came from. */
  home: string | undefined;
  at: string;
  beside: LeafletBeside;
};

/** How crafters here press and peel a vinyl, and what its maker says, side by side. */
export async function leafletOf(
  person: Person | undefined,
  vinyl: { id: string; behaviour: Pick<Behaviour, 'press'> },
): Promise<{ leaflet: LeafletView | undefined; peel: string | undefined }> {
  const [row, voices] = await Promise.all([
    store.leafletOf(db(), vinyl.id),
    store.pressVoices(db(), vinyl.id, person?.id ?? NOBODY),
  ]);
  const { blade, passes } = row?.content ?? {};
  const cuts = blade === undefined && passes === undefined ? [] : await store.cutVoices(db(), vinyl.id, 300);
  const { press } = vinyl.behaviour;
  const beside =
    row &&
    besideLeaflet(
      row.content,
      voices.map((v) => ({
        way: v.press === null ? undefined : fullWays(press).find((w) => w.key === v.press)?.way,
        peel: v.peel ?? undefined,
      })),
      cuts.map((c) => ({ blade: c.blade ?? undefined, passes: passesOf(c.model, c.setting) })),
    );
  return {
    leaflet: row && {
      leaflet: row.content,
      who: row.who,
      home: sayHome(row.home),
      at: row.at.toISOString(),
      beside: beside!,
    },
    peel: voices.find((v) => v.mine)?.peel ?? undefined,
  };
}
