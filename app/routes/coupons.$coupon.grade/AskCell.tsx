import type { CouponView } from '#work/coupons/coupons.ts';
import Button from '@mui/material/Button';
import { sayStrength } from '#core/controls/index.ts';
import { gradeIndex } from '#core/grades/index.ts';
import { words } from '../../messages/index.ts';
import { Answers } from '../../ui/coupons/Answers.tsx';
import { HowItWeeded } from '../../ui/coupons/HowItWeeded.tsx';
import type { Grading } from './useGrading.ts';

/** The one question: lift the waste of this cell, what happens? */
export function AskCell({
  coupon,
  grading,
  current,
}: {
  coupon: CouponView;
  grading: Grading;
  current: NonNullable<Grading['current']>;
}) {
  const t = words.grading;
  const { axis } = grading;
  return (
    <>
      <div className="ask">
        <h2 aria-live="polite" data-testid="question" style={{ fontSize: '1.5rem' }}>
          {t.ask(current.number, sayStrength(axis, current.position))}
          {current.passes > 1 && <span className="quiet"> ({t.passes(current.passes)})</span>}
        </h2>
        {current.pictured && (
          <figure className="picture">
            <img
              src={`/coupons/${coupon.id}/cells/${current.number}/picture?pass=${current.passes}`}
              alt={t.picture(current.number)}
            />
            <figcaption className="tag">{t.simulated}</figcaption>
          </figure>
        )}
      </div>
      <p className="notice" role="status" hidden={!grading.justChanged}>
        {t.justChanged}
      </p>
      <Answers current={current.grade} onGrade={(word) => grading.grade(word)} keys={5} least={current.before} />
      {current.before && <p className="quiet small">{t.noLess(words.grades[current.before].word)}</p>}
      {current.grade !== undefined && gradeIndex[current.grade] >= gradeIndex.clean && (
        <HowItWeeded cell={current.id} number={current.number} said={coupon.weeds} />
      )}
      {grading.mayRunAgain && (
        <p style={{ marginTop: 8, display: 'flex', gap: 16, alignItems: 'center', flexWrap: 'wrap' }}>
          <Button onClick={grading.runAgain}>{t.runAgain(current.passes + 1)}</Button>
          <span className="quiet">{t.runAgainWhy}</span>
        </p>
      )}
    </>
  );
}
