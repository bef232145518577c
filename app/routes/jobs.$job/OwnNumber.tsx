import Button from '@mui/material/Button';
import { formatPosition, strengthAxis } from '#core/controls/index.ts';
import { wantedOfType } from '#core/vinyls/index.ts';
import { words } from '../../messages/index.ts';
import { Field } from '../../ui/base/Field.tsx';
import { Folded } from '../../ui/base/Folded.tsx';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import type { StepProps } from './useSheet.ts';

/** A number one knows, said where it is missed: kept as the bench card keeps it, and cut with from then on. */
export function OwnNumber({
  job,
  step,
  layer,
  answer,
  open = false,
  summary,
}: StepProps & { open?: boolean; summary?: string }) {
  const t = words.jobSheet.cut.own;
  const { bench } = job;
  if (!bench) return null;
  const mine = answer?.values.what === 'keep' && answer.values.vinyl === layer.vinyl.id ? answer : undefined;
  const shown = layer.toSet?.setting.steps[strengthAxis(bench.model).key];
  return (
    <Folded summary={summary ?? t.open} open={open || mine !== undefined} testId="own-number">
      {() => (
        <WriteForm what="keep" className="line-up" preventScrollReset noValidate>
          <input type="hidden" name="vinyl" value={layer.vinyl.id} />
          <input type="hidden" name="cutter" value={bench.id} />
          <input type="hidden" name="wanted" value={wantedOfType(layer.vinyl.type)} />
          <input type="hidden" name="step" value={step.id} />
          <Field
            name="strength"
            label={strengthAxis(bench.model).word}
            answer={mine}
            initial={shown === undefined ? '' : formatPosition(strengthAxis(bench.model), shown)}
          />
          <Button type="submit" variant="outlined">
            {t.keep}
          </Button>
        </WriteForm>
      )}
    </Folded>
  );
}
