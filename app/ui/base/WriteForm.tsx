import { useId } from 'react';
import { Form, useRouteLoaderData, type FormProps } from 'react-router';

type Props = Omit<FormProps, 'method'> & {
  /** What it does, by the name under which its route knows it. */
  what: string;
};

/**
 * A form that changes something. It says what it is for and carries a key that was made with it: a second tap, or the same form sent
 * again after the line broke, is the same act and is done once. After something was done the page brings new keys.
 */
export function WriteForm({ what, children, ...rest }: Props) {
  const page = useRouteLoaderData<{ once: string }>('root')?.once ?? '';
  const place = useId();
  return (
    <Form method="post" {...rest}>
      <input type="hidden" name="what" value={what} />
      <input type="hidden" name="once" value={`${page}${place}`} />
      {children}
    </Form>
  );
}
