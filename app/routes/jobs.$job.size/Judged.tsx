import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { troubleFreeUm, type Fault, type FilmNeeds } from '#core/artwork/index.ts';
import { words } from '../../messages/index.ts';
import { bothLengths, bothSizes, metres } from '../../ui/base/format.ts';
import { useLengthUnit, useNumberStyle } from '../../ui/people/usePerson.ts';
import { Swatch } from '../../ui/vinyls/Swatch.tsx';
import { vinylHex, vinylTitle } from '../../ui/vinyls/vinylName.ts';
import type { judgedOf, Size } from './size.ts';

const fine = (um: number, unit: 'mm' | 'in') =>
  unit === 'mm' ? `${(um / 1000).toFixed(1)}\u00a0mm` : `${(um / 25_400).toFixed(3)}\u00a0in`;
/** Up to the next step of the stepper: a width nobody sets by hand is no help. */
const stepUp = (um: number, unit: 'mm' | 'in') =>
  Math.ceil(um / (unit === 'in' ? 6_350 : 5_000) - 1e-9) * (unit === 'in' ? 6_350 : 5_000);

/** Whether each layer cuts and weeds at this size, and from which width on all do. */
export function Judged({
  job,
  size,
  judged,
  widthUm,
  widest,
  onWidth,
}: {
  job: string;
  size: Size;
  judged: ReturnType<typeof judgedOf>;
  widthUm: number;
  widest: number;
  onWidth: (um: number) => void;
}) {
  const t = words.jobSize;
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const film = size.layers.flatMap((l) => (l.needs ? [{ layer: l, film: l.needs satisfies FilmNeeds }] : []));
  const free = stepUp(troubleFreeUm(size, film), unit);
  const some = judged.some((j) => j.faults.length > 0);
  const scale = widthUm / size.width;
  return (
    <section className="above-32" aria-labelledby="judged">
      <h2 id="judged">{t.check}</h2>
      <ul className="judged">
        {judged.map(({ layer, faults }) => (
          <li key={layer.id}>
            {layer.vinyl ? (
              <Swatch type={layer.vinyl.type} hex={vinylHex(layer.vinyl)} size={44} />
            ) : (
              <span className="dot-colour" style={{ background: layer.hex }} />
            )}
            <div>
              <strong>{layer.vinyl ? vinylTitle(layer.vinyl) : ''}</strong>
              {faults.length === 0 ? (
                <div className="quiet">
                  {t.goodWhy(words.plural(layer.pieces, 'piece'), `${metres(layer.length * scale, style)} m`)}
                </div>
              ) : (
                sayFaults(faults).map(({ kind, n, worst }) => (
                  <div key={kind} className="fault" data-testid="fault">
                    {t.fault(n, t.kinds[kind], fine(worst.widthUm, unit), fine(worst.neededUm, unit))}
                  </div>
                ))
              )}
            </div>
            {faults.length === 0 && <span className="good">✓ {t.good}</span>}
          </li>
        ))}
      </ul>
      <p className="quiet">
        {some && t.marked} <Link to={`/check?job=${job}`}>{words.check.mendLink}</Link>
      </p>
      {some &&
        (free > widthUm && free <= widest ? (
          <p>
            {t.cure(bothLengths(free, unit, style)[0])}{' '}
            <Button variant="text" onClick={() => onWidth(free)} data-testid="cure">
              {t.cureDo(bothLengths(free, unit, style)[0])}
            </Button>
          </p>
        ) : (
          <p className="quiet">{t.cureNo}</p>
        ))}
      {size.platen && overPlaten(size, widthUm) && (
        <p className="notice bad">{t.overPlaten(bothSizes(size.platen.width, size.platen.length, unit, style)[0])}</p>
      )}
      {widest > 0 && size.layers.some((l) => l.box.width * scale > size.matWidthUm - 25_400) && (
        <p className="notice bad">{t.tooWide(bothLengths(size.matWidthUm - 25_400, unit, style)[0])}</p>
      )}
    </section>
  );
}

/** Whether the press does not close over all of it, whichever way it lies. */
function overPlaten({ platen, width, height }: Size, widthUm: number): boolean {
  const [long, short] = [Math.max(platen!.width, platen!.length), Math.min(platen!.width, platen!.length)];
  const heightUm = (widthUm * height) / width;
  return Math.max(widthUm, heightUm) > long || Math.min(widthUm, heightUm) > short;
}

/** Faults of a kind together: how many, and the worst. */
function sayFaults(faults: readonly Fault[]): { kind: Fault['kind']; n: number; worst: Fault }[] {
  const kinds = [...new Set(faults.map((f) => f.kind))];
  return kinds.map((kind) => {
    const of = faults.filter((f) => f.kind === kind);
    return { kind, n: of.length, worst: of[0]! };
  });
}
