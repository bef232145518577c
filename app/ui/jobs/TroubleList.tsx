import type { Trouble } from '#core/press/index.ts';
import { words } from '../../messages/index.ts';

/** What must not meet, or wants care, with what would help. */
export function TroubleList({ troubles }: { troubles: readonly Trouble[] }) {
  const hard = troubles.filter((t) => t.grade === 'not');
  const mild = troubles.filter((t) => t.grade === 'care');
  if (troubles.length === 0) return null;
  const line = (t: Trouble) => (
    <li key={`${t.why} ${t.films.join()}`}>
      <strong>{t.why}</strong> {t.helps}
    </li>
  );
  return (
    <>
      {hard.length > 0 && (
        <div className="notice bad" role="status" data-testid="troubles">
          <p>
            <strong>{words.jobVinyls.trouble}</strong>
          </p>
          <ul>{hard.map(line)}</ul>
        </div>
      )}
      {mild.length > 0 && <ul className="cautions">{mild.map(line)}</ul>}
    </>
  );
}
