import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { words } from '../../messages/index.ts';
import { isolate } from '../../ui/base/format.ts';
import { sayStep } from './sayStep.ts';
import type { Job, Work } from './useSheet.ts';

const minutes = (seconds: number) => (seconds >= 60 ? `${Math.round(seconds / 60)} min` : `${seconds} s`);

/** Every step in order: done, the one that is now, and what comes. */
export function SheetList({ job, work, children }: { job: Job; work: Work; children: ReactNode }) {
  const t = words.jobSheet;
  const { sheet } = work;
  return (
    <section aria-labelledby="steps" className="sheet-list">
      <h2 className="section-word" id="steps">
        {t.steps}
      </h2>
      <ol>
        {sheet.steps.map((step) => (
          <li key={step.id} data-step={step.id} data-state={step.state}>
            <Link
              to={`?step=${step.id}`}
              aria-current={step.id === work.step?.id ? 'step' : undefined}
              preventScrollReset
            >
              <span className={`tick ${step.state}`} aria-hidden="true">
                {step.state === 'done' ? '✓' : step.state === 'skipped' ? '–' : ''}
              </span>
              <span>{sayStep(job, step)}</span>
              <span className="quiet small">
                {step.state === 'open' && step.id === sheet.next
                  ? t.now
                  : step.state === 'done' && step.seconds > 0
                    ? minutes(step.seconds)
                    : ''}
                <span className="visually-hidden">{step.state}</span>
              </span>
            </Link>
          </li>
        ))}
      </ol>
      {children}
      {sheet.notes.length > 0 && (
        <>
          <h3 className="section-word">{t.notes}</h3>
          {sheet.notes.map((n) => (
            <p key={`${n.at} ${n.text}`}>{isolate(n.text)}</p>
          ))}
        </>
      )}
      {sheet.past.length > 0 && <p className="quiet small">{t.past(sheet.past.length)}</p>}
    </section>
  );
}
