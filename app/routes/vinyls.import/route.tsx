import type { Access } from '#work/people/permissions.ts';
import { fileLimits } from '#core/catalogue/index.ts';
import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { columns } from '#core/catalogue/index.ts';
import { Invalid } from '#work/base/errors.ts';
import { importsOf, seeFile } from '#work/answer/imports.ts';
import { words } from '../../messages/index.ts';
import { actions, enter } from '../../server/enter.server.ts';
import { FormNotice } from '../../ui/base/Field.tsx';
import { FileField } from '../../ui/base/FileField.tsx';
import { day, isolate } from '../../ui/base/format.ts';
import { useZone } from '../../ui/people/usePerson.ts';
import type { Route } from './+types/route';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { Section } from '../../ui/base/Section.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  return { before: await importsOf(person) };
}

export function action(args: Route.ActionArgs) {
  return actions(access, args, {
    see: async ({ person, form }) => {
      const file = form.get('file');
      if (!(file instanceof File)) throw new Invalid({ file: 'Choose a file.' });
      const bytes = new Uint8Array(await file.arrayBuffer());
      return `/vinyls/import/${await seeFile(person, { name: file.name, bytes })}`;
    },
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.import.title) }];

export default function Import({ loaderData: { before }, actionData }: Route.ComponentProps) {
  const t = words.import;
  const zone = useZone();
  return (
    <>
      <h1>{t.title}</h1>
      <p className="lede above-8">{t.lede}</p>
      <WriteForm what="see" encType="multipart/form-data" className="form">
        <FormNotice answer={actionData} text={words.errors.form} />
        <FileField
          label={t.file}
          accept=".csv,.tsv,.txt,.json,text/csv,application/json"
          problem={actionData?.fields.file}
          most={{ bytes: fileLimits.bytes, says: t.tooLarge(fileLimits.bytes / 1e6) }}
        />
        <div>
          <Button type="submit" variant="contained">
            {t.see}
          </Button>
        </div>
      </WriteForm>
      {before.length > 0 && (
        <Section className="above-40" id="before" title={t.before}>
          <ul className="rows">
            {before.map((b) => (
              <li key={b.id}>
                <Link className="row" to={`/vinyls/import/${b.id}`} style={{ minHeight: 64 }}>
                  <div>
                    <div className="row-name">{isolate(b.fileName)}</div>
                    <div className="quiet">
                      {day(b.at, zone)} · {t.state[b.state]}
                      {b.report && ` · ${t.did(b.report.added, b.report.already, b.report.refused)}`}
                    </div>
                  </div>
                </Link>
              </li>
            ))}
          </ul>
        </Section>
      )}
      <details className="above-32">
        <summary>{t.known}</summary>
        <dl className="facts">
          {columns.map((c) => (
            <div key={c.key}>
              <dt>{c.key}</dt>
              <dd>
                {c.word} <span className="quiet">{c.about}</span>
              </dd>
            </div>
          ))}
        </dl>
      </details>
    </>
  );
}
