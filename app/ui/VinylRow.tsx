import { Link } from 'react-router';
import type { Axis } from '#core/controls/index.ts';
import type { Domain } from '#core/strip/index.ts';
import type { Standing } from '#core/proof/index.ts';
import type { VinylRow as Row } from '#work/vinyls.ts';
import { words } from '../messages/index.ts';
import { Swatch } from './Swatch.tsx';
import { vinylHex, vinylLine, vinylName } from './vinylName.ts';
import { WindowStrip } from './WindowStrip.tsx';

/** How far a row's vinyl is known here: its corner says so. */
export function standingOf(v: Pick<Row, 'from' | 'standing'>): Standing {
  return (v.standing as Standing | undefined) ?? (v.from === 'here' ? 'tried' : 'draft');
}

/** Where a row's number comes from, in a few words. */
export const fromWords = (v: Pick<Row, 'from' | 'crafters'>): string =>
  v.from === 'here'
    ? words.from.tried
    : v.from === 'others' || v.from === 'translated'
      ? words.from.others(v.crafters)
      : words.from.type;

/** The strip of a row, marked at the number that is kept. */
export function RowStrip({
  vinyl,
  axis,
  domain,
  width,
  height,
}: {
  vinyl: Pick<Row, 'result' | 'kept'>;
  axis: Axis | undefined;
  domain: Domain | undefined;
  width: number;
  height: number;
}) {
  if (!axis || !domain || !vinyl.result) return null;
  return (
    <WindowStrip
      axis={axis}
      result={vinyl.result}
      domain={domain}
      {...(vinyl.kept === undefined ? {} : { mark: vinyl.kept })}
      width={width}
      height={height}
    />
  );
}

/** A vinyl as one row: what it looks like, its window on the cutter on the bench, and where the number comes from. */
export function VinylRow({
  vinyl: v,
  axis,
  domain,
}: {
  vinyl: Row;
  axis: Axis | undefined;
  domain: Domain | undefined;
}) {
  const cells = v.result?.evidence.cells ?? 0;
  return (
    <li>
      <Link className="row row-vinyl" to={`/vinyls/${v.id}`}>
        <Swatch type={v.type} hex={vinylHex(v)} seed={v.id} standing={standingOf(v)} />
        <div>
          <div className="row-name">{vinylName(v)}</div>
          <div className="quiet">{vinylLine(v)}</div>
        </div>
        <div className="row-strip">
          <RowStrip vinyl={v} axis={axis} domain={domain} width={420} height={22} />
        </div>
        <div className="row-from">
          {(v.from === 'others' || v.from === 'translated') && (
            <>
              <strong>{words.from.others(v.crafters)}</strong>
              <div className="quiet small">
                {v.adopted ? words.from.adopted : v.from === 'others' ? words.from.sameModel : words.from.translated}
              </div>
            </>
          )}
          {v.result && v.from === 'here' && (
            <>
              <strong>{words.standing[standingOf(v)] ?? words.from.tried}</strong>
              <div className="quiet small">{words.from.cells(cells, v.result.evidence.coupons)}</div>
            </>
          )}
          {v.result && v.from === 'type' && (
            <>
              <strong>{words.from.type}</strong>
              <div className="quiet small">{words.from.typeNext}</div>
            </>
          )}
        </div>
      </Link>
    </li>
  );
}
