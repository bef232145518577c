import type { Access } from '#work/people/permissions.ts';
import { Link } from 'react-router';
import { againstOthersOf } from '#work/shelf/translate.ts';
import { words } from '../../messages/index.ts';
import { enter } from '../../server/enter.server.ts';
import { isolate, loadPercent } from '../../ui/base/format.ts';
import { OffsetChart } from '../../ui/shelf/OffsetChart.tsx';
import { vinylTitle } from '../../ui/vinyls/vinylName.ts';
import type { Route } from './+types/route';
import { Section } from '../../ui/base/Section.tsx';

export const access = { read: 'look round' } as const satisfies Access;

/** How a cutter stands against others of its model: its offset, what says so, and what would sharpen it. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  return againstOthersOf(person, args.params.cutter);
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: words.title(loaderData ? words.against.title(loaderData.cutter.name) : '') },
];

const signed = (log: number) => {
  const p = loadPercent(log);
  return `${p > 0 ? '+' : p < 0 ? '−' : ''}${Math.abs(p)}`;
};
/** 90 % of a normal distribution lie within so many standard deviations. */
const NINE_IN_TEN = 1.645;

export default function Against({ loaderData: { cutter, stands, vinyls } }: Route.ComponentProps) {
  const t = words.against;
  const names = new Map(vinyls.map((v) => [v.id, v]));
  const offset = stands?.offset;
  const percent = offset ? loadPercent(Math.abs(offset.offset)) : 0;
  const sure = offset !== undefined && percent >= 1 && Math.abs(offset.offset) > 0.8 * offset.sd;
  const way = !sure ? 'even' : offset.offset > 0 ? 'heavy' : 'light';
  return (
    <>
      <h1>{t.title(isolate(cutter.name))}</h1>
      {!stands || !offset ? (
        <p className="lede above-12">{t.nothing}</p>
      ) : (
        <>
          <p className="offset-big" data-testid="offset">
            {way === 'even' ? t.even : way === 'heavy' ? t.heavy(String(percent)) : t.light(String(percent))}
          </p>
          <p className="quiet">
            {t.interval(
              signed(offset.offset - NINE_IN_TEN * offset.sd),
              signed(offset.offset + NINE_IN_TEN * offset.sd),
            )}
            , {stands.cuttersOfModel > 0 ? t.compared(stands.cuttersOfModel, stands.crafters) : t.alone}
          </p>
          <p style={{ margin: '8px 0 24px' }}>{t.means[way]}</p>
          <h2 className="section-word">{t.rests}</h2>
          {stands.rests.length === 0 ? (
            <p>{t.none}</p>
          ) : (
            <OffsetChart
              offset={offset}
              rows={stands.rests.map((r) => {
                const v = names.get(r.vinyl);
                return { id: r.vinyl, name: v ? vinylTitle(v) : '', at: r.z, sd: r.se, wild: r.wild };
              })}
            />
          )}
          {stands.sharpen.length > 0 && (
            <Section className="above-40" id="sharpen" title={t.sharpen} data-testid="sharpen">
              <p>
                {t.sharpenWhy(
                  String(loadPercent(NINE_IN_TEN * offset.sd)),
                  String(loadPercent(NINE_IN_TEN * stands.sharpen.at(-1)!.sd)),
                )}
              </p>
              <ul className="rows above-16">
                {stands.sharpen.map((s) => {
                  const v = names.get(s.vinyl);
                  return (
                    <li key={s.vinyl}>
                      <Link className="row row-check" to={`/coupons/new?vinyl=${s.vinyl}&cells=3`}>
                        <strong>{t.plan}</strong>
                        <span>{v ? vinylTitle(v) : ''}</span>
                      </Link>
                    </li>
                  );
                })}
              </ul>
            </Section>
          )}
        </>
      )}
    </>
  );
}
