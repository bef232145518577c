import type { Access } from '#work/people/permissions.ts';
import { redirect } from 'react-router';
import { signOut } from '#work/people/people.ts';
import { actions, apart, farewell, tokenOf } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

export const access = { write: 'sign out' } as const satisfies Access;

export function action(args: Route.ActionArgs) {
  return actions(access, args, {
    'sign out': apart(async ({ headers }) => {
      await signOut(tokenOf(args.request));
      farewell(headers);
      return '/';
    }),
  });
}

export const loader = () => redirect('/account');
