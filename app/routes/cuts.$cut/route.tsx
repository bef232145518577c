import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { cardOfCut, sayWhatWasSeen } from '#work/shelf/adopt.ts';
import { addNote, notesOf } from '#work/jobs/beside.ts';
import { addMarks, cutOf } from '#work/cuts/cuts.ts';
import { setAway } from '#work/answer/editable.ts';
import { afterCut } from '#work/answer/afterCut.ts';
import { keepSetting } from '#work/shelf/evidence.ts';
import { WhatNext } from './WhatNext.tsx';
import { putBack, stockOfVinyl, takeForCut, takeOfCut } from '#work/vinyls/stock.ts';
import { words } from '../../messages/index.ts';
import { actions, enter } from '../../server/enter.server.ts';
import { Field, FormNotice } from '../../ui/base/Field.tsx';
import { bothLengths, isolate } from '../../ui/base/format.ts';
import { PutRightLink } from '../../ui/base/PutRightLink.tsx';
import { HowDidItGo } from '../../ui/cuts/HowDidItGo.tsx';
import { GoButton } from '../../ui/base/Link.tsx';
import { Refused, Sending } from '../../ui/cuts/Sending.tsx';
import { Swatch } from '../../ui/vinyls/Swatch.tsx';
import { useLengthUnit, useNumberStyle } from '../../ui/people/usePerson.ts';
import { vinylHex, vinylTitle } from '../../ui/vinyls/vinylName.ts';
import { OwnNotes } from '../../ui/vinyls/OwnNotes.tsx';
import { WitnessGrades } from '../../ui/coupons/WitnessGrades.tsx';
import type { Route } from './+types/route';
import { WriteForm } from '../../ui/base/WriteForm.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const cut = await cutOf(person, args.params.cut);
  const [stock, take] = await Promise.all([stockOfVinyl(person, cut.vinyl.id), takeOfCut(cut.id)]);
  return {
    cut,
    stock,
    take,
    after: await afterCut(person!, cut),
    card: await cardOfCut(person, cut.id),
    notes: await notesOf(person, cut.vinyl.id),
    told: new URL(args.request.url).searchParams.has('told'),
  };
}

/** "It was not cut after all", or what was seen, told to the author of the card. */
export function action(args: Route.ActionArgs) {
  const { cut } = args.params;
  return actions(access, args, {
    tell: async ({ person, form, address }) => {
      await sayWhatWasSeen(person, cut, form, address);
      return `/cuts/${cut}?told`;
    },
    note: async ({ person, form }) => {
      await addNote(person, (await cutOf(person, cut)).vinyl.id, 'cut', form);
      return `/cuts/${cut}`;
    },
    mark: async ({ person }) => {
      await addMarks(person, cut);
      return `/cuts/${cut}`;
    },
    keep: async ({ person, form }) => {
      await keepSetting(person, form);
      return `/cuts/${cut}`;
    },
    take: async ({ person, form }) => {
      await cutOf(person, cut);
      await takeForCut(person, cut, form);
      return `/cuts/${cut}`;
    },
    'put back': async ({ person, form }) => {
      await putBack(person, String(form.get('take')));
      return `/cuts/${cut}`;
    },
    drop: async ({ person }) => {
      await setAway(person, 'cut', cut, true);
      return '/';
    },
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.cut.title) }];

/** The second of two taps: how did the cut go? */
export default function CutPage({
  loaderData: { cut, after, card, told, stock, take, notes },
  actionData,
}: Route.ComponentProps) {
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const taking = actionData?.values.what === 'take' ? actionData : undefined;
  return (
    <>
      <div className="head">
        <Swatch type={cut.vinyl.type} hex={vinylHex(cut.vinyl)} size={64} standing="tried" />
        <div>
          <h1>{vinylTitle(cut.vinyl)}</h1>
          <p className="quiet">
            {words.cut.noted} · <Sending /> · <PutRightLink kind="cut" id={cut.id} />
          </p>
        </div>
      </div>
      <Refused />
      {cut.leftOut && <p className="notice">{words.putRight.is.cut}</p>}
      <div style={{ maxWidth: 640 }}>
        <HowDidItGo cut={cut} title={words.cut.ask} alone />
        <WhatNext cut={cut} after={after} />
        {cut.marks.length > 0 ? (
          <WitnessGrades cut={cut} />
        ) : (
          <WriteForm what="mark" className="line-up ask-mark">
            <span>{words.cut.markCut}</span>
            <Button type="submit" variant="text">
              {words.cut.markYes}
            </Button>
          </WriteForm>
        )}
        <OwnNotes notes={notes} answer={actionData} />
        <p className="quiet above-16">{words.cut.later}</p>
        {card && (
          <WriteForm what="tell" className="form above-32" noValidate key={String(told)}>
            <p>
              {words.cut.card(isolate(card.author))}{' '}
              {card.address && <Link to={`/cards/${card.address}`}>{words.cut.toCard}</Link>}
            </p>
            {told && (
              <p className="notice" role="status" data-testid="told">
                {words.cut.told(isolate(card.author))}
              </p>
            )}
            {actionData && !taking && <FormNotice answer={actionData} text={words.errors.form} />}
            <Field name="said" label={words.cut.say} answer={actionData} initial={card.said} multiline minRows={3} />
            <div>
              <Button type="submit">{words.cut.tell(isolate(card.author))}</Button>
            </div>
          </WriteForm>
        )}
        {take && (
          <WriteForm what="put back" className="line-up above-24">
            <span>{words.stock.takenFor(bothLengths(take.lengthUm, unit, style)[0], take.code)}</span>
            <input type="hidden" name="take" value={take.id} />
            <Button type="submit" variant="text">
              {words.stock.takenBack}
            </Button>
          </WriteForm>
        )}
        {!take && stock.length > 0 && (
          <details className="above-24" open={!!taking}>
            <summary>{words.stock.take}</summary>
            <WriteForm what="take" className="form above-8" noValidate>
              <div className="pair">
                <Field
                  name="piece"
                  label={words.stock.cutFrom}
                  answer={taking}
                  initial={stock[0]!.id}
                  select
                  slotProps={{ select: { native: true } }}
                >
                  {stock.map((p) => (
                    <option key={p.id} value={p.id}>
                      {`${words.stock.kinds[p.kind]} ${p.code}, ${bothLengths(p.leftUm, unit, style)[0]}`}
                    </option>
                  ))}
                </Field>
                <Field name="take" label={words.stock.takeLength(unit)} answer={taking} autoComplete="off" />
              </div>
              <div>
                <Button type="submit">{words.stock.takeGo}</Button>
              </div>
            </WriteForm>
          </details>
        )}
        <div className="actions">
          <GoButton to="/">{words.cut.back}</GoButton>
        </div>
      </div>
    </>
  );
}
