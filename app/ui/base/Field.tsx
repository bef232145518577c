import TextField, { type TextFieldProps } from '@mui/material/TextField';
import type { FormAnswer } from '../../server/enter.server.ts';

type Props = Omit<TextFieldProps, 'error' | 'defaultValue'> & {
  name: string;
  answer: FormAnswer | undefined;
  initial?: string;
  help?: string;
};

/** A text field that keeps what was typed and shows what is wrong with it, next to it. */
export function Field({ name, answer, initial = '', help, ...rest }: Props) {
  const problem = answer?.fields[name];
  return (
    <TextField
      id={`field-${name}`}
      name={name}
      defaultValue={answer?.values[name] ?? initial}
      error={!!problem}
      helperText={problem ?? help}
      {...rest}
    />
  );
}

/** One of a few, chosen from the device's own list. @param options value and how it is said */
export function SelectField({ options, ...rest }: Props & { options: readonly (readonly [string, string])[] }) {
  return (
    <Field {...rest} select slotProps={{ select: { native: true } }}>
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
  if (!answer) return null;
  return (
    <div className="notice bad" role="alert">
      {answer.fields.form ?? text}
    </div>
  );
}
