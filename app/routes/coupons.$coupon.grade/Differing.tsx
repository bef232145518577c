import type { Grading } from './useGrading.ts';
import { differences } from '#core/grades/index.ts';
import { words } from '../../messages/index.ts';

/** Where two devices or two people said something else of a cell. */
export function Differing({
  differing,
  cells,
  deviceId,
}: {
  differing: ReturnType<typeof differences>;
  cells: Grading['cells'];
  deviceId: () => string;
}) {
  const t = words.grading;
  return (
    <div className="notice above-16" data-testid="differing">
      <strong>{t.other(differing.length)}</strong>
      {differing.map((d) => {
        const number = cells.find((c) => c.id === d.cell)!.number;
        const voice = (s: (typeof d.said)[number]) =>
          `${words.grades[s.grade].word} ${s.device === deviceId() ? t.otherHere : t.otherThere}`;
        return <p key={`${d.cell} ${d.passes}`}>{t.otherRow(number, voice(d.said.at(-2)!), voice(d.said.at(-1)!))}</p>;
      })}
    </div>
  );
}
