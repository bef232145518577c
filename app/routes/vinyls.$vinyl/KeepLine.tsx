import { formatPosition, strengthAxis } from '#core/controls/index.ts';
import { words } from '../../messages/index.ts';
import { KeepNow } from '../../ui/cuts/KeepNow.tsx';
import type { OnBench } from './shown.ts';

/** One line and one tap where the number to set is not the one that is kept, or none is kept yet. */
export function KeepLine({ vinyl, bench, inHand }: { vinyl: string; bench: OnBench; inHand: string | undefined }) {
  const t = words.vinyl;
  const { answer, cutter, kept, wanted } = bench;
  const said = (p: number) => formatPosition(strengthAxis(cutter.model), p);
  const { position, keptBefore, from } = answer;
  if (position === undefined || !bench.bladed || (from !== 'here' && keptBefore === undefined)) return null;
  const why = bench.otherBlade
    ? t.keptWhy.blade
    : bench.drift && bench.drift.then !== bench.drift.now
      ? t.keptWhy.worn
      : t.keptWhy.cells;
  return (
    <KeepNow
      vinyl={vinyl}
      cutter={cutter}
      wanted={wanted}
      position={position}
      label={t.keep(said(position))}
      only={kept?.colour ? inHand : undefined}
      says={keptBefore !== undefined && t.keptBefore(said(keptBefore), why)}
    />
  );
}
