import { Link } from 'react-router';
import { sayStrength, strengthAxis } from '#core/controls/index.ts';
import { currentGrades, type GradeEvent } from '#core/grades/index.ts';
import type { CouponView } from '#work/coupons/coupons.ts';
import { words } from '../../messages/index.ts';
import { GradeMark } from '../../ui/base/grades.tsx';
import { Section } from '../../ui/base/Section.tsx';

/** What was said of each cell of this coupon, whenever that was: one tap, and it is asked again. */
export function Grades({ coupon, events }: { coupon: CouponView; events: readonly GradeEvent[] }) {
  const t = words.result;
  const axis = strengthAxis(coupon.cutter.model);
  const grades = currentGrades(events);
  const graded = coupon.cells.flatMap((c) => {
    const last = grades.filter((g) => g.cell === c.id).toSorted((a, b) => b.passes - a.passes)[0];
    return last ? [{ ...c, grade: last.grade, passes: last.passes }] : [];
  });
  if (graded.length === 0) return null;
  return (
    <Section id="grades" title={t.grades} className="this-coupon">
      <p className="quiet">{t.gradesWhy}</p>
      <ul className="grade-list">
        {graded.map((c) => (
          <li key={c.id}>
            <Link to={`/coupons/${coupon.id}/grade?cell=${c.number}`}>
              <svg width="20" height="20" viewBox="-8 -8 16 16" aria-hidden="true">
                <GradeMark grade={c.grade} x={0} y={0} />
              </svg>
              <span>
                {t.cell(c.number)} · {sayStrength(axis, c.position)} · <strong>{words.grades[c.grade].word}</strong>
                {c.passes > 1 && ` · ${words.grading.passes(c.passes)}`}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </Section>
  );
}
