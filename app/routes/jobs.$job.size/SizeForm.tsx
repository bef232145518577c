import Button from '@mui/material/Button';
import { useState } from 'react';
import { place, type Placed, type Spot } from '#core/place/index.ts';
import { inchesToMicrometres, mmToMicrometres, parseDecimal } from '#core/units/index.ts';
import { words } from '../../messages/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { FormNotice, SelectField } from '../../ui/base/Field.tsx';
import { bothSizes, sayLength, typedLength } from '../../ui/base/format.ts';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { OnBlank } from '../../ui/jobs/OnBlank.tsx';
import { useLengthUnit, useNumberStyle } from '../../ui/people/usePerson.ts';
import { Judged } from './Judged.tsx';
import { Stepper } from './Stepper.tsx';
import { judgedOf, type Size } from './size.ts';

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

/** Width and place of a design, worked out as they are changed. */
export function SizeForm({ job, size, answer }: { job: string; size: Size; answer: FormAnswer | undefined }) {
  const t = words.jobSize;
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const { blank, design } = size;
  const [width, setWidth] = useState(answer?.values.width ?? typedLength(design.widthUm, unit));
  const [down, setDown] = useState(answer?.values.down ?? typedLength(design.spot.down, unit));
  const [across, setAcross] = useState(answer?.values.across ?? typedLength(design.spot.across, unit));
  const [from, setFrom] = useState<Spot['from']>(design.spot.from);
  const [anchor, setAnchor] = useState(design.spot.anchor);
  const [mirrored, setMirrored] = useState(design.mirrored);
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
  const say = (um: number) => sayLength(Math.round(um), unit, style);
  return (
    <WriteForm what="size" className="size-page" noValidate>
      <OnBlank
        blank={blank}
        art={{ width: size.width, height: size.height, layers: size.layers }}
        placed={placed}
        design={{ width: widthUm, height: heightUm }}
        mirrored={mirrored}
        marks={judged.flatMap((j) => j.faults)}
        say={say}
        onAnchor={setAnchor}
      />
      <div>
        <FormNotice answer={answer} text={words.errors.form} />
        <input type="hidden" name="from" value={from} />
        <input type="hidden" name="anchorX" value={anchor.x} />
        <input type="hidden" name="anchorY" value={anchor.y} />
        {mirrored && <input type="hidden" name="mirrored" value="yes" />}
        <div className="pair">
          <Stepper
            name="width"
            label={t.width}
            value={width}
            unit={unit}
            problem={answer?.fields.width}
            onChange={setWidth}
          />
          <Stepper
            name="down"
            label={t.below}
            value={down}
            unit={unit}
            problem={answer?.fields.down}
            onChange={setDown}
            kept={from === 'centred'}
          />
        </div>
        <Sums
          size={size}
          placed={placed}
          design={{ width: widthUm, height: heightUm }}
          even={from !== 'edge' && anchor.x === 0.5}
        />
        <div className="pair above-16">
          <SelectField
            name="where"
            label={t.from}
            answer={undefined}
            initial={from}
            options={Object.entries(t.froms)}
            onChange={(e) => {
              const to = e.target.value as Spot['from'];
              setFrom(to);
              setAnchor(usualAnchor(to));
            }}
          />
          <Stepper
            name="across"
            label={t.across}
            value={across}
            unit={unit}
            problem={answer?.fields.across}
            onChange={setAcross}
            kept={from !== 'edge'}
          />
        </div>
        <Hung from={from} anchor={anchor} onUsual={setAnchor} />
        <label className="check">
          <input type="checkbox" checked={mirrored} onChange={(e) => setMirrored(e.target.checked)} /> {t.mirrored}
        </label>
        <Judged
          job={job}
          size={size}
          judged={judged}
          widthUm={widthUm}
          widest={placed.widest}
          onWidth={(um) => setWidth(typedLength(um, unit))}
        />
        <div className="actions">
          <Button type="submit" variant="contained">
            {t.next}
          </Button>
          {design.sized && (
            <a href={`/jobs/${job}/paper`} className="plain-link">
              {t.paper}
            </a>
          )}
        </div>
      </div>
    </WriteForm>
  );
}

/** The sums a crafter does on paper: what is free on each side, what is usual, what fits. */
function Sums({
  size,
  placed,
  design,
  even,
}: {
  size: Size;
  placed: Placed;
  design: { width: number; height: number };
  even: boolean;
}) {
  const t = words.jobSize;
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const say = (um: number) => sayLength(Math.round(um), unit, style);
  const { blank } = size;
  return (
    <>
      <p className="quiet above-8">
        {bothSizes(design.width, design.height, unit, style).join(', ')}.{' '}
        {even
          ? t.sums(
              say((blank.width - design.width) / 2),
              `(${typedLength(blank.width, unit)} − ${typedLength(design.width, unit)}) / 2`,
            )
          : t.gaps(say(placed.left), say(placed.right), say(placed.top), say(placed.bottom))}{' '}
        {t.usual(say(placed.usual!))} {t.widest(say(placed.widest))}
      </p>
      {placed.over.length > 0 && <p className="notice bad">{t.over(placed.over.join(', '))}</p>}
    </>
  );
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
