import { shortPosition, strengthAxis } from '#core/controls/index.ts';
import { currentGrades, gradeIndex, gradeWords, lastGrade, type Grade } from '#core/grades/index.ts';
import { isTyping } from '../../ui/Frame.tsx';
import { useSteady } from '../../ui/base/useSteady.ts';
import { useOutbox } from '../../ui/base/outbox.tsx';
import type { useCouponReading } from '../../ui/coupons/useCouponReading.ts';
import type { CouponView } from '#work/coupons/coupons.ts';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';

const MOST_PASSES = 4;
/** A question that has been on screen so long is the one that is asked, ms. */
const STANDS = 600;

/** A coupon that is being graded. */
export type Grading = ReturnType<typeof useGrading>;

/**
 * The question on screen and what can be done about it: by tap, by key, undone, run again.
 * @param first the number of a cell that is asked first, graded or not
 * @param turned whether the coupon is drawn as it lies on the table, for the arrow keys
 */
export function useGrading(
  coupon: CouponView,
  told: ReturnType<typeof useCouponReading>,
  turned: boolean,
  first: number | undefined,
) {
  const { add } = useOutbox();
  const axis = strengthAxis(coupon.cutter.model);
  const { mine, events, result } = told;
  const own = useMemo(() => new Set(coupon.cells.map((c) => c.id)), [coupon.cells]);

  const passesOf = useCallback(
    (id: string, run: number) =>
      Math.max(1, run, ...mine.flatMap((e) => (e.kind === 'cut' && e.cell === id ? [e.passes] : []))),
    [mine],
  );
  const cells = useMemo(() => {
    const grades = currentGrades(events);
    return coupon.cells.map((c) => {
      const passes = passesOf(c.id, c.passesRun);
      return {
        ...c,
        passes,
        shown: shortPosition(axis, c.position),
        grade: grades.find((g) => g.cell === c.id && g.passes === passes)?.grade,
        // What it was with fewer passes: another pass never makes it less.
        before: grades
          .filter((g) => g.cell === c.id && g.passes < passes)
          .reduce<Grade | undefined>(
            (most, g) => (!most || gradeIndex[g.grade] > gradeIndex[most] ? g.grade : most),
            undefined,
          ),
      };
    });
  }, [axis, coupon.cells, events, passesOf]);

  const [picked, setPicked] = useState(first);
  const asked = cells.filter((c) => !c.leftOut);
  const current = asked.find((c) => c.number === picked) ?? asked.find((c) => c.grade === undefined);
  const graded = asked.filter((c) => c.grade !== undefined).length;
  // The cell nearest to what will be cut is the one whose weeding matters.
  const lastClean =
    asked.find((c) => c.grade === 'clean' && c.position >= (result.summary.recommended?.position ?? 0)) ??
    asked.findLast((c) => c.grade === 'clean');

  // A question that stands stays until it is answered here, whatever another tab or device does meanwhile.
  const question = current?.number;
  const stands = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => {
    if (question === undefined || picked === question) return;
    stands.current = setTimeout(() => setPicked(question), STANDS);
    return () => clearTimeout(stands.current);
  }, [picked, question]);
  // What a hand does says what is asked next: a question that was about to stand must not come back after its answer, as it
  // would when its time ends between the tap and the drawing of what the tap did.
  const goTo = useCallback((number: number | undefined) => {
    clearTimeout(stands.current);
    setPicked(number);
  }, []);
  const { meant, chosen, told: justChanged } = useSteady(`${question} ${current?.passes}`);

  const pick = useCallback(
    (number: number) => {
      chosen();
      goTo(number);
    },
    [chosen, goTo],
  );
  const grade = useCallback(
    (word: Grade, by: 'tap' | 'key' = 'tap') => {
      if (!meant(by)) return;
      if (!current || (current.before && gradeIndex[word] < gradeIndex[current.before])) return;
      add({ kind: 'grade', cell: current.id, figure: 1, passes: current.passes, grade: word });
      // On to the next cell that has no grade, if there is one.
      const at = cells.findIndex((c) => c.number === current.number);
      const rest = [...cells.slice(at + 1), ...cells.slice(0, at)];
      goTo(rest.find((c) => c.grade === undefined && !c.leftOut)?.number);
    },
    [add, cells, current, goTo, meant],
  );
  const undo = useCallback(() => {
    const last = lastGrade(events.filter((e) => own.has(e.cell)));
    if (!last) return;
    add({ kind: 'retract', cell: last.cell, retracts: last.id });
    chosen();
    goTo(cells.find((c) => c.id === last.cell)?.number);
  }, [add, cells, chosen, events, goTo, own]);

  // A cell that is not through yet may run again, as long as it lies where it was cut.
  const enough = coupon.wanted === 'through' ? gradeIndex.through : gradeIndex.clean;
  const mayRunAgain =
    current?.grade !== undefined && gradeIndex[current.grade] < enough && current.passes < MOST_PASSES;
  const runAgain = useCallback(() => {
    if (current && mayRunAgain) {
      chosen();
      add({ kind: 'cut', cell: current.id, passes: current.passes + 1 });
      goTo(current.number);
    }
  }, [add, chosen, current, goTo, mayRunAgain]);

  useEffect(() => {
    const columns = coupon.sheet.columns;
    const mirrored = coupon.sheet.mirrored !== turned;
    const press = (event: KeyboardEvent) => {
      if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      const index = Number(event.key) - 1;
      const step = {
        ArrowRight: mirrored ? -1 : 1,
        ArrowLeft: mirrored ? 1 : -1,
        ArrowDown: columns,
        ArrowUp: -columns,
      }[event.key];
      if (Number.isInteger(index) && index >= 0 && index < gradeWords.length) {
        if (!event.repeat) grade(gradeWords[index]!, 'key');
      } else if (event.key === 'Backspace') undo();
      else if (event.key === 'r') runAgain();
      else if (step !== undefined) {
        const from = current ? cells.findIndex((c) => c.number === current.number) : 0;
        const to = cells[from + step];
        if (to) pick(to.number);
      } else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [cells, coupon.sheet.columns, coupon.sheet.mirrored, current, grade, pick, runAgain, turned, undo]);

  return { axis, own, cells, asked, current, graded, lastClean, justChanged, mayRunAgain, pick, grade, undo, runAgain };
}
