import Button from '@mui/material/Button';
import { Form, Link } from 'react-router';
import { claimAccount, deleteAccount, leftBehind, setLends } from '#work/people.ts';
import { words } from '../../messages/index.ts';
import { addressOf, enter, enterToWrite, writeForm } from '../../server/enter.server.ts';
import { Field, FormNotice } from '../../ui/Field.tsx';
import type { Route } from './+types/route';

export async function loader(args: Route.LoaderArgs) {
  const person = await enter('routes/account/route', args);
  return {
    account: person?.email
      ? {
          name: person.name,
          email: person.email,
          lends: person.lends_private === true,
          left: await leftBehind(person),
        }
      : undefined,
    deleted: new URL(args.request.url).searchParams.has('deleted'),
  };
}

export async function action(args: Route.ActionArgs) {
  const { person, headers } = await enterToWrite('routes/account/route', args);
  const form = await args.request.formData();
  return writeForm(form, headers, async () => {
    switch (form.get('what')) {
      case 'lend':
        await setLends(person, form.get('lends') === 'yes');
        return '/account';
      case 'delete':
        await deleteAccount(person, form, addressOf(args.context));
        return '/account?deleted';
    }
    await claimAccount(person, form, addressOf(args.context));
    return '/account?claimed';
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.frame.account) }];

export default function Account({ loaderData: { account, deleted }, actionData }: Route.ComponentProps) {
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
        <section style={{ marginTop: 48 }} aria-labelledby="lend">
          <h2 className="section-word" id="lend">
            {t.lend}
          </h2>
          <p className="quiet">{account.lends ? t.lending : t.lendWhy}</p>
          <Form method="post" className="actions">
            <input type="hidden" name="what" value="lend" />
            <input type="hidden" name="lends" value={account.lends ? 'no' : 'yes'} />
            <Button type="submit">{account.lends ? t.lendOff : t.lendOn}</Button>
          </Form>
        </section>
        <details style={{ marginTop: 48 }} open={actionData?.values.what === 'delete'}>
          <summary>{t.delete}</summary>
          <p style={{ margin: '12px 0' }}>{t.deleteSays(account.left.cards, account.left.cuts, account.left.vinyls)}</p>
          <Form method="post" className="form" noValidate>
            <input type="hidden" name="what" value="delete" />
            <Field
              name="password"
              label={t.password}
              answer={actionData}
              type="password"
              autoComplete="current-password"
            />
            <label className="choice">
              <input type="checkbox" name="sure" value="yes" />
              <span>{t.sure}</span>
            </label>
            {actionData?.fields.sure && <p className="error-text">{actionData.fields.sure}</p>}
            <div>
              <Button type="submit">{t.deleteIt}</Button>
            </div>
          </Form>
        </details>
      </>
    );
  return (
    <>
      {deleted && (
        <p className="notice" role="status">
          {t.deleted}
        </p>
      )}
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
