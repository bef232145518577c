import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { Form, Link } from 'react-router';
import { blankKeys, blanks, overBlank, type BlankKey } from '#core/vinyls/index.ts';
import { blankOf } from '#work/vinyls/blanks.ts';
import { vinylsFor } from '#work/answer/blanks.ts';
import { words } from '../../messages/index.ts';
import { visitorsBench, enter } from '../../server/enter.server.ts';
import { leanRows } from '../../server/rows.server.ts';
import { useTemperatureUnit } from '../../ui/people/usePerson.ts';
import { BlankDrawing } from '../../ui/vinyls/BlankDrawing.tsx';
import { vinylHex } from '../../ui/vinyls/vinylName.ts';
import { Verdict } from './Verdict.tsx';
import type { Route } from './+types/route';
import { heatInBoth, capitalise } from '#core/units/index.ts';

export const access = { read: 'look round' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const query = new URL(args.request.url).searchParams;
  const chosen = blankOf(query.get('on'));
  const said = query.get('colour')?.toLowerCase() ?? '';
  const colour = /^#[0-9a-f]{6}$/.test(said) ? said : undefined;
  const bench = await visitorsBench(args);
  const rows = chosen ? await vinylsFor(person, bench, chosen.blank) : [];
  const lean = leanRows(
    rows.map((r) => r.vinyl),
    bench?.cutter.model,
  );
  return {
    on: chosen?.key,
    colour,
    vinyls: rows.map(({ suits, opacity, inHand }, i) => {
      const vinyl = lean[i]!;
      return { vinyl, suits, inHand, seen: colour ? overBlank(vinylHex(vinyl), opacity, colour) : undefined };
    }),
  };
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.blanks.title) }];

/** What is decorated, and which vinyls suit it. */
export default function Blanks({ loaderData: { on, colour, vinyls } }: Route.ComponentProps) {
  const t = words.blanks;
  const unit = useTemperatureUnit();
  const blank = on && blanks[on];
  const navs = (['fabric', 'hard'] as const).map((kind) => <BlankNav key={kind} kind={kind} on={on} colour={colour} />);
  return (
    <>
      <h1>{t.title}</h1>
      {!blank && <p className="lede blanks-lede">{t.lede}</p>}
      {!blank && navs}
      {blank && (
        <section aria-live="polite" className="blank-answer">
          <div className="head">
            <BlankDrawing blank={on} hex={colour} size={92} />
            <div>
              <h2>{capitalise(blank.word)}</h2>
              <p>
                {blank.heat === undefined ? t.noPress : t.takes(heatInBoth(blank.heat, unit).join(' · '))}.{' '}
                {blank.tips.map((tip) => tip.says).join(' ')}
              </p>
            </div>
          </div>
          <Form method="get" className="blank-colour" preventScrollReset key={colour}>
            <input type="hidden" name="on" value={on} />
            <label htmlFor="blank-colour">{t.colour}</label>
            <input id="blank-colour" className="hex" type="color" name="colour" defaultValue={colour ?? '#ffffff'} />
            <Button type="submit">{t.look}</Button>
          </Form>
          {(['suits', 'care', 'not'] as const).map((verdict) => (
            <Verdict
              key={verdict}
              verdict={verdict}
              colour={colour}
              rows={vinyls.filter((v) => v.suits.verdict === verdict)}
            />
          ))}
        </section>
      )}
      {blank && navs}
    </>
  );
}

/** Blanks of a kind, each drawn. */
function BlankNav({
  kind,
  on,
  colour,
}: {
  kind: 'fabric' | 'hard';
  on: BlankKey | undefined;
  colour: string | undefined;
}) {
  const t = words.blanks;
  return (
    <nav className="blanks" aria-label={t[kind]}>
      <h2 className="section-word">{t[kind]}</h2>
      <ul>
        {blankKeys
          .filter((k) => blanks[k].kind === kind)
          .map((k) => (
            <li key={k}>
              <Link
                to={`?on=${k}${colour ? `&colour=${encodeURIComponent(colour)}` : ''}`}
                aria-current={k === on ? 'true' : undefined}
              >
                <BlankDrawing blank={k} size={44} />
                <span>{blanks[k].word}</span>
              </Link>
            </li>
          ))}
      </ul>
    </nav>
  );
}
