import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { askForAccount, changeAddress, changePassword, deleteAccount, proveAddress } from '#work/people/accounts.ts';
import { endSession, sessionsOf } from '#work/people/sessions.ts';
import { Invalid } from '#work/base/errors.ts';
import { leftBehind, setLends } from '#work/people/people.ts';
import type { Person } from '#work/people/person.ts';
import { words } from '../../messages/index.ts';
import { actions, apart, deviceOf, enter, farewell, tokenOf, welcome, type Act } from '../../server/enter.server.ts';
import { homeAddress } from '../../server/site.server.ts';
import { Field, FormNotice } from '../../ui/base/Field.tsx';
import { GoButton } from '../../ui/base/Link.tsx';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import type { Route } from './+types/route';
import { Yours } from './Yours.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const query = new URL(args.request.url).searchParams;
  return {
    account: person?.email
      ? {
          name: person.name,
          email: person.email,
          proven: person.proven === true,
          lends: person.lends_private === true,
          left: await leftBehind(person),
          sessions: await sessionsOf(person, tokenOf(args.request)),
        }
      : undefined,
    told: (['deleted', 'letter', 'done', 'changing'] as const).find((t) => query.has(t)),
  };
}

export function action(args: Route.ActionArgs) {
  const { request } = args;
  const site = homeAddress();
  const device = deviceOf(request);
  // What checks a password counts its tries, whatever becomes of them: it minds its own transactions.
  const owned = (work: (act: Omit<Act, 'person'> & { person: Person }) => Promise<string>) =>
    apart(({ person, ...act }) => {
      if (!person) throw new Invalid({ form: words.account.nobody });
      return work({ ...act, person });
    });
  return actions(access, args, {
    claim: async ({ person, form, address }) => {
      await askForAccount(person, form, address, site);
      return '/account?letter';
    },
    prove: async ({ person, address }) => {
      await proveAddress(person, address, site);
      return '/account?letter';
    },
    lend: async ({ person, form }) => {
      await setLends(person, form.get('lends') === 'yes');
      return '/account';
    },
    password: owned(async ({ person, form, address, headers }) => {
      welcome(headers, await changePassword(person, form, address, device));
      return '/account?done';
    }),
    address: owned(async ({ person, form, address }) => {
      await changeAddress(person, form, address, site, device);
      return '/account?changing';
    }),
    session: async ({ person, form }) => {
      await endSession(person, String(form.get('session')), tokenOf(request));
      return '/account';
    },
    delete: owned(async ({ person, form, address, headers }) => {
      await deleteAccount(person, form, address, device);
      farewell(headers);
      return '/account?deleted';
    }),
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.frame.account) }];

export default function Account({ loaderData: { account, told }, actionData }: Route.ComponentProps) {
  const t = words.account;
  const notice = told && (
    <p className="notice" role="status">
      {t.told[told]}
    </p>
  );
  if (account)
    return (
      <>
        {notice}
        <Yours account={account} answer={actionData} />
      </>
    );
  // The letter is what comes next: the form that asked for it is done with.
  if (told === 'letter')
    return (
      <>
        <h1>{t.letterTitle}</h1>
        <p className="lede above-12" role="status">
          {t.told.letter}
        </p>
        <p className="above-12">{words.recover.notThere}</p>
        <div className="actions">
          <GoButton to="/" variant="contained">
            {t.goOn}
          </GoButton>
          <Link to="/account">{words.recover.again}</Link>
        </div>
      </>
    );
  return (
    <>
      {notice}
      <h1>{t.title}</h1>
      <p className="lede above-8">{t.lede}</p>
      <WriteForm what="claim" className="form" noValidate>
        <FormNotice answer={actionData} text={words.errors.form} />
        <Field name="name" label={t.name} answer={actionData} autoComplete="name" />
        <Field name="email" label={t.email} answer={actionData} type="email" autoComplete="email" help={t.emailHelp} />
        <div className="actions above-0">
          <Button type="submit" variant="contained">
            {t.save}
          </Button>
          <Link to="/sign-in">{t.have}</Link>
        </div>
      </WriteForm>
    </>
  );
}
