import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { columns } from '#core/catalogue/index.ts';
import { doImport, importOf, mapColumns, mendRows, undoImport } from '#work/answer/imports.ts';
import { words } from '../../messages/index.ts';
import { actions, enter } from '../../server/enter.server.ts';
import { FormNotice } from '../../ui/base/Field.tsx';
import { isolate } from '../../ui/base/format.ts';
import { GoButton } from '../../ui/base/Link.tsx';
import type { Route } from './+types/route';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { Refused } from './Refused.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  return { seen: await importOf(person, args.params.import) };
}

export function action(args: Route.ActionArgs) {
  const id = args.params.import;
  return actions(access, args, {
    map: async ({ person, form }) => {
      await mapColumns(person, id, form);
      return `/vinyls/import/${id}`;
    },
    mend: async ({ person, form }) => {
      await mendRows(person, id, form);
      return `/vinyls/import/${id}`;
    },
    do: async ({ person }) => {
      await doImport(person, id);
      return `/vinyls/import/${id}`;
    },
    undo: async ({ person }) => {
      await undoImport(person, id);
      return `/vinyls/import/${id}`;
    },
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.import.title) }];

export default function SeenImport({ loaderData: { seen }, actionData }: Route.ComponentProps) {
  const t = words.import;
  const { report, counts } = seen;
  return (
    <>
      <h1>{t.title}</h1>
      <p className="quiet file-name">{isolate(seen.fileName)}</p>
      {!seen.cutter && seen.state === 'seen' && <p className="notice">{t.noBench}</p>}
      <FormNotice answer={actionData} text={words.errors.form} />
      {report && (
        <p className="notice" role="status" data-testid="report">
          {t.did(report.added, report.already, report.refused)} {t.didMore(report.numbers ?? 0, report.colours ?? 0)}{' '}
          {report.undone !== undefined && t.undone(report.undone, report.kept ?? 0)}
        </p>
      )}
      {report && seen.state !== 'undone' && (
        <div className="actions">
          <GoButton to="/vinyls/table?sort=made&down=yes" variant="contained">
            {words.table.title}
          </GoButton>
          <WriteForm what="undo">
            <Button type="submit">{t.undo}</Button>
          </WriteForm>
        </div>
      )}
      {seen.state === 'seen' && (
        <>
          <h2 className="section-word">{t.would}</h2>
          {seen.missing.length > 0 ? (
            <p>{t.missing(seen.missing.join(', '))}</p>
          ) : (
            <>
              <ul data-testid="would" className="would">
                <li>
                  <strong>{t.new(counts.new)}</strong>
                </li>
                {counts.numbers > 0 && (
                  <li data-testid="numbers">
                    <strong>{t.numbers(counts.numbers, isolate(seen.cutter?.name ?? ''))}</strong>
                  </li>
                )}
                {counts.colours > 0 && <li>{t.moreColours(counts.colours)}</li>}
                {seen.sample.length > 0 && <FirstRows rows={seen.sample} />}
                <li>{t.already(counts.already)}</li>
                <li>{t.refused(counts.refused)}</li>
              </ul>
              <div className="actions" style={{ margin: '20px 0 32px' }}>
                {counts.new + counts.more > 0 ? (
                  <WriteForm what="do">
                    <Button type="submit" variant="contained">
                      {t.do(counts.new, counts.more)}
                    </Button>
                  </WriteForm>
                ) : (
                  <p>{t.nothing}</p>
                )}
              </div>
            </>
          )}
          {seen.missing.length === 0 && seen.refused.length > 0 && (
            <Refused seen={seen} answer={actionData?.values.what === 'mend' ? actionData : undefined} />
          )}
          <details className="above-32" open={seen.missing.length > 0 || !!actionData}>
            <summary>{t.map}</summary>
            <p className="quiet">{t.mapLede(isolate(seen.fileName))}</p>
            <WriteForm what="map">
              <div className="table-wrap" tabIndex={0} role="region" aria-label={t.map}>
                <table className="plain">
                  <tbody>
                    {seen.headings.map((h, i) => (
                      <tr key={i}>
                        <th scope="row" id={`heading-${i}`}>
                          {isolate(h)}
                        </th>
                        <td className="quiet">{seen.samples[i] && `${t.example} ${isolate(seen.samples[i])}`}</td>
                        <td>
                          <select
                            name={`column-${i}`}
                            aria-labelledby={`heading-${i}`}
                            defaultValue={seen.mapping[i] ?? ''}
                            className="select"
                          >
                            <option value="">{t.leave}</option>
                            {columns.map((c) => (
                              <option key={c.key} value={c.key}>
                                {c.word}
                              </option>
                            ))}
                            {seen.cutter && (
                              <optgroup label={t.controls(seen.cutter.name)}>
                                {seen.cutter.columns.map((c) => (
                                  <option key={c.key} value={c.key}>
                                    {c.word}
                                  </option>
                                ))}
                              </optgroup>
                            )}
                          </select>
                        </td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              </div>
              <div className="actions">
                <Button type="submit">{t.again}</Button>
              </div>
            </WriteForm>
          </details>
        </>
      )}
    </>
  );
}

/** The first vinyls that would be added, each with its note: whether the columns were understood is seen at a glance. */
const FirstRows = ({ rows }: { rows: readonly { name: string; note?: string }[] }) => (
  <li className="quiet">
    {words.import.first}{' '}
    {rows.map((r) => (r.note ? `${isolate(r.name)} (${isolate(r.note)})` : isolate(r.name))).join(' · ')}
  </li>
);
