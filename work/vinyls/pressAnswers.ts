import {
  anySurface,
  leafletWay,
  ownSource,
  pressAnswer,
  pressWords,
  recipeStanding,
  type HeatSource,
  type PressAnswer,
  type PressOutcome,
  type PressWord,
  type SaidWay,
} from '#core/press/index.ts';
import { blanks, fullWays, type Behaviour, type BlankKey, type PressWay } from '#core/vinyls/index.ts';
import { db } from '#store/base/db.ts';
import * as recipeStore from '#store/vinyls/recipes.ts';
import * as swatchStore from '#store/vinyls/swatches.ts';
import * as vinylStore from '#store/vinyls/vinyls.ts';
import { today } from '#work/base/clock.ts';
import { type Person, NOBODY } from '#work/people/person.ts';

/** So many of the newest outcomes are weighed: years of work with one vinyl on one fabric. */
const MOST_OUTCOMES = 2_000;
/** So many recipes of a vinyl: a person's own first. */
const MOST_RECIPES = 40;

/** What is asked of a vinyl here. */
export type Pressable = { id: string; behaviour: Pick<Behaviour, 'bond' | 'press' | 'side'> };

/** Whether a recipe is for a fabric. */
const fits = (r: Pick<recipeStore.RecipeRow, 'surface'>, surface: string): boolean =>
  r.surface === null || r.surface === surface;
/** What speaks of this very fabric and press comes before what speaks of any. */
const closeness = (r: Pick<recipeStore.RecipeRow, 'surface' | 'press_id'>): number =>
  Number(r.surface !== null) * 2 + Number(r.press_id !== null);

const isWord = (word: string): word is PressWord => word in pressWords;

/** Whether what squares found was kept as a recipe. */
const isKept = (r: recipeStore.RecipeRow, f: swatchStore.FoundRow, me: string): boolean =>
  r.person_id === me && r.way.heat === f.way!.heat && r.way.seconds?.[1] === f.way!.seconds?.[1];

/** A recipe of a vinyl on a surface with where it stands. */
export type StandingRecipe = { row: recipeStore.RecipeRow; stands: ReturnType<typeof recipeStanding> };
/** All that was said of how a vinyl is pressed on a surface. */
export type SaidOf = {
  /** Ways of a full press, each with its source; of one source the newest first. */
  ways: SaidWay[];
  recipes: StandingRecipe[];
  outcomes: PressOutcome[];
  /** Tacks of one's own, the closest and newest first. */
  tacks: { press: string | undefined; way: PressWay }[];
  /** Raising presses of one's own without the press before them: shown, so that it is added; never joined to another source's. */
  raises: { id: string; way: PressWay }[];
};

/**
 * What one's own recipes and squares, the way one chose, the leaflet and recipes of others say of some vinyls on a surface, read for all of them at
 * once. A handful of statements, however long the list.
 * @param weigh also what came of ways that are nobody's recipe: those of a type, or of a leaflet
 */
export async function saidOf(
  person: Person | undefined,
  vinyls: readonly Pressable[],
  surface: BlankKey,
  { weigh = false } = {},
): Promise<Map<string, SaidOf>> {
  const ids = [...new Set(vinyls.filter((v) => v.behaviour.bond === 'heat').map((v) => v.id))];
  if (ids.length === 0) return new Map();
  const me = person?.id ?? NOBODY;
  const [recipes, leaflets, followed, found] = await Promise.all([
    recipeStore.recipesOfMany(db(), me, ids, MOST_RECIPES),
    vinylStore.leafletsOf(db(), ids),
    person ? vinylStore.followedPress(db(), person.id, ids) : [],
    person ? swatchStore.foundBySwatches(db(), person.id, ids, surface) : [],
  ]);
  // Most vinyls have no recipe, and nothing that came out of a press to weigh.
  const weighed = weigh ? ids : [...new Set(recipes.filter((r) => fits(r, surface)).map((r) => r.asked))];
  const rows =
    weighed.length === 0
      ? []
      : await recipeStore.pressOutcomes(db(), weighed, surface, me, person?.zone ?? 'UTC', MOST_OUTCOMES);
  const on = today();
  return new Map(
    vinyls.flatMap((v): [string, SaidOf][] => {
      if (!ids.includes(v.id)) return [];
      const seen = rows.flatMap((r): PressOutcome[] =>
        r.asked === v.id && isWord(r.word)
          ? [
              {
                day: r.day,
                person: r.person_id,
                piece: r.piece_id,
                of: r.of,
                kind: r.kind,
                way: r.way,
                presses: r.presses ?? undefined,
                word: r.word,
                press: r.press_id ?? undefined,
              },
            ]
          : [],
      );
      const here = recipes
        .filter((r) => r.asked === v.id && fits(r, surface))
        .toSorted((a, b) => closeness(b) - closeness(a) || b.made_at.getTime() - a.made_at.getTime());
      const full = here
        .filter((r) => (r.way.purpose ?? 'full') === 'full')
        .map((row) => ({ row, stands: recipeStanding(row.way, seen, on, row.press_id ?? undefined) }));
      const chosen = followed.find((f) => f.vinyl_id === v.id)?.way;
      const way =
        chosen &&
        [...fullWays(v.behaviour.press), ...fullWays(v.behaviour.press, true)].find((w) => w.key === chosen)?.way;
      const leaflet = leafletWay(leaflets.find((l) => l.asked === v.id)?.content, v.behaviour);
      return [
        [
          v.id,
          {
            recipes: full,
            outcomes: seen,
            tacks: here
              .filter((r) => r.person_id === me && r.way.purpose === 'tack')
              .map((r) => ({ press: r.press_id ?? undefined, way: r.way })),
            raises: here
              .filter((r) => r.person_id === me && r.way.purpose === 'raise')
              .map((r) => ({ id: r.id, way: r.way })),
            ways: [
              ...full.flatMap(({ row, stands }): SaidWay[] => {
                const own = row.person_id === me;
                const source = own
                  ? ownSource(stands.standing)
                  : stands.standing === 'proven'
                    ? 'proven by others'
                    : 'tried by others';
                return [
                  {
                    source,
                    way: row.way,
                    id: row.id,
                    by: own ? undefined : row.person,
                    close: closeness(row),
                    press: row.press_id ?? undefined,
                  },
                ];
              }),
              ...found
                // Once it is kept as a recipe it is that recipe.
                .filter((f) => f.asked === v.id && !full.some((r) => isKept(r.row, f, me)))
                .map((f): SaidWay => ({
                  source: 'own tried',
                  way: f.way!,
                  by: 'squares',
                  close: f.press_id ? 3 : 2,
                  press: f.press_id ?? undefined,
                })),
              ...(way ? [{ source: 'chosen' as const, way }] : []),
              ...(leaflet ? [{ source: 'leaflet' as const, way: leaflet }] : []),
            ],
          },
        ],
      ];
    }),
  );
}

/** The one press answer for a vinyl on a surface, with one press or with any. */
export function answerFrom(
  vinyl: Pressable,
  surface: BlankKey,
  said: SaidOf | undefined,
  press: Pick<HeatSource, 'id' | 'kind' | 'levels'> | undefined,
): PressAnswer {
  // What is for another press says nothing here; where no press is known, everything may speak.
  const ways = (said?.ways ?? []).filter((w) => w.press === undefined || press === undefined || w.press === press.id);
  const iron = press?.kind === 'iron' ? { measured: press.levels.some((l) => l.how !== 'label') } : undefined;
  return pressAnswer(vinyl.behaviour, blanks[surface], ways, iron);
}

/** Press answers of many vinyls where no surface is known: on plain cloth, which whoever shows them says. */
export async function pressAnswers(
  person: Person | undefined,
  vinyls: readonly Pressable[],
  surface: BlankKey = anySurface,
): Promise<Map<string, PressAnswer>> {
  const said = await saidOf(person, vinyls, surface);
  return new Map(vinyls.map((v) => [v.id, answerFrom(v, surface, said.get(v.id), undefined)]));
}
