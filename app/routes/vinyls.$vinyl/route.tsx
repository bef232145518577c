import Button from '@mui/material/Button';
import { Form, Link } from 'react-router';
import {
  formatSetting,
  strengthAxis,
  startingSetting,
  formatPosition,
  atStrength,
  type CutterModel,
  type Setting,
} from '#core/controls/index.ts';
import { currentGrades } from '#core/grades/index.ts';
import { stripDomain } from '#core/strip/index.ts';
import { behaviourOf, vinylTypes, wantedOfType } from '#core/vinyls/index.ts';
import type { FitResult } from '#core/window/index.ts';
import { ownCard, reportCutHere, sharedReadingOf, sourceOf } from '#work/cards.ts';
import { listCoupons } from '#work/coupons.ts';
import { Invalid } from '#work/errors.ts';
import { nextJobId } from '#work/jobs.ts';
import { evidenceRows, keepSetting, refreshReading, settingOf, typeReading } from '#work/readings.ts';
import { vinylOf } from '#work/vinyls.ts';
import { benchOf } from '#work/workshop.ts';
import { words } from '../../messages/index.ts';
import { addressOf, enter, enterToWrite, found, writeForm } from '../../server/enter.server.ts';
import { BenchModeButton } from '../../ui/benchMode.tsx';
import { ToSet } from '../../ui/ControlDrawing.tsx';
import { ControlFacts } from '../../ui/ControlFacts.tsx';
import { CouponRow } from '../../ui/CouponRow.tsx';
import { EvidenceTable } from '../../ui/EvidenceTable.tsx';
import { day, isolate } from '../../ui/format.ts';
import { KeepForm } from '../../ui/KeepForm.tsx';
import { GoButton } from '../../ui/Link.tsx';
import { PressSteps } from '../../ui/PressSteps.tsx';
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
  const asked = new URL(args.request.url).searchParams.get('wanted');
  const wanted = asked === 'clean' || asked === 'through' ? asked : wantedOfType(vinyl.type);
  if (!person)
    return {
      vinyl,
      bench: {
        cutter: bench.cutter,
        bladed: false,
        wanted,
        base: startingSetting(bench.cutter.model),
        result: await typeReading(bench.cutter.model, vinyl.type, wanted),
        shared: await sharedReadingOf(vinyl.id, bench.cutter.model, wanted),
        dots: [],
        rows: [],
        kept: undefined,
        card: undefined,
        job: '',
      },
      coupons: [],
    };
  const [{ result, evidence, events }, kept, coupons, shared, card] = await Promise.all([
    refreshReading(person.id, vinyl.id, bench.cutter.id, wanted),
    settingOf(person.id, vinyl.id, bench.cutter, wanted),
    listCoupons(person),
    sharedReadingOf(vinyl.id, bench.cutter.model, wanted),
    ownCard(person, vinyl.id, bench.cutter.model, wanted),
  ]);
  const key = strengthAxis(bench.cutter.model).key;
  const place = new Map(evidence.cells.map((c) => [c.id, c.setting.steps[key]!]));
  return {
    vinyl,
    bench: {
      cutter: bench.cutter,
      bladed: bench.blade !== undefined,
      wanted,
      base: evidence.base,
      result,
      shared,
      card: card && { id: card.id, number: card.number },
      rows: await evidenceRows(evidence, events),
      dots: currentGrades(events).flatMap((g) =>
        place.has(g.cell) ? [{ position: place.get(g.cell)!, grade: g.grade }] : [],
      ),
      kept: kept && {
        controls: kept.controls,
        standing: kept.standing,
        at: kept.kept_at,
        note: kept.note,
        source: kept.source_card ? await sourceOf(kept.source_card) : undefined,
      },
      job: nextJobId(),
    },
    coupons: coupons.filter((c) => c.vinyl_id === vinyl.id && c.cutter_id === bench.cutter.id),
  };
}

/** Keeps a number as the setting, or notes an ordinary cut. */
export async function action(args: Route.ActionArgs) {
  const { person, headers } = await enterToWrite('routes/vinyls.$vinyl/route', args);
  const form = await args.request.formData();
  return writeForm(form, headers, async () => {
    if (form.get('what') === 'cut') {
      const bench = await benchOf(person);
      if (!bench) throw new Invalid({ form: words.vinyl.noBench });
      return `/cuts/${await reportCutHere(person, bench, form, addressOf(args.context))}`;
    }
    await keepSetting(person, form);
    return `/vinyls/${args.params.vinyl}?wanted=${form.get('wanted') === 'through' ? 'through' : 'clean'}`;
  });
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: words.title(loaderData ? vinylTitle(loaderData.vinyl) : '') },
];

/** One's own cells speak first, then what others found on this model, then the type. */
const shownResult = (bench: { result: FitResult; shared: { result: FitResult } | undefined }): FitResult =>
  bench.result.evidence.cells === 0 && bench.shared ? bench.shared.result : bench.result;

/** The controls shown: those kept, else the standing ones at the strength that is advised. */
function shownSetting(bench: {
  cutter: { model: CutterModel };
  base: Setting;
  kept: { controls: Setting } | undefined;
  result: FitResult;
  shared: { result: FitResult } | undefined;
}): Setting {
  const { summary } = shownResult(bench);
  return (
    bench.kept?.controls ?? atStrength(bench.cutter.model, bench.base, (summary.recommended ?? summary.best).position)
  );
}

export default function VinylPage({ loaderData, actionData }: Route.ComponentProps) {
  const { vinyl, bench, coupons = [] } = loaderData;
  const t = words.vinyl;
  const zone = useZone();
  const type = vinylTypes[vinyl.type];
  const back = type.cutFrom === 'back';
  const behaviour = behaviourOf(vinyl.type);
  const cells = bench?.result.evidence.cells ?? 0;
  // A number one has or others have found is cut first; a guess is tested first. Either can be done.
  const known = bench?.bladed && (bench.kept || cells > 0 || bench.shared);
  const cutForm = bench?.bladed && (
    <Form method="post">
      <input type="hidden" name="what" value="cut" />
      <input type="hidden" name="job" value={bench.job} />
      <input type="hidden" name="vinyl" value={vinyl.id} />
      <input type="hidden" name="cutter" value={bench.cutter.id} />
      <input type="hidden" name="wanted" value={bench.wanted} />
      <input type="hidden" name="setting" value={JSON.stringify(shownSetting(bench))} />
      <Button type="submit" variant={known ? 'contained' : 'outlined'}>
        {t.iCut}
      </Button>
    </Form>
  );
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
            ` · ${cells > 0 ? `${words.from.tried}: ${words.from.cells(cells, bench.result.evidence.coupons)}` : bench.shared ? `${words.from.others(bench.shared.crafters)}, ${words.from.sameModel}` : words.from.type}`}
        </p>
      </div>
      {bench &&
        (known ? (
          <div className="push">{cutForm}</div>
        ) : (
          <GoButton className="push" to={`/coupons/new?vinyl=${vinyl.id}&wanted=${bench.wanted}`} variant="contained">
            {t.plan}
          </GoButton>
        ))}
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
  const { dots, kept, cutter, wanted, base } = bench;
  const result = shownResult(bench);
  const others = cells === 0 ? bench.shared : undefined;
  const shown = shownSetting(bench);
  const axis = strengthAxis(cutter.model);
  const domain = stripDomain(
    axis,
    [result.summary],
    [...dots.map((d) => d.position), ...(kept ? [kept.controls.steps[axis.key]!] : [])],
  );
  const position = shown.steps[axis.key]!;
  const advised = result.summary.recommended?.position;
  const keptPosition = kept?.controls.steps[axis.key];
  // Inside the window one number is as good as the next: only one outside it is worth a word.
  const { window: clean } = result.summary;
  const keptDiffers =
    cells > 0 &&
    keptPosition !== undefined &&
    advised !== undefined &&
    (clean ? keptPosition < clean.low || keptPosition > clean.high : keptPosition !== advised);
  const rest = formatSetting(cutter.model, shown).filter((p) => p.key !== axis.key);
  return (
    <>
      {head}
      <div className="cols three">
        <section aria-labelledby="cut">
          <h2 className="section-word" id="cut">
            {t.cut}
          </h2>
          <nav className="two-ways" aria-label={t.wanted}>
            {(['clean', 'through'] as const).map((w) => (
              <Link
                key={w}
                to={`?wanted=${w}`}
                aria-current={w === wanted ? 'true' : undefined}
                preventScrollReset
                replace
              >
                {t[w]}
              </Link>
            ))}
          </nav>
          <ToSet axis={axis} position={position} sure={cells > 0 || !!kept || !!others} testId="to-set" />
          <div style={{ margin: '20px 0 12px' }}>
            <WindowStrip axis={axis} result={result} domain={domain} dots={dots} mark={position} scale />
          </div>
          <p>{result.sentence}</p>
          {cells === 0 && <p className="quiet">{others ? t.othersMark : t.draftMark}</p>}
          {kept?.source && (
            <p>
              {t.adopted(isolate(kept.source.author))}{' '}
              {kept.source.address && <Link to={`/cards/${kept.source.address}`}>{t.toCard}</Link>}
            </p>
          )}
          {kept && (
            <p className="quiet">
              {t.keptOn(day(kept.at, zone))}
              {kept.note && ` · ${kept.note}`}
              {keptDiffers && ` · ${t.keptDiffers(formatPosition(axis, keptPosition!))}`}
            </p>
          )}
          <dl className="facts" style={{ marginTop: 24 }}>
            <ControlFacts parts={rest} />
            <dt>{t.mat}</dt>
            <dd>{words.mats[behaviour.mat]}</dd>
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
          <SideDrawing hex={vinylHex(vinyl)} side={behaviour.side} />
          <p style={{ marginTop: 16 }}>
            <strong>{words.side[behaviour.side].says}</strong>{' '}
            {words.carrier[behaviour.carrier] && `${words.carrier[behaviour.carrier]}. `}
            {words.side[behaviour.side].sure}
          </p>
          <p style={{ marginTop: 12 }}>
            <strong>{t.before}</strong> {t.beforeWhy}
          </p>
          <p style={{ marginTop: 12 }}>
            <strong>{t.watch}</strong> {behaviour.warnings[0]}
          </p>
          {behaviour.warnings.slice(1).map((w) => (
            <p key={w} className="quiet" style={{ marginTop: 8 }}>
              {w}
            </p>
          ))}
        </section>
        <section aria-labelledby="press">
          <h2 className="section-word" id="press">
            {t.press}
          </h2>
          <PressSteps type={vinyl.type} />
        </section>
      </div>
      <div className="actions">
        <BenchModeButton />
        {!known && cutForm}
        {known && (
          <GoButton to={`/coupons/new?vinyl=${vinyl.id}&wanted=${wanted}`}>{cells > 0 ? t.planMore : t.plan}</GoButton>
        )}
        {kept && !kept.source && (
          <GoButton to={bench.card ? `/cards/${bench.card.id}` : `/cards/new?vinyl=${vinyl.id}&wanted=${wanted}`}>
            {bench.card ? t.card : t.share}
          </GoButton>
        )}
      </div>
      <p className="quiet" style={{ marginTop: 20 }}>
        {cells > 0
          ? t.evidence(cells, result.evidence.coupons)
          : others
            ? t.evidenceOthers(result.evidence.cells, others.crafters)
            : t.noEvidence}
      </p>
      {cells > 0 && (
        <KeepForm
          answer={actionData}
          vinyl={vinyl.id}
          cutter={cutter}
          wanted={wanted}
          base={base}
          recommended={advised}
          kept={kept?.controls}
        />
      )}
      {bench.rows.length > 0 && <EvidenceTable model={cutter.model} rows={bench.rows} />}
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
