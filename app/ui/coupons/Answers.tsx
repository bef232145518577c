import { gradeIndex, gradeWords, type Grade } from '#core/grades/index.ts';
import { words } from '../../messages/index.ts';
import { GradePatch } from './CouponDrawing.tsx';

type Props = {
  current: Grade | undefined;
  onGrade: (grade: Grade) => void;
  /** Show the keys of the first so many. */
  keys?: number;
  /** Grades below this cannot be: another pass only cuts deeper. */
  least?: Grade | undefined;
  /** Side by side where there is room. */
  wide?: boolean;
};

/** The five answers, large, each with its word, its texture and what it looks like. */
export function Answers({ current, onGrade, keys = 0, least = 'uncut', wide = false }: Props) {
  return (
    <div className={wide ? 'answers wide' : 'answers'}>
      {gradeWords.map((word, i) => (
        <button
          key={word}
          type="button"
          className="answer"
          aria-pressed={current === word}
          disabled={gradeIndex[word] < gradeIndex[least]}
          onClick={() => onGrade(word)}
          data-answer={word}
        >
          <GradePatch grade={word} />
          <strong>{words.grades[word].word}</strong>
          <span className="quiet">{words.grades[word].says}</span>
          {i < keys && <kbd aria-hidden="true">{i + 1}</kbd>}
        </button>
      ))}
    </div>
  );
}
