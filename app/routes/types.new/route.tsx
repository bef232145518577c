import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { vinylTypeKeys, vinylTypes } from '#core/vinyls/index.ts';
import { addOwnType, ownTypesOf, typeFields } from '#work/vinyls/types.ts';
import { words } from '../../messages/index.ts';
import { actions, enter } from '../../server/enter.server.ts';
import { CatalogueFields } from '../../ui/vinyls/CatalogueFields.tsx';
import { AwayList } from '../../ui/base/AwayList.tsx';
import { PutRightLink } from '../../ui/base/PutRightLink.tsx';
import { Section } from '../../ui/base/Section.tsx';
import { Field, FormNotice } from '../../ui/base/Field.tsx';
import { isolate } from '../../ui/base/format.ts';
import type { Route } from './+types/route';
import { WriteForm } from '../../ui/base/WriteForm.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  return { own: await ownTypesOf(person), fields: typeFields };
}

export function action(args: Route.ActionArgs) {
  return actions(access, args, {
    add: async ({ person, form }) => `/vinyls/new?type=own:${await addOwnType(person, form)}`,
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.ownType.title) }];

export default function NewType({ loaderData: { own, fields }, actionData }: Route.ComponentProps) {
  const t = words.ownType;
  const used = own.filter((o) => !o.away);
  return (
    <>
      <h1>{t.title}</h1>
      <p className="lede above-8">{t.lede}</p>
      {used.length > 0 && (
        <Section id="yours" title={t.yours}>
          <ul className="plain-list">
            {used.map((o) => (
              <li key={o.id}>
                <strong>{isolate(o.word)}</strong> · {t.like(vinylTypes[o.parent].word, o.vinyls)} ·{' '}
                <PutRightLink kind="type" id={o.id} />
              </li>
            ))}
          </ul>
        </Section>
      )}
      <AwayList things={own.filter((o) => o.away).map((o) => ({ kind: 'type', id: o.id, name: o.word }))} />
      <WriteForm what="add" className="form wide-form" noValidate>
        <FormNotice answer={actionData} text={words.errors.form} />
        <div className="triple">
          <Field name="word" label={t.word} answer={actionData} autoComplete="off" />
          <Field
            name="parent"
            label={t.parent}
            answer={actionData}
            initial="smooth"
            select
            slotProps={{ select: { native: true } }}
          >
            {vinylTypeKeys.map((k) => (
              <option key={k} value={k}>
                {vinylTypes[k].word}
              </option>
            ))}
          </Field>
        </div>
        <CatalogueFields fields={fields} answer={actionData} />
        <div>
          <Button type="submit" variant="contained">
            {t.save}
          </Button>
        </div>
      </WriteForm>
    </>
  );
}
