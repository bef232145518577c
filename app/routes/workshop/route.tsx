import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { useColorScheme } from '@mui/material/styles';
import { useState } from 'react';
import { Link, useRouteLoaderData } from 'react-router';
import { vinylTypes } from '#core/vinyls/index.ts';
import { ownTypesOf } from '#work/vinyls/types.ts';
import { addBlade, mountBlade } from '#work/workshop/blades.ts';
import { addMat, layMat, retireMat, washMat } from '#work/workshop/mats.ts';
import { addPress, retirePress } from '#work/workshop/presses.ts';
import { cutterModels, newerModel } from '#work/workshop/models.ts';
import { putOnBench, takeNewerModel } from '#work/workshop/cutters.ts';
import { workshopOf } from '#work/workshop/workshop.ts';
import { words } from '../../messages/index.ts';
import type { loader as rootLoader } from '../../root.tsx';
import { type Act, actions, benchHere, enter } from '../../server/enter.server.ts';
import { Field, FormNotice } from '../../ui/base/Field.tsx';
import { day, isolate, metres } from '../../ui/base/format.ts';
import { GoButton } from '../../ui/base/Link.tsx';
import { Mats, Presses } from '../../ui/workshop/MatsAndPresses.tsx';
import { useZone } from '../../ui/people/usePerson.ts';
import { Ways } from '../../ui/coupons/Ways.tsx';
import type { Route } from './+types/route';
import { WriteForm } from '../../ui/base/WriteForm.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const [{ cutters, blades, mats, presses }, bench, models, types] = await Promise.all([
    workshopOf(person),
    benchHere(args),
    cutterModels(person),
    ownTypesOf(person),
  ]);
  return {
    mats,
    presses,
    types: types.map((t) => isolate(t.word)),
    cutters: cutters.map((c) => ({ ...c, newer: newerModel(c.cutter.model, models)?.version })),
    spare: blades.filter((b) => b.cutter === undefined),
    left: Object.fromEntries(blades.map((b) => [b.id, b.left])),
    onBench: bench?.cutter.id,
  };
}

export function action(args: Route.ActionArgs) {
  const then = (work: (act: Act) => Promise<unknown>) => async (act: Act) => {
    await work(act);
    return '/workshop';
  };
  const of = (form: FormData, key: string) => String(form.get(key));
  return actions(access, args, {
    bench: then(({ person, form }) => putOnBench(person, of(form, 'cutter'))),
    newer: then(({ person, form }) => takeNewerModel(person, of(form, 'cutter'))),
    blade: then(({ person, form }) => addBlade(person, form)),
    mount: then(({ person, form }) => mountBlade(person, of(form, 'cutter'), of(form, 'blade'))),
    mat: then(({ person, form }) => addMat(person, form)),
    wash: then(({ person, form }) => washMat(person, of(form, 'mat'))),
    lay: then(({ person, form }) => layMat(person, of(form, 'mat'))),
    'mat gone': then(({ person, form }) => retireMat(person, of(form, 'mat'))),
    press: then(({ person, form }) => addPress(person, form)),
    'press gone': then(({ person, form }) => retirePress(person, of(form, 'press'))),
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.workshop.title) }];

export default function Workshop({ loaderData, actionData }: Route.ComponentProps) {
  const { cutters, spare, onBench, left, types } = loaderData;
  const zone = useZone();
  const bladeAnswer = actionData?.values.what === 'blade' ? actionData : undefined;
  const t = words.workshop;
  const root = useRouteLoaderData<typeof rootLoader>('root');
  const [changing, setChanging] = useState<string | undefined>(bladeAnswer?.values.cutter);
  return (
    <>
      <div className="head">
        <h1>{t.title}</h1>
        <GoButton className="push" to="/workshop/cutters/new" variant={cutters.length === 0 ? 'contained' : 'outlined'}>
          {t.add}
        </GoButton>
      </div>
      {cutters.length === 0 && <p className="lede">{t.empty}</p>}
      {actionData?.fields.form && <FormNotice answer={actionData} text={words.errors.form} />}
      {cutters.length > 0 && (
        <>
          <h2 className="section-word">{t.cutters}</h2>
          <ul className="rows">
            {cutters.map(({ cutter, blade, newer }) => (
              <li key={cutter.id} className="row" style={{ gridTemplateColumns: 'minmax(0, 1fr)' }}>
                <div style={{ display: 'flex', gap: '12px 32px', flexWrap: 'wrap', alignItems: 'center' }}>
                  <div style={{ flex: '1 1 240px', minWidth: 0 }}>
                    <div className="row-name">{cutter.name}</div>
                    <div className="quiet">{cutter.model.name}</div>
                    {newer !== undefined && (
                      <WriteForm what="newer">
                        <input type="hidden" name="cutter" value={cutter.id} />
                        <p className="small">{t.newer(newer)}</p>
                        <Button type="submit" variant="text">
                          {t.takeNewer}
                        </Button>
                      </WriteForm>
                    )}
                  </div>
                  <div style={{ flex: '1 1 220px', minWidth: 0 }}>
                    {blade ? (
                      <>
                        {blade.name}, {blade.angle}°
                        {blade.wear.state !== 'fresh' && (
                          <>
                            {' '}
                            <strong data-testid="blade-state">{t[blade.wear.state]}</strong>
                          </>
                        )}
                        <div className="quiet small">
                          {words.frame.age(metres(blade.cutUm), metres(blade.lifeUm))} ·{' '}
                          {t.since(day(blade.mountedAt, zone))}
                          <br />
                          {t.goesOn(
                            (left[blade.id] ?? [])
                              .map(([type, um]) => `${metres(um)} m ${vinylTypes[type].word}`)
                              .join(', '),
                          )}
                        </div>
                      </>
                    ) : (
                      words.frame.noBlade
                    )}
                  </div>
                  <div style={{ display: 'flex', gap: 12, flexWrap: 'wrap', alignItems: 'center' }}>
                    <Link to={`/workshop/cutters/${cutter.id}/scale`}>{t.scale}</Link>
                    <Link to={`/workshop/cutters/${cutter.id}/others`}>{t.others}</Link>
                    <Button
                      onClick={() => setChanging(changing === cutter.id ? undefined : cutter.id)}
                      aria-expanded={changing === cutter.id}
                    >
                      {t.newBlade}
                    </Button>
                    {onBench === cutter.id ? (
                      <strong>{t.onBench}</strong>
                    ) : (
                      <WriteForm what="bench">
                        <input type="hidden" name="cutter" value={cutter.id} />
                        <Button type="submit">{t.use}</Button>
                      </WriteForm>
                    )}
                  </div>
                </div>
                {changing === cutter.id && (
                  <div style={{ paddingBottom: 16 }}>
                    <WriteForm
                      what="blade"
                      className="form"
                      style={{ marginTop: 8 }}
                      noValidate
                      onSubmit={() => !bladeAnswer && setChanging(undefined)}
                    >
                      <input type="hidden" name="cutter" value={cutter.id} />
                      <Field name="name" label={t.bladeName} answer={bladeAnswer} />
                      <div className="pair">
                        <Field name="angle" label={words.newCutter.angle} answer={bladeAnswer} initial="45" />
                        <Field
                          name="offset"
                          label={words.newCutter.offset}
                          answer={bladeAnswer}
                          initial="0.25"
                          help={words.newCutter.offsetHelp}
                        />
                        <Field
                          name="life"
                          label={words.newCutter.life}
                          answer={bladeAnswer}
                          help={words.newCutter.lifeHelp}
                        />
                        <Field
                          name="used"
                          label={words.newCutter.used}
                          answer={bladeAnswer}
                          initial="0"
                          help={words.newCutter.usedHelp}
                        />
                      </div>
                      <div>
                        <Button type="submit" variant="contained">
                          {t.mount}
                        </Button>
                      </div>
                    </WriteForm>
                  </div>
                )}
              </li>
            ))}
          </ul>
        </>
      )}
      {spare.length > 0 && (
        <>
          <h2 className="section-word" style={{ marginTop: 40 }}>
            {t.spare}
          </h2>
          <ul className="rows">
            {spare.map((b) => (
              <li key={b.id} className="row" style={{ gridTemplateColumns: 'minmax(0, 1fr) auto' }}>
                <div>
                  {b.name}, {b.angle}°
                  <div className="quiet small">{words.frame.age(metres(b.cutUm), metres(b.lifeUm))}</div>
                </div>
                {onBench && (
                  <WriteForm what="mount">
                    <input type="hidden" name="cutter" value={onBench} />
                    <input type="hidden" name="blade" value={b.id} />
                    <Button type="submit">
                      {t.mountThis} {cutters.find((c) => c.cutter.id === onBench)?.cutter.name}
                    </Button>
                  </WriteForm>
                )}
              </li>
            ))}
          </ul>
        </>
      )}
      {onBench && <Mats mats={loaderData.mats} answer={actionData?.values.what === 'mat' ? actionData : undefined} />}
      {onBench && (
        <Presses presses={loaderData.presses} answer={actionData?.values.what === 'press' ? actionData : undefined} />
      )}
      <Ways
        label={t.title}
        ways={[
          ['/stock', words.vinyls.ways.stock],
          ['/types/new', types.length > 0 ? `${t.types}: ${types.join(', ')}` : t.types],
          ['/workshop/models/new', t.models],
        ]}
      />
      <div className="cols" style={{ marginTop: 40 }}>
        <Look />
        {root?.person && (
          <WriteForm what="units" action="/units">
            <fieldset>
              <legend className="section-word">{t.units}</legend>
              <div style={{ display: 'flex', gap: 12, flexWrap: 'wrap' }}>
                {(['mm', 'in'] as const).map((u) => (
                  <label className="choice" key={u}>
                    <input type="radio" name="length" value={u} defaultChecked={root.person!.lengthUnit === u} />
                    <span>{u}</span>
                  </label>
                ))}
                {(['C', 'F'] as const).map((u) => (
                  <label className="choice" key={u}>
                    <input
                      type="radio"
                      name="temperature"
                      value={u}
                      defaultChecked={root.person!.temperatureUnit === u}
                    />
                    <span>°{u}</span>
                  </label>
                ))}
                <Button type="submit">{t.saveUnits}</Button>
              </div>
            </fieldset>
          </WriteForm>
        )}
      </div>
    </>
  );
}

/** Light, dark, or as the device says. Kept on this device. */
function Look() {
  const { mode, setMode } = useColorScheme();
  const t = words.workshop;
  return (
    <fieldset>
      <legend className="section-word">{t.look}</legend>
      <div style={{ display: 'flex', gap: 12, flexWrap: 'wrap' }}>
        {(
          [
            ['system', t.lookSystem],
            ['light', t.lookLight],
            ['dark', t.lookDark],
          ] as const
        ).map(([value, name]) => (
          <label className="choice" key={value}>
            <input type="radio" name="look" value={value} checked={mode === value} onChange={() => setMode(value)} />
            <span>{name}</span>
          </label>
        ))}
      </div>
    </fieldset>
  );
}
