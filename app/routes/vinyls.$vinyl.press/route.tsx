import { againWhenChanged } from '../../ui/base/againWhenChanged.ts';
import { seenOf } from '#work/base/seen.ts';
import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { Form, Link, redirect } from 'react-router';
import { blankKeys, blanks } from '#core/vinyls/index.ts';
import { blankOf } from '#work/vinyls/blanks.ts';
import { addRecipe, recipesOn, setRecipeAway, setRecipeShared, takeRecipe } from '#work/vinyls/recipes.ts';
import { vinylOf } from '#work/vinyls/vinyls.ts';
import { sayWay, setFor } from '#core/press/index.ts';
import { sourcesOf } from '#work/workshop/presses.ts';
import { words } from '../../messages/index.ts';
import { actions, over, enter } from '../../server/enter.server.ts';
import { FormNotice, SelectField } from '../../ui/base/Field.tsx';
import { Folded } from '../../ui/base/Folded.tsx';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { vinylName } from '../../ui/vinyls/vinylName.ts';
import { AnswerRecipe, OtherRecipe } from './Recipe.tsx';
import { RecipeForm } from './RecipeForm.tsx';
import type { Route } from './+types/route';
import { capitalise } from '#core/units/index.ts';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

/** The ways to press a vinyl on one fabric, one's own first, with what each has to show for itself. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const query = new URL(args.request.url).searchParams;
  const vinyl = await vinylOf(person, args.params.vinyl);
  if (vinyl.id !== args.params.vinyl) throw redirect(`/vinyls/${vinyl.id}/press`);
  const surface = blankOf(query.get('on'))?.key ?? 'plain-cloth';
  const [{ answer, recipes, raises }, sources] = await Promise.all([
    recipesOn(person, vinyl, surface),
    sourcesOf(person),
  ]);
  return {
    vinyl: { id: vinyl.id, brand: vinyl.brand, name: vinyl.name, type: vinyl.type },
    surface,
    pressed: answer.pressed,
    answered: answer.said !== undefined,
    raises,
    seen: seenOf(recipes.map((r) => r.id)),
    recipes: recipes.map((r) => {
      const on = sources.find(({ source }) => source.id === r.press)?.source;
      const word = on && r.way.heat !== undefined ? setFor(on, r.way.heat).level?.word : undefined;
      return { ...r, on: on?.name, word };
    }),
    presses: sources.map(({ source }) => ({ id: source.id, name: source.name })),
    kept: query.has('kept'),
  };
}

export function action(args: Route.ActionArgs) {
  const id = args.params.vinyl;
  const on = blankOf(new URL(args.request.url).searchParams.get('on'))?.key ?? 'plain-cloth';
  const here = (more = '') => `/vinyls/${id}/press?on=${on}${more}`;
  return actions(access, args, {
    write: over(
      id,
      async (person) => {
        const vinyl = await vinylOf(person, id);
        return (await recipesOn(person, vinyl, on)).recipes.map((r) => r.id);
      },
      async ({ person, form }) => {
        await addRecipe(person, id, form);
        return here('&kept');
      },
    ),
    take: async ({ person, form }) => {
      await takeRecipe(person, id, on, String(form.get('recipe')));
      return here('&kept');
    },
    away: async ({ person, form }) => {
      await setRecipeAway(person, String(form.get('recipe')), true);
      return here();
    },
    share: async ({ person, form }) => {
      await setRecipeShared(person, String(form.get('recipe')), form.get('shared') === 'yes');
      return here();
    },
  });
}

export const shouldRevalidate = againWhenChanged;

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: words.title(loaderData ? words.recipes.title(vinylName(loaderData.vinyl)) : '') },
];

export default function Recipes({
  loaderData: { vinyl, surface, seen, pressed, answered, recipes, raises, presses, kept },
  actionData,
}: Route.ComponentProps) {
  const t = words.recipes;
  const [first, others] = answered ? [recipes[0], recipes.slice(1)] : [undefined, recipes];
  return (
    <>
      <div className="head">
        <h1>{t.title(vinylName(vinyl))}</h1>
      </div>
      <Form method="get" className="line-up recipe-on">
        <SelectField
          name="on"
          label={t.on}
          answer={undefined}
          initial={surface}
          key={surface}
          options={blankKeys.map((k) => [k, capitalise(blanks[k].word)])}
          onChange={(e) => (e.target as HTMLInputElement).form?.requestSubmit()}
        />
        <noscript>
          <Button type="submit">{t.show}</Button>
        </noscript>
      </Form>
      {kept && (
        <p className="notice" role="status">
          {t.kept}
        </p>
      )}
      <FormNotice answer={actionData?.values.what === 'write' ? undefined : actionData} text={words.errors.form} />
      {first ? <AnswerRecipe recipe={first} /> : <p className="lede">{pressed ? t.none : t.notPressed}</p>}
      <p className="above-14">
        <Link to={`/vinyls/${vinyl.id}/swatch?on=${surface}`}>{words.swatch.link}</Link> ·{' '}
        <Link to={`/vinyls/${vinyl.id}`}>{words.jobSheet.cut.card}</Link>
      </p>
      {raises.map(({ id, way }) => (
        <div key={id} className="notice above-14" data-testid="raise-alone">
          <p>{t.raiseAlone(sayWay(way))}</p>
          <WriteForm what="away">
            <input type="hidden" name="recipe" value={id} />
            <Button type="submit" variant="text">
              {t.away}
            </Button>
          </WriteForm>
        </div>
      ))}
      {others.length > 0 && (
        <section aria-labelledby="others" className="above-32">
          <h2 id="others">{t.others}</h2>
          <ul className="recipe-rows">
            {others.map((r, i) => (
              <OtherRecipe
                key={r.id ?? `way ${i}`}
                recipe={r}
                which={r.id ?? `way ${recipes.filter((x) => x.id === undefined).indexOf(r) + 1}`}
              />
            ))}
          </ul>
        </section>
      )}
      <Folded
        summary={t.write}
        className="above-32 recipe-write"
        open={actionData?.values.what === 'write'}
        testId="write-recipe"
      >
        {() => <RecipeForm surface={surface} seen={seen} presses={presses} answer={actionData} />}
      </Folded>
    </>
  );
}
