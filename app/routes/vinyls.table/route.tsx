import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { lazy, Suspense, useEffect, useState } from 'react';
import { Form, Link, useSearchParams, useSubmit } from 'react-router';
import { columns } from '#core/catalogue/index.ts';
import { vinylTypeKeys, vinylTypes } from '#core/vinyls/index.ts';
import { countAsked } from '#work/people/limits.ts';
import { tablePage, tableQuery } from '#work/answer/table.ts';
import { words } from '../../messages/index.ts';
import { addressOf, enter, visitorsBench } from '../../server/enter.server.ts';
import { Field } from '../../ui/base/Field.tsx';
import { Ways } from '../../ui/coupons/Ways.tsx';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

// The grid draws nothing on the server and is a large piece of script: it comes when this page is looked at.
const Grid = lazy(() => import('./Grid.tsx'));

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const query = tableQuery.parse(Object.fromEntries(new URL(args.request.url).searchParams));
  if (query.q) await countAsked('search', person, addressOf(args.context));
  return { query, someone: person !== undefined, ...(await tablePage(person, await visitorsBench(args), query)) };
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.table.title) }];

export default function Table({ loaderData }: Route.ComponentProps) {
  const { query, rows, total, numbers, someone } = loaderData;
  const t = words.table;
  const [params, setParams] = useSearchParams();
  const submit = useSubmit();
  const [alive, setAlive] = useState(false);
  useEffect(() => setAlive(true), []);
  const change = (next: Record<string, string>) =>
    setParams(
      (before) => {
        const after = new URLSearchParams(before);
        for (const [key, value] of Object.entries(next)) after.set(key, value);
        return after;
      },
      { preventScrollReset: true },
    );
  const plain = (
    <div className="table-wrap" tabIndex={0} role="region" aria-label={t.title}>
      <table className="plain">
        <thead>
          <tr>
            {columns.slice(0, 4).map((c) => (
              <th key={c.key} scope="col">
                {c.word}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr key={r.id}>
              {columns.slice(0, 4).map((c) => (
                <td key={c.key}>
                  {c.key === 'name' ? <Link to={`/vinyls/${r.id}`}>{r.cells.name}</Link> : r.cells[c.key]}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
  return (
    <>
      <div className="head">
        <div>
          <h1>{t.title}</h1>
          <p className="quiet" role="status">
            {t.rows(total)} · {t.lede}
          </p>
        </div>
      </div>
      <Form
        method="get"
        className="filters"
        key={`${query.q} ${query.mine} ${query.type}`}
        onChange={(e) => {
          if ((e.target as unknown as HTMLElement).tagName === 'SELECT')
            void submit(e.currentTarget, { replace: true });
        }}
      >
        <Field name="q" label={t.find} answer={undefined} initial={query.q} type="search" />
        {someone && (
          <Field
            name="mine"
            label={t.whose}
            answer={undefined}
            initial={query.mine ? 'yes' : 'no'}
            select
            slotProps={{ select: { native: true } }}
          >
            <option value="yes">{t.mine}</option>
            <option value="no">{t.everything}</option>
          </Field>
        )}
        <Field
          name="type"
          label={t.type}
          answer={undefined}
          initial={query.type ?? ''}
          select
          slotProps={{ select: { native: true } }}
        >
          <option value="">{t.anyType}</option>
          {vinylTypeKeys.map((k) => (
            <option key={k} value={k}>
              {vinylTypes[k].word}
            </option>
          ))}
        </Field>
        <Button type="submit">{words.shelf.go}</Button>
      </Form>
      {alive ? (
        <Suspense fallback={<p className="quiet">{t.loading}</p>}>
          <Grid rows={rows} numbers={numbers} total={total} query={query} onChange={change} />
        </Suspense>
      ) : (
        plain
      )}
      <p className="above-20">
        {t.out}{' '}
        <a href={`/vinyls/table/vinyls.csv?${params}`} download>
          CSV
        </a>
        {' · '}
        <a href={`/vinyls/table/vinyls.json?${params}`} download>
          JSON
        </a>
      </p>
      <Ways label={t.title} ways={[['/vinyls/import', t.bring]]} />
    </>
  );
}
