import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { Link, redirect } from 'react-router';
import {
  formatSetting,
  strengthAxis,
  startingSetting,
  formatPosition,
  atStrength,
  type CutterModel,
  type Setting,
} from '#core/controls/index.ts';
import { cutFileKinds } from '#core/cutfile/index.ts';
import { currentGrades } from '#core/grades/index.ts';
import { stripDomain } from '#core/strip/index.ts';
import { micrometresToInches, micrometresToMm } from '#core/units/index.ts';
import { wantedOfType } from '#core/vinyls/index.ts';
import type { Standing } from '#core/proof/index.ts';
import type { Translated } from '#core/transfer/index.ts';
import { timesInHundred, type FitResult, type ShownFit } from '#core/window/index.ts';
import { ownCard } from '#work/shelf/publish.ts';
import { reportCutHere, sourceOf } from '#work/shelf/adopt.ts';
import { sharedReadingOf } from '#work/shelf/shared.ts';
import { splitHere } from '#work/shelf/onBench.ts';
import { coloursOf } from '#work/vinyls/catalogue.ts';
import { followSchool, schoolsOf } from '#work/vinyls/schools.ts';
import { leafletOf } from '#work/answer/leaflet.ts';
import { sayPeel } from '#work/vinyls/leaflet.ts';
import { listCoupons } from '#work/coupons/coupons.ts';
import { Invalid } from '#work/base/errors.ts';
import { nextCutId } from '#work/cuts/cuts.ts';
import { keepSetting } from '#work/shelf/evidence.ts';
import { colourNumbers, driftOf, readingFor, settingOf, typeReading } from '#work/coupons/readings.ts';
import { evidenceRows, weedingOf } from '#work/coupons/evidence.ts';
import { followVinyl, isFollowed } from '#work/shelf/social.ts';
import { translationFor } from '#work/shelf/translate.ts';
import { stockOfVinyl } from '#work/vinyls/stock.ts';
import { isPinned, pinVinyl, vinylOf } from '#work/vinyls/vinyls.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { workshopOf } from '#work/workshop/workshop.ts';
import { words } from '../../messages/index.ts';
import { actions, benchHere, enter } from '../../server/enter.server.ts';
import { BenchModeButton } from '../../ui/coupons/benchMode.tsx';
import { ToSet } from '../../ui/workshop/ControlDrawing.tsx';
import { ControlFacts } from '../../ui/workshop/ControlFacts.tsx';
import { CouponRow } from '../../ui/coupons/CouponRow.tsx';
import { EvidenceTable } from '../../ui/shelf/EvidenceTable.tsx';
import { capital, day, isolate, percent } from '../../ui/base/format.ts';
import { howTranslated, SplitNotice } from '../../ui/shelf/Translated.tsx';
import { KeepForm } from '../../ui/cuts/KeepForm.tsx';
import { GoButton } from '../../ui/base/Link.tsx';
import { LeafletBox } from '../../ui/vinyls/LeafletBox.tsx';
import { PressSteps } from '../../ui/vinyls/PressSteps.tsx';
import { Schools } from '../../ui/vinyls/Schools.tsx';
import { SideDrawing } from '../../ui/vinyls/SideDrawing.tsx';
import { Swatch } from '../../ui/vinyls/Swatch.tsx';
import { useLengthUnit, useZone } from '../../ui/people/usePerson.ts';
import { typeWord, vinylHex, vinylTitle } from '../../ui/vinyls/vinylName.ts';
import { WindowStrip } from '../../ui/base/WindowStrip.tsx';
import type { Route } from './+types/route';
import { WriteForm } from '../../ui/base/WriteForm.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

/** What to set for this vinyl on the cutter on the bench, which side goes down, and what it rests on. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const query = new URL(args.request.url).searchParams;
  const colour = query.get('colour') ?? undefined;
  const [vinyl, bench] = await Promise.all([vinylOf(person, args.params.vinyl, colour), benchHere(args)]);
  // An entry that was merged into another is that other one.
  if (vinyl.id !== args.params.vinyl) throw redirect(`/vinyls/${vinyl.id}`);
  const [colours, schools, pinned, stock, leaflet] = await Promise.all([
    coloursOf(vinyl.id),
    schoolsOf(person, vinyl.id),
    isPinned(person, vinyl.id),
    stockOfVinyl(person, vinyl.id),
    leafletOf(person, vinyl),
  ]);
  const first = colours[0]?.id;
  const inHand = vinyl.colour?.id === first ? undefined : vinyl.colour?.id;
  const common = { vinyl, colours, inHand, schools, pinned, stock, leaflet };
  if (!bench) return { ...common, bench: undefined };
  const asked = query.get('wanted');
  const wanted = asked === 'clean' || asked === 'through' ? asked : wantedOfType(vinyl.type);
  if (!person)
    return {
      ...common,
      bench: {
        cutter: bench.cutter,
        bladed: false,
        blade: undefined,
        otherBlade: false,
        mat: undefined,
        presses: [],
        wanted,
        base: startingSetting(bench.cutter.model),
        result: await typeReading(bench.cutter.model, vinyl.type, wanted),
        shared: await sharedReadingOf(vinyl.id, bench.cutter.model, wanted),
        translated: undefined,
        split: await splitHere(bench, vinyl.id, wanted),
        followed: false,
        dots: [],
        rows: [],
        differ: [],
        drift: undefined,
        weeding: undefined,
        kept: undefined,
        card: undefined,
        cut: '',
      },
      coupons: [],
    };
  const [{ result, evidence, events }, kept, coupons, shared, card, { mats, presses }, translated, split, followed] =
    await Promise.all([
      readingFor(person.id, vinyl.id, bench.cutter.id, wanted, inHand),
      settingOf(person.id, vinyl.id, bench.cutter, wanted, vinyl.colour?.id),
      listCoupons(person, 100, vinyl.id),
      sharedReadingOf(vinyl.id, bench.cutter.model, wanted),
      ownCard(person, vinyl.id, bench.cutter.model, wanted),
      workshopOf(person),
      translationFor(bench, vinyl.id, wanted),
      splitHere(bench, vinyl.id, wanted),
      isFollowed(person, vinyl.id),
    ]);
  const [rows, differ, drift, weeding, source] = await Promise.all([
    evidenceRows(evidence, events),
    colourNumbers(evidence, events),
    driftOf(evidence, events, result),
    weedingOf(evidence, events),
    kept?.source_card ? sourceOf(kept.source_card) : undefined,
  ]);
  const mat = mats.find((m) => m.inUse);
  const graded = new Set(currentGrades(events).map((g) => g.cell));
  const known = evidence.cells.filter((c) => graded.has(c.id));
  const key = strengthAxis(bench.cutter.model).key;
  const place = new Map(evidence.cells.map((c) => [c.id, c.setting.steps[key]!]));
  return {
    ...common,
    bench: {
      cutter: bench.cutter,
      bladed: bench.blade !== undefined,
      blade: bench.blade?.wear.state,
      // What is known was cut with other blades: this one may want a little more or less.
      otherBlade: bench.blade !== undefined && known.length > 0 && known.every((c) => c.blade !== bench.blade!.id),
      mat: mat && { name: mat.name, advice: mat.left.advice },
      // Only a press that shows something else than it is has to be told apart.
      presses: presses.filter((p) => p.off !== 0).slice(0, 2),
      wanted,
      base: evidence.base,
      result,
      shared,
      translated: translated?.result && translated.result.basis !== 'type' ? translated.result : undefined,
      split,
      followed,
      card: card && { id: card.id, number: card.number },
      rows,
      differ,
      drift,
      weeding,
      dots: currentGrades(events).flatMap((g) =>
        place.has(g.cell) ? [{ position: place.get(g.cell)!, grade: g.grade }] : [],
      ),
      kept: kept && {
        controls: kept.controls,
        colour: kept.colour ?? undefined,
        standing: kept.standing,
        why: kept.proof?.sentence,
        at: kept.kept_at,
        note: kept.note,
        source,
      },
      cut: nextCutId(),
    },
    coupons: coupons.filter((c) => c.cutter_id === bench.cutter.id),
  };
}

/** Keeps a number as the setting, notes an ordinary cut, pins, or follows a school. */
export function action(args: Route.ActionArgs) {
  const { vinyl } = args.params;
  const back = (form: FormData, more: Record<string, string> = {}) => {
    const colour = form.get('colour');
    const query = new URLSearchParams({ ...(typeof colour === 'string' && colour !== '' ? { colour } : {}), ...more });
    return `/vinyls/${vinyl}?${query}`;
  };
  return actions(access, args, {
    cut: async ({ person, form, address }) => {
      const bench = await benchOf(person);
      if (!bench) throw new Invalid({ form: words.vinyl.noBench });
      return `/cuts/${await reportCutHere(person, bench, form, address)}`;
    },
    follow: async ({ person, form }) => {
      await followVinyl(person, vinyl, form.get('on') === 'yes');
      return back(form);
    },
    pin: async ({ person, form }) => {
      await pinVinyl(person, vinyl, form.get('pinned') === 'yes');
      return back(form);
    },
    school: async ({ person, form }) => {
      await followSchool(person, vinyl, form);
      return back(form);
    },
    peel: async ({ person, form }) => {
      await sayPeel(person, vinyl, form);
      return back(form);
    },
    keep: async ({ person, form }) => {
      const to = back(form, { wanted: form.get('wanted') === 'through' ? 'through' : 'clean' });
      if (form.get('only') !== 'yes') form.delete('colour');
      await keepSetting(person, form);
      return to;
    },
  });
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: words.title(loaderData ? vinylTitle(loaderData.vinyl) : '') },
];

/** Under this chance of a clean cut a check is worth its vinyl. */
const CHECK_UNDER = 0.85;

/** One's own cells speak first, then what others found on this model, then what they found on theirs, then the type. */
const shownResult = (bench: Known): FitResult | ShownFit =>
  bench.result.evidence.cells > 0 ? bench.result : (bench.shared?.result ?? bench.translated?.shown ?? bench.result);
type Known = {
  result: FitResult;
  shared: { result: FitResult } | undefined;
  translated: Translated | undefined;
};

/** The controls shown: those kept, else the standing ones at the strength that is advised. */
function shownSetting(
  bench: Known & { cutter: { model: CutterModel }; base: Setting; kept: { controls: Setting } | undefined },
): Setting {
  const { summary } = shownResult(bench);
  return (
    bench.kept?.controls ?? atStrength(bench.cutter.model, bench.base, (summary.recommended ?? summary.best).position)
  );
}

export default function VinylPage({ loaderData, actionData }: Route.ComponentProps) {
  const { vinyl, bench, colours, inHand, schools, pinned, stock, leaflet } = loaderData;
  const coupons = 'coupons' in loaderData ? loaderData.coupons : [];
  const t = words.vinyl;
  const zone = useZone();
  const unit = useLengthUnit();
  const { behaviour } = vinyl;
  const back = behaviour.cutFrom === 'back';
  const small = (um: number) =>
    unit === 'mm' ? `${micrometresToMm(um)} mm` : `${Number(micrometresToInches(um).toFixed(3))} in`;
  const cells = bench?.result.evidence.cells ?? 0;
  // A number one has or others have found is cut first; a guess is tested first. Either can be done.
  const known = bench?.bladed && (bench.kept || cells > 0 || bench.shared || bench.translated);
  const cutForm = bench?.bladed && (
    <WriteForm what="cut">
      <input type="hidden" name="cut" value={bench.cut} />
      <input type="hidden" name="vinyl" value={vinyl.id} />
      {vinyl.colour && <input type="hidden" name="colour" value={vinyl.colour.id} />}
      <input type="hidden" name="cutter" value={bench.cutter.id} />
      <input type="hidden" name="wanted" value={bench.wanted} />
      <input type="hidden" name="setting" value={JSON.stringify(shownSetting(bench))} />
      <Button type="submit" variant={known ? 'contained' : 'outlined'}>
        {t.iCut}
      </Button>
      <label className="with-mark">
        <input type="checkbox" name="witness" value="yes" defaultChecked /> {t.markCut}
      </label>
    </WriteForm>
  );
  const planAt = (wanted: string) =>
    `/coupons/new?vinyl=${vinyl.id}&wanted=${wanted}${inHand ? `&colour=${inHand}` : ''}`;
  const colourNav = colours.length > 1 && (
    <nav className="colour-nav" aria-label={t.colours}>
      {colours.map((c) => (
        <Link
          key={c.id}
          to={`?colour=${c.id}${bench ? `&wanted=${bench.wanted}` : ''}`}
          aria-current={c.id === vinyl.colour?.id ? 'true' : undefined}
          preventScrollReset
          replace
        >
          <span className="dab" style={{ background: c.hex }} aria-hidden="true" />
          {isolate(c.name)}
        </Link>
      ))}
    </nav>
  );
  const head = (
    <div className="head">
      <Swatch
        type={vinyl.type}
        hex={vinylHex(vinyl)}
        size={92}
        standing={(bench?.kept?.standing as Standing | undefined) ?? (cells > 0 ? 'tried' : 'draft')}
      />
      <div>
        <h1>{vinylTitle(vinyl)}</h1>
        <p className="quiet">
          {typeWord(vinyl)}
          {bench &&
            ` · ${cells > 0 ? `${words.from.tried}: ${words.from.cells(cells, bench.result.evidence.coupons)}` : bench.shared ? `${words.from.others(bench.shared.crafters)}, ${words.from.sameModel}` : bench.translated ? `${words.from.others(bench.translated.crafters)}, ${words.from.translated}` : words.from.type}`}
        </p>
      </div>
      {bench &&
        (known ? (
          <div className="push">{cutForm}</div>
        ) : (
          <GoButton className="push" to={planAt(bench.wanted)} variant="contained">
            {t.plan}
          </GoButton>
        ))}
    </div>
  );
  if (!bench)
    return (
      <>
        {head}
        {colourNav}
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
  const translated = cells === 0 && !others ? bench.translated : undefined;
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
  const [one, ...further] = bench.differ;
  const other = one && further.find((o) => o.position !== one.position);
  const nameOf = (id: string) => isolate(colours.find((c) => c.id === id)?.name ?? '');
  const differs =
    one &&
    other &&
    t.colourDiffers(
      nameOf(one.colour),
      formatPosition(axis, one.position),
      nameOf(other.colour),
      formatPosition(axis, other.position),
    );
  const rest = formatSetting(cutter.model, shown).filter((p) => p.key !== axis.key);
  // Once the blade has aged, a number that was sure may no longer be.
  const worn = bench.drift !== undefined && result.summary.best.chance < CHECK_UNDER;
  return (
    <>
      {head}
      {colourNav}
      <div className="cols three">
        <section aria-labelledby="cut">
          <h2 className="section-word" id="cut">
            {t.cut}
          </h2>
          <nav className="two-ways" aria-label={t.wanted}>
            {(['clean', 'through'] as const).map((w) => (
              <Link
                key={w}
                to={`?wanted=${w}${inHand ? `&colour=${inHand}` : ''}`}
                aria-current={w === wanted ? 'true' : undefined}
                preventScrollReset
                replace
              >
                {t[w]}
              </Link>
            ))}
          </nav>
          <ToSet
            axis={axis}
            position={position}
            sure={cells > 0 || !!kept || !!others || !!translated}
            testId="to-set"
          />
          <div style={{ margin: '20px 0 12px' }}>
            <WindowStrip axis={axis} result={result} domain={domain} dots={dots} mark={position} scale />
          </div>
          {translated ? <p data-testid="how">{howTranslated(translated)}</p> : <p>{result.sentence}</p>}
          {translated && (
            <p className="quiet">
              {words.card.between(formatPosition(axis, translated.low), formatPosition(axis, translated.high))}
            </p>
          )}
          {cells === 0 && !translated && <p className="quiet">{others ? t.othersMark : t.draftMark}</p>}
          {kept?.why && (
            <p className="proof" data-testid="proof">
              {capital(kept.why)}.
            </p>
          )}
          {bench.split && <SplitNotice split={bench.split} model={cutter.model} />}
          {kept?.source && (
            <p>
              {t.adopted(isolate(kept.source.author))}{' '}
              {kept.source.address && <Link to={`/cards/${kept.source.address}`}>{t.toCard}</Link>}
            </p>
          )}
          {kept && (
            <p className="quiet">
              {t.keptOn(day(kept.at, zone))}
              {kept.colour && `, ${t.keptFor(isolate(kept.colour))}`}
              {kept.note && ` · ${kept.note}`}
              {keptDiffers && ` · ${t.keptDiffers(formatPosition(axis, keptPosition!))}`}
            </p>
          )}
          {differs && <p data-testid="colours-differ">{differs}</p>}
          {bench.drift && (
            <p data-testid="drift">
              {bench.drift.then === bench.drift.now
                ? t.driftSame(percent(bench.drift.share))
                : t.drift(
                    formatPosition(axis, bench.drift.then),
                    formatPosition(axis, bench.drift.now),
                    percent(bench.drift.share),
                  )}
            </p>
          )}
          {cells > 0 && (bench.otherBlade || worn) && (
            <p className="notice" style={{ marginTop: 16 }} data-testid="retune">
              {bench.otherBlade ? t.otherBlade : t.unsure(timesInHundred(result.summary.best.chance))}{' '}
              <Link to={`${planAt(wanted)}&mode=retune`}>{t.retune}</Link>
            </p>
          )}
          {bench.blade === 'soon' && <p>{t.bladeSoon}</p>}
          {bench.blade === 'over' && <p>{t.bladeOver}</p>}
          <dl className="facts" style={{ marginTop: 24 }}>
            <ControlFacts parts={rest} />
            <dt>{t.mat}</dt>
            <dd>
              {words.mats[behaviour.mat]}
              {bench.mat && behaviour.mat !== 'none' && bench.mat.advice !== 'good' && (
                <span className="small">
                  <br />
                  {bench.mat.advice === 'wash'
                    ? t.toWash(isolate(bench.mat.name))
                    : t.toReplace(isolate(bench.mat.name))}
                </span>
              )}
            </dd>
            <dt>{t.mirror}</dt>
            <dd>
              {back ? t.mirrorYes : t.mirrorNo}
              <span>{back ? t.mirrorYesWhy : t.mirrorNoWhy}</span>
            </dd>
          </dl>
          {bench.bladed && (
            <details className="mark-files">
              <summary>{t.mark}</summary>
              <p className="quiet">{t.markWhy}</p>
              <p className="line-up">
                {cutFileKinds.map((kind) => (
                  <a
                    key={kind}
                    href={`/vinyls/${vinyl.id}/mark/${kind}?setting=${encodeURIComponent(JSON.stringify(shown))}`}
                    download
                  >
                    {words.coupon.files[kind]}
                  </a>
                ))}
              </p>
            </details>
          )}
          <Schools
            topic="cut"
            voices={schools.cut}
            colour={inHand}
            ways={behaviour.cutSchools.map((s) => ({
              key: s.key,
              title: s.says,
              shown: <p>{s.because}</p>,
            }))}
          />
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
          <p className="quiet" style={{ marginTop: 8 }}>
            {t.least(small(behaviour.minFeatureUm), small(behaviour.minGapUm))}
            {behaviour.growthUm > 0 && ` ${t.growth(small(behaviour.growthUm))}`}
            {behaviour.minLengthUm > 0 && ` ${t.short(small(behaviour.minLengthUm))}`}
          </p>
          {bench.weeding && (
            <p style={{ marginTop: 8 }} data-testid="weeding">
              {words.weeding.reading(bench.weeding.n, bench.weeding.ease.toFixed(1))}{' '}
              {words.weeding.holds(small(bench.weeding.leastLineUm), small(bench.weeding.leastGapUm))}{' '}
              {bench.weeding.torn > 0 && words.weeding.tornTimes(bench.weeding.torn, bench.weeding.n)}
            </p>
          )}
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
          <PressSteps behaviour={behaviour} voices={schools.press} colour={inHand} presses={bench.presses} />
          {behaviour.press.length > 0 && (
            <LeafletBox vinyl={vinyl.id} view={leaflet.leaflet} peel={leaflet.peel} colour={inHand} />
          )}
        </section>
      </div>
      <div className="actions">
        <BenchModeButton />
        {!known && cutForm}
        {known && <GoButton to={planAt(wanted)}>{cells > 0 ? t.planMore : t.plan}</GoButton>}
        {kept && !kept.source && (
          <GoButton to={bench.card ? `/cards/${bench.card.id}` : `/cards/new?vinyl=${vinyl.id}&wanted=${wanted}`}>
            {bench.card ? t.card : t.share}
          </GoButton>
        )}
      </div>
      <div className="ways">
        <Link to={`/vinyls/${vinyl.id}/about`}>{t.about}</Link>
        <Link to={`/stock?vinyl=${vinyl.id}${inHand ? `&colour=${inHand}` : ''}`}>
          {stock.length > 0
            ? `${t.stock}: ${stock.map((p) => `${words.stock.kinds[p.kind]} ${p.code}`).join(', ')}`
            : t.open}
        </Link>
        <WriteForm what="pin" preventScrollReset>
          {inHand && <input type="hidden" name="colour" value={inHand} />}
          <input type="hidden" name="pinned" value={pinned ? 'no' : 'yes'} />
          <button type="submit" className="as-link">
            {pinned ? t.unpin : t.pin}
          </button>
        </WriteForm>
        <WriteForm what="follow" preventScrollReset>
          {inHand && <input type="hidden" name="colour" value={inHand} />}
          <input type="hidden" name="on" value={bench.followed ? 'no' : 'yes'} />
          <button type="submit" className="as-link">
            {bench.followed ? words.card.unfollow : words.card.follow}
          </button>
        </WriteForm>
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
          colour={colours.length > 1 ? vinyl.colour : undefined}
        />
      )}
      {bench.rows.length > 0 && <EvidenceTable model={cutter.model} rows={bench.rows} late />}
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
