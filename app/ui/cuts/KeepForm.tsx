import Button from '@mui/material/Button';
import { formatPosition, sayStrength, strengthAxis, type CutterModel, type Setting } from '#core/controls/index.ts';
import { words } from '../../messages/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { ControlField } from '../workshop/ControlFields.tsx';
import { Field, FormNotice } from '../base/Field.tsx';
import { isolate } from '../base/format.ts';
import { WriteForm } from '../base/WriteForm.tsx';

type Props = {
  answer: FormAnswer | undefined;
  vinyl: string;
  cutter: { id: string; model: CutterModel };
  wanted: 'clean' | 'through';
  /** The controls the reading is about, other than strength. */
  base: Setting;
  recommended: number | undefined;
  kept: Setting | undefined;
  /** The colour in hand, where a vinyl has several. */
  colour?: { id: string; name: string } | undefined;
};

/** Keeps a number as the setting for a vinyl on a cutter: the recommendation with one tap, or another one. */
export function KeepForm({ answer, vinyl, cutter, wanted, base, recommended, kept: keptSetting, colour }: Props) {
  const axis = strengthAxis(cutter.model);
  const kept = keptSetting?.steps[axis.key];
  const initial = recommended ?? kept;
  const shown = initial === undefined ? undefined : formatPosition(axis, initial);
  const settled = kept !== undefined && (recommended === undefined || kept === recommended);
  return (
    <WriteForm what="keep" className="form" style={{ marginTop: 24 }} key={JSON.stringify([kept, wanted])}>
      <FormNotice answer={answer} text={words.errors.form} />
      <input type="hidden" name="vinyl" value={vinyl} />
      <input type="hidden" name="cutter" value={cutter.id} />
      <input type="hidden" name="wanted" value={wanted} />
      {colour && <input type="hidden" name="colour" value={colour.id} />}
      {!settled && shown !== undefined && (
        <div>
          <Button type="submit" variant={kept === undefined ? 'contained' : 'outlined'}>
            {words.result.keep(sayStrength(axis, initial!))}
          </Button>
        </div>
      )}
      <details open={!!answer}>
        <summary>{words.result.keepOther}</summary>
        <div className="pair" style={{ margin: '16px 0' }}>
          {cutter.model.axes.map((a) => (
            <ControlField key={a.key} axis={a} answer={answer} initial={a === axis ? initial : base.steps[a.key]} />
          ))}
        </div>
        {colour && (
          <label className="choice" style={{ marginBottom: 16 }}>
            <input type="checkbox" name="only" value="yes" />
            <span>{words.vinyl.onlyColour(isolate(colour.name))}</span>
          </label>
        )}
        <div style={{ marginBottom: 16 }}>
          <Field name="note" label={words.result.note} answer={answer} autoComplete="off" />
        </div>
        <Button type="submit">{words.result.keepThis}</Button>
      </details>
    </WriteForm>
  );
}
