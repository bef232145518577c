import Button from '@mui/material/Button';
import { ofFilm, openTo, type Fault, type Judgement } from '#core/artwork/index.ts';
import { vinylTypes } from '#core/vinyls/index.ts';
import { words } from '../../messages/index.ts';
import { bothLengths, sayFine, sayLength, stepUp } from '../../ui/base/format.ts';
import { useLengthUnit, useNumberStyle } from '../../ui/people/usePerson.ts';
import type { Size } from './size.ts';

/** The film a layer is cut from. */
const filmOf = (size: Size, fault: Fault) => size.layers.find((l) => l.path === fault.layer);

/** The worst place, in a sentence: what this vinyl needs, and what is there. */
function useBecause(size: Size, worst: Fault): string {
  const t = words.jobSize.because;
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const fine = (um: number) => sayFine(um, unit, style);
  const needs = filmOf(size, worst)?.needs;
  if (worst.kind === 'twice' || !needs) return t.twice;
  if (ofFilm(worst)) return t.line(fine(needs.line), fine(worst.cutUm));
  return needs.growth > 0
    ? t.swells(fine(needs.gap + 2 * needs.growth), fine(worst.cutUm))
    : t.gap(fine(needs.gap), fine(worst.cutUm));
}

function Because({ size, worst }: { size: Size; worst: Fault }) {
  return <p>{useBecause(size, worst)}</p>;
}

/** One answer: does it cut and weed at this size, in these vinyls; and why not, by the worst place. */
export function Verdict({ size, judged, widthUm }: { size: Size; judged: Judgement; widthUm: number }) {
  const t = words.jobSize;
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const { faults } = judged;
  const types = [...new Set(faults.map((f) => filmOf(size, f)?.vinyl?.type))];
  const film = types.length === 1 && types[0] ? vinylTypes[types[0]].word : undefined;
  return (
    <div role="status">
      <p className="big-line">
        <span className="big wordy" data-testid="verdict" data-faults={faults.length}>
          {faults.length === 0
            ? t.good(sayLength(widthUm, unit, style))
            : faults.every((f) => f.kind === 'twice')
              ? t.twice(faults.length)
              : t.bad(faults.length, film)}
        </span>
      </p>
      {faults[0] ? <Because size={size} worst={faults[0]} /> : <p>{t.goodBecause}</p>}
    </div>
  );
}

/** Where the drawing is too small, and from which width on it is not: a strip to read at a glance. */
export function SizeStrip({ judged, widthUm, widest }: { judged: Judgement; widthUm: number; widest: number }) {
  const t = words.jobSize;
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const free = judged.free === undefined ? Infinity : stepUp(judged.free, unit);
  const least = Math.min(widthUm, Math.max(10_000, widest / 4));
  const most = Math.max(widthUm, widest);
  const share = (um: number) => `${(100 * Math.min(1, Math.max(0, (um - least) / (most - least || 1)))).toFixed(1)}%`;
  return (
    <div className="size-strip" data-testid="size-strip">
      <span>
        {judged.faults.length > 0 && judged.faults.every((f) => f.kind === 'twice')
          ? ''
          : free <= most
            ? t.fineFrom(bothLengths(free, unit, style)[0])
            : t.fineNever}
      </span>
      <div className="size-band" aria-hidden="true">
        <i style={{ left: share(free) }} />
        <b style={{ left: share(widthUm) }} />
      </div>
    </div>
  );
}

/** What would mend it, one tap each, with what stays as it is. */
export function Fixes({
  size,
  judged,
  widthUm,
  widest,
  onWidth,
}: {
  size: Size;
  judged: Judgement;
  widthUm: number;
  widest: number;
  onWidth: (um: number) => void;
}) {
  const t = words.jobSize;
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const say = (um: number) => bothLengths(um, unit, style)[0];
  const { faults, free } = judged;
  const larger = free === undefined ? Infinity : stepUp(free, unit);
  const gaps = faults.filter((f) => !ofFilm(f) && f.kind !== 'twice');
  const thin = faults.filter(ofFilm);
  const fine = (um: number) => sayFine(um, unit, style);
  const most = (list: readonly Fault[], of: (needs: NonNullable<Size['layers'][number]['needs']>) => number) =>
    fine(Math.max(...list.map((f) => of(filmOf(size, f)!.needs!))));
  const twice = faults.length - gaps.length - thin.length;
  const mend =
    [gaps.length, thin.length, twice].filter((n) => n > 0).length > 1
      ? t.mend.both(faults.length)
      : twice > 0
        ? t.mend.join(twice)
        : gaps.length > 0
          ? t.mend.open(gaps.length, most(gaps, openTo))
          : thin.length > 0
            ? t.mend.thicken(
                thin.length,
                most(thin, (n) => n.line),
              )
            : undefined;
  return (
    <div className="size-fixes">
      {mend && !size.named && (
        <div>
          <Button type="submit" name="then" value="mend" variant="contained" size="large" data-testid="mend">
            {mend}
          </Button>
          <span className="quiet">{t.mend.stays(say(widthUm))}</span>
        </div>
      )}
      {larger > widthUm && larger <= widest && (
        <div>
          <Button size="large" onClick={() => onWidth(larger)} data-testid="cure">
            {t.cureDo(say(larger))}
          </Button>
          <span className="quiet">{t.mend.same}</span>
        </div>
      )}
    </div>
  );
}
