import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { formatSetting } from '#core/controls/index.ts';
import { ownCard, publishCard } from '#work/shelf/publish.ts';
import { NotFound } from '#work/base/errors.ts';
import { settingOf } from '#work/coupons/readings.ts';
import { vinylOf } from '#work/vinyls/vinyls.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { words } from '../../messages/index.ts';
import { actions, visitorsBench, enter } from '../../server/enter.server.ts';
import { Choices } from '../../ui/base/Choices.tsx';
import { Field, FormNotice } from '../../ui/base/Field.tsx';
import { GoButton } from '../../ui/base/Link.tsx';
import { Swatch } from '../../ui/vinyls/Swatch.tsx';
import { vinylHex, vinylTitle } from '../../ui/vinyls/vinylName.ts';
import type { Route } from './+types/route';
import { WriteForm } from '../../ui/base/WriteForm.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const query = new URL(args.request.url).searchParams;
  const wanted = query.get('wanted') === 'through' ? ('through' as const) : ('clean' as const);
  const vinyl = await vinylOf(person, query.get('vinyl') ?? '');
  const bench = await visitorsBench(args);
  const kept = person && bench ? await settingOf(person.id, vinyl.id, bench.cutter, wanted) : undefined;
  return {
    vinyl,
    wanted,
    guest: !person?.email,
    bench: bench?.cutter,
    kept: kept && { controls: kept.controls },
    before: person && bench ? await ownCard(person, vinyl.id, bench.cutter.model, wanted) : undefined,
  };
}

export function action(args: Route.ActionArgs) {
  return actions(access, args, {
    publish: async ({ person, form, address }) => {
      const bench = await benchOf(person);
      if (!bench) throw new NotFound('There is no cutter on the bench.');
      return `/cards/${await publishCard(person, bench, form, address)}`;
    },
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.publish.title) }];

/** Puts a kept number on the shelf: for whom, under which licence, and what was special about it. */
export default function Publish({ loaderData, actionData }: Route.ComponentProps) {
  const { vinyl, wanted, guest, bench, kept, before } = loaderData;
  const t = words.publish;
  const back = `/vinyls/${vinyl.id}?wanted=${wanted}`;
  const head = (
    <div className="head">
      <Swatch type={vinyl.type} hex={vinylHex(vinyl)} size={64} standing={kept ? 'tried' : 'draft'} />
      <div>
        <h1>{before ? t.again(before.number + 1) : t.title}</h1>
        <p className="quiet">
          <Link to={back}>{vinylTitle(vinyl)}</Link>
          {bench &&
            kept &&
            ` · ${formatSetting(bench.model, kept.controls)
              .map((p) => `${p.word} ${p.value}`)
              .join(', ')}`}
        </p>
      </div>
    </div>
  );
  if (!kept || guest)
    return (
      <>
        {head}
        <p className="lede">{guest ? t.needAccount : t.needNumber}</p>
        <div className="actions">
          <GoButton to={guest ? '/account' : back} variant="contained">
            {guest ? words.account.save : t.toVinyl}
          </GoButton>
        </div>
      </>
    );
  return (
    <>
      {head}
      <WriteForm what="publish" className="form" noValidate>
        <FormNotice answer={actionData} text={words.errors.form} />
        <input type="hidden" name="vinyl" value={vinyl.id} />
        <input type="hidden" name="wanted" value={wanted} />
        <p>{t.holds}</p>
        <Choices
          name="visibility"
          legend={t.who}
          answer={actionData}
          initial={before?.visibility ?? 'public'}
          options={(['public', 'link', 'private'] as const).map((v) => [v, words.visibility[v], t.visibility[v]])}
        />
        <Choices
          name="licence"
          legend={t.licence}
          answer={actionData}
          initial={before?.licence ?? 'cc-by'}
          options={(['cc-by', 'cc-by-sa', 'cc0', 'read'] as const).map((l) => [
            l,
            words.licences[l].name,
            words.licences[l].says,
          ])}
        />
        {before && (
          <Field name="change" label={t.change} answer={actionData} help={t.changeHelp} multiline minRows={2} />
        )}
        <Field
          name="conditions"
          label={t.conditions}
          answer={actionData}
          initial={before?.conditions ?? ''}
          help={t.conditionsHelp}
          multiline
          minRows={2}
        />
        <div>
          <Button type="submit" variant="contained">
            {before ? t.saveAgain(before.number + 1) : t.save}
          </Button>
        </div>
      </WriteForm>
    </>
  );
}
