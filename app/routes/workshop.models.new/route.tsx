import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Person } from '#work/people/person.ts';
import { cutterModels, publishModel } from '#work/workshop/models.ts';
import { modelFromForm } from '#work/workshop/modelForm.ts';
import { words } from '../../messages/index.ts';
import { actions, enter } from '../../server/enter.server.ts';
import { Field, FormNotice } from '../../ui/base/Field.tsx';
import type { Route } from './+types/route';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { Section } from '../../ui/base/Section.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  return { models: (await cutterModels(person)).map((m) => ({ key: m.key, name: m.name, version: m.version })) };
}

export function action(args: Route.ActionArgs) {
  const publish = async (person: Person, text: string) =>
    `/workshop/cutters/new?model=${await publishModel(person, text)}`;
  return actions(access, args, {
    json: ({ person, form }) => publish(person, String(form.get('json') ?? '')),
    form: ({ person, form }) => publish(person, JSON.stringify(modelFromForm(form))),
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.models.title) }];

const roles = ['strength', 'speed', 'depth', 'passes'] as const;
const kinds = ['number', 'dial', 'list'] as const;
const MOST = 6;

export default function NewModel({ loaderData: { models }, actionData }: Route.ComponentProps) {
  const t = words.models;
  const json = actionData?.values.what === 'json';
  const answer = json ? undefined : actionData;
  const [count, setCount] = useState(Math.min(6, Math.max(1, Math.trunc(Number(answer?.values.axes ?? 1)) || 1)));
  return (
    <>
      <h1>{t.title}</h1>
      <p className="lede above-8">{t.lede}</p>
      <WriteForm what="form" className="form wide-form" noValidate>
        <FormNotice answer={answer} text={words.errors.form} />
        {answer?.fields.model && <p className="error-text">{answer.fields.model}</p>}
        <input type="hidden" name="axes" value={count} />
        <div className="pair">
          <Field name="name" label={t.name} answer={answer} autoComplete="off" />
          <Field name="about" label={t.about} answer={answer} autoComplete="off" />
        </div>
        {Array.from({ length: count }, (_, i) => (
          <AxisFields key={i} i={i} answer={answer} />
        ))}
        <div className="actions above-0">
          {count < MOST && <Button onClick={() => setCount(count + 1)}>{t.add}</Button>}
          {count > 1 && <Button onClick={() => setCount(count - 1)}>{t.remove}</Button>}
        </div>
        <div>
          <Button type="submit" variant="contained">
            {t.save}
          </Button>
          <p className="legend">{t.saveWhy}</p>
        </div>
      </WriteForm>
      <details className="above-32" open={json}>
        <summary>{t.json}</summary>
        <WriteForm what="json" className="form" noValidate style={{ maxWidth: 760 }}>
          {json && <FormNotice answer={actionData} text={words.errors.form} />}
          {json && actionData?.fields.model && <p className="error-text">{actionData.fields.model}</p>}
          <Field name="json" label={t.text} answer={json ? actionData : undefined} multiline minRows={8} />
          <div>
            <Button type="submit">{t.bring}</Button>
          </div>
        </WriteForm>
      </details>
      <Section className="above-32" id="out" title={t.out}>
        <ul className="plain-list">
          {models.map((m) => (
            <li key={m.key}>
              <Link to={`/workshop/models/${m.key}.json`} reloadDocument>
                {m.name}, {m.version}
              </Link>
            </li>
          ))}
        </ul>
      </Section>
    </>
  );
}

type Answer = Parameters<typeof Field>[0]['answer'];

function AxisFields({ i, answer }: { i: number; answer: Answer }) {
  const t = words.models;
  const name = (key: string) => `axis-${i}-${key}`;
  const [kind, setKind] = useState(answer?.values[name('kind')] ?? 'number');
  return (
    <fieldset className="axis">
      <legend className="section-word">{t.axis(i + 1)}</legend>
      <div className="triple">
        <Field name={name('word')} label={t.word} answer={answer} autoComplete="off" />
        <Field
          name={name('role')}
          label={t.role}
          answer={answer}
          initial={i === 0 ? 'strength' : i === 1 ? 'speed' : 'passes'}
          select
          slotProps={{ select: { native: true } }}
        >
          {roles.map((r) => (
            <option key={r} value={r}>
              {t.roles[r]}
            </option>
          ))}
        </Field>
        <Field
          name={name('kind')}
          label={t.kind}
          answer={answer}
          initial="number"
          select
          slotProps={{ select: { native: true } }}
          onChange={(e) => setKind(e.target.value)}
        >
          {kinds.map((k) => (
            <option key={k} value={k}>
              {t.kinds[k]}
            </option>
          ))}
        </Field>
        {kind === 'number' && (
          <>
            <Field name={name('min')} label={t.min} answer={answer} autoComplete="off" />
            <Field name={name('max')} label={t.max} answer={answer} autoComplete="off" />
            <Field name={name('step')} label={t.step} answer={answer} initial="1" autoComplete="off" />
            <label className="choice">
              <input
                type="checkbox"
                name={name('log')}
                value="yes"
                defaultChecked={answer?.values[name('log')] === 'yes'}
              />
              <span>{t.log}</span>
            </label>
          </>
        )}
        {kind === 'dial' && (
          <>
            <Field name={name('stops')} label={t.stops} answer={answer} autoComplete="off" />
            <label className="choice">
              <input
                type="checkbox"
                name={name('halves')}
                value="yes"
                defaultChecked={answer?.values[name('halves')] === 'yes'}
              />
              <span>{t.halves}</span>
            </label>
          </>
        )}
        {kind === 'list' && (
          <>
            <Field name={name('entries')} label={t.entries} answer={answer} autoComplete="off" />
            <Field name={name('modifier')} label={t.modifier} answer={answer} autoComplete="off" />
          </>
        )}
        <Field name={name('start')} label={t.start} answer={answer} autoComplete="off" />
      </div>
    </fieldset>
  );
}
