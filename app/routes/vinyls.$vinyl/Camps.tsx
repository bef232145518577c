import { formatPosition, strengthAxis } from '#core/controls/index.ts';
import type { Camp } from '#core/answer/index.ts';
import { words } from '../../messages/index.ts';
import { isolate } from '../../ui/base/format.ts';
import { vinylName } from '../../ui/vinyls/vinylName.ts';
import { Link } from 'react-router';
import { GoButton } from '../../ui/base/Link.tsx';
import { KeepNow } from '../../ui/cuts/KeepNow.tsx';
import type { OnBench } from './shown.ts';

/** Two camps, equal: an average suits nobody. Each number as it is here, who set it and on what, and the cells that decide. */
export function Camps({
  vinyl,
  bench,
  camps,
  planAt,
}: {
  vinyl: { id: string; brand: string; name: string };
  bench: OnBench;
  camps: readonly Camp[];
  planAt: string;
}) {
  const t = words.vinyl.camps;
  const { cutter, wanted } = bench;
  const axis = strengthAxis(cutter.model);
  return (
    <div className="two-camps" data-testid="split">
      <p className="camps-title">{t.title}</p>
      <ul>
        {camps.map((camp) => (
          <li key={camp.number}>
            <p>
              <span className="big camp" data-testid="camp-number">
                {formatPosition(axis, camp.number)}
              </span>
              <span className="unit">
                {axis.kind !== 'list' && axis.word} <span className="quiet">{t.onYours}</span>
              </span>
            </p>
            <p>
              <strong>{words.card.split.camp(camp.people)}</strong>
              {camp.values.length > 0 && <span className="quiet"> · {camp.values.map(isolate).join(', ')}</span>}
            </p>
            {bench.bladed && (
              <KeepNow
                vinyl={vinyl.id}
                cutter={cutter}
                wanted={wanted}
                position={camp.number}
                label={t.start(formatPosition(axis, camp.number))}
              />
            )}
          </li>
        ))}
      </ul>
      {bench.bladed && (
        <div className="actions">
          <GoButton to={`${planAt}&mode=decide`} variant="contained">
            {t.decide}
          </GoButton>
        </div>
      )}
      <p className="quiet">
        {words.card.split.says[bench.split!.by]}{' '}
        <Link to={`/shelf?q=${encodeURIComponent(vinylName(vinyl))}`}>{t.cards}</Link>
      </p>
    </div>
  );
}
