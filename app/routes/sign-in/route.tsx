import Button from '@mui/material/Button';
import { Form, Link } from 'react-router';
import { signIn } from '#work/people.ts';
import { words } from '../../messages/index.ts';
import { addressOf, enter, enterUnknown, sessionCookie, writeForm } from '../../server/enter.server.ts';
import { Field, FormNotice } from '../../ui/Field.tsx';
import type { Route } from './+types/route';

export async function loader(args: Route.LoaderArgs) {
  await enter('routes/sign-in/route', args);
  return null;
}

export async function action(args: Route.ActionArgs) {
  const guest = await enterUnknown('routes/sign-in/route', args);
  const form = await args.request.formData();
  const headers: Record<string, string> = {};
  return writeForm(form, headers, async () => {
    headers['Set-Cookie'] = sessionCookie(args.request, await signIn(form, addressOf(args.context), guest));
    return '/';
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.signIn.title) }];

export default function SignIn({ actionData }: Route.ComponentProps) {
  return (
    <>
      <h1>{words.signIn.title}</h1>
      <Form method="post" className="form" noValidate>
        <FormNotice answer={actionData} text={words.errors.form} />
        <Field name="email" label={words.account.email} answer={actionData} type="email" autoComplete="email" />
        <Field
          name="password"
          label={words.account.password}
          answer={actionData}
          type="password"
          autoComplete="current-password"
        />
        <div className="actions" style={{ marginTop: 0 }}>
          <Button type="submit" variant="contained">
            {words.signIn.save}
          </Button>
          <Link to="/">{words.signIn.none}</Link>
        </div>
      </Form>
    </>
  );
}
