import type { ImportView } from '#work/vinyls/imports.ts';
import { columnByKey } from '#core/catalogue/index.ts';
import { words } from '../../messages/index.ts';
import { isolate } from '../../ui/base/format.ts';

/** Rows that cannot be taken, and why. */
export function Refused({ seen, counts }: { seen: ImportView; counts: ImportView['counts'] }) {
  const t = words.import;
  return (
    <div className="table-wrap" tabIndex={0} role="region" aria-label={t.refused(counts.refused)}>
      <table className="plain" data-testid="refused">
        <thead>
          <tr>
            {t.columns.map((c) => (
              <th key={c} scope="col">
                {c}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {seen.refused.flatMap((r) =>
            r.problems.map((p, i) => (
              <tr key={`${r.line}-${i}`}>
                <td>{i === 0 ? t.line(r.line) : ''}</td>
                <td>{i === 0 ? isolate(r.name) : ''}</td>
                <td>{columnByKey(p.column)?.word ?? t.row}</td>
                <td>{isolate(p.why)}</td>
              </tr>
            )),
          )}
        </tbody>
      </table>
    </div>
  );
}
