import type { ArtLayer } from '#core/artwork/index.ts';
import { sayDecimal } from '#core/units/index.ts';
import type { SeenRange } from '#core/vinyls/index.ts';
import { words } from '../../messages/index.ts';
import { Folded } from '../../ui/base/Folded.tsx';
import { useNumberStyle } from '../../ui/people/usePerson.ts';

/** Films that have no one look: what is to be said of them in a line, their numbers a tap below. */
export function Ranges({ layers, ranges }: { layers: readonly ArtLayer[]; ranges: readonly SeenRange[] }) {
  const t = words.check.range;
  const style = useNumberStyle();
  const shown = layers.flatMap((layer, i) => (ranges[i]!.hexes.length > 1 ? [{ layer, range: ranges[i]! }] : []));
  if (shown.length === 0) return null;
  const warned = shown.find((s) => s.range.hardly !== 'never')?.range.hardly;
  return (
    <div className="above-24" data-testid="ranges">
      {warned && warned !== 'never' && <p>{t.hardly[warned]}</p>}
      <Folded summary={t.drawer}>
        {() => (
          <ul className="pairs">
            {shown.map(({ layer, range: { hexes, contrast } }) => (
              <li key={layer.id}>
                <span className="range-bar" style={{ background: `linear-gradient(90deg, ${hexes.join(', ')})` }} />{' '}
                {t.contrast(sayDecimal(contrast.low, 1, style), sayDecimal(contrast.high, 1, style))}
              </li>
            ))}
          </ul>
        )}
      </Folded>
    </div>
  );
}
