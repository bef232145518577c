import type { Access } from '#work/people/permissions.ts';
import { useState } from 'react';
import { ownTypesOf } from '#work/vinyls/types.ts';
import { changeBlade } from '#work/answer/newBlade.ts';
import { awayThings } from '#work/answer/editable.ts';
import { addBlade, mountBlade } from '#work/workshop/blades.ts';
import { addMat, layMat, washMat } from '#work/workshop/mats.ts';
import { addPress } from '#work/workshop/presses.ts';
import { cutterModels, newerModel } from '#work/workshop/models.ts';
import { putOnBench, takeNewerModel } from '#work/workshop/cutters.ts';
import { lifeSoFar, workshopOf } from '#work/workshop/workshop.ts';
import { words } from '../../messages/index.ts';
import { type Act, actions, visitorsBench, enter } from '../../server/enter.server.ts';
import { AwayList } from '../../ui/base/AwayList.tsx';
import { FormNotice } from '../../ui/base/Field.tsx';
import { isolate } from '../../ui/base/format.ts';
import { GoButton } from '../../ui/base/Link.tsx';
import { Mats, Presses } from '../../ui/workshop/MatsAndPresses.tsx';
import { useZone } from '../../ui/people/usePerson.ts';
import { Ways } from '../../ui/coupons/Ways.tsx';
import type { Route } from './+types/route';
import { CutterRow } from './CutterRow.tsx';
import { SpareBlades } from './SpareBlades.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const [{ cutters, blades, mats, presses }, bench, models, types, away, lasted] = await Promise.all([
    workshopOf(person),
    visitorsBench(args),
    cutterModels(person),
    ownTypesOf(person),
    awayThings(person, ['cutter', 'blade', 'mat', 'press']),
    lifeSoFar(person),
  ]);
  return {
    mats,
    presses,
    away,
    lasted,
    types: types.filter((t) => !t.away).map((t) => isolate(t.word)),
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
    blade: async ({ person, form }) => {
      await changeBlade(person, of(form, 'cutter'), () => addBlade(person, form));
      return `/workshop/cutters/${of(form, 'cutter')}/blade`;
    },
    mount: async ({ person, form }) => {
      await changeBlade(person, of(form, 'cutter'), () => mountBlade(person, of(form, 'cutter'), of(form, 'blade')));
      return `/workshop/cutters/${of(form, 'cutter')}/blade`;
    },
    mat: then(({ person, form }) => addMat(person, form)),
    wash: then(({ person, form }) => washMat(person, of(form, 'mat'))),
    lay: then(({ person, form }) => layMat(person, of(form, 'mat'))),
    press: then(({ person, form }) => addPress(person, form)),
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.workshop.title) }];

export default function Workshop({ loaderData, actionData }: Route.ComponentProps) {
  const { cutters, spare, onBench, left, types } = loaderData;
  const zone = useZone();
  const bladeAnswer = actionData?.values.what === 'blade' ? actionData : undefined;
  const t = words.workshop;
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
              <CutterRow
                key={cutter.id}
                bladeAnswer={bladeAnswer}
                cutter={cutter}
                blade={blade}
                newer={newer}
                onBench={onBench}
                left={left}
                lasted={loaderData.lasted}
                changing={changing}
                setChanging={setChanging}
                zone={zone}
              />
            ))}
          </ul>
        </>
      )}
      {spare.length > 0 && (
        <>
          <h2 className="section-word above-40">{t.spare}</h2>
          <SpareBlades onBench={onBench} spare={spare} cutters={cutters} />
        </>
      )}
      {onBench && <Mats mats={loaderData.mats} answer={actionData?.values.what === 'mat' ? actionData : undefined} />}
      {onBench && (
        <Presses presses={loaderData.presses} answer={actionData?.values.what === 'press' ? actionData : undefined} />
      )}
      <AwayList things={loaderData.away} />
      <Ways
        label={t.title}
        ways={[
          ['/stock', words.vinyls.ways.stock],
          ['/types/new', types.length > 0 ? `${t.types}: ${types.join(', ')}` : t.types],
          ['/workshop/models/new', t.models],
        ]}
      />
    </>
  );
}
