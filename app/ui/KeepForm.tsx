import Button from '@mui/material/Button';
import { Form } from 'react-router';
import { describeLimits, formatPosition, type Axis } from '#core/controls/index.ts';
import { words } from '../messages/index.ts';
import type { FormAnswer } from '../server/enter.server.ts';
import { Field, FormNotice } from './Field.tsx';

type Props = {
  answer: FormAnswer | undefined;
  vinyl: string;
  cutter: string;
  axis: Axis;
  recommended: number | undefined;
  kept: number | undefined;
};

/** Keeps a number as the setting for a vinyl on a cutter: the recommendation with one tap, or another one. */
export function KeepForm({ answer, vinyl, cutter, axis, recommended, kept }: Props) {
  const initial = recommended ?? kept;
  const shown = initial === undefined ? undefined : formatPosition(axis, initial);
  const settled = kept !== undefined && (recommended === undefined || kept === recommended);
  return (
    <Form method="post" className="form" style={{ marginTop: 24 }} key={`${kept}`}>
      <FormNotice answer={answer} text={words.errors.form} />
      <input type="hidden" name="vinyl" value={vinyl} />
      <input type="hidden" name="cutter" value={cutter} />
      {!settled && shown !== undefined && (
        <div>
          <Button type="submit" variant={kept === undefined ? 'contained' : 'outlined'}>
            {words.result.keep(`${axis.word} ${shown}`)}
          </Button>
        </div>
      )}
      <details open={!!answer}>
        <summary>{words.result.keepOther}</summary>
        <div className="pair" style={{ margin: '16px 0' }}>
          <Field
            name="strength"
            label={axis.word[0]!.toUpperCase() + axis.word.slice(1)}
            answer={answer}
            initial={shown ?? ''}
            help={describeLimits(axis)}
            autoComplete="off"
          />
          <Field name="note" label={words.result.note} answer={answer} autoComplete="off" />
        </div>
        <Button type="submit">{words.result.keepThis}</Button>
      </details>
    </Form>
  );
}
