import Button from '@mui/material/Button';
import { useState } from 'react';
import { parseDecimal } from '#core/units/index.ts';
import { words } from '../../messages/index.ts';
import { Folded } from '../../ui/base/Folded.tsx';
import type { Board } from './useBoard.ts';

/** A design in two halves, as for the front of a cap with its seam: where, and how far apart. */
export function Split({ board }: { board: Board }) {
  const t = words.check.mends;
  return (
    <Folded summary={t.split} testId="split">
      {() => <SplitFields board={board} />}
    </Folded>
  );
}

function SplitFields({ board }: { board: Board }) {
  const t = words.check.mends;
  const [along, setAlong] = useState<'upright' | 'level'>('upright');
  const [at, setAt] = useState('50');
  const [gap, setGap] = useState('6');
  const [percent, mm] = [parseDecimal(at) ?? NaN, parseDecimal(gap) ?? NaN];
  const good = percent > 0 && percent < 100 && mm >= 0 && mm <= 200;
  return (
    <div className="line-up" role="group" aria-label={t.splitHow}>
      <select
        className="plain-field"
        aria-label={t.split}
        value={along}
        onChange={(e) => setAlong(e.target.value as 'upright' | 'level')}
      >
        <option value="upright">{t.upright}</option>
        <option value="level">{t.level}</option>
      </select>
      <label>
        {t.splitAt}{' '}
        <input className="plain-field short" inputMode="decimal" value={at} onChange={(e) => setAt(e.target.value)} />
      </label>
      <label>
        {t.splitGap}{' '}
        <input className="plain-field short" inputMode="decimal" value={gap} onChange={(e) => setGap(e.target.value)} />
      </label>
      <Button
        disabled={!good || board.busy !== undefined}
        onClick={() => void board.mend({ do: 'split', along, at: percent / 100, gap: mm * 1000 })}
      >
        {t.splitDo}
      </Button>
    </div>
  );
}
