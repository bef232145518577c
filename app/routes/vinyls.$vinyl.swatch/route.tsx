import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { blanks } from '#core/vinyls/index.ts';
import { blankOf } from '#work/vinyls/blanks.ts';
import { beginSwatch, gradeSwatch, keepSwatchRecipe, swatchesOn } from '#work/vinyls/swatches.ts';
import { vinylOf } from '#work/vinyls/vinyls.ts';
import { words } from '../../messages/index.ts';
import { actions, enter } from '../../server/enter.server.ts';
import { FormNotice } from '../../ui/base/Field.tsx';
import { bothHeats } from '../../ui/base/format.ts';
import { Folded } from '../../ui/base/Folded.tsx';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { useTemperatureUnit } from '../../ui/people/usePerson.ts';
import { vinylName } from '../../ui/vinyls/vinylName.ts';
import { CardDrawing } from './CardDrawing.tsx';
import { GradeCard } from './GradeCard.tsx';
import { Region } from './Region.tsx';
import type { Route } from './+types/route';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

/** Small squares of a vinyl pressed at several heats and times: what they say, and what to press next. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const vinyl = await vinylOf(person, args.params.vinyl);
  const surface = blankOf(new URL(args.request.url).searchParams.get('on'))?.key ?? 'plain-cloth';
  return {
    vinyl: {
      id: vinyl.id,
      brand: vinyl.brand,
      name: vinyl.name,
      type: vinyl.type,
      hex: vinyl.colour?.hex ?? '#7b8794',
    },
    surface,
    ...(await swatchesOn(person, vinyl, surface)),
  };
}

export function action(args: Route.ActionArgs) {
  const id = args.params.vinyl;
  const on = blankOf(new URL(args.request.url).searchParams.get('on'))?.key ?? 'plain-cloth';
  const here = `/vinyls/${id}/swatch?on=${on}`;
  return actions(access, args, {
    begin: async ({ person }) => {
      await beginSwatch(person, id, on);
      return here;
    },
    grade: async ({ person, form }) => {
      await gradeSwatch(person, id, String(form.get('card')), form);
      return here;
    },
    keep: async ({ person }) => {
      await keepSwatchRecipe(person, id, on);
      return `/vinyls/${id}/press?on=${on}&kept`;
    },
  });
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: words.title(loaderData ? words.swatch.title(vinylName(loaderData.vinyl), loaderData.surface) : '') },
];

export default function Swatches({ loaderData, actionData }: Route.ComponentProps) {
  const { vinyl, surface, cards, result, film } = loaderData;
  const t = words.swatch;
  const unit = useTemperatureUnit();
  const open = cards.find((c) => !c.graded);
  const seen = cards.flatMap((c) => c.cells).filter((c) => c.bond || c.harm).length;
  const heat = result.recipe && bothHeats(result.recipe.celsius * 1000, unit);
  return (
    <>
      <h1>{t.title(vinylName(vinyl), blanks[surface].word.split(':')[0]!)}</h1>
      <FormNotice answer={actionData} text={words.errors.form} />
      {heat && result.recipe ? (
        <section data-testid="swatch-recipe">
          <p className="recipe-number">
            {t.enough(heat[0], result.recipe.seconds)} <span className="quiet small-number">{heat[1]}</span>
          </p>
          <p className="recipe-trust">
            {t.trust(Math.floor(result.recipe.bonded * 100), Math.floor(result.recipe.unharmed * 100), seen)}{' '}
            <span className="quiet">{t.next}</span>
          </p>
          <WriteForm what="keep">
            <Button type="submit" variant="contained">
              {t.keep}
            </Button>
          </WriteForm>
        </section>
      ) : (
        <p className="lede">{result.verdict === 'none' ? t.none : seen === 0 ? t.first : t.more}</p>
      )}
      {open ? (
        <GradeCard
          key={open.id}
          card={open}
          n={cards.indexOf(open) + 1}
          film={film}
          answer={actionData}
          hex={vinyl.hex}
          title
        />
      ) : (
        result.next.length > 0 && (
          <section className="swatch-next">
            <CardDrawing
              hex={vinyl.hex}
              cells={result.next.map((c) => ({ heat: c.celsius * 1000, seconds: c.seconds }))}
            />
            <p>{t.how(result.next.length)}</p>
            <WriteForm what="begin">
              <Button type="submit" variant="contained">
                {t.begin}
              </Button>
            </WriteForm>
          </section>
        )
      )}
      {seen > 0 && <Region result={result} cells={cards.flatMap((c) => c.cells)} film={film} />}
      {cards.some((c) => c.graded) && (
        <Folded summary={t.graded} className="above-24">
          {() =>
            cards
              .filter((c) => c.graded)
              .map((c) => (
                <GradeCard
                  key={c.id}
                  card={c}
                  n={cards.indexOf(c) + 1}
                  film={film}
                  answer={undefined}
                  hex={vinyl.hex}
                />
              ))
          }
        </Folded>
      )}
      <p className="above-24">
        <Link to={`/vinyls/${vinyl.id}/press?on=${surface}`}>{t.back}</Link>
      </p>
    </>
  );
}
