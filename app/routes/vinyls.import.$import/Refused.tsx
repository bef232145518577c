import Button from '@mui/material/Button';
import { columnByKey } from '#core/catalogue/index.ts';
import type { ImportView } from '#work/answer/imports.ts';
import { words } from '../../messages/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { isolate } from '../../ui/base/format.ts';
import { WriteForm } from '../../ui/base/WriteForm.tsx';

/** Rows shown to be mended at once: those after them come when these are right. */
const AT_ONCE = 20;

/** Rows that cannot be taken, why, and what stands in the cells that are wrong, to be put right here. */
export function Refused({ seen, answer }: { seen: ImportView; answer: FormAnswer | undefined }) {
  const t = words.import;
  const wordOf = (key: string) =>
    columnByKey(key)?.word ?? seen.cutter?.columns.find((c) => c.key === key)?.word ?? t.row;
  return (
    <WriteForm what="mend" className="mend" key={JSON.stringify(seen.refused.map((r) => r.line))}>
      <h2 className="section-word">{t.refused(seen.counts.refused)}</h2>
      <p className="quiet">{t.mendLede}</p>
      <ul className="rows" data-testid="refused">
        {seen.refused.slice(0, AT_ONCE).map((r) => (
          <li key={r.line} className="row row-mend">
            <div>
              <div className="row-name">{isolate(r.name) || t.line(r.line)}</div>
              <div className="quiet small">{t.line(r.line)}</div>
            </div>
            <div>
              {r.problems.map((p, i) => (
                <p key={i}>
                  <strong>{wordOf(p.column)}</strong> {isolate(p.why)}
                </p>
              ))}
            </div>
            <div className="mend-cells">
              {columnsOf(seen, r).map((i) => (
                <label key={i}>
                  <span className="quiet small">{isolate(seen.headings[i]!)}</span>
                  <input
                    name={`cell-${r.line}-${i}`}
                    defaultValue={answer?.values[`cell-${r.line}-${i}`] ?? r.cells[i] ?? ''}
                    autoComplete="off"
                  />
                </label>
              ))}
            </div>
          </li>
        ))}
      </ul>
      <div className="actions">
        <Button type="submit">{t.mend}</Button>
        {seen.counts.refused > AT_ONCE && <span className="quiet">{t.mendRest(seen.counts.refused - AT_ONCE)}</span>}
      </div>
    </WriteForm>
  );
}

/** The columns of the file that a row's problems are about; its name and type where a problem is about the row as a whole. */
function columnsOf(seen: ImportView, row: ImportView['refused'][number]): number[] {
  const asked = new Set(row.problems.map((p) => p.column || 'name'));
  // A press without a time is mended at any of its columns; two of one name by another name.
  return seen.mapping.flatMap((key, i) => (key !== undefined && asked.has(key) ? [i] : []));
}
