import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { formatPosition, sayStrength, strengthAxis } from '#core/controls/index.ts';
import { addScaleReading, dropScaleReading, scaleOf } from '#work/workshop/scale.ts';
import { words } from '../../messages/index.ts';
import { actions, enter } from '../../server/enter.server.ts';
import { ControlField } from '../../ui/workshop/ControlFields.tsx';
import { Field, FormNotice } from '../../ui/base/Field.tsx';
import { isolate } from '../../ui/base/format.ts';
import { ScaleChart } from '../../ui/workshop/ScaleChart.tsx';
import type { Route } from './+types/route';
import { WriteForm } from '../../ui/base/WriteForm.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  return scaleOf(person, args.params.cutter);
}

export function action(args: Route.ActionArgs) {
  const { cutter } = args.params;
  return actions(access, args, {
    drop: async ({ person, form }) => {
      await dropScaleReading(person, cutter, String(form.get('reading')));
      return `/workshop/cutters/${cutter}/scale`;
    },
    weigh: async ({ person, form }) => {
      await addScaleReading(person, cutter, form);
      return `/workshop/cutters/${cutter}/scale`;
    },
  });
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: words.title(loaderData ? words.scale.title(loaderData.cutter.name) : '') },
];

const percent = (share: number) => `${share > 0 ? '+' : share < 0 ? '−' : ''}${Math.abs(share * 100).toFixed(1)} %`;

export default function Scale({ loaderData: { cutter, readings, fit, why }, actionData }: Route.ComponentProps) {
  const t = words.scale;
  const axis = strengthAxis(cutter.model);
  return (
    <>
      <h1>{t.title(isolate(cutter.name))}</h1>
      <p className="lede" style={{ margin: '8px 0 20px', maxWidth: '60ch' }}>
        {t.lede}
      </p>
      <FormNotice answer={actionData} text={words.errors.form} />
      <WriteForm what="weigh" className="filters" noValidate key={readings.map((r) => `${r.id}${r.grams}`).join()}>
        <ControlField axis={axis} answer={actionData} initial={undefined} />
        <Field name="grams" label={t.grams} answer={actionData} inputMode="decimal" autoComplete="off" />
        <Button type="submit" variant="contained">
          {t.add}
        </Button>
      </WriteForm>
      {why && <p className="notice">{why}</p>}
      {fit && (
        <>
          <ScaleChart axis={axis} fit={fit} />
          <p>
            {t.spread(`${(fit.spread * 100).toFixed(1)} %`)} {t.straight}
          </p>
        </>
      )}
      {readings.length > 0 && (
        <div className="table-wrap above-24" tabIndex={0} role="region" aria-label={t.residuals}>
          <table className="plain">
            <thead>
              <tr>
                {t.columns.map((c, i) => (
                  <th key={i} scope="col">
                    {c}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {readings.map((r) => {
                const fitted = fit?.readings.find((f) => f.position === r.position);
                return (
                  <tr key={r.id}>
                    <td>{sayStrength(axis, r.position)}</td>
                    <td>{r.grams} g</td>
                    <td>{fitted ? `${Math.round(fitted.fitted)} g` : '–'}</td>
                    <td>
                      {fitted ? percent(fitted.residual) : '–'}{' '}
                      {fitted?.wild && <strong data-testid="wild">{t.wild}</strong>}
                    </td>
                    <td>
                      <WriteForm what="drop">
                        <input type="hidden" name="reading" value={r.id} />
                        <button
                          type="submit"
                          className="as-link"
                          aria-label={`${t.drop}: ${formatPosition(axis, r.position)}`}
                        >
                          {t.drop}
                        </button>
                      </WriteForm>
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
      )}
      <p className="quiet above-20">
        {t.dead} <Link to="/workshop">{words.workshop.title}</Link>
      </p>
    </>
  );
}
