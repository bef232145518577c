import Button from '@mui/material/Button';
import { useMemo, useState } from 'react';
import { details, type Detail, type WeedEvent } from '#core/grades/index.ts';
import { currentWeeds } from '#core/weed/index.ts';
import { words } from '../../messages/index.ts';
import { useOutbox } from '../base/outbox.tsx';
import { useHandEvents } from '../base/useHandEvents.ts';

type Props = { cell: string; number: number; said: readonly WeedEvent[] };

/** Beside the grade: how the waste came off, and what of the figure was lost. One tap says it; everything else is extra. */
export function HowItWeeded({ cell, number, said }: Props) {
  const { add } = useOutbox();
  const t = words.weeding;
  const mine = useHandEvents(
    'cell',
    useMemo(() => [cell], [cell]),
  );
  const weed = currentWeeds([...said, ...mine.filter((e): e is WeedEvent => e.kind === 'weed')]).find(
    (w) => w.cell === cell,
  );
  const [draft, setDraft] = useState<{ cell: string; lost: Detail[]; torn: boolean }>();
  const { lost, torn } = draft?.cell === cell ? draft : { lost: weed?.lost ?? [], torn: weed?.torn ?? false };
  const say = (change: { ease?: number; lost?: Detail[]; torn?: boolean }) => {
    const next = { ease: change.ease ?? weed?.ease, lost: change.lost ?? lost, torn: change.torn ?? torn };
    setDraft({ cell, lost: next.lost, torn: next.torn });
    if (next.ease !== undefined) add({ kind: 'weed', cell, ease: next.ease, lost: next.lost, torn: next.torn });
  };
  return (
    <section className="weeding" aria-label={t.title(number)}>
      <h3>{t.title(number)}</h3>
      <div className="ease" role="group" aria-label={t.ease}>
        {[1, 2, 3, 4, 5].map((n) => (
          <Button
            key={n}
            variant={weed?.ease === n ? 'contained' : 'outlined'}
            aria-pressed={weed?.ease === n}
            aria-label={t.eases[n - 1]!}
            onClick={() => say({ ease: n })}
          >
            {n}
          </Button>
        ))}
        <span className="quiet small">{t.scale}</span>
      </div>
      <div className="lost" role="group" aria-label={t.lost}>
        {details.map((d) => (
          <label className="choice" key={d}>
            <input
              type="checkbox"
              checked={lost.includes(d)}
              onChange={(e) => say({ lost: e.target.checked ? [...lost, d] : lost.filter((o) => o !== d) })}
            />
            <span>{t.details[d]}</span>
          </label>
        ))}
        <label className="choice">
          <input type="checkbox" checked={torn} onChange={(e) => say({ torn: e.target.checked })} />
          <span>{t.torn}</span>
        </label>
      </div>
      <p className="quiet small" role="status">
        {weed ? t.kept : t.first}
      </p>
    </section>
  );
}
