import Button from '@mui/material/Button';
import type { ReactNode } from 'react';
import type { Session } from '#work/people/sessions.ts';
import { words } from '../../messages/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { Field } from '../../ui/base/Field.tsx';
import { day, isolate } from '../../ui/base/format.ts';
import { PasswordField } from '../../ui/people/PasswordField.tsx';
import { useZone } from '../../ui/people/usePerson.ts';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { Section } from '../../ui/base/Section.tsx';

type Props = {
  account: {
    name: string;
    email: string;
    proven: boolean;
    lends: boolean;
    left: { cards: number; cuts: number; vinyls: number };
    sessions: Session[];
  };
  answer: FormAnswer | undefined;
};

/** Somebody's account: who they are here, where they are signed in, and what they can change about it. */
export function Yours({ account, answer }: Props) {
  const t = words.account;
  const of = (what: string) => (answer?.values.what === what ? answer : undefined);
  return (
    <>
      <h1>{t.yours}</h1>
      <p className="lede above-12" role="status">
        {t.signedIn(account.name, account.email)}
      </p>
      {!account.proven && (
        <WriteForm what="prove" className="notice line-up">
          <span>{t.unproven}</span>
          <Button type="submit" variant="text">
            {t.proveIt}
          </Button>
        </WriteForm>
      )}
      <WriteForm what="sign out" action="/sign-out" className="actions">
        <Button type="submit">{t.signOut}</Button>
      </WriteForm>
      <Sessions sessions={account.sessions} />
      <Section className="above-48" id="lend" title={t.lend}>
        <p className="quiet">{account.lends ? t.lending : t.lendWhy}</p>
        <WriteForm what="lend" className="actions">
          <input type="hidden" name="lends" value={account.lends ? 'no' : 'yes'} />
          <Button type="submit">{account.lends ? t.lendOff : t.lendOn}</Button>
        </WriteForm>
      </Section>
      <Change what="password" summary={t.changePassword} save={t.changePasswordIt} answer={of('password')} far>
        <PasswordField kind="own" id="password-old" name="old-password" answer={of('password')} />
        <PasswordField kind="new" id="password-new" label={t.newPassword} answer={of('password')} />
      </Change>
      <Change what="address" summary={t.changeEmail} save={t.changeEmailIt} answer={of('address')}>
        <Field
          id="address-email"
          name="email"
          label={t.newEmail}
          answer={of('address')}
          type="email"
          autoComplete="email"
          help={t.emailHelp}
        />
        <PasswordField kind="own" id="address-password" name="old-password" answer={of('address')} />
      </Change>
      <Change
        what="delete"
        summary={t.delete}
        says={t.deleteSays(account.left.cards, account.left.cuts, account.left.vinyls)}
        save={t.deleteIt}
        answer={of('delete')}
      >
        <PasswordField kind="own" answer={of('delete')} />
        <label className="choice">
          <input type="checkbox" name="sure" value="yes" />
          <span>{t.sure}</span>
        </label>
        {of('delete')?.fields.sure && <p className="error-text">{of('delete')!.fields.sure}</p>}
      </Change>
    </>
  );
}

type ChangeProps = {
  what: string;
  summary: string;
  says?: string;
  save: string;
  answer: FormAnswer | undefined;
  /** Whether it begins a group of its own. */
  far?: boolean;
  children: ReactNode;
};

/** Something about the account that is changed now and then: folded away until it is asked for or was refused. */
function Change({ what, summary, says, save, answer, far = false, children }: ChangeProps) {
  return (
    <details style={{ marginTop: far ? 48 : 24 }} open={!!answer}>
      <summary>{summary}</summary>
      {says && <p style={{ margin: '12px 0' }}>{says}</p>}
      <WriteForm what={what} className="form" noValidate>
        {children}
        <div>
          <Button type="submit">{save}</Button>
        </div>
      </WriteForm>
    </details>
  );
}

function Sessions({ sessions }: { sessions: readonly Session[] }) {
  const t = words.account;
  const zone = useZone();
  const others = sessions.filter((s) => !s.here);
  return (
    <Section className="above-48" id="sessions" title={t.sessions}>
      <ul className="rows">
        {sessions.map((s) => (
          <li key={s.key} className="row" style={{ gridTemplateColumns: 'minmax(0, 1fr) auto', minHeight: 64 }}>
            <span>
              {s.here
                ? t.hereNow(isolate(s.device))
                : t.since(isolate(s.device), day(s.since, zone), day(s.seen, zone))}
            </span>
            {!s.here && (
              <WriteForm what="session">
                <input type="hidden" name="session" value={s.key} />
                <Button type="submit" variant="text">
                  {t.endSession}
                </Button>
              </WriteForm>
            )}
          </li>
        ))}
      </ul>
      {others.length > 1 && (
        <WriteForm what="session" className="actions">
          <input type="hidden" name="session" value="others" />
          <Button type="submit">{t.endOthers}</Button>
        </WriteForm>
      )}
    </Section>
  );
}
