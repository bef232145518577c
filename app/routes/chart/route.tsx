import { cutMirrored } from '#core/vinyls/index.ts';
import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { Form, Link } from 'react-router';
import type { Axis } from '#core/controls/index.ts';
import { leanStrip, listDomain } from '#core/strip/index.ts';
import { chartLimits, chartOf, type ChartCell } from '#work/answer/chart.ts';
import { countAsked } from '#work/people/limits.ts';
import { workshopOf } from '#work/workshop/workshop.ts';
import { words } from '../../messages/index.ts';
import { addressOf, enter } from '../../server/enter.server.ts';
import { Field } from '../../ui/base/Field.tsx';
import { sayAnswer } from '../../ui/answer/sayAnswer.ts';
import { day, isolate } from '../../ui/base/format.ts';
import { useTemperatureUnit, useZone } from '../../ui/people/usePerson.ts';
import type { Standing } from '#core/proof/index.ts';
import type { Route } from './+types/route';
import { ChartRow } from './ChartRow.tsx';

export const access = { read: 'look round' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const { searchParams } = new URL(args.request.url);
  await countAsked('paper', person, addressOf(args.context));
  const q = (searchParams.get('q') ?? '').trim().slice(0, 200);
  const asked = searchParams.get('page') ?? '';
  const page = /^\d{1,2}$/.test(asked) ? Number(asked) : 0;
  const [chart, { cutters }] = await Promise.all([
    chartOf(person, q, searchParams.getAll('cutter'), page),
    workshopOf(person),
  ]);
  const axis = chart.cutters[0]?.axis;
  const domain =
    axis &&
    listDomain(
      axis,
      chart.rows.map((r) => r.result),
    );
  return {
    q,
    page,
    pages: Math.ceil(chart.all / chartLimits.screen),
    all: chart.all,
    left: chart.left,
    most: chartLimits.cutters,
    shown: chart.cutters.map(({ id, name }) => ({ id, name })),
    cutters: cutters.map(({ cutter }) => ({ id: cutter.id, name: cutter.name })),
    rows: chart.rows.map((r) => ({
      id: r.id,
      name: [r.brand, r.name].filter(Boolean).join(' '),
      type: r.type,
      typeWord: isolate(r.typeWord),
      standing: r.standing as Standing | undefined,
      hex: r.hex ?? '#b9b2a3',
      strip: axis && domain && r.result && leanStrip(axis, r.result, domain, r.mark),
      cells: r.cells.map((cell, c) => sayCell(cell, chart.cutters[c]!.axis)),
      mirror: cutMirrored(r.behaviour.cutFrom),
      side: r.behaviour.side,
      mat: r.behaviour.mat,
      press: r.press,
      bond: r.behaviour.bond,
    })),
    at: new Date().toISOString(),
  };
}

/** What to set on one cutter, in its words; undefined where nobody knows. */
function sayCell({ answer, parts }: ChartCell, axis: Axis) {
  const set = sayAnswer(axis, answer);
  if (set === undefined) return undefined;
  return {
    set,
    rest: parts
      .filter((p) => p.key !== axis.key)
      .map((p) => `${p.word} ${p.value}`)
      .join(', '),
    from: answer.camps ? words.chart.camps : words.chart.from[answer.from],
  };
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.chart.title) }];

export default function WallChart({ loaderData }: Route.ComponentProps) {
  const { q, page, pages, all, left, shown, cutters, rows, at } = loaderData;
  const t = words.chart;
  const zone = useZone();
  const unit = useTemperatureUnit();
  const first = shown[0];
  const query = new URLSearchParams([['q', q], ...shown.map((c) => ['cutter', c.id])]);
  return (
    <>
      <div className="head">
        <div>
          <h1>{t.title}</h1>
          <p className="quiet">
            {t.count(all)} · {t.made(day(at, zone))}
            {left > 0 && ` · ${t.left(left)}`}
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
                      defaultChecked={shown.some((k) => k.id === c.id)}
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
      {rows.length === 0 ? (
        <p className="lede">{t.empty}</p>
      ) : (
        <div className="table-wrap" tabIndex={0} role="region" aria-label={t.title}>
          <table className="wall">
            <thead>
              <tr>
                <th scope="col">{t.columns.vinyl}</th>
                {first && <th scope="col">{`${t.columns.window}, ${isolate(first.name)}`}</th>}
                {shown.map((c) => (
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
              {rows.map((r) => (
                <ChartRow key={r.id} r={r} shown={shown} first={first !== undefined} unit={unit} />
              ))}
            </tbody>
          </table>
        </div>
      )}
      {pages > 1 && (
        <nav className="actions no-print" aria-label={t.pagesWord}>
          {page > 0 && <Link to={`?${new URLSearchParams([...query, ['page', String(page - 1)]])}`}>{t.before}</Link>}
          <span>{t.page(page + 1, pages)}</span>
          {page + 1 < pages && (
            <Link to={`?${new URLSearchParams([...query, ['page', String(page + 1)]])}`}>{t.after}</Link>
          )}
        </nav>
      )}
      <p className="quiet small above-16">{t.foot}</p>
    </>
  );
}
