import TextField, { type TextFieldProps } from '@mui/material/TextField';
import { Link, useLocation } from 'react-router';
import { words } from '../../messages/index.ts';
import { dropDrafts } from './useDraft.ts';
import type { FormAnswer } from '../../server/enter.server.ts';

type Props = Omit<TextFieldProps, 'error' | 'defaultValue'> & {
  name: string;
  answer: FormAnswer | undefined;
  initial?: string;
  /** How that is said, where it is one of a few. */
  stands?: string;
  help?: string;
};

/** A text field that keeps what was typed and shows what is wrong with it, next to it. */
export function Field({ name, answer, initial = '', stands = initial, help, ...rest }: Props) {
  const typed = answer?.values[name];
  const saved = answer?.changed && typed !== undefined && typed !== initial ? words.seen.stands(stands) : undefined;
  const problem = answer?.fields[name] ?? saved;
  return (
    <TextField
      id={`field-${name}`}
      name={name}
      defaultValue={typed ?? initial}
      error={!!problem}
      helperText={problem ?? help}
      {...rest}
    />
  );
}

/** One of a few, chosen from the device's own list. @param options value and how it is said */
export function SelectField({ options, ...rest }: Props & { options: readonly (readonly [string, string])[] }) {
  return (
    <Field
      {...rest}
      stands={options.find(([value]) => value === rest.initial)?.[1]}
      select
      slotProps={{ select: { native: true } }}
    >
      {options.map(([value, said]) => (
        <option key={value} value={value}>
          {said}
        </option>
      ))}
    </Field>
  );
}

/** What is wrong with a form as a whole, and that nothing was lost. */
export function FormNotice({ answer, text }: { answer: FormAnswer | undefined; text: string }) {
  const { pathname, search } = useLocation();
  if (!answer) return null;
  return (
    <div className="notice bad" role="alert">
      {answer.fields.form ?? text}{' '}
      {answer.changed && (
        <Link to={{ pathname, search }} reloadDocument onClick={() => dropDrafts(pathname)}>
          {words.seen.take}
        </Link>
      )}
    </div>
  );
}
