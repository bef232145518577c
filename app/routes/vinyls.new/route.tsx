import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { useRef, useState, type FormEvent } from 'react';
import { hexKnown } from '#core/catalogue/index.ts';
import { Link } from 'react-router';
import { vinylTypes, type VinylTypeKey } from '#core/vinyls/index.ts';
import { ownTypesOf } from '#work/vinyls/types.ts';
import { chooseVinyl } from '#work/jobs/jobs.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { words } from '../../messages/index.ts';
import { actions, visitorsBench, enter } from '../../server/enter.server.ts';
import { Field, FormNotice } from '../../ui/base/Field.tsx';
import { Swatch } from '../../ui/vinyls/Swatch.tsx';
import { useAsk } from '../../ui/base/useAsk.ts';
import { vinylHex, vinylTitle } from '../../ui/vinyls/vinylName.ts';
import type { loader as alikeLoader } from '../vinyls.alike/route.ts';
import type { Route } from './+types/route';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { TypeChoice } from './TypeChoice.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const query = new URL(args.request.url).searchParams;
  const said = (key: string) => (query.get(key) ?? '').slice(0, 80);
  return {
    // Named from within a job, for one of its layers: it is chosen there at once.
    job: said('job'),
    layer: said('layer'),
    name: said('name'),
    hex: /^#[0-9a-f]{6}$/.test(said('hex')) ? said('hex') : '#b0203a',
    hasBench: !!(await visitorsBench(args)),
    own: (await ownTypesOf(person)).filter((o) => !o.away).map(({ id, word, parent }) => ({ id, word, parent })),
    asked: said('type'),
  };
}

export function action(args: Route.ActionArgs) {
  return actions(access, args, {
    add: async ({ person, form }) => {
      const id = await addVinyl(person, form);
      const job = String(form.get('job') ?? '');
      if (job !== '') {
        const chosen = new FormData();
        chosen.set('layer', String(form.get('layer')));
        chosen.set('vinyl', id);
        await chooseVinyl(person, job, chosen);
        return `/jobs/${job}/vinyls?named=${id}`;
      }
      return (await benchOf(person)) ? `/coupons/new?vinyl=${id}` : `/vinyls/${id}`;
    },
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.newVinyl.title) }];

export default function NewVinyl({ loaderData, actionData }: Route.ComponentProps) {
  const t = words.newVinyl;
  const [hex, setHex] = useState(actionData?.values.hex ?? loaderData.hex);
  const [type, setType] = useState(actionData?.values.type ?? loaderData.asked);
  const [named, setNamed] = useState('');
  const picked = useRef(false);
  // So that one vinyl is not named twice.
  const alike = useAsk<Awaited<ReturnType<typeof alikeLoader>>>(
    named.length < 3 ? undefined : `/vinyls/alike?name=${encodeURIComponent(named)}`,
    300,
  );
  const ask = (event: FormEvent<HTMLFormElement>) => {
    const form = new FormData(event.currentTarget);
    // A colour that is called silver looks silver, until somebody picks another shade.
    const shade = picked.current ? undefined : hexKnown(String(form.get('colour')));
    if (shade) setHex(shade);
    setNamed([form.get('brand'), form.get('name')].join(' ').trim().slice(0, 200));
  };
  return (
    <>
      <h1>{t.title}</h1>
      <p className="lede above-8">{t.lede}</p>
      <WriteForm what="add" className="form" style={{ maxWidth: 860 }} noValidate onChange={ask}>
        <FormNotice answer={actionData} text={words.errors.form} />
        {loaderData.job && (
          <>
            <input type="hidden" name="job" value={loaderData.job} />
            <input type="hidden" name="layer" value={loaderData.layer} />
          </>
        )}
        <div className="pair">
          <Field
            name="name"
            label={t.name}
            answer={actionData}
            initial={loaderData.name}
            required
            autoFocus
            autoComplete="off"
            slotProps={{ inputLabel: { required: false } }}
          />
          <Field name="brand" label={t.brand} answer={actionData} help={t.brandHelp} autoComplete="off" />
        </div>
        {alike && alike.rows.length > 0 && (
          <div className="notice" role="status" data-testid="alike">
            <p>
              <strong>{t.alike}</strong> {t.alikeWhy}
            </p>
            <ul className="plain-list">
              {alike.rows.map((v) => (
                <li key={v.id}>
                  <Link to={`/vinyls/${v.id}`}>
                    <Swatch type={v.type} hex={vinylHex(v)} size={28} /> {vinylTitle(v)}
                  </Link>
                </li>
              ))}
            </ul>
          </div>
        )}
        <TypeChoice loaderData={loaderData} type={type} setType={setType} hex={hex} actionData={actionData} />
        <div className="pair">
          <Field name="colour" label={t.colour} answer={actionData} autoComplete="off" />
          <div>
            <label htmlFor="hex" style={{ fontWeight: 600, display: 'block', marginBottom: 8 }}>
              {t.swatch}
            </label>
            <div style={{ display: 'flex', gap: 16, alignItems: 'center' }}>
              <input
                id="hex"
                className="hex"
                name="hex"
                type="color"
                value={hex}
                onChange={(e) => {
                  picked.current = true;
                  setHex(e.target.value);
                  // The form would look at the name again.
                  e.stopPropagation();
                }}
              />
              {type in vinylTypes && <Swatch type={type as VinylTypeKey} hex={hex} />}
            </div>
          </div>
        </div>
        <div>
          <Button type="submit" variant="contained">
            {loaderData.job ? t.saveInJob : loaderData.hasBench ? t.save : t.saveNoBench}
          </Button>
        </div>
      </WriteForm>
    </>
  );
}
