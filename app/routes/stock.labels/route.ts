import type { Access } from '#work/people/permissions.ts';
import { countAsked } from '#work/people/limits.ts';
import { behaviourFor, vinylTypes } from '#core/vinyls/index.ts';
import { pieceOf, type Piece } from '#work/vinyls/stock.ts';
import { pressAnswers } from '#work/vinyls/pressAnswers.ts';
import { leanPress, pressOnLabel } from '../../ui/vinyls/sayPress.ts';
import { vinylOf } from '#work/vinyls/vinyls.ts';
import { words } from '../../messages/index.ts';
import { addressOf, enter } from '../../server/enter.server.ts';
import { labelPapers, labelsPdf, type Label, type LabelPaper } from '../../server/paper/labels.server.ts';
import { pdfAnswer } from '../../server/paper/pdf.server.ts';
import { bothSizes } from '../../ui/base/format.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** Identity labels of the pieces named in the address, as a PDF. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  await countAsked('paper', person, addressOf(args.context));
  const { searchParams, origin } = new URL(args.request.url);
  const paper = (searchParams.get('paper') ?? 'a4') as LabelPaper;
  if (!Object.hasOwn(labelPapers, paper)) throw new Response('No such label sheet.', { status: 404 });
  const ids = [...new Set(searchParams.getAll('piece'))].slice(0, 200);
  if (ids.length === 0) throw new Response('Choose at least one piece.', { status: 400 });
  const skip = Number(searchParams.get('skip') ?? 0);
  const label = async (piece: Piece): Promise<Label> => {
    const { behaviour } = await vinylOf(person, piece.vinyl.id).catch(() => ({
      behaviour: behaviourFor(piece.vinyl.type),
    }));
    const [answer] = (await pressAnswers(person, [{ id: piece.vinyl.id, behaviour }])).values();
    return {
      vinyl: [piece.vinyl.brand, piece.vinyl.name].filter(Boolean).join(' '),
      colour: piece.vinyl.colour?.name ?? '',
      line: [vinylTypes[piece.vinyl.type].word, piece.batch].filter(Boolean).join(' · '),
      size: bothSizes(piece.widthUm, piece.leftUm, person?.length_unit ?? 'mm')[0],
      press: pressOnLabel(leanPress(answer!), person?.temperature_unit ?? 'C'),
      carrier: `${words.stock.carrier[behaviour.side]}${behaviour.carrier === 'unknown' ? '' : `, ${behaviour.carrier}`}`,
      code: piece.code,
      address: `${origin}/s/${piece.code}`,
    };
  };
  const pieces = await Promise.all(ids.map((id) => pieceOf(person, id)));
  const labels = await Promise.all(pieces.map(label));
  return pdfAnswer(
    await labelsPdf(labels, paper, Number.isInteger(skip) && skip > 0 ? skip : 0),
    `labels-${paper}.pdf`,
  );
}
