import { redirect } from 'react-router';
import { chooseUnits } from '#work/people.ts';
import { enterToWrite, writeForm } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

export async function action(args: Route.ActionArgs) {
  const { person, headers } = await enterToWrite('routes/units/route', args);
  const form = await args.request.formData();
  return writeForm(form, headers, async () => {
    await chooseUnits(person, form);
    return '/workshop';
  });
}

export const loader = () => redirect('/workshop');
