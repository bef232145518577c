import Button from '@mui/material/Button';
import { useCallback, useEffect, useState } from 'react';
import { Link } from 'react-router';
import { currentGrades, gradesAmong, gradeWords, lastGrade, type Grade, type GradeEvent } from '#core/grades/index.ts';
import type { CutView } from '#work/cuts/cuts.ts';
import { words } from '../../messages/index.ts';
import { Answers } from '../coupons/Answers.tsx';
import { isTyping } from '../Frame.tsx';
import { useOutbox } from '../base/outbox.tsx';
import { useHandEvents } from '../base/useHandEvents.ts';
import { vinylTitle } from '../vinyls/vinylName.ts';
import { WriteForm } from '../base/WriteForm.tsx';

type Props = {
  cut: CutView;
  title: string;
  /** Alone on its page: the answers stand large below each other and have the keys 1 to 5. */
  alone?: boolean;
  onAnswered?: () => void;
};

/** One ordinary cut, one question, one tap. What was tapped goes through the outbox like every grade. */
export function HowDidItGo({ cut, title, alone = false, onAnswered }: Props) {
  const { add } = useOutbox();
  const t = words.cut;
  const mine = useHandEvents('cell', [cut.cell]);
  const events: GradeEvent[] = [...cut.events, ...gradesAmong(mine)];
  // Run again before it was unloaded: the question is asked anew, and the first answer stands.
  const passes = Math.max(cut.passes, ...mine.flatMap((e) => (e.kind === 'cut' ? [e.passes] : [])));
  const [again, setAgain] = useState(false);
  const grade = currentGrades(events).find((g) => g.cell === cut.cell && g.passes === passes)?.grade;
  const last = lastGrade(events);
  const answer = useCallback(
    (word: Grade) => {
      setAgain(false);
      add({ kind: 'grade', cell: cut.cell, figure: 1, passes, grade: word });
      onAnswered?.();
    },
    [add, cut.cell, onAnswered, passes],
  );
  const open = grade === undefined || again;
  useEffect(() => {
    if (!alone || !open) return;
    const press = (event: KeyboardEvent) => {
      const word = gradeWords[Number(event.key) - 1];
      if (!word || isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      event.preventDefault();
      answer(word);
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [alone, answer, open]);
  const said = cut.parts.map((p) => `${p.word} ${p.value}`).join(', ');
  return (
    <section aria-labelledby={`cut-${cut.id}`} className="how" data-cut={cut.id}>
      <h2 id={`cut-${cut.id}`}>{title}</h2>
      <p className="quiet">
        <Link to={`/vinyls/${cut.vinyl.id}`}>{vinylTitle(cut.vinyl)}</Link> · {said} · {cut.cutter}
      </p>
      {grade && !open ? (
        <p style={{ marginTop: 12, fontSize: '1.25rem' }} role="status" data-testid="cut-kept">
          <strong>{alone ? t.after[grade] : t.kept(words.grades[grade].word)}</strong>{' '}
          {!alone && grade !== cut.wanted && <Link to={`/cuts/${cut.id}`}>{t.whatNow}</Link>}{' '}
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
          <Answers current={undefined} wide={!alone} keys={alone ? 5 : 0} onGrade={answer} />
          <WriteForm what="drop" action={`/cuts/${cut.id}`}>
            <Button type="submit" variant="text">
              {t.notCut}
            </Button>
          </WriteForm>
        </>
      )}
    </section>
  );
}
