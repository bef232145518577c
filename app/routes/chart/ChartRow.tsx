import { saySeconds } from '#core/vinyls/index.ts';
import { words } from '../../messages/index.ts';
import { heatOf, isolate } from '../../ui/base/format.ts';
import type { PressAnswer } from '#core/press/index.ts';
import type { Behaviour } from '#core/vinyls/index.ts';
import type { Route } from './+types/route';
import { Link } from 'react-router';
import { RowStrip } from '../../ui/base/RowStrip.tsx';
import { sayFollows, saySource } from '../../ui/vinyls/sayPress.ts';
import { Corner, Swatch } from '../../ui/vinyls/Swatch.tsx';

/** A vinyl on the wall chart: its window, the number on each cutter, how it lies and is pressed. */
export function ChartRow({
  r,
  shown,
  first,
  unit,
}: {
  r: Route.ComponentProps['loaderData']['rows'][number];
  shown: readonly { id: string }[];
  first: boolean;
  unit: 'C' | 'F';
}) {
  const t = words.chart;
  return (
    <tr>
      <th scope="row">
        <div className="wall-name">
          <Swatch type={r.type} hex={r.hex} size={36} />
          <div>
            <Link to={`/vinyls/${r.id}`}>{isolate(r.name)}</Link>
            <div className="quiet small">{r.typeWord}</div>
            {r.standing && (
              <div className="wall-standing small">
                <Corner standing={r.standing} /> {words.cardStanding[r.standing]}
              </div>
            )}
          </div>
        </div>
      </th>
      {first && (
        <td className="wall-strip">
          <RowStrip strip={r.strip} width={200} height={18} />
        </td>
      )}
      {r.cells.map((cell, c) => (
        <td key={shown[c]!.id}>
          {cell ? (
            <>
              <strong className="wall-number">{cell.set}</strong>
              <div className="small">{cell.rest}</div>
              <div className="quiet small">{cell.from}</div>
            </>
          ) : (
            t.unknown
          )}
        </td>
      ))}
      <td>
        <strong>{r.mirror ? t.mirror : t.noMirror}</strong>
        <div className="small">{r.side}</div>
        <div className="quiet small">{r.mat === 'none' ? t.matless : t.mat[r.mat]}</div>
      </td>
      <td>
        <Pressing press={r.press} bond={r.bond} unit={unit} />
      </td>
      <td>
        <img
          className="code"
          src={`/vinyls/${r.id}/code.svg`}
          width="64"
          height="64"
          alt={`${t.columns.card}: ${r.name}`}
        />
      </td>
    </tr>
  );
}

function Pressing({
  press: { said, overSurface },
  bond,
  unit,
}: {
  press: PressAnswer;
  bond: Behaviour['bond'];
  unit: 'C' | 'F';
}) {
  const t = words.chart;
  const way = said?.way;
  if (!way) return <>{t.noPress[bond]}</>;
  return (
    <>
      {(heatOf(way, unit) ?? [t.leafletHeat]).map((heat, i) => (
        <div key={heat} className={i === 0 ? 'heat' : 'heat small'}>
          {heat}
        </div>
      ))}
      <div className="small">{[saySeconds(way.seconds), way.pressure].filter(Boolean).join(', ')}</div>
      <div className="quiet small">{t.peel(way.peel)}</div>
      <div className="small">{saySource(said)}</div>
      {overSurface && <div className="care-line">{overSurface}</div>}
      {sayFollows(way, unit).map((line) => (
        <div key={line} className="small">
          {line}
        </div>
      ))}
    </>
  );
}
