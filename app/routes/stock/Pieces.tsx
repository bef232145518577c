import type { Piece } from '#work/vinyls/stock.ts';
import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { words } from '../../messages/index.ts';
import { Field } from '../../ui/base/Field.tsx';
import { isolate } from '../../ui/base/format.ts';
import { PieceFacts } from '../../ui/vinyls/PieceFacts.tsx';
import { Swatch } from '../../ui/vinyls/Swatch.tsx';
import { vinylHex, vinylTitle } from '../../ui/vinyls/vinylName.ts';

/** What is left of everything, and labels for it. */
export function Pieces({ pieces }: { pieces: readonly Piece[] }) {
  const t = words.stock;
  return (
    <form method="get" action="/stock/labels" target="_blank">
      <ul className="rows">
        {pieces.map((p) => (
          <li key={p.id} className="row row-stock">
            <label className="tick">
              <input type="checkbox" name="piece" value={p.id} />
              <span className="visually-hidden">
                {t.label} {p.code}
              </span>
            </label>
            <Swatch type={p.vinyl.type} hex={vinylHex(p.vinyl)} size={48} />
            <div>
              <Link to={`/stock/${p.id}`} className="row-name">
                {vinylTitle(p.vinyl)}
              </Link>
              <div className="quiet">
                {t.kinds[p.kind]} · {p.code}
                {p.batch && ` · ${isolate(p.batch)}`}
                {p.from && ` · ${t.from(p.from)}`}
              </div>
            </div>
            <div>
              <PieceFacts piece={p} />
            </div>
          </li>
        ))}
      </ul>
      <details className="above-16">
        <summary>{t.labels}</summary>
        <p className="quiet" style={{ marginBottom: 16 }}>
          {t.labelsLede}
        </p>
        <div className="pair" style={{ maxWidth: 560, marginBottom: 16 }}>
          <Field
            name="paper"
            label={t.sheet}
            answer={undefined}
            initial="a4"
            select
            slotProps={{ select: { native: true } }}
          >
            {Object.entries(t.papers).map(([key, name]) => (
              <option key={key} value={key}>
                {name}
              </option>
            ))}
          </Field>
          <Field name="skip" label={t.skip} answer={undefined} initial="0" inputMode="numeric" />
        </div>
        <Button type="submit">{t.labels}</Button>
      </details>
    </form>
  );
}
