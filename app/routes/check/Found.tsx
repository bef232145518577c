import { finestOf, type LayerCheck } from '#core/artwork/index.ts';
import { figureDetails, finestLimits } from '#core/coupon/index.ts';
import type { CheckFilm } from '#work/jobs/check.ts';
import { words } from '../../messages/index.ts';
import { metres, percent, sayFine } from '../../ui/base/format.ts';
import { FilmSelect } from '../../ui/jobs/FilmSelect.tsx';
import { useNumberStyle } from '../../ui/people/usePerson.ts';
import { MOST_MARKS, type Mark } from './marks.ts';
import type { Board } from './useBoard.ts';

type Props = {
  checks: readonly LayerCheck[];
  marks: readonly Mark[];
  mark: number | undefined;
  onMark: (n: number) => void;
  board: Board;
  films: readonly CheckFilm[];
  /** How much plain film the blade on the bench cuts in its life, µm. */
  bladeLifeUm: number | undefined;
};

/** A coupon whose figure has the finest line and gap of this layer: for a film in hand, where the usual figure does not say enough. */
function TestIt({ board, check }: { board: Board; check: LayerCheck }) {
  const film = board.filmOf(check.hex);
  const { artwork, widthUm } = board.now!;
  const layer = artwork.layers.find((l) => l.id === check.layer);
  if (!film.own || !layer) return null;
  const { line, gap } = finestOf(artwork, layer, widthUm);
  if (line === undefined && gap === undefined) return null;
  const within = (um: number | undefined, { min, max }: { min: number; max: number }, usual: number) =>
    Math.min(max, Math.max(min, um ?? usual));
  const query = new URLSearchParams({
    vinyl: film.key,
    bar: String(within(line, finestLimits.bar, figureDetails.bar)),
    gap: String(within(gap, finestLimits.gap, figureDetails.gap)),
  });
  return (
    <a className="plain-link" href={`/coupons/new?${query.toString()}`} data-testid="test-it">
      {words.check.test}
    </a>
  );
}

/** Each colour with its film and its sums, and every place that is wrong, the worst first. */
export function Found({ checks, marks, mark, onMark, board, films, bladeLifeUm }: Props) {
  const t = words.check;
  const style = useNumberStyle();
  const mm = (um: number) => sayFine(um, 'mm', style);
  const share = (c: LayerCheck, life: number) => {
    const of = (c.lengthUm * board.filmOf(c.hex).dulls) / life;
    return of < 0.01 ? undefined : percent(of);
  };
  return (
    <>
      <ul className="checked">
        {checks.map((c) => (
          <li key={c.layer}>
            <span className="dot-colour" style={{ background: c.hex }} aria-hidden="true" />
            <FilmSelect
              films={films}
              film={board.filmOf(c.hex)}
              label={t.film}
              onChoose={(key) => board.choose(c.hex, key)}
            />
            <span className="quiet">
              {t.sums(words.plural(c.pieces, 'piece'), c.holes, `${metres(c.lengthUm, style)} m`)}{' '}
              {bladeLifeUm !== undefined && `${t.blade(share(c, bladeLifeUm))} `}
              <span data-testid="weed-time">{t.weed(Math.max(1, Math.round(c.weed.minutes)), c.weed.parts)}</span>
              {board.filmOf(c.hex).learntFrom > 0 && ` ${t.learnt(board.filmOf(c.hex).learntFrom)}`}{' '}
              <TestIt board={board} check={c} />
            </span>
          </li>
        ))}
      </ul>
      {marks.length > 0 && (
        <ol className="found" aria-label={t.found}>
          {marks.slice(0, MOST_MARKS).map((m) => (
            <li key={m.n}>
              <button
                type="button"
                className={m.fault ? 'mark-line' : 'mark-line care'}
                aria-pressed={m.n === mark}
                onClick={() => onMark(m.n)}
              >
                <span className="mark-n">{m.n}</span>
                {m.fault && m.fault.widthUm === 0 && m.fault.cutUm > 0
                  ? `${words.jobSize.kinds[m.fault.kind]}: ${t.swells(mm(m.fault.cutUm), mm(m.fault.neededUm))}`
                  : m.fault
                    ? t.fault(words.jobSize.kinds[m.fault.kind], mm(m.fault.widthUm), mm(m.fault.neededUm))
                    : m.care!.kind === 'corner'
                      ? t.corner(m.care!.degrees!)
                      : t.loose(mm(m.care!.widthUm!))}
              </button>
            </li>
          ))}
        </ol>
      )}
      {marks.length > MOST_MARKS && <p className="quiet">{t.more(marks.length - MOST_MARKS)}</p>}
    </>
  );
}
