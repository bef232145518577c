import Button from '@mui/material/Button';
import { layerOfPart, keptAt } from '#core/job/index.ts';
import { words } from '../../messages/index.ts';
import { bothLengths } from '../../ui/base/format.ts';
import { useLengthUnit, useNumberStyle } from '../../ui/people/usePerson.ts';
import { layerWord } from './sayStep.ts';
import type { StepProps } from './useSheet.ts';

/** What was cut before the design got another size: it stays, or is cut again. Said before anything else is done. */
export function OtherSize({ job, work }: Pick<StepProps, 'job' | 'work'>) {
  const t = words.jobSheet;
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const { sheet, say } = work;
  return sheet.otherSize.map(({ part, widthUm }) => {
    const { attempt } = sheet.steps.find((s) => s.kind === 'cut' && s.about === part)!;
    return (
      <div key={part} className="notice line-up" data-testid="other-size">
        <p>{t.otherSize(layerWord(job, layerOfPart(job, part)?.id), bothLengths(widthUm, unit, style)[0])}</p>
        <Button onClick={() => say({ kind: 'start', step: `trim/${part}`, attempt: attempt + 1 })}>{t.recut}</Button>
        <Button
          variant="text"
          onClick={() => say({ kind: 'agreed', step: `cut/${part}`, attempt, to: keptAt(job.plan.design!.widthUm) })}
        >
          {t.keepIt}
        </Button>
      </div>
    );
  });
}
