import Button from '@mui/material/Button';
import { words } from '../../messages/index.ts';
import { Answers } from '../../ui/coupons/Answers.tsx';
import { WitnessGrades } from '../../ui/coupons/WitnessGrades.tsx';
import { useOutbox } from '../../ui/base/outbox.tsx';
import { LineProgress } from '../../ui/cuts/CutterLine.tsx';
import { useLookAgain } from '../../ui/base/useLookAgain.ts';
import { LineSays, SendPart } from './SendPart.tsx';
import type { StepProps } from './useSheet.ts';

/** Lift a corner before unloading: what it says is a grade like any other. Where it still holds, the same pass runs again. */
export function LiftStep({ job, work, step, layer }: StepProps) {
  const t = words.jobSheet.lift;
  const { add } = useOutbox();
  const fact = work.facts.find((f) => f.part === layer.part && f.attempt === step.attempt);
  const behind = job.line?.run?.cells.some((c) => c.state === 'cut' && c.pass > (fact?.passes ?? 0)) ?? false;
  useLookAgain(behind || job.line?.run?.running ? 1_500 : undefined);
  if (!fact) return null;
  const holds = fact.grade === 'uncut' || fact.grade === 'hangs';
  const { line } = job;
  const marks = job.facts.find((f) => f.cut === fact.cut)?.marks ?? [];
  const cells = [fact.cell, ...marks.map((m) => m.cell)];
  if (line?.run?.running) return <LineProgress run={line.run} />;
  return (
    <>
      <LineSays line={line} />
      {fact.grade && (
        <p role="status" data-testid="lift-kept" className="lift-kept">
          <strong>{t.kept(words.grades[fact.grade].word)}</strong> {holds ? t.again : ''}
        </p>
      )}
      {holds ? (
        <div className="actions">
          <SendPart job={job} step={step} layer={layer} stock="" pass={fact.passes + 1} says={t.againSend} />
          <Button onClick={() => cells.forEach((cell) => add({ kind: 'cut', cell, passes: fact.passes + 1 }))}>
            {t.againDo}
          </Button>
        </div>
      ) : (
        <>
          <p className="lede">{t.ask}</p>
          <Answers
            current={undefined}
            wide
            onGrade={(grade) =>
              add({ kind: 'grade', cell: fact.cell, figure: 1, passes: Math.max(1, fact.passes), grade })
            }
          />
        </>
      )}
      {marks.length > 0 && (
        <details className="above-24">
          <summary>{t.mark}</summary>
          <WitnessGrades
            cut={{
              marks,
              events: job.facts.find((f) => f.cut === fact.cut)?.events ?? [],
              passes: Math.max(1, fact.passes),
            }}
          />
        </details>
      )}
    </>
  );
}
