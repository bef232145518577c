import { Link } from 'react-router';
import { formatPosition, strengthAxis } from '#core/controls/index.ts';
import { useZone } from '../../ui/people/usePerson.ts';
import { words } from '../../messages/index.ts';
import { day, isolate, percent } from '../../ui/base/format.ts';
import { howTranslated, SplitNotice } from '../../ui/shelf/Translated.tsx';
import { type OnBench, shownResult } from './shown.ts';
import { capitalise } from '#core/units/index.ts';

/** Why this number: where it comes from, what it rests on, what moved it; in that order, behind one tap. */
export function Why({ bench, colours }: { bench: OnBench; colours: readonly { id: string; name: string }[] }) {
  const t = words.vinyl;
  const zone = useZone();
  const { answer, cutter, kept, drift } = bench;
  const axis = strengthAxis(cutter.model);
  const said = (position: number) => formatPosition(axis, position);
  const result = shownResult(bench);
  const cells = bench.result.evidence.cells;
  const translated = answer.from === 'translated' ? bench.translated : undefined;
  const nameOf = (id: string) => isolate(colours.find((c) => c.id === id)?.name ?? '');
  const [one, ...further] = bench.differ;
  const other = one && further.find((o) => o.position !== one.position);
  const reasons = [
    translated
      ? `${capitalise(howTranslated(translated))} ${words.card.between(said(translated.low), said(translated.high))}`
      : result.sentence,
    answer.from === 'others' && t.othersMark,
    kept &&
      `${capitalise(t.keptOn(day(kept.at, zone), said(kept.controls.steps[axis.key]!)))}${kept.colour ? `, ${t.keptFor(isolate(kept.colour))}` : ''}.${kept.note ? ` ${kept.note}` : ''}`,
    kept?.why && `${capitalise(kept.why)}.`,
    drift &&
      (drift.then === drift.now
        ? t.driftSame(percent(drift.share))
        : t.drift(said(drift.then), said(drift.now), percent(drift.share))),
    bench.blade === 'soon' && t.bladeSoon,
    bench.blade === 'over' && t.bladeOver,
    one && other && t.colourDiffers(nameOf(one.colour), said(one.position), nameOf(other.colour), said(other.position)),
    cells > 0
      ? t.evidence(cells, bench.result.evidence.coupons)
      : bench.shared && !translated
        ? t.evidenceOthers(result.evidence.cells, bench.shared.crafters)
        : !translated && t.noEvidence,
  ].filter((r): r is string => !!r);
  return (
    <details className="why" data-testid="why">
      <summary>{answer.position === undefined ? t.whyTwo : t.why(said(answer.position))}</summary>
      <ol>
        {reasons.map((r) => (
          <li key={r}>{r}</li>
        ))}
        {kept?.source && (
          <li>
            {t.adopted(isolate(kept.source.author))}{' '}
            {kept.source.address && <Link to={`/cards/${kept.source.address}`}>{t.toCard}</Link>}
          </li>
        )}
      </ol>
      {bench.split && !answer.camps && <SplitNotice split={bench.split} model={cutter.model} />}
    </details>
  );
}
