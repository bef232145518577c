import { words } from '../../../messages/index.ts';
import { Folded } from '../../../ui/base/Folded.tsx';

/** What may hurt at the press, short and always a tap away. */
export function Cautions() {
  const t = words.pressRun.cautions;
  return (
    <Folded summary={t.title} className="run-cautions">
      {() => (
        <ul>
          {t.says.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
    </Folded>
  );
}
