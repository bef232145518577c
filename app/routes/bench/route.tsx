import type { Access } from '#work/people/permissions.ts';
import { useState } from 'react';
import { Link } from 'react-router';
import { strengthAxis } from '#core/controls/index.ts';
import { listCoupons } from '#work/coupons/coupons.ts';
import { openCuts } from '#work/cuts/cuts.ts';
import { listVinyls } from '#work/answer/list.ts';
import { words } from '../../messages/index.ts';
import { visitorsBench, enter } from '../../server/enter.server.ts';
import { leanRows } from '../../server/rows.server.ts';
import { CouponRow } from '../../ui/coupons/CouponRow.tsx';
import { JobInHand } from '../../ui/jobs/JobInHand.tsx';
import { jobsOf } from '#work/jobs/list.ts';
import { HowDidItGo } from '../../ui/cuts/HowDidItGo.tsx';
import { GoButton } from '../../ui/base/Link.tsx';
import { VinylRow } from '../../ui/answer/VinylRow.tsx';
import { PutOnBench } from '../../ui/workshop/PutOnBench.tsx';
import { usePerson } from '../../ui/people/usePerson.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** What is under the hands, and what waits. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const bench = await visitorsBench(args);
  const [coupons, vinyls, cuts, jobs] = await Promise.all([
    listCoupons(person, 20),
    person ? listVinyls(person, bench, '') : [],
    openCuts(person, 3),
    jobsOf(person, { limit: 3 }),
  ]);
  return {
    axis: bench && strengthAxis(bench.cutter.model),
    cuts,
    job: jobs.find((j) => j.missing !== undefined || j.next !== undefined),
    waiting: coupons.filter((c) => c.set_aside_at === null && c.graded < c.cells).slice(0, 4),
    settings: leanRows(
      // What was cut here first: notes that were brought in never push it off the bench.
      vinyls
        .filter((v) => v.standing !== undefined || v.from === 'here')
        .sort((a, b) => Number(b.from === 'here') - Number(a.from === 'here'))
        .slice(0, 5),
      bench?.cutter.model,
    ),
  };
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.bench.title) }];

export default function Bench({ loaderData }: Route.ComponentProps) {
  const { axis, waiting, settings, cuts, job } = loaderData;
  const [answered, setAnswered] = useState(0);
  const person = usePerson();
  if (!axis)
    return (
      <>
        <h1 style={{ fontSize: '2.75rem', maxWidth: '16ch' }}>{words.bench.welcome}</h1>
        <p className="lede" style={{ margin: '16px 0 40px' }}>
          {words.bench.lede}
        </p>
        <ol className="steps">
          {words.bench.steps.map((s, i) => (
            <li key={s.what}>
              <span className="n">{i + 1}</span>
              <div>
                <h2>{s.what}</h2>
                <p className="quiet">{s.why}</p>
              </div>
            </li>
          ))}
        </ol>
        <div className="actions">
          <PutOnBench />
          {(person?.guest ?? true) && <span className="quiet">{words.bench.noAccount}</span>}
        </div>
      </>
    );
  return (
    <>
      <div className="head">
        <h1>{words.bench.title}</h1>
        <GoButton className="push" to="/vinyls/new" variant={job ? 'outlined' : 'contained'}>
          {words.bench.nameVinyl}
        </GoButton>
      </div>
      {job && <JobInHand job={job} />}
      {/* One question at a time: the cut before it is asked about when this one is answered. */}
      {cuts.slice(0, answered + 1).map((cut, i) => (
        <div key={cut.id} style={{ marginBottom: 36 }}>
          <HowDidItGo
            cut={cut}
            title={i === 0 ? words.cut.last : words.cut.earlier}
            onAnswered={() => setAnswered((n) => Math.max(n, i + 1))}
          />
        </div>
      ))}
      <h2 className="section-word">{words.bench.waiting}</h2>
      {waiting.length === 0 ? (
        <p className="quiet">
          {words.bench.nothingWaits} <Link to="/vinyls">{words.places.vinyls}</Link>
        </p>
      ) : (
        <ul className="rows">
          {waiting.map((c) => (
            <CouponRow key={c.id} coupon={c} />
          ))}
        </ul>
      )}
      {settings.length > 0 && (
        <>
          <h2 className="section-word above-40">{words.bench.settings}</h2>
          <ul className="rows">
            {settings.map((v) => (
              <VinylRow key={v.id} vinyl={v} />
            ))}
          </ul>
        </>
      )}
    </>
  );
}
