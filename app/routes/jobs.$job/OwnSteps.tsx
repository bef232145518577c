import Button from '@mui/material/Button';
import { words } from '../../messages/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { isolate } from '../../ui/base/format.ts';
import { Field } from '../../ui/base/Field.tsx';
import { Folded } from '../../ui/base/Folded.tsx';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import type { Job } from './useSheet.ts';

/** Steps of one's own at the end of each piece: what to do, and how long it rests then. */
export function OwnSteps({ job, answer }: { job: Job; answer: FormAnswer | undefined }) {
  const t = words.jobSheet.own;
  const mine = answer?.values.what === 'finish' ? answer : undefined;
  return (
    <Folded summary={t.title} className="own-steps above-16" open={mine !== undefined} testId="own-steps">
      {() => (
        <>
          {job.plan.finish.length > 0 && (
            <ul className="plain-list">
              {job.plan.finish.map((s) => (
                <li key={s.id} className="line-up">
                  <span>
                    {isolate(s.says)}
                    {s.rest > 0 && <span className="quiet"> {t.rests(Math.round(s.rest / 60))}</span>}
                  </span>
                  <WriteForm what="drop finish">
                    <input type="hidden" name="step" value={s.id} />
                    <Button type="submit" variant="text">
                      {t.drop}
                    </Button>
                  </WriteForm>
                </li>
              ))}
            </ul>
          )}
          <WriteForm what="finish" className="form" key={job.plan.finish.length}>
            <Field name="says" label={t.says} answer={mine} help={t.saysHelp} />
            <Field name="rest" label={t.rest} answer={mine} inputMode="decimal" help={t.restHelp} />
            <Button type="submit">{t.add}</Button>
          </WriteForm>
        </>
      )}
    </Folded>
  );
}
