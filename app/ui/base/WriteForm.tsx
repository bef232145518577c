import { useId, useRef } from 'react';
import { Form, useActionData, useNavigation, useRouteLoaderData, type FormProps } from 'react-router';
import type { FormAnswer } from '../../server/enter.server.ts';
import { useDraft } from './useDraft.ts';

type Props = Omit<FormProps, 'method' | 'ref'> & {
  /** What it does, by the name under which its route knows it. */
  what: string;
  /** The mark of what it was filled in from: what was written over meanwhile is not undone unseen. */
  seen?: string;
};

/**
 * A form that changes something. It says what it is for and carries a key that was made with it: a second tap, or the same form sent
 * again after the line broke, is the same act and is done once. After something was done the page brings new keys. What was typed in it
 * stays until it is taken.
 */
export function WriteForm({ what, seen, children, ...rest }: Props) {
  const page = useRouteLoaderData<{ once: string }>('root')?.once ?? '';
  const place = useId();
  const form = useRef<HTMLFormElement>(null);
  const typedOn = useDraft(form, what, seen);
  const once = `${page}${place}`;
  // What was tapped is on its way: the form shows it, and a second tap would be the same act.
  const sent = useNavigation().formData?.get('once') === once;
  const answer = useActionData<FormAnswer | undefined>();
  const changed = answer?.values?.what === what ? answer.changed : undefined;
  return (
    <Form method="post" {...rest} ref={form} aria-busy={sent || undefined}>
      <input type="hidden" name="what" value={what} />
      <input type="hidden" name="once" value={once} />
      {seen && <input type="hidden" name="seen" value={changed ?? typedOn ?? seen} />}
      {children}
    </Form>
  );
}
