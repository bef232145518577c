import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { Form, Link } from 'react-router';
import { blanks, type BlankKey } from '#core/vinyls/index.ts';
import { isId } from '#work/people/owned.ts';
import { blankOf } from '#work/vinyls/blanks.ts';
import { beginSwatch, gradeSwatch, keepSwatchRecipe, setSwatchAway, swatchesOn } from '#work/vinyls/swatches.ts';
import { vinylOf } from '#work/vinyls/vinyls.ts';
import { words } from '../../messages/index.ts';
import { actions, enter } from '../../server/enter.server.ts';
import { FormNotice, SelectField } from '../../ui/base/Field.tsx';
import { isolate } from '../../ui/base/format.ts';
import { Folded } from '../../ui/base/Folded.tsx';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { useTemperatureUnit } from '../../ui/people/usePerson.ts';
import { vinylName } from '../../ui/vinyls/vinylName.ts';
import { CardDrawing } from './CardDrawing.tsx';
import { GradeCard } from './GradeCard.tsx';
import { Region } from './Region.tsx';
import type { Route } from './+types/route';
import { heatInBoth, degreesApart } from '#core/units/index.ts';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

/** The fabric and the press of an address. */
function asked(url: string): { surface: BlankKey; press: string | undefined } {
  const query = new URL(url).searchParams;
  const press = query.get('press') ?? '';
  return { surface: blankOf(query.get('on'))?.key ?? 'plain-cloth', press: isId(press) ? press : undefined };
}

/** Small squares of a vinyl pressed at several heats and times: what they say, and what to press next. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const vinyl = await vinylOf(person, args.params.vinyl);
  const { surface, press } = asked(args.request.url);
  return {
    vinyl: {
      id: vinyl.id,
      brand: vinyl.brand,
      name: vinyl.name,
      type: vinyl.type,
      hex: vinyl.colour?.hex ?? '#7b8794',
    },
    surface,
    ...(await swatchesOn(person, vinyl, surface, press)),
  };
}

export function action(args: Route.ActionArgs) {
  const id = args.params.vinyl;
  const { surface: on, press } = asked(args.request.url);
  const here = `/vinyls/${id}/swatch?on=${on}${press ? `&press=${press}` : ''}`;
  return actions(access, args, {
    begin: async ({ person }) => {
      await beginSwatch(person, id, on, press);
      return here;
    },
    grade: async ({ person, form }) => {
      await gradeSwatch(person, id, String(form.get('card')), form);
      return here;
    },
    away: async ({ person, form }) => {
      await setSwatchAway(person, String(form.get('card')));
      return here;
    },
    keep: async ({ person }) => {
      await keepSwatchRecipe(person, id, on, press);
      return `/vinyls/${id}/press?on=${on}&kept`;
    },
  });
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: words.title(loaderData ? words.swatch.title(vinylName(loaderData.vinyl), loaderData.surface) : '') },
];

type Loaded = Route.ComponentProps['loaderData'];

export default function Swatches({ loaderData, actionData }: Route.ComponentProps) {
  const { vinyl, surface, cards, result, film, next, press } = loaderData;
  const t = words.swatch;
  const unit = useTemperatureUnit();
  const open = cards.find((c) => !c.graded);
  const seen = cards.flatMap((c) => c.cells).filter((c) => c.bond || c.harm).length;
  const heat = result.recipe && heatInBoth(result.recipe.celsius * 1000, unit);
  return (
    <>
      <div className="head">
        <h1>{t.title(vinylName(vinyl), blanks[surface].word.split(':')[0]!)}</h1>
      </div>
      <With {...loaderData} />
      <FormNotice answer={actionData} text={words.errors.form} />
      {heat && result.recipe ? (
        <section data-testid="swatch-recipe">
          <p className="recipe-number">
            {t.enough(result.recipe.word ? words.pressPlan.word(result.recipe.word) : heat[0], result.recipe.seconds)}{' '}
            <span className="quiet small-number">
              {result.recipe.word ? t.onIt(heat[0], isolate(press!.name)) : heat[1]}
            </span>
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
        next.length > 0 && (
          <section className="swatch-next">
            <CardDrawing hex={vinyl.hex} cells={next} />
            <p>{t.how(next.length)}</p>
            <WriteForm what="begin">
              <Button type="submit" variant="contained">
                {t.begin}
              </Button>
            </WriteForm>
          </section>
        )
      )}
      {seen > 0 && <Region result={result} cells={cards.flatMap((c) => c.cells)} film={film} />}
      {result.dial && press && <DialWords dial={result.dial} press={press.name} />}
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

/** What the cards are pressed with: chosen, where there is a choice. */
function With({ surface, presses, press }: Pick<Loaded, 'surface' | 'presses' | 'press'>) {
  const t = words.swatch;
  if (!press) return null;
  if (presses.length === 1) return <p className="quiet">{t.on(isolate(press.name))}</p>;
  return (
    <Form method="get" className="line-up recipe-on">
      <input type="hidden" name="on" value={surface} />
      <SelectField
        name="press"
        label={t.with}
        answer={undefined}
        initial={press.id}
        key={press.id}
        options={presses.map((p) => [p.id, p.name])}
        onChange={(e) => (e.target as HTMLInputElement).form?.requestSubmit()}
      />
      <noscript>
        <Button type="submit">{t.show}</Button>
      </noscript>
    </Form>
  );
}

/** Where the words of a dial lie by everything that was pressed with it. */
function DialWords({ dial, press }: { dial: NonNullable<Loaded['result']['dial']>; press: string }) {
  const t = words.swatch;
  const unit = useTemperatureUnit();
  return (
    <section className="above-24" aria-labelledby="dial" data-testid="dial">
      <h2 id="dial">{t.dial(isolate(press))}</h2>
      <ul className="plain-list">
        {dial.map((w) => {
          const heat = heatInBoth(w.celsius * 1000, unit)[0];
          const doubt = `${Math.round(degreesApart(2000 * w.doubt, unit))} °${unit}`;
          return (
            <li key={w.word}>
              {w.known === 'measured'
                ? t.dialMeasured(w.word, heat)
                : w.known === 'found'
                  ? t.dialFound(w.word, heat, doubt)
                  : t.dialOpen(w.word, heat, doubt)}
            </li>
          );
        })}
      </ul>
      <p className="quiet">{t.dialHow}</p>
    </section>
  );
}
