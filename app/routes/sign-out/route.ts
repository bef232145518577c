import { redirect } from 'react-router';
import { signOut } from '#work/people.ts';
import { enterUnknown, noCookie, tokenOf } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

export async function action(args: Route.ActionArgs) {
  await enterUnknown('routes/sign-out/route', args);
  await signOut(tokenOf(args.request));
  return redirect('/', { headers: { 'Set-Cookie': noCookie(args.request) } });
}

export const loader = () => redirect('/account');
