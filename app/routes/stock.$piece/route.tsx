import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { leaveOffcut, pieceOf, putBack, takeByHand, takesOf } from '#work/vinyls/stock.ts';
import { words } from '../../messages/index.ts';
import { actions, enter } from '../../server/enter.server.ts';
import { Field, FormNotice } from '../../ui/base/Field.tsx';
import { bothLengths, bothSizes, day, isolate } from '../../ui/base/format.ts';
import { GoButton } from '../../ui/base/Link.tsx';
import { PutRightLink } from '../../ui/base/PutRightLink.tsx';
import { PieceFacts } from '../../ui/vinyls/PieceFacts.tsx';
import { Swatch } from '../../ui/vinyls/Swatch.tsx';
import { useLengthUnit, useNumberStyle, useZone } from '../../ui/people/usePerson.ts';
import { vinylHex, vinylTitle } from '../../ui/vinyls/vinylName.ts';
import type { Route } from './+types/route';
import { WriteForm } from '../../ui/base/WriteForm.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const piece = await pieceOf(person, args.params.piece);
  return { piece, takes: await takesOf(person, piece.id) };
}

export function action(args: Route.ActionArgs) {
  const id = args.params.piece;
  return actions(access, args, {
    offcut: async ({ person, form }) => `/stock/${await leaveOffcut(person, id, form)}`,
    take: async ({ person, form }) => {
      await takeByHand(person, id, form);
      return `/stock/${id}`;
    },
    'put back': async ({ person, form }) => {
      await putBack(person, String(form.get('take')));
      return `/stock/${id}`;
    },
  });
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: words.title(loaderData ? vinylTitle(loaderData.piece.vinyl) : words.stock.title) },
];

export default function PiecePage({ loaderData: { piece, takes }, actionData }: Route.ComponentProps) {
  const t = words.stock;
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const zone = useZone();
  const asked = actionData?.values.what;
  return (
    <>
      <div className="head">
        <Swatch type={piece.vinyl.type} hex={vinylHex(piece.vinyl)} size={92} />
        <div>
          <h1>{vinylTitle(piece.vinyl)}</h1>
          <p className="quiet">
            {t.kinds[piece.kind]} · <strong>{piece.code}</strong>
            {piece.batch && ` · ${isolate(piece.batch)}`}
            {piece.from && ` · ${t.from(piece.from)}`}
            {piece.gone && ` · ${t.isGone}`} · <PutRightLink kind="piece" id={piece.id} />
          </p>
        </div>
        <Button
          className="push"
          component="a"
          href={`/stock/labels?piece=${piece.id}&paper=single`}
          target="_blank"
          variant="contained"
        >
          {t.label}
        </Button>
      </div>
      <p style={{ fontSize: '1.25rem', marginBottom: 24 }} data-testid="left">
        <PieceFacts piece={piece} />
      </p>
      {piece.note && <p>{isolate(piece.note)}</p>}
      {actionData?.fields.form && <FormNotice answer={actionData} text={words.errors.form} />}
      {takes.length > 0 && (
        <ul className="rows" style={{ marginBottom: 24 }}>
          {takes.map((s) => (
            <li key={s.id} className="row" style={{ gridTemplateColumns: 'minmax(0, 1fr) auto', minHeight: 64 }}>
              <span>
                {t.taken(
                  s.widthUm
                    ? bothSizes(s.widthUm, s.lengthUm, unit, style)[0]
                    : bothLengths(s.lengthUm, unit, style)[0],
                )}{' '}
                · {day(s.at, zone)}
              </span>
              <WriteForm what="put back">
                <input type="hidden" name="take" value={s.id} />
                <Button type="submit" variant="text">
                  {t.putBack}
                </Button>
              </WriteForm>
            </li>
          ))}
        </ul>
      )}
      <div className="cols even">
        <WriteForm what="take" className="form above-0" noValidate>
          <h2 className="section-word">{t.take}</h2>
          <Field
            name="take"
            label={t.takeLength(unit)}
            answer={asked === 'take' ? actionData : undefined}
            autoComplete="off"
          />
          <div>
            <Button type="submit">{t.takeGo}</Button>
          </div>
        </WriteForm>
        <WriteForm what="offcut" className="form above-0" noValidate>
          <h2 className="section-word">{t.offcut}</h2>
          <div className="pair">
            <Field
              name="width"
              id="offcut-width"
              label={t.width(unit)}
              answer={asked === 'offcut' ? actionData : undefined}
              autoComplete="off"
            />
            <Field
              name="length"
              id="offcut-length"
              label={t.length(unit)}
              answer={asked === 'offcut' ? actionData : undefined}
              autoComplete="off"
            />
          </div>
          <div>
            <Button type="submit">{t.offcutGo}</Button>
          </div>
        </WriteForm>
      </div>
      <div className="actions">
        <GoButton to={`/s/${piece.code}`}>{t.bench}</GoButton>
        <Link to="/stock">{t.title}</Link>
      </div>
    </>
  );
}
