import Button from '@mui/material/Button';
import { Form, Link } from 'react-router';
import { formatPosition } from '#core/controls/index.ts';
import { stripDomain } from '#core/strip/index.ts';
import { saySeconds } from '#core/vinyls/index.ts';
import { chartLimits, chartOf, type ChartRow } from '#work/chart.ts';
import { countAsked } from '#work/limits.ts';
import { workshopOf } from '#work/workshop.ts';
import { words } from '../../messages/index.ts';
import { addressOf, enter } from '../../server/enter.server.ts';
import { qrOf } from '../../server/paper/qr.server.ts';
import { Field } from '../../ui/Field.tsx';
import { bothHeats, day, isolate } from '../../ui/format.ts';
import { Swatch } from '../../ui/Swatch.tsx';
import { useTemperatureUnit, useZone } from '../../ui/usePerson.ts';
import { WindowStrip } from '../../ui/WindowStrip.tsx';
import type { Route } from './+types/route';

export async function loader(args: Route.LoaderArgs) {
  const person = await enter('routes/chart/route', args);
  const { searchParams, origin } = new URL(args.request.url);
  const q = (searchParams.get('q') ?? '').trim().slice(0, 200);
  countAsked('paper', person, addressOf(args.context));
  const asked = searchParams.getAll('cutter');
  const [chart, { cutters }] = await Promise.all([chartOf(person, q, asked), workshopOf(person)]);
  return {
    q,
    chart,
    most: chartLimits.cutters,
    cutters: cutters.map(({ cutter }) => ({ id: cutter.id, name: cutter.name })),
    codes: Object.fromEntries(chart.rows.map((r) => [r.id, qrOf(`${origin}/vinyls/${r.id}`)])),
    at: new Date().toISOString(),
  };
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.chart.title) }];

export default function WallChart({ loaderData }: Route.ComponentProps) {
  const { q, chart, cutters, codes, at } = loaderData;
  const t = words.chart;
  const zone = useZone();
  const unit = useTemperatureUnit();
  const first = chart.cutters[0];
  const domain =
    first &&
    stripDomain(
      first.axis,
      chart.rows.flatMap((r) => (r.result?.wanted === 'clean' ? [r.result.summary] : [])),
      [],
    );
  const query = new URLSearchParams([['q', q], ...chart.cutters.map((c) => ['cutter', c.id])]);
  return (
    <>
      <div className="head">
        <div>
          <h1>{t.title}</h1>
          <p className="quiet">
            {t.count(chart.rows.length)} · {t.made(day(at, zone))}
            {chart.left > 0 && ` · ${t.left(chart.left)}`}
          </p>
        </div>
      </div>
      <div className="no-print">
        <p className="lede" style={{ marginBottom: 20 }}>
          {t.lede}
        </p>
        <Form method="get" className="filters">
          <Field name="q" label={t.find} answer={undefined} initial={q} type="search" />
          {cutters.length > 1 && (
            <fieldset>
              <legend>{t.cutters}</legend>
              <div className="chips">
                {cutters.map((c) => (
                  <label className="choice" key={c.id}>
                    <input
                      type="checkbox"
                      name="cutter"
                      value={c.id}
                      defaultChecked={chart.cutters.some((k) => k.id === c.id)}
                    />
                    <span>{isolate(c.name)}</span>
                  </label>
                ))}
              </div>
            </fieldset>
          )}
          <Button type="submit">{t.show}</Button>
        </Form>
        <div className="actions" style={{ marginTop: 0, marginBottom: 24 }}>
          <Button component="a" href={`/chart/a4.pdf?${query}`} target="_blank" variant="contained">
            {t.pdf('A4')}
          </Button>
          <Button component="a" href={`/chart/letter.pdf?${query}`} target="_blank">
            {t.pdf('Letter')}
          </Button>
          <Button onClick={() => window.print()}>{t.print}</Button>
        </div>
      </div>
      {chart.rows.length === 0 ? (
        <p className="lede">{t.empty}</p>
      ) : (
        <div className="table-wrap" tabIndex={0} role="region" aria-label={t.title}>
          <table className="wall">
            <thead>
              <tr>
                <th scope="col">{t.columns.vinyl}</th>
                {first && <th scope="col">{`${t.columns.window}, ${isolate(first.name)}`}</th>}
                {chart.cutters.map((c) => (
                  <th scope="col" key={c.id}>
                    {isolate(c.name)}
                  </th>
                ))}
                <th scope="col">{t.columns.lies}</th>
                <th scope="col">{t.columns.press}</th>
                <th scope="col">{t.columns.card}</th>
              </tr>
            </thead>
            <tbody>
              {chart.rows.map((r) => (
                <tr key={r.id}>
                  <th scope="row">
                    <div className="wall-name">
                      <Swatch type={r.type} hex={r.hex ?? '#b9b2a3'} seed={r.id} size={36} />
                      <div>
                        <Link to={`/vinyls/${r.id}`}>{isolate([r.brand, r.name].filter(Boolean).join(' '))}</Link>
                        <div className="quiet small">
                          {[isolate(r.typeWord), r.standing].filter(Boolean).join(' · ')}
                        </div>
                      </div>
                    </div>
                  </th>
                  {first && (
                    <td className="wall-strip">
                      {r.result && domain && (
                        <WindowStrip
                          axis={first.axis}
                          result={r.result}
                          domain={domain}
                          width={200}
                          height={18}
                          {...(r.mark === undefined ? {} : { mark: r.mark })}
                        />
                      )}
                    </td>
                  )}
                  {r.cells.map((cell, c) => {
                    const axis = chart.cutters[c]!.axis;
                    const rest = cell.parts.filter((p) => p.key !== axis.key);
                    return (
                      <td key={chart.cutters[c]!.id}>
                        {cell.number ? (
                          <>
                            <strong className="wall-number">
                              {cell.number.sure ? '' : '~'}
                              {formatPosition(axis, cell.number.position)}
                            </strong>
                            <div className="small">{rest.map((p) => `${p.word} ${p.value}`).join(', ')}</div>
                            <div className="quiet small">
                              {t.from[cell.number.from === 'kept' ? 'kept' : cell.from]}
                            </div>
                          </>
                        ) : (
                          t.unknown
                        )}
                      </td>
                    );
                  })}
                  <td>
                    <strong>{r.behaviour.cutFrom === 'back' ? t.mirror : t.noMirror}</strong>
                    <div className="small">{r.behaviour.side}</div>
                    <div className="quiet small">{r.behaviour.mat === 'none' ? t.matless : t.mat[r.behaviour.mat]}</div>
                  </td>
                  <td>
                    <Pressing row={r} unit={unit} />
                  </td>
                  <td>
                    <Code path={codes[r.id]!} says={`${t.columns.card}: ${r.name}`} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <p className="quiet small" style={{ marginTop: 16 }}>
        {t.foot}
      </p>
    </>
  );
}

function Pressing({ row, unit }: { row: ChartRow; unit: 'C' | 'F' }) {
  const t = words.chart;
  const way = row.behaviour.press[row.pressWay] ?? row.behaviour.press[0];
  if (!way) return <>{t.notPressed}</>;
  return (
    <>
      <strong>{way.heat === undefined ? t.leafletHeat : bothHeats(way.heat, unit).join(' · ')}</strong>
      <div className="small">{[saySeconds(way.seconds), way.pressure].filter(Boolean).join(', ')}</div>
      <div className="quiet small">{t.peel(way.peel)}</div>
    </>
  );
}

/** A code in ink on paper, whatever the theme: readers want dark on light. */
function Code({ path, says }: { path: { size: number; d: string }; says: string }) {
  return (
    <svg
      viewBox={`-2 -2 ${path.size + 4} ${path.size + 4}`}
      width="64"
      height="64"
      role="img"
      aria-label={says}
      shapeRendering="crispEdges"
      style={{ background: '#fff', display: 'block' }}
    >
      <path d={path.d} fill="#000" />
    </svg>
  );
}
