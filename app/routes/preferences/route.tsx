import { againWhenChanged } from '../../ui/base/againWhenChanged.ts';
import { seenOf } from '#work/base/seen.ts';
import type { Person } from '#work/people/person.ts';
import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { useColorScheme } from '@mui/material/styles';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { choosePreferences } from '#work/people/people.ts';
import { words } from '../../messages/index.ts';
import { actions, over, enter } from '../../server/enter.server.ts';
import { FormNotice, SelectField } from '../../ui/base/Field.tsx';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import type { Route } from './+types/route';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

/** What the form shows. */
const chosen = (person: Person | undefined) => ({
  length: person?.length_unit ?? 'mm',
  temperature: person?.temperature_unit ?? 'C',
  numbers: person?.number_style ?? 'point',
  zone: person?.zone ?? 'UTC',
});

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  return {
    ...chosen(person),
    seen: seenOf(chosen(person)),
    guest: !person?.email,
    saved: new URL(args.request.url).searchParams.has('saved'),
  };
}

export function action(args: Route.ActionArgs) {
  return actions(access, args, {
    preferences: over(
      'preferences',
      async (person) => chosen(person),
      async ({ person, form }) => {
        await choosePreferences(person, form);
        return '/preferences?saved';
      },
    ),
  });
}

export const shouldRevalidate = againWhenChanged;

export const meta: Route.MetaFunction = () => [{ title: words.title(words.preferences.title) }];

/** How things are said to a person: units, days, look. */
export default function Preferences({ loaderData, actionData }: Route.ComponentProps) {
  const t = words.preferences;
  return (
    <>
      <h1>{t.title}</h1>
      {loaderData.saved && !actionData && (
        <p className="notice" role="status" data-testid="saved">
          {t.saved}
        </p>
      )}
      <WriteForm what="preferences" seen={loaderData.seen} className="form" noValidate key={JSON.stringify(loaderData)}>
        <FormNotice answer={actionData} text={words.errors.form} />
        <Radios name="length" legend={t.lengths} chosen={loaderData.length} options={{ mm: t.mm, in: t.in }} />
        <Radios name="temperature" legend={t.heats} chosen={loaderData.temperature} options={{ C: t.C, F: t.F }} />
        <Radios name="numbers" legend={t.numbers} chosen={loaderData.numbers} options={t.styles} />
        <Zone zone={loaderData.zone} answer={actionData} />
        <div>
          <Button type="submit" variant="contained">
            {t.save}
          </Button>
        </div>
      </WriteForm>
      <Look />
      <p className="ways-of preferences-more">
        <Link to="/account">{loaderData.guest ? words.frame.keepWork : t.account}</Link>
        {loaderData.guest && <Link to="/sign-in">{t.signIn}</Link>}
      </p>
    </>
  );
}

function Radios({
  name,
  legend,
  chosen,
  options,
}: {
  name: string;
  legend: string;
  chosen: string;
  options: Record<string, string>;
}) {
  return (
    <fieldset>
      <legend>{legend}</legend>
      <div className="choice-line">
        {Object.entries(options).map(([value, said]) => (
          <label className="choice" key={value}>
            <input type="radio" name={name} value={value} defaultChecked={chosen === value} />
            <span>{said}</span>
          </label>
        ))}
      </div>
    </fieldset>
  );
}

/** The zones a browser knows, and the one that counts. The list is long: it comes once the page is there. */
function Zone({ zone, answer }: { zone: string; answer: Route.ComponentProps['actionData'] }) {
  const t = words.preferences;
  const [zones, setZones] = useState<string[]>([zone]);
  useEffect(() => setZones([...new Set([zone, 'UTC', ...Intl.supportedValuesOf('timeZone')])]), [zone]);
  return (
    <SelectField
      name="zone"
      label={t.zone}
      answer={answer}
      initial={zone}
      help={t.zoneHelp}
      options={zones.map((z) => [z, z.replaceAll('_', ' ')] as const)}
    />
  );
}

/** Light, dark, or as the device says. Kept on this device. */
function Look() {
  const { mode, setMode } = useColorScheme();
  const t = words.preferences;
  return (
    <fieldset className="preferences-look">
      <legend>
        {t.look} <span className="quiet small">{t.lookWhy}</span>
      </legend>
      <div className="choice-line">
        {(['system', 'light', 'dark'] as const).map((value) => (
          <label className="choice" key={value}>
            <input type="radio" name="look" value={value} checked={mode === value} onChange={() => setMode(value)} />
            <span>{t.looks[value]}</span>
          </label>
        ))}
      </div>
    </fieldset>
  );
}
