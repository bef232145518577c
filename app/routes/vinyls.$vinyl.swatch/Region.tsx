import { words } from '../../messages/index.ts';
import { useTemperatureUnit } from '../../ui/people/usePerson.ts';
import type { Route } from './+types/route';
import { heatInBoth } from '#core/units/index.ts';

type Loaded = Route.ComponentProps['loaderData'];
/** Both at least so likely: drawn as safe. */
const SAFE = 0.85;

/** The safe region as a simple picture: heat upwards, time to the right, darker where both are likelier, the recipe in it, squares as seen. */
export function Region({
  result,
  cells,
}: Pick<Loaded, 'result' | 'film'> & { cells: Loaded['cards'][number]['cells'] }) {
  const t = words.swatch;
  const unit = useTemperatureUnit();
  const byWord = result.dial !== undefined;
  const said = byWord ? t.wordRows : t.region;
  const heats = [...new Set(result.region.map((p) => p.celsius))].sort((a, b) => b - a);
  const wordAt = (celsius: number) => result.region.find((p) => p.celsius === celsius)?.word;
  const times = [...new Set(result.region.map((p) => p.seconds))].sort((a, b) => a - b);
  const [cw, ch] = [34, 26];
  const x = (s: number) => {
    // Between two columns as far as the log of the time lies between theirs.
    const at = times.findIndex((b) => b >= s);
    if (at <= 0) return at === 0 ? 0.5 * cw : (times.length - 0.5) * cw;
    const [a, b] = [times[at - 1]!, times[at]!];
    return (at - 0.5 + (Math.log(s / a) / Math.log(b / a) || 0)) * cw;
  };
  const top = heats[0]!;
  const step = heats.length > 1 ? heats[0]! - heats[1]! : 5;
  // Words lie where they lie, one below the other; heats as far apart as they are.
  const y = ({ word, celsius }: { word?: string | undefined; celsius: number }) =>
    (word === undefined ? (top - celsius) / step + 0.5 : heats.findIndex((h) => wordAt(h) === word) + 0.5) * ch;
  const left = byWord ? 86 : 58;
  return (
    <figure className="swatch-region above-24">
      <svg
        viewBox={`-${left} 0 ${times.length * cw + left + 2} ${heats.length * ch + 30}`}
        role="img"
        aria-label={said}
      >
        {result.region.map((p) => {
          const both = Math.min(p.bonded, p.unharmed);
          return (
            <rect
              key={`${p.celsius} ${p.seconds}`}
              x={times.indexOf(p.seconds) * cw}
              y={heats.indexOf(p.celsius) * ch}
              width={cw - 1}
              height={ch - 1}
              className={both >= SAFE ? 'safe' : p.bonded < p.unharmed ? 'weak' : 'burnt'}
              opacity={both >= SAFE ? 1 : 0.25 + 0.5 * (1 - both)}
            />
          );
        })}
        {heats.map((h, i) => (
          <text key={h} x="-6" y={i * ch + 17} textAnchor="end">
            {wordAt(h) ?? heatInBoth(h * 1000, unit)[0]}
          </text>
        ))}
        {times.map((s, i) => (
          <text key={s} x={(i + 0.5) * cw} y={heats.length * ch + 18} textAnchor="middle">
            {s}
          </text>
        ))}
        {cells
          .filter(
            (c) => (c.bond ?? c.harm) && (byWord ? heats.some((h) => wordAt(h) === c.word) : c.word === undefined),
          )
          .map((c) => (
            <g
              key={c.id}
              transform={`translate(${x(c.seconds)} ${y({ word: c.word, celsius: c.heat / 1000 })})`}
              className="seen"
            >
              <circle r="8" />
              <text y="4.5" textAnchor="middle">
                {c.harm && c.harm !== 'fine'
                  ? '×'
                  : (c.washed ?? c.bond) === 'bonded' || (c.washed ?? c.bond) === 'raised'
                    ? '○'
                    : '–'}
              </text>
            </g>
          ))}
        {result.recipe && (
          <rect
            className="recipe-mark"
            x={x(result.recipe.seconds) - cw / 2 + 1}
            y={y(result.recipe) - ch / 2 + 1}
            width={cw - 3}
            height={ch - 3}
            data-testid="recipe-mark"
          />
        )}
      </svg>
      <figcaption className="quiet small">
        {said} ({t.seconds}). <span className="key safe" /> {t.safe}
      </figcaption>
    </figure>
  );
}
