import { Link } from 'react-router';
import {
  formatSetting,
  strengthAxis,
  startingSetting,
  formatPosition,
  describeLimits,
  atStrength,
} from '#core/controls/index.ts';
import { currentGrades } from '#core/grades/index.ts';
import { stripDomain } from '#core/strip/index.ts';
import { vinylTypes } from '#core/vinyls/index.ts';
import { listCoupons } from '#work/coupons.ts';
import { keepSetting, refreshReading, settingOf, typeReading } from '#work/readings.ts';
import { vinylOf } from '#work/vinyls.ts';
import { benchOf } from '#work/workshop.ts';
import { words } from '../../messages/index.ts';
import { enter, enterToWrite, found, writeForm } from '../../server/enter.server.ts';
import { ControlFacts } from '../../ui/ControlFacts.tsx';
import { CouponRow } from '../../ui/CouponRow.tsx';
import { day } from '../../ui/format.ts';
import { KeepForm } from '../../ui/KeepForm.tsx';
import { GoButton } from '../../ui/Link.tsx';
import { SideDrawing } from '../../ui/SideDrawing.tsx';
import { Swatch } from '../../ui/Swatch.tsx';
import { useZone } from '../../ui/usePerson.ts';
import { vinylHex, vinylTitle } from '../../ui/vinylName.ts';
import { WindowStrip } from '../../ui/WindowStrip.tsx';
import type { Route } from './+types/route';

/** What to set for this vinyl on the cutter on the bench, which side goes down, and what it rests on. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter('routes/vinyls.$vinyl/route', args);
  const vinyl = await found(vinylOf(person, args.params.vinyl));
  const bench = await benchOf(person);
  if (!bench) return { vinyl, bench: undefined };
  if (!person)
    return {
      vinyl,
      bench: {
        cutter: bench.cutter,
        result: await typeReading(bench.cutter.model, vinyl.type),
        dots: [],
        kept: undefined,
      },
      coupons: [],
    };
  const [{ result, evidence, events }, kept, coupons] = await Promise.all([
    refreshReading(person.id, vinyl.id, bench.cutter.id),
    settingOf(person.id, vinyl.id, bench.cutter.id),
    listCoupons(person),
  ]);
  const key = strengthAxis(bench.cutter.model).key;
  const place = new Map(evidence.cells.map((c) => [c.id, c.setting.steps[key]!]));
  return {
    vinyl,
    bench: {
      cutter: bench.cutter,
      result,
      dots: currentGrades(events).map((g) => ({ position: place.get(g.cell)!, grade: g.grade })),
      kept: kept && { position: kept.controls.steps[key]!, standing: kept.standing, at: kept.kept_at, note: kept.note },
    },
    coupons: coupons.filter((c) => c.vinyl_id === vinyl.id && c.cutter_id === bench.cutter.id),
  };
}

/** Keeps a number as the setting. */
export async function action(args: Route.ActionArgs) {
  const { person, headers } = await enterToWrite('routes/vinyls.$vinyl/route', args);
  const form = await args.request.formData();
  return writeForm(form, headers, async () => {
    await keepSetting(person, form);
    return `/vinyls/${args.params.vinyl}`;
  });
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: words.title(loaderData ? vinylTitle(loaderData.vinyl) : '') },
];

export default function VinylPage({ loaderData, actionData }: Route.ComponentProps) {
  const { vinyl, bench, coupons = [] } = loaderData;
  const t = words.vinyl;
  const zone = useZone();
  const type = vinylTypes[vinyl.type];
  const back = type.cutFrom === 'back';
  const cells = bench?.result.evidence.cells ?? 0;
  const head = (
    <div className="head">
      <Swatch
        type={vinyl.type}
        hex={vinylHex(vinyl)}
        seed={vinyl.id}
        size={92}
        standing={cells > 0 ? 'tried' : 'draft'}
      />
      <div>
        <h1>{vinylTitle(vinyl)}</h1>
        <p className="quiet">
          {type.word}
          {bench &&
            ` · ${cells > 0 ? `${words.from.tried}: ${words.from.cells(cells, bench.result.evidence.coupons)}` : words.from.type}`}
        </p>
      </div>
      {bench && (
        <GoButton className="push" to={`/coupons/new?vinyl=${vinyl.id}`} variant="contained">
          {cells > 0 ? t.planMore : t.plan}
        </GoButton>
      )}
    </div>
  );
  if (!bench)
    return (
      <>
        {head}
        <p className="lede">{t.noBench}</p>
        <div className="actions">
          <GoButton to="/workshop/cutters/new" variant="contained">
            {words.bench.start}
          </GoButton>
        </div>
      </>
    );
  const { result, dots, kept, cutter } = bench;
  const axis = strengthAxis(cutter.model);
  const domain = stripDomain(
    axis,
    [result.summary],
    [...dots.map((d) => d.position), ...(kept ? [kept.position] : [])],
  );
  const position = kept?.position ?? result.summary.recommended?.position ?? result.summary.best.position;
  const advised = result.summary.recommended?.position;
  const rest = formatSetting(cutter.model, atStrength(cutter.model, startingSetting(cutter.model), position)).slice(1);
  return (
    <>
      {head}
      <div className="cols">
        <section aria-labelledby="cut">
          <h2 className="section-word" id="cut">
            {t.cut}
          </h2>
          <div className="big-line">
            <span className="big" data-testid="to-set">
              {cells > 0 || kept ? formatPosition(axis, position) : `~${formatPosition(axis, position)}`}
            </span>
            <span style={{ paddingBottom: 8 }}>
              <span style={{ fontSize: '1.25rem' }}>{axis.word}</span>
              <br />
              <span className="quiet">{describeLimits(axis)}</span>
            </span>
          </div>
          <div style={{ margin: '20px 0 12px' }}>
            <WindowStrip axis={axis} result={result} domain={domain} dots={dots} mark={position} scale />
          </div>
          <p>{result.sentence}</p>
          {cells === 0 && <p className="quiet">{t.draftMark}</p>}
          {kept && (
            <p className="quiet">
              {t.keptOn(day(kept.at, zone))}
              {kept.note && ` · ${kept.note}`}
              {advised !== undefined &&
                advised !== kept.position &&
                cells > 0 &&
                ` · ${t.keptDiffers(formatPosition(axis, kept.position))}`}
            </p>
          )}
          <dl className="facts" style={{ marginTop: 24 }}>
            <ControlFacts parts={rest} />
            <dt>{t.mirror}</dt>
            <dd>
              {back ? t.mirrorYes : t.mirrorNo}
              <span>{back ? t.mirrorYesWhy : t.mirrorNoWhy}</span>
            </dd>
          </dl>
        </section>
        <section aria-labelledby="check">
          <h2 className="section-word" id="check">
            {t.check}
          </h2>
          <SideDrawing hex={vinylHex(vinyl)} back={back} />
          <p style={{ marginTop: 16 }}>
            <strong>{back ? t.sideBack : t.sideFace}</strong> {t.scratch}
          </p>
          <p style={{ marginTop: 12 }}>
            <strong>{t.before}</strong> {t.beforeWhy}
          </p>
          <p className="quiet" style={{ marginTop: 24 }}>
            {cells > 0 ? t.evidence(cells, result.evidence.coupons) : t.noEvidence}
          </p>
        </section>
      </div>
      {cells > 0 && (
        <KeepForm
          answer={actionData}
          vinyl={vinyl.id}
          cutter={cutter.id}
          axis={axis}
          recommended={advised}
          kept={kept?.position}
        />
      )}
      {coupons.length > 0 && (
        <section style={{ marginTop: 40 }} aria-labelledby="coupons">
          <h2 className="section-word" id="coupons">
            {t.coupons}
          </h2>
          <ul className="rows">
            {coupons.map((c) => (
              <CouponRow key={c.id} coupon={c} />
            ))}
          </ul>
          <p style={{ marginTop: 16 }}>
            <Link to="/coupons">{words.places.coupons}</Link>
          </p>
        </section>
      )}
    </>
  );
}
