import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { followLink } from '#work/people/accounts.ts';
import { seeLink } from '#work/people/links.ts';
import { words } from '../../messages/index.ts';
import { actions, apart, deviceOf, enter, welcome } from '../../server/enter.server.ts';
import { FormNotice } from '../../ui/base/Field.tsx';
import { isolate } from '../../ui/base/format.ts';
import { PasswordField } from '../../ui/people/PasswordField.tsx';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import type { Route } from './+types/route';

export const access = { read: 'look round', write: 'sign in' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  await enter(access, args);
  return { link: await seeLink(args.params.token) };
}

/** The address holds a secret: nothing that this page leads to or loads is told it. */
export const headers: Route.HeadersFunction = () => ({
  'Referrer-Policy': 'no-referrer',
  'Cache-Control': 'private, no-store',
});

export function action(args: Route.ActionArgs) {
  return actions(access, args, {
    use: apart(async ({ form, headers }) => {
      welcome(headers, await followLink(args.params.token, form, deviceOf(args.request)));
      return '/account?done';
    }),
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.link.title) }];

export default function UseLink({ loaderData: { link }, actionData }: Route.ComponentProps) {
  const t = words.link;
  if (!link)
    return (
      <>
        <h1>{t.over}</h1>
        <p className="lede above-12">{t.overWhat}</p>
        <div className="actions">
          <Link to="/recover">{words.recover.title}</Link>
          <Link to="/account">{words.frame.account}</Link>
        </div>
      </>
    );
  const { title, what, save } = t[link.kind];
  return (
    <>
      <h1>{title}</h1>
      <p className="lede above-8">{what(isolate(link.email))}</p>
      <WriteForm what="use" className="form" noValidate>
        <FormNotice answer={actionData} text={words.errors.form} />
        {(link.kind === 'recover' || link.kind === 'claim') && (
          <PasswordField
            kind="new"
            {...(link.kind === 'recover' ? { label: words.account.newPassword } : {})}
            answer={actionData}
          />
        )}
        <div>
          <Button type="submit" variant="contained">
            {save}
          </Button>
        </div>
      </WriteForm>
    </>
  );
}
