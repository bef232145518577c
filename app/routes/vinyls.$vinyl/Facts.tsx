import type { Behaviour } from '#core/vinyls/index.ts';
import { type SettingPart, type Axis, formatPosition } from '#core/controls/index.ts';
import type { Drift } from '#work/coupons/readings.ts';
import { Link } from 'react-router';
import { timesInHundred } from '#core/window/index.ts';
import { words } from '../../messages/index.ts';
import { ControlFacts } from '../../ui/workshop/ControlFacts.tsx';
import { day, isolate, percent } from '../../ui/base/format.ts';
import { useZone } from '../../ui/people/usePerson.ts';

/** A number found with another or a sharper blade is worth a short check. */
export function Retune({
  otherBlade,
  chance,
  planAt,
}: {
  otherBlade: boolean;
  /** That the best place comes out. */
  chance: number;
  /** Where a coupon is planned. */
  planAt: string;
}) {
  const t = words.vinyl;
  return (
    <p className="notice" style={{ marginTop: 16 }} data-testid="retune">
      {otherBlade ? t.otherBlade : t.unsure(timesInHundred(chance))}{' '}
      <Link to={`${planAt}&mode=retune`}>{t.retune}</Link>
    </p>
  );
}

/** How the number moved because the blade has aged. */
export function AgedBlade({ axis, drift }: { axis: Axis; drift: Drift }) {
  const t = words.vinyl;
  return (
    <p data-testid="drift">
      {drift.then === drift.now
        ? t.driftSame(percent(drift.share))
        : t.drift(formatPosition(axis, drift.then), formatPosition(axis, drift.now), percent(drift.share))}
    </p>
  );
}

/** When the number was kept, what for, and whether the window has moved away from it. */
export function KeptNumber({
  kept,
  differs,
  axis,
}: {
  kept: { at: string | Date; colour: string | undefined; note: string };
  /** Where it stands, if the window has moved away from it. */
  differs: number | undefined;
  axis: Axis;
}) {
  const t = words.vinyl;
  const zone = useZone();
  return (
    <p className="quiet">
      {t.keptOn(day(kept.at, zone))}
      {kept.colour && `, ${t.keptFor(isolate(kept.colour))}`}
      {kept.note && ` · ${kept.note}`}
      {differs !== undefined && ` · ${t.keptDiffers(formatPosition(axis, differs))}`}
    </p>
  );
}

/** The other controls, the mat, and whether the design lies mirrored. */
export function Facts({
  rest,
  behaviour,
  bench,
}: {
  rest: SettingPart[];
  behaviour: Behaviour;
  bench: { mat: { name: string; advice: string } | undefined };
}) {
  const t = words.vinyl;
  const back = behaviour.cutFrom === 'back';
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
