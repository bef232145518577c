import { Link } from 'react-router';
import type { Suits } from '#core/vinyls/index.ts';
import { words } from '../../messages/index.ts';
import type { LeanRow } from '../../server/rows.server.ts';
import { RowStrip } from '../../ui/base/RowStrip.tsx';
import { standingOf } from '../../ui/answer/VinylRow.tsx';
import { OnBlank } from '../../ui/vinyls/BlankDrawing.tsx';
import { Swatch } from '../../ui/vinyls/Swatch.tsx';
import { vinylHex, vinylLine, vinylName } from '../../ui/vinyls/vinylName.ts';

type Row = {
  vinyl: LeanRow;
  suits: Suits;
  inHand: boolean;
  seen: { hex: string; hardly: boolean } | undefined;
};

/** Vinyls of one verdict: those one has, and behind a tap those that others here know. */
export function Verdict({
  verdict,
  colour,
  rows,
}: {
  verdict: Suits['verdict'];
  colour: string | undefined;
  rows: readonly Row[];
}) {
  const t = words.blanks;
  const [mine, others] = [rows.filter((r) => r.inHand), rows.filter((r) => !r.inHand)];
  const list = (part: readonly Row[]) =>
    verdict === 'not' ? <Reasons rows={part} /> : <Rows rows={part} colour={colour} />;
  return (
    <div className="blank-verdict" data-verdict={verdict}>
      <h3 className="section-word">{t.verdict[verdict]}</h3>
      {rows.length === 0 && <p className="quiet">{t.none}</p>}
      {mine.length > 0 && list(mine)}
      {others.length > 0 &&
        (mine.length > 0 ? (
          <details>
            <summary>{t.others(others.length)}</summary>
            {list(others)}
          </details>
        ) : (
          list(others)
        ))}
    </div>
  );
}

function Rows({ rows, colour }: { rows: readonly Row[]; colour: string | undefined }) {
  const t = words.blanks;
  return (
    <ul className="rows">
      {rows.map(({ vinyl: v, suits, seen }) => (
        <li key={v.id}>
          <Link className="row row-blank" to={`/vinyls/${v.id}`}>
            {colour && seen ? (
              <OnBlank blank={colour} film={seen.hex} />
            ) : (
              <Swatch type={v.type} hex={vinylHex(v)} size={48} standing={standingOf(v)} />
            )}
            <div>
              <div className="row-name">{vinylName(v)}</div>
              <div className="quiet">{vinylLine(v)}</div>
            </div>
            <div>
              {seen?.hardly && <strong>{t.hardly} </strong>}
              {suits.reasons.join(' ')}
              <div className="quiet small">
                {t.rests[suits.rests]}
                {v.from === 'here' && v.strip && ` · ${t.cut(v.cells)}`}
              </div>
            </div>
            <div className="row-strip">
              <RowStrip strip={v.strip} width={240} height={18} />
            </div>
          </Link>
        </li>
      ))}
    </ul>
  );
}

/** The same reason holds for many: said once, with their names. */
function Reasons({ rows }: { rows: readonly Row[] }) {
  const t = words.blanks;
  return [...new Set(rows.map((r) => r.suits.reasons[0]!))].map((reason) => {
    const of = rows.filter((r) => r.suits.reasons[0] === reason);
    return (
      <div key={reason} className="blank-reason">
        <p>
          {reason} <span className="quiet small">{t.rests[of[0]!.suits.rests]}</span>
        </p>
        <ul className="dabs">
          {of.map(({ vinyl: v }) => (
            <li key={v.id}>
              <Link to={`/vinyls/${v.id}`}>
                <Swatch type={v.type} hex={vinylHex(v)} size={28} /> {vinylName(v)}
              </Link>
            </li>
          ))}
        </ul>
      </div>
    );
  });
}
