import Button from '@mui/material/Button';
import { Form, Link } from 'react-router';
import { claimAccount } from '#work/people.ts';
import { words } from '../../messages/index.ts';
import { addressOf, enter, enterToWrite, writeForm } from '../../server/enter.server.ts';
import { Field, FormNotice } from '../../ui/Field.tsx';
import type { Route } from './+types/route';

export async function loader(args: Route.LoaderArgs) {
  const person = await enter('routes/account/route', args);
  return { account: person?.email ? { name: person.name, email: person.email } : undefined };
}

export async function action(args: Route.ActionArgs) {
  const { person, headers } = await enterToWrite('routes/account/route', args);
  const form = await args.request.formData();
  return writeForm(form, headers, async () => {
    await claimAccount(person, form, addressOf(args.context));
    return '/account?claimed';
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.frame.account) }];

export default function Account({ loaderData: { account }, actionData }: Route.ComponentProps) {
  const t = words.account;
  if (account)
    return (
      <>
        <h1>{t.yours}</h1>
        <p className="lede" style={{ marginTop: 12 }} role="status">
          {t.signedIn(account.name, account.email)}
        </p>
        <Form method="post" action="/sign-out" className="actions">
          <Button type="submit">{t.signOut}</Button>
        </Form>
      </>
    );
  return (
    <>
      <h1>{t.title}</h1>
      <p className="lede" style={{ marginTop: 8 }}>
        {t.lede}
      </p>
      <Form method="post" className="form" noValidate>
        <FormNotice answer={actionData} text={words.errors.form} />
        <Field name="name" label={t.name} answer={actionData} autoComplete="name" />
        <Field name="email" label={t.email} answer={actionData} type="email" autoComplete="email" />
        <Field
          name="password"
          label={t.password}
          answer={actionData}
          type="password"
          help={t.passwordHelp}
          autoComplete="new-password"
        />
        <div className="actions" style={{ marginTop: 0 }}>
          <Button type="submit" variant="contained">
            {t.save}
          </Button>
          <Link to="/sign-in">{t.have}</Link>
        </div>
      </Form>
    </>
  );
}
