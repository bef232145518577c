import Button from '@mui/material/Button';
import { strengthAxis, type CutterModel, type Setting } from '#core/controls/index.ts';
import { words } from '../../messages/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { ControlField } from '../workshop/ControlFields.tsx';
import { Field, FormNotice } from '../base/Field.tsx';
import { Folded } from '../base/Folded.tsx';
import { isolate } from '../base/format.ts';
import { WriteForm } from '../base/WriteForm.tsx';

type Props = {
  answer: FormAnswer | undefined;
  vinyl: string;
  cutter: { id: string; model: CutterModel };
  wanted: 'clean' | 'through';
  /** The controls other than strength, as they stand. */
  base: Setting;
  /** The number the field starts from. */
  position: number | undefined;
  title: string;
  /** The colour in hand, where a vinyl has several. */
  colour?: { id: string; name: string } | undefined;
};

/** Keeps another number as the setting for a vinyl on a cutter, behind one tap. */
export function KeepForm({ answer, vinyl, cutter, wanted, base, position, title, colour }: Props) {
  const axis = strengthAxis(cutter.model);
  return (
    <Folded summary={title} open={!!answer} className="keep-other" key={JSON.stringify([position, base.steps, wanted])}>
      {() => (
        <WriteForm what="keep" className="form">
          <FormNotice answer={answer} text={words.errors.form} />
          <input type="hidden" name="vinyl" value={vinyl} />
          <input type="hidden" name="cutter" value={cutter.id} />
          <input type="hidden" name="wanted" value={wanted} />
          {colour && <input type="hidden" name="colour" value={colour.id} />}
          <div className="pair keep-fields">
            {cutter.model.axes.map((a) => (
              <ControlField key={a.key} axis={a} answer={answer} initial={a === axis ? position : base.steps[a.key]} />
            ))}
          </div>
          {colour && (
            <label className="choice keep-fields">
              <input type="checkbox" name="only" value="yes" />
              <span>{words.vinyl.onlyColour(isolate(colour.name))}</span>
            </label>
          )}
          <div className="keep-fields">
            <Field name="note" label={words.result.note} answer={answer} autoComplete="off" />
          </div>
          <Button type="submit">{words.result.keepThis}</Button>
        </WriteForm>
      )}
    </Folded>
  );
}
