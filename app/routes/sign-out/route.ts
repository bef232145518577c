import { redirect } from 'react-router';
import { signOut } from '#work/people/people.ts';
import { actions, apart, farewell, tokenOf } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

export function action(args: Route.ActionArgs) {
  return actions('routes/sign-out/route', args, {
    'sign out': apart(async ({ headers }) => {
      await signOut(tokenOf(args.request));
      farewell(headers);
      return '/';
    }),
  });
}

export const loader = () => redirect('/account');
