import { words } from '../../messages/index.ts';
import { bothHeats } from '../../ui/base/format.ts';
import { useTemperatureUnit } from '../../ui/people/usePerson.ts';

type Cell = { heat: number; seconds: number };

/** A card to scale: a row for each heat, squares of 25 mm with their seconds, numbered as they are graded. */
export function CardDrawing({ cells, hex }: { cells: readonly Cell[]; hex: string }) {
  const unit = useTemperatureUnit();
  const heats = [...new Set(cells.map((c) => c.heat))].sort((a, b) => a - b);
  const most = Math.max(...heats.map((h) => cells.filter((c) => c.heat === h).length));
  const [w, h] = [most * 32 + 46, heats.length * 36 + 2];
  return (
    <svg className="swatch-card" viewBox={`0 0 ${w} ${h}`} role="img" aria-label={words.swatch.how(cells.length)}>
      {heats.map((heat, row) => {
        const [a, b] = bothHeats(heat, unit);
        return (
          <g key={heat} transform={`translate(0 ${row * 36 + 2})`}>
            <text x="0" y="13" className="swatch-heat">
              {a}
            </text>
            <text x="0" y="21" className="swatch-other">
              {b}
            </text>
            {cells
              .map((c, i) => ({ ...c, n: i + 1 }))
              .filter((c) => c.heat === heat)
              .map((c, i) => (
                <g key={c.n} transform={`translate(${46 + i * 32} 0)`}>
                  <rect width="25" height="25" rx="1" fill={hex} />
                  <text x="0" y="32.5" className="swatch-other">
                    {c.n}: {c.seconds} s
                  </text>
                </g>
              ))}
          </g>
        );
      })}
    </svg>
  );
}
