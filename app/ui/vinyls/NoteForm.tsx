import Button from '@mui/material/Button';
import { words } from '../../messages/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { Field } from '../base/Field.tsx';
import { Folded } from '../base/Folded.tsx';
import { WriteForm } from '../base/WriteForm.tsx';

/** One line about a vinyl where there is no job: it comes again on its bench card, and in the next job with it. */
export function NoteForm({ answer, colour }: { answer: FormAnswer | undefined; colour?: string | undefined }) {
  const t = words.jobSheet.note;
  const mine = answer?.values.what === 'note' ? answer : undefined;
  return (
    <Folded summary={t.open} open={mine !== undefined} testId="note-vinyl" className="above-14">
      {() => (
        <WriteForm what="note" className="line-up" noValidate preventScrollReset>
          {colour && <input type="hidden" name="colour" value={colour} />}
          <Field name="note" label={t.says} answer={mine} slotProps={{ htmlInput: { maxLength: 200 } }} />
          <Button type="submit">{t.keep}</Button>
        </WriteForm>
      )}
    </Folded>
  );
}
