import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { Link } from 'react-router';
import { signIn } from '#work/people/accounts.ts';
import { words } from '../../messages/index.ts';
import { actions, apart, deviceOf, enter, tokenOf, welcome } from '../../server/enter.server.ts';
import { Field, FormNotice } from '../../ui/base/Field.tsx';
import { PasswordField } from '../../ui/people/PasswordField.tsx';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import type { Route } from './+types/route';

export const access = { read: 'look round', write: 'sign in' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  await enter(access, args);
  return null;
}

export function action(args: Route.ActionArgs) {
  return actions(access, args, {
    'sign in': apart(async ({ person, form, address, headers }) => {
      welcome(
        headers,
        await signIn(form, address, person, { device: deviceOf(args.request), token: tokenOf(args.request) }),
      );
      return '/';
    }),
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.signIn.title) }];

export default function SignIn({ actionData }: Route.ComponentProps) {
  const [email, setEmail] = useState(actionData?.values.email ?? '');
  return (
    <>
      <h1>{words.signIn.title}</h1>
      <WriteForm what="sign in" className="form" noValidate>
        <FormNotice answer={actionData} text={words.errors.form} />
        <Field
          name="email"
          label={words.account.email}
          answer={actionData}
          type="email"
          autoComplete="email"
          onChange={(e) => setEmail(e.target.value)}
        />
        <PasswordField kind="own" answer={actionData} />
        <div className="actions above-0">
          <Button type="submit" variant="contained">
            {words.signIn.save}
          </Button>
          <Link to="/recover" state={{ email }}>
            {words.signIn.forgot}
          </Link>
          <Link to="/">{words.signIn.none}</Link>
        </div>
      </WriteForm>
    </>
  );
}
