import { useState } from 'react';
import { formatSetting, type CutterModel } from '#core/controls/index.ts';
import type { EvidenceRow } from '#work/coupons/evidence.ts';
import { words } from '../../messages/index.ts';
import { day, isolate } from '../base/format.ts';
import { useZone } from '../people/usePerson.ts';

/** What a number rests on, cell by cell, behind one tap. */
export function EvidenceTable({
  model,
  rows,
  late = false,
}: {
  model: CutterModel;
  rows: EvidenceRow[];
  /** Drawn only when it is opened: a page that is mostly looked at for something else does not wait for it. */
  late?: boolean;
}) {
  const t = words.evidence;
  const [open, setOpen] = useState(false);
  const zone = useZone();
  return (
    <details className="above-24" data-testid="evidence" onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary>{t.title(rows.length)}</summary>
      <div className="table-wrap" tabIndex={0} role="region" aria-label={t.title(rows.length)}>
        <table className="plain">
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
            {(late && !open ? [] : rows).map((e, i) => (
              <tr key={i}>
                <td>{day(e.at, zone)}</td>
                <td>{e.kind === 'coupon' ? t.coupon : t.job}</td>
                <td>
                  {formatSetting(model, e.setting)
                    .map((p) => `${p.word} ${p.value}`)
                    .join(', ')}
                </td>
                <td>{e.passes}</td>
                <td>{model.name}</td>
                <td>{e.angle}°</td>
                <td>{[e.colour, e.batch].filter(Boolean).map(isolate).join(', ') || '–'}</td>
                <td>
                  <strong>{words.grades[e.grade].word}</strong>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </details>
  );
}
