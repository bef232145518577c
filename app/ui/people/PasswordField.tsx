import { words } from '../../messages/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { Field } from '../base/Field.tsx';

type Props = {
  /** Whether it is one that is chosen now, or the one somebody has. */
  kind: 'new' | 'own';
  answer: FormAnswer | undefined;
  name?: string;
  id?: string;
  label?: string;
};

/** A password, as the browser's keeper of passwords wants it: one that is chosen now says what makes a good one. */
export function PasswordField({ kind, name = 'password', label = words.account.password, ...rest }: Props) {
  return (
    <Field
      {...rest}
      name={name}
      label={label}
      type="password"
      autoComplete={kind === 'new' ? 'new-password' : 'current-password'}
      {...(kind === 'new' ? { help: words.account.passwordHelp } : {})}
    />
  );
}
