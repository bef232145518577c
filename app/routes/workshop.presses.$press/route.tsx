import { againWhenChanged } from '../../ui/base/againWhenChanged.ts';
import { seenOf } from '#work/base/seen.ts';
import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { Fragment } from 'react';
import { Link } from 'react-router';
import { usualLevels } from '#core/press/index.ts';
import { wellKnown } from '#work/vinyls/swatchPress.ts';
import { keepNine, measuredPress, measurePress } from '#work/workshop/presses.ts';
import { words } from '../../messages/index.ts';
import { actions, over, enter } from '../../server/enter.server.ts';
import { Field, FormNotice } from '../../ui/base/Field.tsx';
import { isolate } from '../../ui/base/format.ts';
import { GoButton } from '../../ui/base/Link.tsx';
import { Section } from '../../ui/base/Section.tsx';
import { vinylName } from '../../ui/vinyls/vinylName.ts';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { NinePlaces } from './NinePlaces.tsx';
import type { Route } from './+types/route';
import { heatInBoth, wholeDegrees, degreesApart } from '#core/units/index.ts';

export const access = { read: 'begin', write: 'begin' } as const satisfies Access;

/** What a press really is: what its words mean on it, how hard its pressures are, how even it is. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const measured = await measuredPress(person!, args.params.press);
  return {
    ...measured,
    seen: seenOf(measured.places),
    known: measured.source.levels.length > 0 ? await wellKnown(person!) : [],
    kept: new URL(args.request.url).searchParams.has('kept'),
  };
}

export function action(args: Route.ActionArgs) {
  const { press } = args.params;
  return actions(access, args, {
    places: over(
      press,
      async (person) => (await measuredPress(person, press)).places,
      async ({ person, form }) => {
        await keepNine(person, press, form);
        return `/workshop/presses/${press}?kept#places`;
      },
    ),
    measure: async ({ person, form }) => {
      await measurePress(person, press, form);
      return `/workshop/presses/${press}?kept`;
    },
  });
}

export const shouldRevalidate = againWhenChanged;

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: words.title(loaderData ? words.measuredPress.title(loaderData.source.name) : '') },
];

export default function MeasuredPress({
  loaderData: { source, seen, warmth, pressures, places, known, kept },
  actionData,
}: Route.ComponentProps) {
  const t = words.measuredPress;
  const { shows } = source;
  const degrees = (mc: number) => String(wholeDegrees(mc, shows));
  const uneven = Math.round(degreesApart(source.uneven, shows));
  return (
    <>
      <h1>{t.title(isolate(source.name))}</h1>
      {kept && (
        <p className="notice" role="status">
          {t.kept}
        </p>
      )}
      <FormNotice answer={actionData} text={words.errors.form} />
      <WriteForm what="measure" className="form measure-press">
        {source.levels.length > 0 && (
          <Section id="words" title={t.words}>
            <p className="quiet">{t.wordsHow}</p>
            <p>
              {t.bySwatch}{' '}
              {known.map((v) => (
                <Fragment key={v.id}>
                  <Link to={`/vinyls/${v.id}/swatch?press=${source.id}`}>{t.swatchOf(vinylName(v))}</Link>,{' '}
                </Fragment>
              ))}
              <Link to="/vinyls">{t.anyVinyl}</Link>.
            </p>
            <div className="fields">
              {source.levels.map((l, i) => {
                const usual = usualLevels[source.kind]?.find((u) => u.word === l.word);
                return (
                  <Field
                    key={l.word}
                    name={`level-${i}`}
                    label={t.word(l.word, shows)}
                    answer={actionData}
                    initial={l.how === 'thermometer' ? degrees(l.heat) : ''}
                    inputMode="decimal"
                    help={
                      l.how === 'swatch'
                        ? t.found(heatInBoth(l.heat, shows).join(', '))
                        : l.how === 'thermometer' || !usual
                          ? t.measured
                          : t.usually(heatInBoth(usual.heat, shows).join(', '))
                    }
                  />
                );
              })}
            </div>
          </Section>
        )}
        <Section id="pressure" title={t.pressure}>
          <p className="quiet">{t.pressureHow}</p>
          <div className="fields">
            {pressures.flatMap((p) => [
              <Field
                key={`t ${p.force}`}
                name={`turns-${p.force}`}
                label={t.turns(t.flat[p.force])}
                answer={actionData}
                initial={p.turns === undefined ? '' : String(p.turns)}
                inputMode="decimal"
              />,
              <Field
                key={`k ${p.force}`}
                name={`kg-${p.force}`}
                label={t.kg(t.flat[p.force])}
                answer={actionData}
                initial={p.kg === undefined ? '' : String(p.kg)}
                inputMode="decimal"
                help={
                  p.kPa !== undefined ? t.comes(p.kPa) : p.asOn ? t.asOn(isolate(p.asOn.name), p.asOn.kg) : undefined
                }
              />,
            ])}
          </div>
        </Section>
        <Section id="even" title={t.even}>
          <p className="quiet">{t.evenHow}</p>
          <Field
            name="uneven"
            label={t.uneven(shows)}
            answer={actionData}
            initial={uneven === 0 ? '' : String(uneven)}
            inputMode="decimal"
          />
        </Section>
        <div className="actions">
          <Button type="submit" variant="contained">
            {t.keep}
          </Button>
          <GoButton to="/workshop#presses">{words.workshop.title}</GoButton>
        </div>
      </WriteForm>
      <Section id="speed" title={t.speed} className="above-40">
        <p data-testid="speed">{t.warms(warmth.warm, warmth.cool, warmth.timed, shows)}</p>
      </Section>
      <NinePlaces shows={shows} seen={seen} places={places} answer={actionData} />
    </>
  );
}
