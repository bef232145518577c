import type { Access } from '#work/people/permissions.ts';
import { redirect } from 'react-router';
import { chooseUnits } from '#work/people/people.ts';
import { actions } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

export const access = { write: 'begin' } as const satisfies Access;

export function action(args: Route.ActionArgs) {
  return actions(access, args, {
    units: async ({ person, form }) => {
      await chooseUnits(person, form);
      return '/workshop';
    },
  });
}

export const loader = () => redirect('/workshop');
