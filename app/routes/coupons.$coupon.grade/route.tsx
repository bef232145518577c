import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { formatPosition, sayStrength, shortPosition, strengthAxis } from '#core/controls/index.ts';
import { currentGrades, differences, gradeIndex, gradeWords, lastGrade, type Grade } from '#core/grades/index.ts';
import { stripDomain } from '#core/strip/index.ts';
import { timesInHundred } from '#core/window/index.ts';
import { couponOf } from '#work/coupons/coupons.ts';
import { words } from '../../messages/index.ts';
import { enter } from '../../server/enter.server.ts';
import { Answers } from '../../ui/coupons/Answers.tsx';
import { BenchModeButton } from '../../ui/coupons/benchMode.tsx';
import { CouponDrawing } from '../../ui/coupons/CouponDrawing.tsx';
import { CouponHead } from '../../ui/coupons/CouponHead.tsx';
import { isTyping } from '../../ui/Frame.tsx';
import { HowItWeeded } from '../../ui/coupons/HowItWeeded.tsx';
import { GoButton } from '../../ui/base/Link.tsx';
import { useOutbox } from '../../ui/coupons/outbox.tsx';
import { Refused, Sending } from '../../ui/cuts/Sending.tsx';
import { useCouponReading } from '../../ui/coupons/useCouponReading.ts';
import { useSteady } from '../../ui/base/useSteady.ts';
import { useLookAgain } from '../../ui/base/useLookAgain.ts';
import { vinylHex, vinylTitle } from '../../ui/vinyls/vinylName.ts';
import { WindowStrip } from '../../ui/base/WindowStrip.tsx';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  return { coupon: await couponOf(person, args.params.coupon) };
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: words.title(loaderData ? vinylTitle(loaderData.coupon.vinyl) : '') },
];

const MOST_PASSES = 4;
/** A question that has been on screen so long is the one that is asked, ms. */
const STANDS = 600;

/** One question at a time: lift the waste of this cell, what happens? The strip and the number move as grades come in. */
export default function GradePage({ loaderData: { coupon } }: Route.ComponentProps) {
  const { add, deviceId } = useOutbox();
  // Another device may be grading the same coupon.
  useLookAgain(8_000);
  const t = words.grading;
  const axis = strengthAxis(coupon.cutter.model);
  const { mine, events, dots, result, reading } = useCouponReading(coupon);
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

  const [picked, setPicked] = useState<number>();
  const [turned, setTurned] = useState(false);
  const asked = cells.filter((c) => !c.leftOut);
  const current = asked.find((c) => c.number === picked) ?? asked.find((c) => c.grade === undefined);
  const graded = asked.filter((c) => c.grade !== undefined).length;
  // The cell nearest to what will be cut is the one whose weeding matters.
  const lastClean =
    asked.find((c) => c.grade === 'clean' && c.position >= (result.summary.recommended?.position ?? 0)) ??
    asked.findLast((c) => c.grade === 'clean');

  // A question that stands stays until it is answered here, whatever another tab or device does meanwhile.
  const question = current?.number;
  useEffect(() => {
    if (question === undefined || picked === question) return;
    const stands = setTimeout(() => setPicked(question), STANDS);
    return () => clearTimeout(stands);
  }, [picked, question]);
  const { meant, chosen, told } = useSteady(`${question} ${current?.passes}`);

  const pick = useCallback(
    (number: number) => {
      chosen();
      setPicked(number);
    },
    [chosen],
  );
  const grade = useCallback(
    (word: Grade, by: 'tap' | 'key' = 'tap') => {
      if (!meant(by)) return;
      if (!current || (current.before && gradeIndex[word] < gradeIndex[current.before])) return;
      add({ kind: 'grade', cell: current.id, figure: 1, passes: current.passes, grade: word });
      // On to the next cell that has no grade, if there is one.
      const at = cells.findIndex((c) => c.number === current.number);
      const rest = [...cells.slice(at + 1), ...cells.slice(0, at)];
      setPicked(rest.find((c) => c.grade === undefined && !c.leftOut)?.number);
    },
    [add, cells, current, meant],
  );
  const undo = useCallback(() => {
    const last = lastGrade(events.filter((e) => own.has(e.cell)));
    if (!last) return;
    add({ kind: 'retract', cell: last.cell, retracts: last.id });
    chosen();
    setPicked(cells.find((c) => c.id === last.cell)?.number);
  }, [add, cells, chosen, events, own]);

  // A cell that is not through yet may run again, as long as it lies where it was cut.
  const enough = coupon.wanted === 'through' ? gradeIndex.through : gradeIndex.clean;
  const mayRunAgain =
    current?.grade !== undefined && gradeIndex[current.grade] < enough && current.passes < MOST_PASSES;
  const runAgain = useCallback(() => {
    if (current && mayRunAgain) {
      chosen();
      add({ kind: 'cut', cell: current.id, passes: current.passes + 1 });
      setPicked(current.number);
    }
  }, [add, chosen, current, mayRunAgain]);

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

  // The stretch shown is fixed by the plan, so that the strip moves and its scale does not.
  const [domain] = useState(() =>
    stripDomain(
      axis,
      [coupon.result.summary],
      [],
      coupon.cells.map((c) => c.position),
    ),
  );
  const differing = differences(events).filter((d) => own.has(d.cell));
  const { recommended, window: open } = result.summary;

  const drawing = (
    <CouponDrawing
      sheet={coupon.sheet}
      hex={vinylHex(coupon.vinyl)}
      turned={turned}
      current={current?.number}
      onPick={pick}
      cells={cells.map((c) => (c.leftOut ? { ...c, done: false, word: words.run.leftOut } : c))}
      label={turned ? t.turned : t.asOnMat}
    />
  );

  return (
    <>
      <CouponHead coupon={coupon} says={<Sending />} graded={graded > 0} />
      <Refused />
      <div className="grade-layout">
        <div className="grade-sheet">
          {drawing}
          <p className="legend" style={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center' }}>
            {turned ? t.turned : t.asOnMat}
            <Button variant="text" onClick={() => setTurned(!turned)} aria-pressed={turned}>
              {t.turn}
            </Button>
          </p>
        </div>
        <div className="grade-ask">
          {current ? (
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
              <p className="notice" role="status" hidden={!told}>
                {t.justChanged}
              </p>
              <Answers current={current.grade} onGrade={(word) => grade(word)} keys={5} least={current.before} />
              {current.before && <p className="quiet small">{t.noLess(words.grades[current.before].word)}</p>}
              {current.grade !== undefined && gradeIndex[current.grade] >= gradeIndex.clean && (
                <HowItWeeded cell={current.id} number={current.number} said={coupon.weeds} />
              )}
              {mayRunAgain && (
                <p style={{ marginTop: 8, display: 'flex', gap: 16, alignItems: 'center', flexWrap: 'wrap' }}>
                  <Button onClick={runAgain}>{t.runAgain(current.passes + 1)}</Button>
                  <span className="quiet">{t.runAgainWhy}</span>
                </p>
              )}
            </>
          ) : (
            <>
              <h2 aria-live="polite" style={{ fontSize: '1.75rem' }}>
                {t.done}
              </h2>
              <p className="lede" style={{ margin: '12px 0 24px' }}>
                {result.sentence}
              </p>
              <GoButton to={`/coupons/${coupon.id}/result`} variant="contained">
                {t.result}
              </GoButton>
              <p className="quiet" style={{ marginTop: 16 }}>
                {t.doneWhy}
              </p>
              {lastClean && <HowItWeeded cell={lastClean.id} number={lastClean.number} said={coupon.weeds} />}
            </>
          )}
          <div style={{ marginTop: 4, display: 'flex', gap: 20, alignItems: 'center', flexWrap: 'wrap' }}>
            <Button variant="text" onClick={undo} disabled={graded === 0}>
              {t.undo}
            </Button>
            <BenchModeButton />
          </div>
        </div>
        <div className="grade-strip">
          <WindowStrip axis={axis} result={result} domain={domain} dots={dots} scale />
          <div data-testid="recommendation" data-reading={reading} aria-live="polite">
            {open && recommended ? (
              <p style={{ font: '700 1.25rem/1.3 var(--heading)' }}>
                {words.result.set(formatPosition(axis, recommended.position))}{' '}
                {words.result.times(coupon.wanted, timesInHundred(recommended.chance))}
              </p>
            ) : (
              <p style={{ fontWeight: 700 }}>{result.sentence}</p>
            )}
            <p className="quiet small">
              {open &&
                coupon.wanted === 'clean' &&
                axis.kind !== 'list' &&
                `window ${formatPosition(axis, open.low)} to ${formatPosition(axis, open.high)} · `}
              {t.of(graded, asked.length)}
              {reading && ` · ${t.reading}`}
            </p>
          </div>
        </div>
      </div>
      {differing.length > 0 && (
        <div className="notice" data-testid="differing" style={{ marginTop: 16 }}>
          <strong>{t.other(differing.length)}</strong>
          {differing.map((d) => {
            const number = cells.find((c) => c.id === d.cell)!.number;
            const voice = (s: (typeof d.said)[number]) =>
              `${words.grades[s.grade].word} ${s.device === deviceId() ? t.otherHere : t.otherThere}`;
            return (
              <p key={`${d.cell} ${d.passes}`}>{t.otherRow(number, voice(d.said.at(-2)!), voice(d.said.at(-1)!))}</p>
            );
          })}
        </div>
      )}
    </>
  );
}
