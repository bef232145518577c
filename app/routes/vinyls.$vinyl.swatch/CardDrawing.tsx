import { contrastOf } from '#core/vinyls/index.ts';
import { words } from '../../messages/index.ts';
import { useTemperatureUnit } from '../../ui/people/usePerson.ts';
import { heatInBoth } from '#core/units/index.ts';

type Cell = { heat: number; seconds: number; word?: string | undefined; set: string | undefined };

/** Squares that are pressed in one go: at one heat, or at one word of a dial. */
const rowOf = (c: Cell): string => c.word ?? String(c.heat);

/** What stands below what is set: about what a word has, what a display that is off really has, or the other scale. */
function whatItIs({ word, set }: Cell, a: string, b: string): string {
  if (word !== undefined) return words.pressPlan.about(a);
  if (set === undefined || set === a) return b;
  return set === b ? a : words.pressPlan.really(a);
}

/** A card to scale: a row for each heat or word, squares of 25 mm with their seconds, numbered as they are graded. */
export function CardDrawing({
  cells,
  hex,
  at,
  onChoose,
  seen,
}: {
  cells: readonly Cell[];
  hex: string;
  /** The square in hand; a tap takes another. */
  at?: number | undefined;
  onChoose?: (i: number) => void;
  seen?: readonly { bond: string; harm: string }[];
}) {
  const unit = useTemperatureUnit();
  const rows = [...new Set(cells.toSorted((a, b) => a.heat - b.heat).map(rowOf))];
  const most = Math.max(...rows.map((r) => cells.filter((c) => rowOf(c) === r).length));
  const left = cells.some((c) => c.word) ? 72 : 46;
  const [w, h] = [most * 32 + left, rows.length * 36 + 2];
  return (
    <svg
      className="swatch-card"
      viewBox={`0 0 ${w} ${h}`}
      role={onChoose ? 'group' : 'img'}
      aria-label={words.swatch.how(cells.length)}
    >
      {rows.map((key, row) => {
        const first = cells.find((c) => rowOf(c) === key)!;
        const [a, b] = heatInBoth(first.heat, unit);
        return (
          <g key={key} transform={`translate(0 ${row * 36 + 2})`}>
            <text x="0" y="13" className="swatch-heat">
              {first.set ?? a}
            </text>
            <text x="0" y="21" className="swatch-other">
              {whatItIs(first, a, b)}
            </text>
            {cells
              .map((c, i) => ({ ...c, n: i + 1 }))
              .filter((c) => rowOf(c) === key)
              .map((c, i) => (
                <g
                  key={c.n}
                  transform={`translate(${left + i * 32} 0)`}
                  className={c.n - 1 === at ? 'square at' : 'square'}
                  {...(onChoose && {
                    role: 'button',
                    tabIndex: 0,
                    'aria-label': words.swatch.square(c.n),
                    'aria-pressed': c.n - 1 === at,
                    onClick: () => onChoose(c.n - 1),
                    onKeyDown: (e) => (e.key === 'Enter' || e.key === ' ') && (e.preventDefault(), onChoose(c.n - 1)),
                  })}
                >
                  <rect width="25" height="25" rx="1" fill={hex} />
                  {seen?.[c.n - 1]?.bond && seen[c.n - 1]!.harm && (
                    <text
                      x="12.5"
                      y="17"
                      textAnchor="middle"
                      className="swatch-done"
                      fill={contrastOf(hex, '#20242b') > 4 ? '#20242b' : '#ffffff'}
                    >
                      ✓
                    </text>
                  )}
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
