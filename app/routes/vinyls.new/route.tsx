import Button from '@mui/material/Button';
import { useState } from 'react';
import { Form } from 'react-router';
import { vinylTypeKeys, vinylTypes, type VinylTypeKey } from '#core/vinyls/index.ts';
import { addVinyl } from '#work/vinyls.ts';
import { benchOf } from '#work/workshop.ts';
import { words } from '../../messages/index.ts';
import { enter, enterToWrite, writeForm } from '../../server/enter.server.ts';
import { Field, FormNotice } from '../../ui/Field.tsx';
import { Swatch } from '../../ui/Swatch.tsx';
import type { Route } from './+types/route';

export async function loader(args: Route.LoaderArgs) {
  const person = await enter('routes/vinyls.new/route', args);
  return { hasBench: !!(await benchOf(person)) };
}

export async function action(args: Route.ActionArgs) {
  const { person, headers } = await enterToWrite('routes/vinyls.new/route', args);
  const form = await args.request.formData();
  return writeForm(form, headers, async () => {
    const id = await addVinyl(person, form);
    return (await benchOf(person)) ? `/coupons/new?vinyl=${id}` : `/vinyls/${id}`;
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.newVinyl.title) }];

export default function NewVinyl({ loaderData, actionData }: Route.ComponentProps) {
  const t = words.newVinyl;
  const [hex, setHex] = useState(actionData?.values.hex ?? '#b0203a');
  const [type, setType] = useState(actionData?.values.type ?? '');
  return (
    <>
      <h1>{t.title}</h1>
      <p className="lede" style={{ marginTop: 8 }}>
        {t.lede}
      </p>
      <Form method="post" className="form" style={{ maxWidth: 860 }} noValidate>
        <FormNotice answer={actionData} text={words.errors.form} />
        <div className="pair">
          <Field
            name="name"
            label={t.name}
            answer={actionData}
            required
            autoFocus
            autoComplete="off"
            slotProps={{ inputLabel: { required: false } }}
          />
          <Field name="brand" label={t.brand} answer={actionData} help={t.brandHelp} autoComplete="off" />
        </div>
        <fieldset aria-describedby={actionData?.fields.type ? 'type-problem' : undefined}>
          <legend>{t.type}</legend>
          <div className="types">
            {vinylTypeKeys.map((key) => (
              <label className="choice" key={key}>
                <input type="radio" name="type" value={key} checked={type === key} onChange={() => setType(key)} />
                <Swatch type={key} hex={hex} seed={key} size={40} />
                <span>{vinylTypes[key].word}</span>
              </label>
            ))}
          </div>
          {actionData?.fields.type && (
            <p className="error-text" id="type-problem">
              {actionData.fields.type}
            </p>
          )}
        </fieldset>
        <div className="pair">
          <Field name="colour" label={t.colour} answer={actionData} autoComplete="off" />
          <div>
            <label htmlFor="hex" style={{ fontWeight: 600, display: 'block', marginBottom: 8 }}>
              {t.swatch}
            </label>
            <div style={{ display: 'flex', gap: 16, alignItems: 'center' }}>
              <input
                id="hex"
                name="hex"
                type="color"
                value={hex}
                onChange={(e) => setHex(e.target.value)}
                style={{
                  width: 88,
                  height: 56,
                  padding: 4,
                  border: '1px solid var(--edge)',
                  borderRadius: 6,
                  background: 'var(--sheet)',
                }}
              />
              {type in vinylTypes && <Swatch type={type as VinylTypeKey} hex={hex} seed={type} />}
            </div>
          </div>
        </div>
        <div>
          <Button type="submit" variant="contained">
            {loaderData.hasBench ? t.save : t.saveNoBench}
          </Button>
        </div>
      </Form>
    </>
  );
}
