import { setImmediate as nextTurn } from 'node:timers/promises';
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
import { blanks, fullWays, type Behaviour, type BlankKey, type Leaflet, type PressWay } from '#core/vinyls/index.ts';
import { db } from '#store/base/db.ts';
import * as recipeStore from '#store/vinyls/recipes.ts';
import * as swatchStore from '#store/vinyls/swatches.ts';
import * as vinylStore from '#store/vinyls/vinyls.ts';
import { today } from '#work/base/clock.ts';
import { type Person, NOBODY } from '#work/people/person.ts';
import type { VinylRow } from '#store/vinyls/vinyls.ts';
import { behaviourOfRow } from './vinyls.ts';

/** So many of the newest outcomes are weighed: years of work with one vinyl on one fabric. */
const MOST_OUTCOMES = 2_000;
/** So many of each where the vinyls of a list or a job are weighed at once. */
const MOST_EACH = 500;
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

/** Whether what squares found was kept as this recipe of one's own. */
const isKept = (r: recipeStore.RecipeRow, f: swatchStore.FoundRow): boolean =>
  r.way.heat === f.way!.heat && r.way.seconds?.[1] === f.way!.seconds?.[1];

/** A recipe of a vinyl on a surface with where it stands. */
type StandingRecipe = { row: recipeStore.RecipeRow; stands: ReturnType<typeof recipeStanding> };
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
  /** When it may be washed first, by its leaflet. */
  wash: Leaflet['wash'];
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
      : await recipeStore.pressOutcomes(
          db(),
          weighed,
          surface,
          me,
          person?.zone ?? 'UTC',
          weigh ? MOST_OUTCOMES : MOST_EACH,
        );
  const outcomes = new Map<string, PressOutcome[]>();
  for (const r of rows) {
    const { word } = r;
    if (!isWord(word)) continue;
    if (!outcomes.has(r.asked)) outcomes.set(r.asked, []);
    outcomes.get(r.asked)!.push({
      day: r.day,
      person: r.person_id,
      piece: r.piece_id,
      of: r.of,
      kind: r.kind,
      way: r.way,
      presses: r.presses ?? undefined,
      word,
      press: r.press_id ?? undefined,
    });
  }
  const on = today();
  const said = new Map<string, SaidOf>();
  for (const v of vinyls) {
    if (!ids.includes(v.id) || said.has(v.id)) continue;
    const here = recipes
      .filter((r) => r.asked === v.id && fits(r, surface))
      .toSorted((a, b) => closeness(b) - closeness(a) || b.made_at.getTime() - a.made_at.getTime());
    said.set(
      v.id,
      saidHere({
        me,
        on,
        weigh,
        here,
        seen: outcomes.get(v.id) ?? [],
        way: wayChosen(v, followed.find((f) => f.vinyl_id === v.id)?.way),
        leaflet: leafletWay(leaflets.find((l) => l.asked === v.id)?.content, v.behaviour),
        wash: leaflets.find((l) => l.asked === v.id)?.content.wash,
        found: found.filter((f) => f.asked === v.id),
      }),
    );
    // Weighing takes milliseconds: between two vinyls others have their turn.
    if (here.length > 0) await nextTurn();
  }
  return said;
}

/** The way one chose, of a press or in the words of an iron; undefined where it is there no more. */
const wayChosen = ({ behaviour: { press } }: Pressable, chosen: string | undefined): PressWay | undefined =>
  chosen === undefined ? undefined : [...fullWays(press), ...fullWays(press, true)].find((w) => w.key === chosen)?.way;

/** What was said of one vinyl, each way with its source. */
function saidHere(of: {
  me: string;
  on: string;
  weigh: boolean;
  here: readonly recipeStore.RecipeRow[];
  seen: PressOutcome[];
  way: PressWay | undefined;
  leaflet: PressWay | undefined;
  wash: Leaflet['wash'];
  found: readonly swatchStore.FoundRow[];
}): SaidOf {
  const { me, way, leaflet, here } = of;
  const full = here.filter((r) => (r.way.purpose ?? 'full') === 'full');
  const stand = (row: recipeStore.RecipeRow): StandingRecipe => ({
    row,
    stands: recipeStanding(row.way, of.seen, of.on, row.press_id ?? undefined),
  });
  const own = full.filter((r) => r.person_id === me).map(stand);
  // Where something nearer answers whatever the press, what others have proven is not weighed: strangers share as much as they like.
  const answered =
    leaflet !== undefined ||
    (way !== undefined && way.word === undefined) ||
    own.some(({ row, stands }) => stands.standing !== 'doubted' && row.press_id === null && row.way.word === undefined);
  const others = of.weigh || !answered ? full.filter((r) => r.person_id !== me).map(stand) : [];
  const saidBy = ({ row }: StandingRecipe, source: SaidWay['source'], by?: string): SaidWay => ({
    source,
    way: row.way,
    id: row.id,
    by,
    close: closeness(row),
    press: row.press_id ?? undefined,
  });
  const mine = (purpose: PressWay['purpose']) => here.filter((r) => r.person_id === me && r.way.purpose === purpose);
  return {
    recipes: [...own, ...others],
    outcomes: of.seen,
    wash: of.wash,
    tacks: mine('tack').map((r) => ({ press: r.press_id ?? undefined, way: r.way })),
    raises: mine('raise').map((r) => ({ id: r.id, way: r.way })),
    ways: [
      ...own.map((r) => saidBy(r, ownSource(r.stands.standing))),
      ...others.map((r) =>
        saidBy(r, r.stands.standing === 'proven' ? 'proven by others' : 'tried by others', r.row.person),
      ),
      ...of.found
        // Once it is kept as a recipe it is that recipe.
        .filter((f) => !own.some((r) => isKept(r.row, f)))
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
  };
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

/** The same of rows as they are read. */
export const pressAnswersOf = (
  person: Person | undefined,
  rows: readonly VinylRow[],
): Promise<Map<string, PressAnswer>> =>
  pressAnswers(
    person,
    rows.map((r) => ({ id: r.id, behaviour: behaviourOfRow(r) })),
  );

/** Press answers of many vinyls where no surface is known: on plain cloth, which whoever shows them says. */
export async function pressAnswers(
  person: Person | undefined,
  vinyls: readonly Pressable[],
  surface: BlankKey = anySurface,
): Promise<Map<string, PressAnswer>> {
  const said = await saidOf(person, vinyls, surface);
  return new Map(vinyls.map((v) => [v.id, answerFrom(v, surface, said.get(v.id), undefined)]));
}
