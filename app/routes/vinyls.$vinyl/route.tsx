import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { Link, redirect } from 'react-router';
import { strengthAxis, startingSetting } from '#core/controls/index.ts';
import { currentGrades } from '#core/grades/index.ts';
import { micrometresToInches, micrometresToMm } from '#core/units/index.ts';
import { wantedOfType } from '#core/vinyls/index.ts';
import { ownCard } from '#work/shelf/publish.ts';
import { reportCutWithCard, sourceOf } from '#work/shelf/adopt.ts';
import { sharedReadingOf } from '#work/shelf/shared.ts';
import { shelfOnBench, splitOnBench } from '#work/shelf/onBench.ts';
import { answerFor, bestKnown, small, type Known, type Split } from '#core/answer/index.ts';
import { coloursOf } from '#work/vinyls/catalogue.ts';
import { addNote, notesOf } from '#work/jobs/beside.ts';
import { followSchool, schoolsOf } from '#work/vinyls/schools.ts';
import { leafletOf } from '#work/answer/leaflet.ts';
import { addLeaflet, sayPeel } from '#work/vinyls/leaflet.ts';
import { listCoupons } from '#work/coupons/coupons.ts';
import { Invalid } from '#work/base/errors.ts';
import { nextCutId } from '#work/cuts/cuts.ts';
import { keepSetting } from '#work/shelf/evidence.ts';
import { colourNumbers, driftOf, readingFor, settingOf, typeReading } from '#work/coupons/readings.ts';
import { evidenceRows, weedingOf } from '#work/coupons/evidence.ts';
import { followVinyl, isFollowed } from '#work/shelf/social.ts';
import { stockOfVinyl } from '#work/vinyls/stock.ts';
import { pressAnswers } from '#work/vinyls/pressAnswers.ts';
import { isPinned, pinVinyl, vinylOf, type Vinyl } from '#work/vinyls/vinyls.ts';
import { benchOf, type Bench } from '#work/workshop/bench.ts';
import { besideCutter } from '#work/workshop/workshop.ts';
import { words } from '../../messages/index.ts';
import { actions, visitorsBench, enter } from '../../server/enter.server.ts';
import { BenchModeButton } from '../../ui/coupons/benchMode.tsx';
import { EvidenceTable } from '../../ui/shelf/EvidenceTable.tsx';
import { HandSchools } from '../../ui/vinyls/HandSchools.tsx';
import { KeepForm } from '../../ui/cuts/KeepForm.tsx';
import { GoButton } from '../../ui/base/Link.tsx';
import { LeafletBox } from '../../ui/vinyls/LeafletBox.tsx';
import { PressSteps } from '../../ui/vinyls/PressSteps.tsx';
import { useLengthUnit } from '../../ui/people/usePerson.ts';
import { vinylTitle } from '../../ui/vinyls/vinylName.ts';
import { PutOnBench } from '../../ui/workshop/PutOnBench.tsx';
import type { Route } from './+types/route';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { ColourNav, Head } from './Head.tsx';
import { SideToCheck } from './SideToCheck.tsx';
import { MoreWays, Coupons } from './MoreWays.tsx';
import { shownSetting } from './shown.ts';
import { ToCut } from './ToCut.tsx';
import { Section } from '../../ui/base/Section.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

/** What to set for this vinyl on the cutter on the bench, which side goes down, and what it rests on. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const query = new URL(args.request.url).searchParams;
  const colour = query.get('colour') ?? undefined;
  const [vinyl, bench] = await Promise.all([vinylOf(person, args.params.vinyl, colour), visitorsBench(args)]);
  // An entry that was merged into another is that other one.
  if (vinyl.id !== args.params.vinyl) throw redirect(`/vinyls/${vinyl.id}`);
  const [colours, schools, pinned, stock, leaflet, answers, notes] = await Promise.all([
    coloursOf(vinyl.id),
    schoolsOf(person, vinyl.id),
    isPinned(person, vinyl.id),
    stockOfVinyl(person, vinyl.id),
    leafletOf(person, vinyl),
    pressAnswers(person, [vinyl]),
    notesOf(person, vinyl.id),
  ]);
  const first = colours[0]?.id;
  const inHand = vinyl.colour?.id === first ? undefined : vinyl.colour?.id;
  const common = { vinyl, colours, inHand, schools, pinned, stock, leaflet, notes, press: answers.get(vinyl.id)! };
  if (!bench) return { ...common, bench: undefined };
  const asked = query.get('wanted');
  const wanted = asked === 'clean' || asked === 'through' ? asked : wantedOfType(vinyl.type);
  const axis = strengthAxis(bench.cutter.model);
  if (!person) return { ...common, bench: await guestBench(bench, vinyl, wanted), coupons: [] };
  const [{ result, evidence, events }, kept, coupons, shared, card, { mat, presses }, others, followed] =
    await Promise.all([
      readingFor(person.id, vinyl.id, bench.cutter.id, wanted, inHand),
      settingOf(person.id, vinyl.id, bench.cutter, wanted, vinyl.colour?.id),
      listCoupons(person, 100, vinyl.id),
      sharedReadingOf(vinyl.id, bench.cutter.model, wanted),
      ownCard(person, vinyl.id, bench.cutter.model, wanted),
      besideCutter(person),
      shelfOnBench(bench, [vinyl.id], wanted),
      isFollowed(person, vinyl.id),
    ]);
  const [rows, differ, drift, weeding, source] = await Promise.all([
    evidenceRows(evidence, events),
    colourNumbers(evidence, events),
    driftOf(evidence, events, result),
    weedingOf(evidence, events),
    kept?.source_card ? sourceOf(kept.source_card) : undefined,
  ]);
  const [translated, split] = [others.translations.get(vinyl.id), others.splits.get(vinyl.id)];
  const graded = new Set(currentGrades(events).map((g) => g.cell));
  const known = evidence.cells.filter((c) => graded.has(c.id));
  const { key } = axis;
  // Where only other colours were cut, what is said of this one is theirs.
  const onlyOthers = known.length > 0 && known.every((c) => c.colour && c.colour !== vinyl.colour?.id);
  const told = {
    result,
    shared,
    translated: translated?.result && translated.result.basis !== 'type' ? translated.result : undefined,
  };
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
      presses: presses.slice(0, 2),
      wanted,
      base: evidence.base,
      ...told,
      answer: answerOf(told, kept?.controls.steps[key], split),
      split,
      followed,
      card: card && { id: card.id, number: card.number },
      rows,
      differ,
      otherColours: onlyOthers ? [...new Set(known.map((c) => c.colour!))] : [],
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
        missing: kept.proof?.missing,
        at: kept.kept_at,
        note: kept.note,
        source,
        imported: kept.import_id !== null,
      },
      cut: nextCutId(),
    },
    coupons: coupons.filter((c) => c.cutter_id === bench.cutter.id),
  };
}

/** What a bench card says to somebody who has not begun: their cutter is tried on, nothing of theirs is known. */
async function guestBench(bench: Bench, vinyl: Vinyl, wanted: 'clean' | 'through') {
  const known = {
    result: await typeReading(bench.cutter.model, vinyl.type, wanted),
    shared: await sharedReadingOf(vinyl.id, bench.cutter.model, wanted),
    translated: undefined,
  };
  const split = await splitOnBench(bench, vinyl.id, wanted);
  return {
    ...known,
    answer: answerOf(known, undefined, split),
    cutter: bench.cutter,
    bladed: false,
    blade: undefined,
    otherBlade: false,
    mat: undefined,
    presses: [],
    wanted,
    base: startingSetting(bench.cutter.model),
    split,
    followed: false,
    dots: [],
    rows: [],
    differ: [],
    otherColours: [],
    drift: undefined,
    weeding: undefined,
    kept: undefined,
    card: undefined,
    cut: '',
  };
}

/** The one number of this page: the same that lists and charts say. */
function answerOf(known: Known, kept: number | undefined, split: Split | undefined) {
  const { reading, from } = bestKnown(known);
  return answerFor({ kept, reading: small(reading), from, split });
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
      return `/cuts/${await reportCutWithCard(person, bench, form, address)}`;
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
    leaflet: async ({ person, form }) => {
      await addLeaflet(person, vinyl, form);
      return back(form);
    },
    note: async ({ person, form }) => {
      await addNote(person, vinyl, 'card', form);
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

export default function VinylPage({ loaderData, actionData }: Route.ComponentProps) {
  const { vinyl, bench, colours, inHand, schools, pinned, stock, leaflet, notes, press } = loaderData;
  const coupons = 'coupons' in loaderData ? loaderData.coupons : [];
  const t = words.vinyl;
  const unit = useLengthUnit();
  const { behaviour } = vinyl;
  const small = (um: number) =>
    unit === 'mm' ? `${micrometresToMm(um)} mm` : `${Number(micrometresToInches(um).toFixed(3))} in`;
  const cells = bench?.result.evidence.cells ?? 0;
  // A number one has or others have found is cut first; a guess is tested first. Either can be done.
  const known = bench?.bladed && !bench.answer.camps && bench.answer.from !== 'type';
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
    </WriteForm>
  );
  const planAt = (wanted: string) =>
    `/coupons/new?vinyl=${vinyl.id}&wanted=${wanted}${inHand ? `&colour=${inHand}` : ''}`;
  const colourNav = colours.length > 1 && <ColourNav colours={colours} vinyl={vinyl} bench={bench} />;
  const head = <Head vinyl={vinyl} bench={bench} cutForm={cutForm} known={!!known} planAt={planAt} />;
  if (!bench)
    return (
      <>
        {head}
        {colourNav}
        <p className="lede">{t.noBench}</p>
        <div className="actions">
          <PutOnBench />
        </div>
      </>
    );
  const { kept, cutter, wanted, base } = bench;
  return (
    <>
      {head}
      {colourNav}
      <div className="cols three">
        <ToCut vinyl={vinyl} bench={bench} inHand={inHand} colours={colours} schools={schools} planAt={planAt} />
        <SideToCheck
          vinyl={vinyl}
          behaviour={behaviour}
          bench={bench}
          notes={notes}
          answer={actionData}
          colour={inHand}
          small={small}
        />
        <Section id="press" title={t.press}>
          <PressSteps
            behaviour={behaviour}
            answer={press}
            voices={schools.press}
            colour={inHand}
            presses={bench.presses}
          />
          {behaviour.bond === 'heat' && (
            <LeafletBox
              vinyl={vinyl.id}
              view={leaflet.leaflet}
              peel={leaflet.peel}
              colour={inHand}
              answer={actionData?.values.what === 'leaflet' ? actionData : undefined}
            />
          )}
          <HandSchools type={vinyl.type} voices={schools} colour={inHand} />
          {behaviour.bond === 'heat' && (
            <p className="above-14">
              <Link to={`/vinyls/${vinyl.id}/press`}>{words.recipes.link}</Link>
            </p>
          )}
        </Section>
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
      <MoreWays vinyl={vinyl} inHand={inHand} stock={stock} pinned={pinned} bench={bench} />
      {bench.bladed && (
        <KeepForm
          answer={actionData}
          vinyl={vinyl.id}
          cutter={cutter}
          wanted={wanted}
          base={kept?.controls ?? base}
          position={bench.answer.position}
          title={cells > 0 || kept ? words.result.keepOther : words.result.alreadyKnow}
          colour={colours.length > 1 ? vinyl.colour : undefined}
        />
      )}
      {bench.rows.length > 0 && <EvidenceTable model={cutter.model} rows={bench.rows} late />}
      {coupons.length > 0 && <Coupons coupons={coupons} />}
    </>
  );
}
