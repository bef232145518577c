import Button from '@mui/material/Button';
import type { Outcome } from '#core/job/index.ts';
import { words } from '../../messages/index.ts';
import { useNow } from '../../ui/base/useNow.ts';
import { useZone } from '../../ui/people/usePerson.ts';
import { sayOutcome } from './sayOutcome.ts';
import type { StepProps } from './useSheet.ts';

const DAY = 86_400_000;

/** When it may be washed, how, and how it came out. Source of the day: common practice; a leaflet may say at once. */
export function WashStep({ job, work, step, done }: StepProps) {
  const t = words.jobSheet;
  const zone = useZone();
  const now = useNow(false);
  const pressed = work.sheet.steps
    .filter((s) => s.kind === 'press' && step.needs.includes(s.id))
    .map((s) => Date.parse(s.at ?? ''));
  const last = Math.max(...pressed.filter(Number.isFinite));
  const atOnce = job.wash === 'at once';
  const from = Number.isFinite(last) && !atOnce ? last + DAY : undefined;
  const say = (word: Outcome) => {
    sayOutcome(job, work, step, word, '');
    done();
  };
  const early = from !== undefined && now < from;
  return (
    <>
      <p className="lede">
        {early
          ? t.wash.from(
              new Date(from).toLocaleString('en-GB', {
                weekday: 'long',
                hour: '2-digit',
                minute: '2-digit',
                timeZone: zone,
              }),
            )
          : atOnce
            ? t.wash.atOnce
            : t.wash.now}
      </p>
      <p>
        {t.wash.how} {job.layers.some((l) => l.lies.face === 'relief') && t.wash.flat}
      </p>
      {!early && (
        <>
          <h3>{t.wash.ask}</h3>
          <div className="actions">
            <Button variant="contained" onClick={() => say('washed well')}>
              {t.outcome.words['washed well']}
            </Button>
            <Button onClick={() => say('edges lift')}>{t.outcome.words['edges lift']}</Button>
            <Button onClick={() => say('came off in the wash')}>{t.outcome.words['came off in the wash']}</Button>
          </div>
        </>
      )}
    </>
  );
}
