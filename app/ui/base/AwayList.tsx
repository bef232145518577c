import { words } from '../../messages/index.ts';
import { isolate } from './format.ts';
import { PutRightLink } from './PutRightLink.tsx';

/** What was put away, each with the way to take it up again. */
export function AwayList({ things }: { things: readonly { kind: string; id: string; name: string }[] }) {
  if (things.length === 0) return null;
  return (
    <details className="away-list" data-testid="away">
      <summary>{words.putRight.awayList(things.length)}</summary>
      <ul>
        {things.map((a) => (
          <li key={a.id}>
            <PutRightLink kind={a.kind} id={a.id} text={isolate(a.name)} />
          </li>
        ))}
      </ul>
    </details>
  );
}
