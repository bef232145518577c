import Button from '@mui/material/Button';
import { jobLimits } from '#core/job/index.ts';
import { words } from '../../messages/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { Field } from '../base/Field.tsx';
import { Folded } from '../base/Folded.tsx';
import { isolate } from '../base/format.ts';
import { WriteForm } from '../base/WriteForm.tsx';

type Note = { says: string; at: string };

/** What this person noted of a vinyl, the newest first, and one more line where there is no job: it comes again in the next job with it. */
export function OwnNotes({ notes, ...form }: FormProps & { notes: readonly Note[] }) {
  return (
    <>
      {notes.map((n) => (
        <p key={n.at} className="above-12" data-testid="own-note">
          <strong>{words.vinyl.ownNote}</strong> {isolate(n.says)}
        </p>
      ))}
      <NoteForm key={notes[0]?.at} {...form} />
    </>
  );
}

type FormProps = { answer: FormAnswer | undefined; colour?: string | undefined };

function NoteForm({ answer, colour }: FormProps) {
  const t = words.jobSheet.note;
  const mine = answer?.values.what === 'note' ? answer : undefined;
  return (
    <Folded summary={t.open} open={mine !== undefined} testId="note-vinyl" className="above-14">
      {() => (
        <WriteForm what="note" className="line-up" noValidate preventScrollReset>
          {colour && <input type="hidden" name="colour" value={colour} />}
          <Field
            name="note"
            label={t.says}
            answer={mine}
            slotProps={{ htmlInput: { maxLength: jobLimits.noteLine } }}
          />
          <Button type="submit">{t.keep}</Button>
        </WriteForm>
      )}
    </Folded>
  );
}
