import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { Link } from 'react-router';
import { describeLimits } from '#core/controls/index.ts';
import { addCutter } from '#work/workshop/cutters.ts';
import { cutterModels } from '#work/workshop/models.ts';
import { words } from '../../messages/index.ts';
import { actions, enter } from '../../server/enter.server.ts';
import { Field, FormNotice } from '../../ui/base/Field.tsx';
import type { Route } from './+types/route';
import { WriteForm } from '../../ui/base/WriteForm.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

/** A page of this site that somebody came from; the bench for anything else. */
const pageHere = (said: unknown): string =>
  typeof said === 'string' && /^\/(vinyls|cards|coupons)(\/[\w.~-]+)*\/?(\?[\w=&%.~+-]*)?$/.test(said) ? said : '/';

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const query = new URL(args.request.url).searchParams;
  return {
    models: await cutterModels(person),
    asked: query.get('model') ?? undefined,
    back: pageHere(query.get('back')),
  };
}

export function action(args: Route.ActionArgs) {
  return actions(access, args, {
    add: async ({ person, form }) => {
      await addCutter(person, form);
      return pageHere(form.get('back'));
    },
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.newCutter.title) }];

export default function NewCutter({ loaderData: { models, asked, back }, actionData }: Route.ComponentProps) {
  const t = words.newCutter;
  const [model, setModel] = useState(
    actionData?.values.model ?? models.find((m) => m.key === asked)?.key ?? models[0]?.key,
  );
  const chosen = models.find((m) => m.key === model);
  return (
    <>
      <h1>{t.title}</h1>
      <p className="lede above-8">{t.lede}</p>
      <WriteForm what="add" className="form" noValidate>
        <FormNotice answer={actionData} text={words.errors.form} />
        <input type="hidden" name="back" value={back} />
        <fieldset>
          <legend>{t.model}</legend>
          <div className="choices">
            {models.map((m) => (
              <label className="choice" key={m.key}>
                <input
                  type="radio"
                  name="model"
                  value={m.key}
                  checked={model === m.key}
                  onChange={() => setModel(m.key)}
                />
                <span>
                  <strong>{m.name}</strong>
                  <br />
                  <span className="quiet">{m.axes.map((a) => `${a.word} ${describeLimits(a)}`).join(' · ')}</span>
                </span>
              </label>
            ))}
          </div>
          {actionData?.fields.model && <p className="error-text">{actionData.fields.model}</p>}
          <p className="above-12">
            <Link to="/workshop/models/new">{t.ownModel}</Link>
          </p>
        </fieldset>
        <Field
          key={`name-${model}`}
          name="name"
          label={t.name}
          answer={actionData}
          initial={chosen?.name ?? ''}
          autoComplete="off"
        />
        <Field name="blade" label={t.blade} answer={actionData} initial="first blade" autoComplete="off" />
        <div className="pair">
          <Field
            name="angle"
            label={t.angle}
            answer={actionData}
            initial="45"
            help={t.angleHelp}
            inputMode="numeric"
            autoComplete="off"
          />
          <Field
            name="used"
            label={t.used}
            answer={actionData}
            initial="0"
            help={t.usedHelp}
            inputMode="decimal"
            autoComplete="off"
          />
          <Field
            name="offset"
            label={t.offset}
            answer={actionData}
            initial="0.25"
            help={t.offsetHelp}
            inputMode="decimal"
            autoComplete="off"
          />
          <Field
            name="life"
            label={t.life}
            answer={actionData}
            help={t.lifeHelp}
            inputMode="decimal"
            autoComplete="off"
          />
        </div>
        <div>
          <Button type="submit" variant="contained">
            {t.save}
          </Button>
        </div>
      </WriteForm>
    </>
  );
}
