import { redirect } from 'react-router';
import { chooseUnits } from '#work/people/people.ts';
import { actions } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

export function action(args: Route.ActionArgs) {
  return actions('routes/units/route', args, {
    units: async ({ person, form }) => {
      await chooseUnits(person, form);
      return '/workshop';
    },
  });
}

export const loader = () => redirect('/workshop');
