import { useMemo } from 'react';
import { currentGrades, gradesAmong, type Grade } from '#core/grades/index.ts';
import type { CutView } from '#work/cuts/cuts.ts';
import { words } from '../../messages/index.ts';
import { Answers } from './Answers.tsx';
import { useOutbox } from '../base/outbox.tsx';
import { useHandEvents } from '../base/useHandEvents.ts';
import { Section } from '../base/Section.tsx';

/** The test mark beside a cut: one row of answers for each of its cells, each optional. */
export function WitnessGrades({ cut }: { cut: Pick<CutView, 'marks' | 'events' | 'passes'> }) {
  const { add } = useOutbox();
  const mine = useHandEvents(
    'cell',
    useMemo(() => cut.marks.map((m) => m.cell), [cut.marks]),
  );
  const grades = currentGrades([...cut.events, ...gradesAmong(mine)]);
  return (
    <Section className="above-32" id="mark" title={words.cut.mark} data-testid="mark-grades">
      <p className="quiet">{words.cut.markWhy}</p>
      {cut.marks.map((m) => (
        <div className="above-12" key={m.cell} data-mark={m.number}>
          <h3>{words.cut.markAsk(m.shown)}</h3>
          <Answers
            wide
            keys={0}
            current={grades.find((g) => g.cell === m.cell)?.grade}
            onGrade={(word: Grade) => add({ kind: 'grade', cell: m.cell, figure: 1, passes: cut.passes, grade: word })}
          />
        </div>
      ))}
    </Section>
  );
}
