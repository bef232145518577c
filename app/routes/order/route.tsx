import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { mergeAsSteward, unmergeAsSteward } from '#work/shelf/mergedVinyls.ts';
import { orderOf, settleReport, judgeBatch } from '#work/shelf/social.ts';
import { words } from '../../messages/index.ts';
import { actions, enter } from '../../server/enter.server.ts';
import { Field, FormNotice } from '../../ui/base/Field.tsx';
import { day, isolate } from '../../ui/base/format.ts';
import { useZone } from '../../ui/people/usePerson.ts';
import type { Route } from './+types/route';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { Reports, ReportedBatches } from './Reports.tsx';
import { Section } from '../../ui/base/Section.tsx';

export const access = { read: 'look round', write: 'moderate' } as const satisfies Access;

/** What stewards did, for everybody; what was reported and two entries that are one vinyl, for stewards. */
export async function loader(args: Route.LoaderArgs) {
  return orderOf(await enter(access, args));
}

export function action(args: Route.ActionArgs) {
  return actions(access, args, {
    merge: async ({ person, form }) => {
      await mergeAsSteward(person, form);
      return '/order';
    },
    part: async ({ person, form }) => {
      await unmergeAsSteward(person, form);
      return '/order';
    },
    batch: async ({ person, form }) => {
      await judgeBatch(person, form);
      return '/order';
    },
    settle: async ({ person, form }) => {
      await settleReport(person, String(form.get('report')), form);
      return '/order';
    },
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.order.title) }];

export default function Order({ loaderData: { acts, reports, batches, steward }, actionData }: Route.ComponentProps) {
  const t = words.order;
  const zone = useZone();
  const merge = actionData?.values.what === 'merge' ? actionData : undefined;
  const part = actionData?.values.what === 'part' ? actionData : undefined;
  return (
    <>
      <h1>{t.title}</h1>
      <p className="lede above-8">{t.lede}</p>
      {actionData?.fields.form && <FormNotice answer={actionData} text={words.errors.form} />}
      {steward && (
        <>
          <Reports reports={reports} actionData={actionData} zone={zone} />
          {batches.length > 0 && <ReportedBatches batches={batches} actionData={actionData} zone={zone} />}
          <details className="above-32" open={merge !== undefined}>
            <summary>{t.merge}</summary>
            <WriteForm what="merge" className="form" noValidate>
              <Field name="alias" label={t.alias} answer={merge} />
              <Field name="into" label={t.into} answer={merge} />
              <Field id="merge-why" name="why" label={t.why} answer={merge} />
              <div>
                <Button type="submit">{t.mergeIt}</Button>
              </div>
            </WriteForm>
          </details>
          <details className="above-16" open={part !== undefined}>
            <summary>{t.part}</summary>
            <WriteForm what="part" className="form" noValidate>
              <Field id="part-alias" name="alias" label={t.partAlias} answer={part} />
              <Field id="part-why" name="why" label={t.why} answer={part} />
              <div>
                <Button type="submit">{t.partIt}</Button>
              </div>
            </WriteForm>
          </details>
        </>
      )}
      <Section className="above-32" id="acts" title={t.acts}>
        {acts.length === 0 && <p className="quiet">{t.noActs}</p>}
        <ul className="remarks">
          {acts.map((a) => (
            <li key={a.id}>
              <p>
                {isolate(a.who)} {t.act[a.act]}
                {a.vinyl && `: ${isolate(a.vinyl)}`}
                {a.other && ` → ${isolate(a.other)}`}
              </p>
              <p className="said">{a.why}</p>
              <div className="quiet small">{day(a.at, zone)}</div>
            </li>
          ))}
        </ul>
      </Section>
    </>
  );
}
