import { againWhenChanged } from '../../ui/base/againWhenChanged.ts';
import { seenOf } from '#work/base/seen.ts';
import { shownNow, shownOn } from '#work/jobs/shownPlan.ts';
import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { Form } from 'react-router';
import { chooseVinyl } from '#work/jobs/jobs.ts';
import { offersFor } from '#work/jobs/offers.ts';
import { jobOf } from '#work/jobs/view.ts';
import { words } from '../../messages/index.ts';
import { actions, enter, over, visitorsBench } from '../../server/enter.server.ts';
import { leanRows } from '../../server/rows.server.ts';
import { FormNotice } from '../../ui/base/Field.tsx';
import { GoButton } from '../../ui/base/Link.tsx';
import { JobHead } from '../../ui/jobs/JobHead.tsx';
import { vinylTitle } from '../../ui/vinyls/vinylName.ts';
import { TroubleList } from '../../ui/jobs/TroubleList.tsx';
import { LayerChoice } from './LayerChoice.tsx';
import type { Route } from './+types/route';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

/** Vinyls for each layer, the best first. A layer that has one shows it; the others are a tap away. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const [job, bench] = await Promise.all([jobOf(person, args.params.job), visitorsBench(args)]);
  const query = new URL(args.request.url).searchParams;
  const search = (query.get('q') ?? '').slice(0, 80);
  const found = await offersFor(person, bench, job, search);
  const rows = [...new Map(found.flatMap((f) => f.offers.map((o) => [o.vinyl.id, o.vinyl]))).values()];
  const lean = new Map(leanRows(rows, bench?.cutter.model).map((r) => [r.id, r]));
  return {
    id: job.id,
    name: job.name,
    missing: job.missing,
    seen: seenOf(shownOn('vinyls', job.plan)),
    search,
    open: query.get('layer'),
    justNamed: query.get('named'),
    troubles: job.troubles,
    blank: job.plan.blank.hex,
    layers: job.layers.map((l) => ({
      id: l.id,
      drawn: l.drawn,
      d: l.art.d,
      box: l.art.box,
      chosen: l.vinyl && {
        id: l.vinyl.id,
        brand: l.vinyl.brand,
        name: l.vinyl.name,
        type: l.vinyl.type,
        colour: l.vinyl.colour,
        suits: l.suits!.verdict,
        reason: l.suits!.reasons[0],
      },
      offers: found
        .find((f) => f.layer === l.id)!
        .offers.map((o) => ({
          row: {
            ...lean.get(o.vinyl.id)!,
            colour: o.colourId ? { id: o.colourId, name: o.colour!, hex: o.hex } : o.vinyl.colour,
          },
          colourId: o.colourId,
          suits: o.suits,
          reason: o.reasons[0],
          words: o.words,
        })),
    })),
  };
}

export const action = (args: Route.ActionArgs) =>
  actions(access, args, {
    choose: over(args.params.job, shownNow('vinyls', args.params.job), async ({ person, form }) => {
      const { job } = args.params;
      const done = await chooseVinyl(person, job, form);
      // Asked for from the board, it goes back there; else on to the next layer, and to the board after the last.
      return done ? `/jobs/${job}/size` : `/jobs/${job}/vinyls`;
    }),
  });

export const shouldRevalidate = againWhenChanged;

export const meta: Route.MetaFunction = () => [{ title: words.title(words.jobVinyls.title) }];

export default function JobVinyls({
  loaderData: { id, missing, name, search, seen, open, troubles, layers, blank, justNamed },
  actionData,
}: Route.ComponentProps) {
  const t = words.jobVinyls;
  const first = layers.find((l) => !l.chosen);
  const named = layers.find((l) => l.chosen?.id === justNamed)?.chosen;
  return (
    <>
      <JobHead title={t.title} job={{ id, name, missing }} />
      <p className="lede">{t.lede}</p>
      <FormNotice answer={actionData} text={words.errors.form} />
      {named && (
        <div className="notice line-up" data-testid="named">
          <p>{t.named(vinylTitle(named))}</p>
          <GoButton to={`/coupons/new?vinyl=${named.id}`} variant="outlined">
            {t.coupon}
          </GoButton>
        </div>
      )}
      <TroubleList troubles={troubles} />
      {layers.map((layer, i) => (
        <LayerChoice
          key={layer.id}
          job={id}
          search={search}
          seen={seen}
          layer={layer}
          blank={blank}
          number={i + 1}
          of={layers.length}
          open={open === layer.id || layer === first || search !== ''}
        />
      ))}
      <Form method="get" className="line-up above-24" role="search">
        <label htmlFor="find-vinyl">{t.find}</label>
        <input id="find-vinyl" name="q" type="search" defaultValue={search} className="plain-field" />
        <Button type="submit">{t.search}</Button>
      </Form>
      <div className="actions">
        {first ? (
          <p className="quiet">{t.first}</p>
        ) : (
          <GoButton to={`/jobs/${id}/size`} variant="contained">
            {t.next}
          </GoButton>
        )}
      </div>
    </>
  );
}
