import type { Piece } from '#work/vinyls/stock.ts';
import { words } from '../../messages/index.ts';
import { bothSizes, money } from '../base/format.ts';
import { useLengthUnit, useNumberStyle } from '../people/usePerson.ts';

/** What is left of a piece, of how much, and what its area costs. */
export function PieceFacts({ piece }: { piece: Piece }) {
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const t = words.stock;
  const [left] = bothSizes(piece.widthUm, piece.leftUm, unit, style);
  const [whole] = bothSizes(piece.widthUm, piece.lengthUm, unit, style);
  return (
    <>
      {piece.pieces > 1 && `${piece.pieces} × `}
      {left} {piece.leftUm < piece.lengthUm && <span className="quiet">{`${t.left}, ${t.of(whole)}`}</span>}
      {piece.perCm2 !== undefined && (
        <span className="quiet"> · {t.perArea(money(piece.perCm2 * 100, piece.price!.currency, style))}</span>
      )}
    </>
  );
}
