import Button from '@mui/material/Button';
import { useState } from 'react';
import { Link } from 'react-router';
import { keptAt } from '#core/job/index.ts';
import { place, type Placed, type Spot } from '#core/place/index.ts';
import { inchesToMicrometres, mmToMicrometres, parseDecimal } from '#core/units/index.ts';
import { words } from '../../messages/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { FormNotice, SelectField } from '../../ui/base/Field.tsx';
import { bothSizes, sayLength, saySize, typedLength } from '../../ui/base/format.ts';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { OnBlank } from '../../ui/jobs/OnBlank.tsx';
import { useHandEvents } from '../../ui/base/useHandEvents.ts';
import { useSayAtJob } from '../../ui/jobs/useSayAtJob.ts';
import { useLengthUnit, useNumberStyle } from '../../ui/people/usePerson.ts';
import { CutAlready, cutOtherwise, type CutChoice } from './CutAlready.tsx';
import { Films } from './Films.tsx';
import { layersTooLarge, OnMat } from './OnMat.tsx';
import { Stepper } from './Stepper.tsx';
import { judgedOf, type Size } from './size.ts';
import { Fixes, SizeStrip, Verdict } from './Verdict.tsx';

/** The anchor that is usual for where a design goes. */
const usualAnchor = (from: Spot['from']): Spot['anchor'] => ({ x: 0.5, y: from === 'centred' ? 0.5 : 0 });

/** What is typed as a length, µm; undefined for nothing that is one. */
function typed(text: string, unit: 'mm' | 'in'): number | undefined {
  const value = parseDecimal(text);
  return value === undefined || !(value > 0)
    ? undefined
    : unit === 'in'
      ? inchesToMicrometres(value)
      : mmToMicrometres(value);
}

type Props = { job: string; rev: number; size: Size; answer: FormAnswer | undefined };

/** One board: the drawing on its blank, whether it cuts and weeds, its size, its vinyls and what mends it. All of it goes along to any other page. */
export function SizeForm({ job, rev, size, answer }: Props) {
  const t = words.jobSize;
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const tell = useSayAtJob(job, rev);
  // Whatever is said here is answered by the server: the page asks it once that has arrived.
  useHandEvents('job', [job], true);
  const { blank, design } = size;
  const [width, setWidth] = useState(answer?.values.width ?? typedLength(design.widthUm, unit));
  const [down, setDown] = useState(answer?.values.down ?? typedLength(design.spot.down, unit));
  const [across, setAcross] = useState(answer?.values.across ?? typedLength(design.spot.across, unit));
  const [from, setFrom] = useState<Spot['from']>(design.spot.from);
  const [anchor, setAnchor] = useState(design.spot.anchor);
  const [mirrored, setMirrored] = useState(design.mirrored);
  const [choice, setChoice] = useState<CutChoice>('keep');
  const widthUm = typed(width, unit) ?? design.widthUm;
  const spot: Spot = { from, down: typed(down, unit) ?? 0, across: typed(across, unit) ?? 0, anchor };
  const heightUm = Math.max(1_000, Math.round((widthUm * size.height) / size.width));
  const placed = place({
    format: 'versipel-place/1',
    blank,
    design: { width: widthUm, height: heightUm },
    spot,
    shape: blank.shape,
    size: blank.size,
    side: blank.side,
    habits: size.habits,
  });
  const judged = judgedOf(size, widthUm);
  const large = layersTooLarge(size, widthUm);
  const say = (um: number) => sayLength(Math.round(um), unit, style);
  const resize = (um: number) => setWidth(typedLength(um, unit));
  /** What was saved meanwhile, where it is another than was typed. */
  const stands = (name: string, saved: string) =>
    answer?.changed && answer.values[name] !== saved ? words.seen.stands(saved) : undefined;
  /** What becomes of layers that are cut already goes the way of everything hands decide. */
  const decide = () => {
    for (const { part, attempt } of cutOtherwise(size, widthUm))
      tell(
        choice === 'again'
          ? { kind: 'start', step: `trim/${part}`, attempt: attempt + 1 }
          : { kind: 'agreed', step: `cut/${part}`, attempt, to: keptAt(widthUm) },
      );
  };
  return (
    <WriteForm what="size" seen={size.seen} className="size-page" noValidate onSubmit={decide}>
      <div>
        <OnBlank
          blank={blank}
          art={{ width: size.width, height: size.height, layers: size.layers }}
          placed={placed}
          design={{ width: widthUm, height: heightUm }}
          mirrored={mirrored}
          marks={judged.faults}
          say={say}
          onAnchor={setAnchor}
        />
        <p className="under-blank">
          <strong>{saySize(widthUm, heightUm, unit, style)}</strong>{' '}
          <Link to={`/jobs/art?job=${job}`} className="plain-link">
            {t.changeArt}
          </Link>
        </p>
      </div>
      <div>
        <FormNotice answer={answer} text={words.errors.form} />
        <Verdict size={size} judged={judged} widthUm={widthUm} />
        <input type="hidden" name="from" value={from} />
        <input type="hidden" name="anchorX" value={anchor.x} />
        <input type="hidden" name="anchorY" value={anchor.y} />
        {mirrored && <input type="hidden" name="mirrored" value="yes" />}
        <div className="pair above-16">
          <Stepper
            name="width"
            label={t.width}
            value={width}
            unit={unit}
            problem={answer?.fields.width ?? stands('width', typedLength(design.widthUm, unit))}
            onChange={setWidth}
          />
          <SizeStrip judged={judged} widthUm={widthUm} widest={placed.widest} />
        </div>
        <Sums size={size} placed={placed} design={{ width: widthUm, height: heightUm }} />
        <OnMat size={size} large={large} widthUm={widthUm} onWidth={resize} />
        <CutAlready size={size} widthUm={widthUm} choice={choice} onChoice={setChoice} onWidth={resize} />
        {judged.faults.length > 0 && (
          <Fixes size={size} judged={judged} widthUm={widthUm} widest={placed.widest} onWidth={resize} />
        )}
        <Films size={size} judged={judged} />
        <Next job={job} size={size} faults={judged.faults.length} large={large.length > 0} />
        <MoveIt
          answer={answer}
          says={saySpot(placed, say)}
          unit={unit}
          spot={{ from, down, across, anchor, mirrored }}
          set={{ from: setFrom, down: setDown, across: setAcross, anchor: setAnchor, mirrored: setMirrored }}
        />
      </div>
    </WriteForm>
  );
}

type Where = { from: Spot['from']; down: string; across: string; anchor: Spot['anchor']; mirrored: boolean };

/** Where on the blank it goes, folded away: most designs stay where they are usual. */
function MoveIt({
  answer,
  says,
  unit,
  spot,
  set,
}: {
  answer: FormAnswer | undefined;
  says: string;
  unit: 'mm' | 'in';
  spot: Where;
  set: { [K in keyof Where]: (value: Where[K]) => void };
}) {
  const t = words.jobSize;
  return (
    <details className="above-24 move-it" open={answer?.fields.down || answer?.fields.across ? true : undefined}>
      <summary>
        {t.move} <span className="quiet">{says}</span>
      </summary>
      <div className="pair above-16">
        <Stepper
          name="down"
          label={t.below}
          value={spot.down}
          unit={unit}
          problem={answer?.fields.down}
          onChange={set.down}
          kept={spot.from === 'centred'}
        />
        <Stepper
          name="across"
          label={t.across}
          value={spot.across}
          unit={unit}
          problem={answer?.fields.across}
          onChange={set.across}
          kept={spot.from !== 'edge'}
        />
        <SelectField
          name="where"
          label={t.from}
          answer={undefined}
          initial={spot.from}
          options={Object.entries(t.froms)}
          onChange={(e) => {
            const to = e.target.value as Spot['from'];
            set.from(to);
            set.anchor(usualAnchor(to));
          }}
        />
      </div>
      <Hung from={spot.from} anchor={spot.anchor} onUsual={set.anchor} />
      <label className="check">
        <input type="checkbox" checked={spot.mirrored} onChange={(e) => set.mirrored(e.target.checked)} /> {t.mirrored}
      </label>
    </details>
  );
}

/** On with it: calm while something is too fine or too large, and never in the way of somebody who knows better. */
function Next({ job, size, faults, large }: { job: string; size: Size; faults: number; large: boolean }) {
  const t = words.jobSize;
  return (
    <div className="actions">
      {faults === 0 && !large ? (
        <Button type="submit" variant="contained" size="large" data-testid="next">
          {t.next}
        </Button>
      ) : (
        <p>
          {faults > 0 ? t.fixFirst(faults) : t.largeFirst}{' '}
          <button type="submit" className="link-button" data-testid="anyway">
            {t.anyway}
          </button>
          .
        </p>
      )}
      {!size.named && (
        <Button type="submit" name="then" value="check" variant="text" data-testid="closer">
          {words.check.mendLink}
        </Button>
      )}
      {size.design.sized && (
        <a href={`/jobs/${job}/paper`} className="plain-link">
          {t.paper}
        </a>
      )}
    </div>
  );
}

/** How it lies, in a few words. */
const saySpot = (placed: Placed, say: (um: number) => string): string =>
  words.jobSize.gaps(say(placed.left), say(placed.right), say(placed.top), say(placed.bottom));

/** What is free on each side, what is usual, what fits; and what the press does not close over. */
function Sums({ size, placed, design }: { size: Size; placed: Placed; design: { width: number; height: number } }) {
  const t = words.jobSize;
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const say = (um: number) => sayLength(Math.round(um), unit, style);
  return (
    <>
      <p className="quiet above-8">
        {t.usual(say(placed.usual!))} {t.widest(say(placed.widest))}
      </p>
      {placed.over.length > 0 && <p className="notice bad">{t.over(placed.over.join(', '))}</p>}
      {size.platen && overPlaten(size, design.width) && (
        <p className="notice bad">{t.overPlaten(bothSizes(size.platen.width, size.platen.length, unit, style)[0])}</p>
      )}
    </>
  );
}

/** Whether the press does not close over all of it, whichever way it lies. */
function overPlaten({ platen, width, height }: Size, widthUm: number): boolean {
  const [long, short] = [Math.max(platen!.width, platen!.length), Math.min(platen!.width, platen!.length)];
  const heightUm = (widthUm * height) / width;
  return Math.max(widthUm, heightUm) > long || Math.min(widthUm, heightUm) > short;
}

/** What the design hangs by, and the way back to what is usual. */
function Hung({
  from,
  anchor,
  onUsual,
}: {
  from: Spot['from'];
  anchor: Spot['anchor'];
  onUsual: (anchor: Spot['anchor']) => void;
}) {
  const t = words.jobSize;
  const usual = usualAnchor(from);
  const word = from === 'centred' ? t.anchors.centre : t.anchors.top;
  const own = anchor.x !== usual.x || anchor.y !== usual.y;
  return (
    <p className="above-16">
      {t.anchor} <strong data-testid="anchor">{own ? t.anchors.part : word}</strong>.{' '}
      <span className="quiet">{t.anchorTap}</span>{' '}
      {own && (
        <Button variant="text" onClick={() => onUsual(usual)}>
          {word}
        </Button>
      )}
    </p>
  );
}
