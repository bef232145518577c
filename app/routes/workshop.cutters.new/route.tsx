import Button from '@mui/material/Button';
import { useState } from 'react';
import { Form } from 'react-router';
import { describeLimits } from '#core/controls/index.ts';
import { addCutter, cutterModels } from '#work/workshop.ts';
import { words } from '../../messages/index.ts';
import { enter, enterToWrite, writeForm } from '../../server/enter.server.ts';
import { Field, FormNotice } from '../../ui/Field.tsx';
import type { Route } from './+types/route';

export async function loader(args: Route.LoaderArgs) {
  await enter('routes/workshop.cutters.new/route', args);
  return { models: await cutterModels() };
}

export async function action(args: Route.ActionArgs) {
  const { person, headers } = await enterToWrite('routes/workshop.cutters.new/route', args);
  const form = await args.request.formData();
  return writeForm(form, headers, async () => {
    await addCutter(person, form);
    return '/';
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.newCutter.title) }];

export default function NewCutter({ loaderData: { models }, actionData }: Route.ComponentProps) {
  const t = words.newCutter;
  const [model, setModel] = useState(actionData?.values.model ?? models[0]?.key);
  const chosen = models.find((m) => m.key === model);
  return (
    <>
      <h1>{t.title}</h1>
      <p className="lede" style={{ marginTop: 8 }}>
        {t.lede}
      </p>
      <Form method="post" className="form" noValidate>
        <FormNotice answer={actionData} text={words.errors.form} />
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
        </div>
        <div>
          <Button type="submit" variant="contained">
            {t.save}
          </Button>
        </div>
      </Form>
    </>
  );
}
