import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { coloursOf } from '#work/vinyls/catalogue.ts';
import { addPiece, stockKinds, stockOf } from '#work/vinyls/stock.ts';
import { vinylOf } from '#work/vinyls/vinyls.ts';
import { words } from '../../messages/index.ts';
import { actions, enter } from '../../server/enter.server.ts';
import { Choices } from '../../ui/base/Choices.tsx';
import { Field, FormNotice } from '../../ui/base/Field.tsx';
import { isolate } from '../../ui/base/format.ts';
import { GoButton } from '../../ui/base/Link.tsx';
import { PieceFacts } from '../../ui/vinyls/PieceFacts.tsx';
import { Swatch } from '../../ui/vinyls/Swatch.tsx';
import { useLengthUnit } from '../../ui/people/usePerson.ts';
import { vinylHex, vinylTitle } from '../../ui/vinyls/vinylName.ts';
import type { Route } from './+types/route';
import { WriteForm } from '../../ui/base/WriteForm.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

/** What is left of everything; with a vinyl named, a form that puts more of it in. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const query = new URL(args.request.url).searchParams;
  const id = query.get('vinyl');
  const vinyl = id === null ? undefined : await vinylOf(person, id, query.get('colour') ?? undefined);
  return {
    vinyl: vinyl && { ...vinyl, colours: await coloursOf(vinyl.id) },
    pieces: (await stockOf(person)).filter((p) => !vinyl || p.vinyl.id === vinyl.id),
    kinds: stockKinds,
  };
}

export function action(args: Route.ActionArgs) {
  return actions(access, args, {
    add: async ({ person, form }) => `/stock/${await addPiece(person, String(form.get('vinyl')), form)}`,
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.stock.title) }];

export default function Stock({ loaderData: { vinyl, pieces, kinds }, actionData }: Route.ComponentProps) {
  const t = words.stock;
  const unit = useLengthUnit();
  return (
    <>
      <div className="head">
        {vinyl && <Swatch type={vinyl.type} hex={vinylHex(vinyl)} size={64} />}
        <div>
          <h1>{t.title}</h1>
          <p className="quiet">
            {vinyl ? <Link to={`/vinyls/${vinyl.id}`}>{vinylTitle({ ...vinyl, colour: undefined })}</Link> : t.lede}
          </p>
        </div>
      </div>
      {pieces.length === 0 && !vinyl && (
        <>
          <p className="lede">{t.empty}</p>
          <div className="actions">
            <GoButton to="/vinyls" variant="contained">
              {words.coupons.choose}
            </GoButton>
          </div>
        </>
      )}
      {pieces.length > 0 && (
        <form method="get" action="/stock/labels" target="_blank">
          <ul className="rows">
            {pieces.map((p) => (
              <li key={p.id} className="row row-stock">
                <label className="tick">
                  <input type="checkbox" name="piece" value={p.id} />
                  <span className="visually-hidden">
                    {t.label} {p.code}
                  </span>
                </label>
                <Swatch type={p.vinyl.type} hex={vinylHex(p.vinyl)} size={48} />
                <div>
                  <Link to={`/stock/${p.id}`} className="row-name">
                    {vinylTitle(p.vinyl)}
                  </Link>
                  <div className="quiet">
                    {t.kinds[p.kind]} · {p.code}
                    {p.batch && ` · ${isolate(p.batch)}`}
                    {p.from && ` · ${t.from(p.from)}`}
                  </div>
                </div>
                <div>
                  <PieceFacts piece={p} />
                </div>
              </li>
            ))}
          </ul>
          <details style={{ marginTop: 16 }}>
            <summary>{t.labels}</summary>
            <p className="quiet" style={{ marginBottom: 16 }}>
              {t.labelsLede}
            </p>
            <div className="pair" style={{ maxWidth: 560, marginBottom: 16 }}>
              <Field
                name="paper"
                label={t.sheet}
                answer={undefined}
                initial="a4"
                select
                slotProps={{ select: { native: true } }}
              >
                {Object.entries(t.papers).map(([key, name]) => (
                  <option key={key} value={key}>
                    {name}
                  </option>
                ))}
              </Field>
              <Field name="skip" label={t.skip} answer={undefined} initial="0" inputMode="numeric" />
            </div>
            <Button type="submit">{t.labels}</Button>
          </details>
        </form>
      )}
      {vinyl && (
        <WriteForm what="add" className="form" noValidate style={{ maxWidth: 720, marginTop: 40 }}>
          <h2 className="section-word">{t.add}</h2>
          <FormNotice answer={actionData} text={words.errors.form} />
          <input type="hidden" name="vinyl" value={vinyl.id} />
          <Choices
            name="kind"
            legend={t.kind}
            answer={actionData}
            initial="roll"
            options={kinds.map((k) => [k, t.kinds[k], ''] as const)}
          />
          <div className="pair">
            <Field
              name="colour"
              label={t.colour}
              answer={actionData}
              initial={vinyl.colour?.id ?? ''}
              select
              slotProps={{ select: { native: true } }}
            >
              {vinyl.colours.map((c) => (
                <option key={c.id} value={c.id}>
                  {c.name}
                </option>
              ))}
            </Field>
            <Field name="batch" label={t.batch} answer={actionData} autoComplete="off" />
            <Field
              name="width"
              label={t.width(unit)}
              answer={actionData}
              initial={unit === 'mm' ? '305' : '12'}
              autoComplete="off"
            />
            <Field name="length" label={t.length(unit)} answer={actionData} autoComplete="off" />
            <Field name="price" label={t.price} answer={actionData} inputMode="decimal" autoComplete="off" />
            <Field name="currency" label={t.currency} answer={actionData} autoComplete="off" />
            <Field
              name="pieces"
              label={t.pieces}
              answer={actionData}
              initial="1"
              inputMode="numeric"
              autoComplete="off"
            />
            <Field name="note" label={t.note} answer={actionData} autoComplete="off" />
          </div>
          <div>
            <Button type="submit" variant="contained">
              {t.add}
            </Button>
          </div>
        </WriteForm>
      )}
    </>
  );
}
