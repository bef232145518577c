import Button from '@mui/material/Button';
import { useCallback, useEffect, useState } from 'react';
import { Link } from 'react-router';
import { currentGrades, gradesAmong, gradeWords, lastGrade, type Grade, type GradeEvent } from '#core/grades/index.ts';
import type { JobView } from '#work/cuts/cuts.ts';
import { words } from '../../messages/index.ts';
import { Answers } from '../coupons/Answers.tsx';
import { isTyping } from '../Frame.tsx';
import { useOutbox } from '../coupons/outbox.tsx';
import { useBenchEvents } from '../coupons/useBenchEvents.ts';
import { vinylTitle } from '../vinyls/vinylName.ts';
import { WriteForm } from '../base/WriteForm.tsx';

type Props = {
  job: JobView;
  title: string;
  /** Alone on its page: the answers stand large below each other and have the keys 1 to 5. */
  alone?: boolean;
  onAnswered?: () => void;
};

/** One ordinary cut, one question, one tap. What was tapped goes through the outbox like every grade. */
export function HowDidItGo({ job, title, alone = false, onAnswered }: Props) {
  const { add } = useOutbox();
  const t = words.job;
  const mine = useBenchEvents([job.cell]);
  const events: GradeEvent[] = [...job.events, ...gradesAmong(mine)];
  const [again, setAgain] = useState(false);
  const grade = currentGrades(events).find((g) => g.cell === job.cell)?.grade;
  const last = lastGrade(events);
  const answer = useCallback(
    (word: Grade) => {
      setAgain(false);
      add({ kind: 'grade', cell: job.cell, figure: 1, passes: job.passes, grade: word });
      onAnswered?.();
    },
    [add, job.cell, job.passes, onAnswered],
  );
  const open = grade === undefined || again;
  useEffect(() => {
    if (!alone || !open) return;
    const press = (event: KeyboardEvent) => {
      const word = gradeWords[Number(event.key) - 1];
      if (!word || isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      event.preventDefault();
      answer(word);
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [alone, answer, open]);
  const said = job.parts.map((p) => `${p.word} ${p.value}`).join(', ');
  return (
    <section aria-labelledby={`job-${job.id}`} className="how" data-job={job.id}>
      <h2 id={`job-${job.id}`}>{title}</h2>
      <p className="quiet">
        <Link to={`/vinyls/${job.vinyl.id}`}>{vinylTitle(job.vinyl)}</Link> · {said} · {job.cutter}
      </p>
      {grade && !open ? (
        <p style={{ marginTop: 12, fontSize: '1.25rem' }} role="status" data-testid="job-kept">
          <strong>{t.kept(words.grades[grade].word)}</strong>{' '}
          <Button
            variant="text"
            onClick={() => {
              if (last) add({ kind: 'retract', cell: last.cell, retracts: last.id });
              setAgain(true);
            }}
          >
            {t.undo}
          </Button>
        </p>
      ) : (
        <>
          <Answers current={undefined} wide={!alone} keys={alone ? 5 : 0} onGrade={answer} />
          <WriteForm what="drop" action={`/cuts/${job.id}`}>
            <Button type="submit" variant="text">
              {t.notCut}
            </Button>
          </WriteForm>
        </>
      )}
    </section>
  );
}
