import Button from '@mui/material/Button';
import { useEffect } from 'react';
import { useRevalidator } from 'react-router';
import { formatPosition, strengthAxis } from '#core/controls/index.ts';
import { currentGrades, gradeIndex, gradesAmong } from '#core/grades/index.ts';
import type { AfterCut } from '#work/answer/afterCut.ts';
import type { CutView } from '#work/cuts/cuts.ts';
import { words } from '../../messages/index.ts';
import { KeptLine } from '../../ui/cuts/KeptLine.tsx';
import { KeepNow } from '../../ui/cuts/KeepNow.tsx';
import { useHandEvents } from '../../ui/base/useHandEvents.ts';
import { useOutbox } from '../../ui/base/outbox.tsx';
import { capitalise } from '#core/units/index.ts';

/** A cut was graded: what can still be done on the mat, and what to set next time, with one tap to keep it. */
export function WhatNext({ cut, after }: { cut: CutView; after: AfterCut | undefined }) {
  const t = words.cut;
  const { add, waiting } = useOutbox();
  const { revalidate } = useRevalidator();
  const mine = useHandEvents('cell', [cut.cell]);
  const passes = Math.max(cut.passes, ...mine.flatMap((e) => (e.kind === 'cut' ? [e.passes] : [])));
  const grades = currentGrades([...cut.events, ...gradesAmong(mine)]).filter((g) => g.cell === cut.cell);
  const now = grades.find((g) => g.passes === passes);
  const first = grades.find((g) => g.passes === cut.passesSet);
  // What to set next time is said by the server, once the grade has arrived there.
  const arrived = waiting.length === 0;
  const known = after !== undefined;
  useEffect(() => {
    if (arrived && first) void revalidate();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once for each grade that has arrived
  }, [arrived, first?.event]);
  if (!first) return null;
  const axis = strengthAxis(cut.model);
  const said = (p: number) => formatPosition(axis, p);
  const again = now && gradeIndex[now.grade] < gradeIndex[cut.wanted] && passes < 4;
  return (
    <div className="what-next" data-testid="what-next">
      {again && (
        <div>
          <h3>{t.onMat}</h3>
          <p>{t.onMatDo}</p>
          <Button variant="contained" onClick={() => add({ kind: 'cut', cell: cut.cell, passes: passes + 1 })}>
            {t.ranAgain}
          </Button>
        </div>
      )}
      <div>
        {again && <h3>{t.offMat}</h3>}
        {!known || !arrived ? (
          <p className="quiet">{t.wait}</p>
        ) : (
          <NextTime
            cut={cut}
            after={after}
            said={said}
            word={axis.word}
            less={gradeIndex[first.grade] > gradeIndex[cut.wanted]}
          />
        )}
      </div>
    </div>
  );
}

function NextTime({
  cut,
  after,
  said,
  word,
  less,
}: {
  cut: CutView;
  after: AfterCut;
  said: (position: number) => string;
  word: string;
  less: boolean;
}) {
  const t = words.cut;
  const { next, kept, missing } = after;
  if (next.kind === 'end') return <p>{less ? t.endLess : t.end}</p>;
  if (next.kind === 'stay')
    return (
      <>
        <p>{next.why === 'as wanted' ? t.stays(said(cut.position)) : t.stay}</p>
        {next.why === 'as wanted' && missing && <p className="quiet">{capitalise(missing)}.</p>}
      </>
    );
  return (
    <>
      <p>{t.nextTime}</p>
      <p className="big-line">
        <span className="big" data-testid="next-time">
          {said(next.position)}
        </span>
        <span>
          {word}
          <br />
          <span className="quiet">{t.was(said(cut.position))}</span>
        </span>
      </p>
      {kept === next.position ? (
        <KeptLine says={t.keeps(said(next.position))} vinyl={cut.vinyl.id} wanted={cut.wanted} />
      ) : (
        <KeepNow
          vinyl={cut.vinyl.id}
          cutter={{ id: cut.cutterId, model: cut.model }}
          wanted={cut.wanted}
          position={next.position}
          label={words.vinyl.keep(said(next.position))}
        />
      )}
    </>
  );
}
