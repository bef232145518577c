import type { Access } from '#work/people/permissions.ts';
import { redirect } from 'react-router';
import { pieceOfCode } from '#work/vinyls/stock.ts';
import { enter } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** What the code on a label opens: the bench card of the vinyl, in the colour of the piece. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const piece = await pieceOfCode(person, args.params.code.toLowerCase());
  return redirect(`/vinyls/${piece.vinyl.id}${piece.colourId ? `?colour=${piece.colourId}` : ''}`);
}
