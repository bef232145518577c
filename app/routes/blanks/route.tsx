import type { Access } from '#work/people/permissions.ts';
import { Link } from 'react-router';
import { blankKeys, blanks } from '#core/vinyls/index.ts';
import { blankOf } from '#work/vinyls/blanks.ts';
import { vinylsFor } from '#work/answer/blanks.ts';
import { words } from '../../messages/index.ts';
import { visitorsBench, enter } from '../../server/enter.server.ts';
import { leanRows } from '../../server/rows.server.ts';
import { bothHeats } from '../../ui/base/format.ts';
import { Swatch } from '../../ui/vinyls/Swatch.tsx';
import { useTemperatureUnit } from '../../ui/people/usePerson.ts';
import { RowStrip } from '../../ui/base/RowStrip.tsx';
import { standingOf } from '../../ui/answer/VinylRow.tsx';
import { vinylHex, vinylLine, vinylName } from '../../ui/vinyls/vinylName.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const chosen = blankOf(new URL(args.request.url).searchParams.get('on'));
  const bench = await visitorsBench(args);
  const rows = chosen ? await vinylsFor(person, bench, chosen.blank) : [];
  const lean = leanRows(
    rows.map((r) => r.vinyl),
    bench?.cutter.model,
  );
  return {
    on: chosen?.key,
    vinyls: rows.map(({ suits }, i) => ({ vinyl: lean[i]!, suits })),
  };
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.blanks.title) }];

export default function Blanks({ loaderData: { on, vinyls } }: Route.ComponentProps) {
  const t = words.blanks;
  const unit = useTemperatureUnit();
  const blank = on && blanks[on];
  return (
    <>
      <h1>{t.title}</h1>
      <p className="lede" style={{ marginTop: 8 }}>
        {t.lede}
      </p>
      {(['fabric', 'hard'] as const).map((kind) => (
        <nav key={kind} className="blanks" aria-label={t[kind]}>
          <h2 className="section-word">{t[kind]}</h2>
          <ul>
            {blankKeys
              .filter((k) => blanks[k].kind === kind)
              .map((k) => (
                <li key={k}>
                  <Link to={`?on=${k}`} aria-current={k === on ? 'true' : undefined} preventScrollReset>
                    {blanks[k].word}
                  </Link>
                </li>
              ))}
          </ul>
        </nav>
      ))}
      {blank && (
        <section aria-live="polite" style={{ marginTop: 32 }}>
          <h2 style={{ marginBottom: 4 }}>{blank.word[0]!.toUpperCase() + blank.word.slice(1)}</h2>
          <p>
            {blank.heat === undefined ? t.noPress : t.takes(bothHeats(blank.heat, unit).join(' · '))}. {blank.tip}
          </p>
          {(['suits', 'care', 'not'] as const).map((verdict) => {
            const rows = vinyls.filter((v) => v.suits.verdict === verdict);
            return (
              <div key={verdict} style={{ marginTop: 28 }} data-verdict={verdict}>
                <h3 className="section-word">{t.verdict[verdict]}</h3>
                {rows.length === 0 ? (
                  <p className="quiet">{t.none}</p>
                ) : verdict === 'not' ? (
                  // The same reason holds for many: said once, with their names.
                  [...new Set(rows.map((r) => r.suits.reasons[0]!))].map((reason) => (
                    <div key={reason} style={{ marginTop: 12 }}>
                      <p>
                        {reason}{' '}
                        <span className="quiet small">
                          {t.rests[rows.find((r) => r.suits.reasons[0] === reason)!.suits.rests]}
                        </span>
                      </p>
                      <ul className="dabs">
                        {rows
                          .filter((r) => r.suits.reasons[0] === reason)
                          .map(({ vinyl: v }) => (
                            <li key={v.id}>
                              <Link to={`/vinyls/${v.id}`}>
                                <Swatch type={v.type} hex={vinylHex(v)} size={28} /> {vinylName(v)}
                              </Link>
                            </li>
                          ))}
                      </ul>
                    </div>
                  ))
                ) : (
                  <ul className="rows">
                    {rows.map(({ vinyl: v, suits }) => (
                      <li key={v.id}>
                        <Link className="row row-blank" to={`/vinyls/${v.id}`}>
                          <Swatch type={v.type} hex={vinylHex(v)} size={48} standing={standingOf(v)} />
                          <div>
                            <div className="row-name">{vinylName(v)}</div>
                            <div className="quiet">{vinylLine(v)}</div>
                          </div>
                          <div>
                            {suits.reasons.join(' ')}
                            <div className="quiet small">
                              {t.rests[suits.rests]}
                              {v.from === 'here' && v.strip && ` · ${t.cut(v.cells)}`}
                            </div>
                          </div>
                          <div className="row-strip">
                            <RowStrip strip={v.strip} width={240} height={18} />
                          </div>
                        </Link>
                      </li>
                    ))}
                  </ul>
                )}
              </div>
            );
          })}
        </section>
      )}
    </>
  );
}
