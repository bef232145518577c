import { purposes, type BlankKey, type PressWay } from '#core/vinyls/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/vinyls/recipes.ts';
import type { Person } from '#work/people/person.ts';

/** Whether a recipe is for a fabric. */
export const fits = (r: Pick<store.RecipeRow, 'surface'>, surface: string): boolean =>
  r.surface === null || r.surface === surface;
/** What speaks of this very fabric and press comes before what speaks of any. */
export const closeness = (r: Pick<store.RecipeRow, 'surface' | 'press_id'>): number =>
  Number(r.surface !== null) * 2 + Number(r.press_id !== null);

/** Recipes of a person for vinyls on a fabric, the closest and newest first. */
export type OwnRecipes = ReadonlyMap<string, readonly { press: string | undefined; way: PressWay }[]>;
export async function ownRecipes(
  person: Person | undefined,
  vinylIds: readonly string[],
  surface: BlankKey,
): Promise<OwnRecipes> {
  if (!person || vinylIds.length === 0) return new Map();
  const rows = await store.ownRecipes(db(), person.id, vinylIds);
  return new Map(
    [...new Set(vinylIds)].map((id) => [
      id,
      rows
        .filter((r) => r.asked === id && fits(r, surface))
        .toSorted((a, b) => closeness(b) - closeness(a) || b.made_at.getTime() - a.made_at.getTime())
        .map((r) => ({ press: r.press_id ?? undefined, way: r.way })),
    ]),
  );
}

/** The ways a vinyl is pressed with a press by recipes of one's own, one for each purpose; undefined where there is none. */
export function waysWith(recipes: OwnRecipes, vinylId: string, press: string | undefined): PressWay[] | undefined {
  const here = recipes.get(vinylId)?.filter((r) => r.press === undefined || r.press === press) ?? [];
  const ways = purposes.flatMap((purpose) => here.find((r) => (r.way.purpose ?? 'full') === purpose)?.way ?? []);
  return ways.length > 0 ? ways : undefined;
}

/** How a film is pressed with a person's own ways: each takes the place of those that are for the same. */
export function withOwnWays(press: readonly PressWay[], own: readonly PressWay[] | undefined): PressWay[] {
  const said = new Set((own ?? []).map((w) => w.purpose ?? 'full'));
  return [...(own ?? []), ...press.filter((w) => !said.has(w.purpose ?? 'full'))];
}
