import type { Behaviour } from '#core/vinyls/index.ts';
import { type SettingPart, type Axis, formatPosition } from '#core/controls/index.ts';
import type { Drift } from '#work/coupons/readings.ts';
import { Link } from 'react-router';
import { timesInHundred, type FitResult, type ShownFit } from '#core/window/index.ts';
import { words } from '../../messages/index.ts';
import { ControlFacts } from '../../ui/workshop/ControlFacts.tsx';
import { day, isolate, percent } from '../../ui/base/format.ts';
import { useZone } from '../../ui/people/usePerson.ts';

/** A number found with another or a sharper blade is worth a short check. */
export function Retune({
  bench,
  result,
  planAt,
  wanted,
}: {
  bench: { otherBlade: boolean };
  result: FitResult | ShownFit;
  planAt: (wanted: string) => string;
  wanted: string;
}) {
  const t = words.vinyl;
  return (
    <p className="notice" style={{ marginTop: 16 }} data-testid="retune">
      {bench.otherBlade ? t.otherBlade : t.unsure(timesInHundred(result.summary.best.chance))}{' '}
      <Link to={`${planAt(wanted)}&mode=retune`}>{t.retune}</Link>
    </p>
  );
}

/** How the number moved because the blade has aged. */
export function AgedBlade({ axis, bench }: { axis: Axis; bench: { drift: Drift } }) {
  const t = words.vinyl;
  return (
    <p data-testid="drift">
      {bench.drift.then === bench.drift.now
        ? t.driftSame(percent(bench.drift.share))
        : t.drift(
            formatPosition(axis, bench.drift.then),
            formatPosition(axis, bench.drift.now),
            percent(bench.drift.share),
          )}
    </p>
  );
}

/** When the number was kept, what for, and whether the window has moved away from it. */
export function KeptNumber({
  kept,
  keptDiffers,
  axis,
  keptPosition,
}: {
  kept: { at: string | Date; colour: string | undefined; note: string };
  keptDiffers: boolean;
  axis: Axis;
  keptPosition: number | undefined;
}) {
  const t = words.vinyl;
  const zone = useZone();
  return (
    <p className="quiet">
      {t.keptOn(day(kept.at, zone))}
      {kept.colour && `, ${t.keptFor(isolate(kept.colour))}`}
      {kept.note && ` · ${kept.note}`}
      {keptDiffers && ` · ${t.keptDiffers(formatPosition(axis, keptPosition!))}`}
    </p>
  );
}

/** The other controls, the mat, and whether the design lies mirrored. */
export function Facts({
  rest,
  behaviour,
  back,
  bench,
}: {
  rest: SettingPart[];
  behaviour: Behaviour;
  back: boolean;
  bench: { mat: { name: string; advice: string } | undefined };
}) {
  const t = words.vinyl;
  return (
    <dl className="facts" style={{ marginTop: 24 }}>
      <ControlFacts parts={rest} />
      <dt>{t.mat}</dt>
      <dd>
        {words.mats[behaviour.mat]}
        {bench.mat && behaviour.mat !== 'none' && bench.mat.advice !== 'good' && (
          <span className="small">
            <br />
            {bench.mat.advice === 'wash' ? t.toWash(isolate(bench.mat.name)) : t.toReplace(isolate(bench.mat.name))}
          </span>
        )}
      </dd>
      <dt>{t.mirror}</dt>
      <dd>
        {back ? t.mirrorYes : t.mirrorNo}
        <span>{back ? t.mirrorYesWhy : t.mirrorNoWhy}</span>
      </dd>
    </dl>
  );
}
