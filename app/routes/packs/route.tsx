import { type Access, can } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { useEffect } from 'react';
import { Link, useRevalidator } from 'react-router';
import { packLimits } from '#core/pack/index.ts';
import { Invalid } from '#work/base/errors.ts';
import { packsOf, seePack } from '#work/packs/look.ts';
import { askAgain, follow, followed, unfollow, type Followed } from '#work/packs/follow.ts';
import { words } from '../../messages/index.ts';
import { actions, apart, enter } from '../../server/enter.server.ts';
import { Field, FormNotice } from '../../ui/base/Field.tsx';
import { FileField } from '../../ui/base/FileField.tsx';
import { day, isolate } from '../../ui/base/format.ts';
import { useZone } from '../../ui/people/usePerson.ts';
import type { Route } from './+types/route';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { PacksOut } from './PacksOut.tsx';
import { Section } from '../../ui/base/Section.tsx';

export const access = {
  read: 'look round',
  write: 'begin',
  acts: { follow: 'moderate', ask: 'moderate', unfollow: 'moderate' },
} as const satisfies Access;

/** Packs: what goes out as a file, what is brought in, which shelves elsewhere are followed. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const steward = can(person, 'moderate');
  return { steward, account: can(person, 'share'), packs: await packsOf(person), shelves: await followed() };
}

export function action(args: Route.ActionArgs) {
  return actions(access, args, {
    // Reading a pack takes a thread and seconds, and counts though it is refused.
    see: apart(async ({ person, form, address }) => {
      if (!person || !can(person, 'share')) throw new Invalid({ form: words.packs.needAccount });
      const file = form.get('file');
      const bytes = file instanceof File ? new Uint8Array(await file.arrayBuffer()) : new Uint8Array();
      return `/packs/${await seePack(person, bytes, address)}`;
    }),
    follow: async ({ person, form }) => {
      await follow(person, form);
      return '/packs';
    },
    ask: async ({ person, form }) => {
      await askAgain(person, String(form.get('shelf')));
      return '/packs';
    },
    unfollow: async ({ person, form }) => {
      await unfollow(person, String(form.get('shelf')), form.get('keep') === 'yes');
      return '/packs';
    },
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.packs.title) }];

function Shelf({ shelf, steward }: { shelf: Followed; steward: boolean }) {
  const t = words.packs;
  const zone = useZone();
  return (
    <li data-testid="followed">
      <p className="row-name">{isolate(shelf.home || shelf.address)}</p>
      <div className="quiet small">
        {t.brings(shelf.cards)} ·{' '}
        {shelf.waits ? t.waits : shelf.checkedAt ? t.asked(clock(shelf.checkedAt, zone)) : t.notAsked}
        {shelf.home && ` · ${shelf.address}`}
      </div>
      {shelf.trouble && (
        <p className="error-text" role="status">
          {t.trouble(isolate(shelf.trouble), clock(shelf.nextAt, zone))}
        </p>
      )}
      {steward && (
        <div className="actions">
          <WriteForm what="ask" preventScrollReset>
            <input type="hidden" name="shelf" value={shelf.id} />
            <Button type="submit">{t.askNow}</Button>
          </WriteForm>
          <WriteForm what="unfollow" preventScrollReset>
            <input type="hidden" name="shelf" value={shelf.id} />
            <input type="hidden" name="keep" value="yes" />
            <Button type="submit">{t.unfollow}</Button>
          </WriteForm>
          <WriteForm what="unfollow" preventScrollReset>
            <input type="hidden" name="shelf" value={shelf.id} />
            <Button type="submit">{t.unfollowAll}</Button>
          </WriteForm>
        </div>
      )}
    </li>
  );
}
const clock = (at: string, zone: string) =>
  `${day(at, zone)}, ${new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit', timeZone: zone })}`;

export default function Packs({ loaderData: { packs, shelves, steward, account }, actionData }: Route.ComponentProps) {
  const t = words.packs;
  const zone = useZone();
  const problem = actionData?.fields.file;
  const { revalidate } = useRevalidator();
  const waits = shelves.some((s) => s.waits);
  useEffect(() => {
    if (!waits) return;
    const timer = setInterval(() => void revalidate(), 1500);
    return () => clearInterval(timer);
  }, [waits, revalidate]);
  return (
    <>
      <h1>{t.title}</h1>
      <p className="lede above-8">{t.lede}</p>
      <div className="above-16">
        <FormNotice answer={actionData} text={words.errors.form} />
      </div>
      <div className="cols above-32">
        <Section id="in" title={t.in}>
          {account ? (
            <WriteForm what="see" encType="multipart/form-data" className="form">
              <FileField
                label={t.file}
                accept=".json,application/json"
                problem={problem}
                help={t.fileHelp}
                most={{ bytes: packLimits.bytes, says: t.tooLarge(packLimits.bytes / 1e6) }}
              />
              <div>
                <Button type="submit" variant="contained">
                  {t.see}
                </Button>
              </div>
            </WriteForm>
          ) : (
            <p>
              {t.needAccount} <Link to="/account">{t.makeAccount}</Link>
            </p>
          )}
          {packs.length > 0 && (
            <section className="above-32" aria-labelledby="before">
              <h3 className="quiet" id="before" style={{ fontSize: '1.0625rem', margin: '0 0 4px' }}>
                {t.before}
              </h3>
              <ul className="rows">
                {packs.map((p) => (
                  <li key={p.id}>
                    <Link className="row" to={`/packs/${p.id}`} style={{ minHeight: 64 }}>
                      <div>
                        <div className="row-name">{isolate(p.title)}</div>
                        <div className="quiet">
                          {day(p.at, zone)} · {t.state[p.state]}
                          {p.home && ` · ${isolate(p.home)}`}
                        </div>
                      </div>
                    </Link>
                  </li>
                ))}
              </ul>
            </section>
          )}
        </Section>
        <PacksOut />
      </div>

      {(steward || shelves.length > 0) && (
        <Section className="above-40" id="followed" title={t.followed}>
          <p className="quiet">{t.followedLede}</p>
          {shelves.length > 0 && (
            <ul className="remarks above-20">
              {shelves.map((s) => (
                <Shelf key={s.id} shelf={s} steward={steward} />
              ))}
            </ul>
          )}
          {steward && (
            <WriteForm what="follow" className="form above-24" noValidate key={shelves.length}>
              <Field name="address" label={t.address} answer={actionData} help={t.addressHelp} />
              <div>
                <Button type="submit">{t.follow}</Button>
              </div>
            </WriteForm>
          )}
        </Section>
      )}
      <p className="quiet small above-40">
        {t.format} <a href="/packs/schema.json">{t.schema}</a>
      </p>
    </>
  );
}
