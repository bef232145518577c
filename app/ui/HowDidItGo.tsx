import Button from '@mui/material/Button';
import { useState } from 'react';
import { Form, Link } from 'react-router';
import { currentGrades, lastGrade, type GradeEvent } from '#core/grades/index.ts';
import type { JobView } from '#work/jobs.ts';
import { words } from '../messages/index.ts';
import { Answers } from './Answers.tsx';
import { useOutbox } from './outbox.tsx';
import { useBenchEvents } from './useBenchEvents.ts';
import { vinylTitle } from './vinylName.ts';

/** One ordinary cut, one question, one tap. What was tapped goes through the outbox like every grade. */
export function HowDidItGo({ job, title }: { job: JobView; title: string }) {
  const { add } = useOutbox();
  const t = words.job;
  const events = useBenchEvents([job.cell]).filter((e): e is GradeEvent => e.kind !== 'cut');
  const [again, setAgain] = useState(false);
  const grade = currentGrades(events).find((g) => g.cell === job.cell)?.grade;
  const last = lastGrade(events);
  const said = job.parts.map((p) => `${p.word} ${p.value}`).join(', ');
  return (
    <section aria-labelledby={`job-${job.id}`} className="how" data-job={job.id}>
      <h2 id={`job-${job.id}`}>{title}</h2>
      <p className="quiet">
        <Link to={`/vinyls/${job.vinyl.id}`}>{vinylTitle(job.vinyl)}</Link> · {said} · {job.cutter}
      </p>
      {grade && !again ? (
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
          <Answers
            current={undefined}
            wide
            onGrade={(word) => {
              setAgain(false);
              add({ kind: 'grade', cell: job.cell, figure: 1, passes: job.passes, grade: word });
            }}
          />
          <Form method="post" action={`/cuts/${job.id}`}>
            <Button type="submit" variant="text">
              {t.notCut}
            </Button>
          </Form>
        </>
      )}
    </section>
  );
}
