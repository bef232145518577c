import { againWhenChanged } from '../../ui/base/againWhenChanged.ts';
import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { seenOf } from '#work/base/seen.ts';
import { redirect } from 'react-router';
import { vinylTypeKeys, vinylTypes } from '#core/vinyls/index.ts';
import { addColour, catalogueOf } from '#work/vinyls/catalogue.ts';
import { awayColours } from '#work/answer/editable.ts';
import { mergeVinyls, unmergeVinyls } from '#work/shelf/mergedVinyls.ts';
import { saveCatalogue } from '#work/shelf/evidence.ts';
import { ownTypesOf } from '#work/vinyls/types.ts';
import { reportBatch } from '#work/shelf/social.ts';
import { words } from '../../messages/index.ts';
import { actions, enter, over } from '../../server/enter.server.ts';
import { CatalogueFields } from '../../ui/vinyls/CatalogueFields.tsx';
import { Field, FormNotice } from '../../ui/base/Field.tsx';
import { isolate } from '../../ui/base/format.ts';
import { PutRightLink } from '../../ui/base/PutRightLink.tsx';
import { GoButton } from '../../ui/base/Link.tsx';
import { vinylName } from '../../ui/vinyls/vinylName.ts';
import type { Route } from './+types/route';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { Colours } from './Colours.tsx';
import { SameVinyl } from './SameVinyl.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

/** Everything the catalogue holds of a vinyl, for whoever named it to say better. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const vinyl = await catalogueOf(person, args.params.vinyl);
  if (vinyl.id !== args.params.vinyl) throw redirect(`/vinyls/${vinyl.id}/about`);
  return {
    vinyl,
    seen: seenOf(said(vinyl)),
    away: await awayColours(vinyl.id),
    ownTypes: await ownTypesOf(person),
    saved: new URL(args.request.url).searchParams.has('saved'),
  };
}

/** What the form shows of a vinyl. */
const said = ({ brand, name, type, fields }: Awaited<ReturnType<typeof catalogueOf>>) => [brand, name, type, fields];

export function action(args: Route.ActionArgs) {
  const id = args.params.vinyl;
  const saved = `/vinyls/${id}/about?saved`;
  return actions(access, args, {
    colour: async ({ person, form }) => {
      await addColour(person, id, form);
      return saved;
    },
    'report batch': async ({ person, form, address }) => {
      await reportBatch(person, id, form, address);
      return saved;
    },
    merge: async ({ person, form }) => {
      await mergeVinyls(person, String(form.get('alias')), id);
      return saved;
    },
    part: async ({ person, form }) => {
      await unmergeVinyls(person, String(form.get('alias')));
      return saved;
    },
    catalogue: over(
      id,
      async (person) => said(await catalogueOf(person, id)),
      async ({ person, form }) => {
        await saveCatalogue(person, id, form);
        return saved;
      },
    ),
  });
}

export const shouldRevalidate = againWhenChanged;

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: words.title(loaderData ? words.catalogue.title(vinylName(loaderData.vinyl)) : '') },
];

export default function About({
  loaderData: { vinyl, seen, away, ownTypes, saved },
  actionData,
}: Route.ComponentProps) {
  const t = words.catalogue;
  const answer = actionData?.values.what === 'catalogue' ? actionData : undefined;
  return (
    <>
      <div className="head">
        <div>
          <h1>{t.title(vinylName(vinyl))}</h1>
          <p className="quiet">
            {vinyl.own ? t.lede : t.notYours}{' '}
            <PutRightLink kind="vinyl" id={vinyl.id} text={words.putRight.away.vinyl} />
          </p>
        </div>
        <GoButton className="push" to={`/vinyls/${vinyl.id}`}>
          {t.back}
        </GoButton>
      </div>
      {saved && !actionData && (
        <p className="notice" role="status" data-testid="saved">
          {t.saved}
        </p>
      )}
      <FormNotice answer={actionData} text={words.errors.form} />
      {vinyl.own ? (
        <WriteForm
          what="catalogue"
          seen={seen}
          className="form wide-form"
          noValidate
          key={JSON.stringify(vinyl.fields)}
        >
          <div className="triple">
            <Field name="name" label={words.newVinyl.name} answer={answer} initial={vinyl.name} autoComplete="off" />
            <Field name="brand" label={words.newVinyl.brand} answer={answer} initial={vinyl.brand} autoComplete="off" />
            <Field
              name="type"
              label={words.newVinyl.type}
              answer={answer}
              initial={vinyl.typeChoice}
              select
              slotProps={{ select: { native: true } }}
            >
              {ownTypes
                .filter((o) => !o.away || vinyl.typeChoice === `own:${o.id}`)
                .map((o) => (
                  <option key={o.id} value={`own:${o.id}`}>
                    {o.word}
                  </option>
                ))}
              {vinylTypeKeys.map((k) => (
                <option key={k} value={k}>
                  {vinylTypes[k].word}
                </option>
              ))}
            </Field>
          </div>
          <h2 className="section-word">{t.behaves}</h2>
          <CatalogueFields fields={vinyl.fields} answer={answer} />
          <div>
            <Button type="submit" variant="contained">
              {t.save}
            </Button>
          </div>
        </WriteForm>
      ) : (
        <dl className="facts">
          {vinyl.fields
            .filter((f) => f.said || f.type)
            .map((f) => (
              <div key={f.key}>
                <dt>{f.word}</dt>
                <dd>{f.told ? isolate(f.told) : <span className="quiet">{f.type}</span>}</dd>
              </div>
            ))}
        </dl>
      )}
      <Colours vinyl={vinyl} away={away} actionData={actionData} />
      <SameVinyl vinyl={vinyl} />
    </>
  );
}
