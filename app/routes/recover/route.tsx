import { againWhenChanged } from '../../ui/base/againWhenChanged.ts';
import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { Link, useLocation } from 'react-router';
import { forgotPassword } from '#work/people/accounts.ts';
import { words } from '../../messages/index.ts';
import { actions, apart, enter } from '../../server/enter.server.ts';
import { homeAddress } from '../../server/site.server.ts';
import { Field, FormNotice } from '../../ui/base/Field.tsx';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import type { Route } from './+types/route';

export const access = { read: 'look round', write: 'sign in' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  await enter(access, args);
  return { sent: new URL(args.request.url).searchParams.has('sent') };
}

export function action(args: Route.ActionArgs) {
  return actions(access, args, {
    send: apart(async ({ form, address }) => {
      await forgotPassword(form, address, homeAddress());
      return '/recover?sent';
    }),
  });
}

export const shouldRevalidate = againWhenChanged;

export const meta: Route.MetaFunction = () => [{ title: words.title(words.recover.title) }];

export default function Recover({ loaderData: { sent }, actionData }: Route.ComponentProps) {
  const t = words.recover;
  // What was typed at the sign-in comes along; it stands in no address.
  const said = (useLocation().state as { email?: string } | null)?.email ?? '';
  if (sent)
    return (
      <>
        <h1>{t.sentTitle}</h1>
        <p className="lede above-12" role="status">
          {t.sent}
        </p>
        <p className="above-12">{t.notThere}</p>
        <div className="actions">
          <Link to="/sign-in">{t.toSignIn}</Link>
          <Link to="/recover">{t.again}</Link>
        </div>
      </>
    );
  return (
    <>
      <h1>{t.title}</h1>
      <p className="lede above-8">{t.lede}</p>
      <WriteForm what="send" className="form" noValidate>
        <FormNotice answer={actionData} text={words.errors.form} />
        <Field
          name="email"
          label={words.account.email}
          answer={actionData}
          initial={said}
          type="email"
          autoComplete="email"
        />
        <div className="actions above-0">
          <Button type="submit" variant="contained">
            {t.send}
          </Button>
          <Link to="/sign-in">{t.toSignIn}</Link>
        </div>
      </WriteForm>
    </>
  );
}
