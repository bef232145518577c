import { againWhenChanged } from '../../ui/base/againWhenChanged.ts';
import Button from '@mui/material/Button';
import { useMemo, useState } from 'react';
import { jobLimits } from '#core/job/index.ts';
import { needSeen } from '#work/base/seen.ts';
import { shownNow } from '#work/jobs/shownPlan.ts';
import type { Access } from '#work/people/permissions.ts';
import { checkFilms } from '#work/jobs/check.ts';
import { namesOf, setNames } from '#work/jobs/names.ts';
import { countDrawing } from '#work/people/limits.ts';
import { words } from '../../messages/index.ts';
import { actions, apart, enter } from '../../server/enter.server.ts';
import { FormNotice } from '../../ui/base/Field.tsx';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { filmByKey } from '../../ui/jobs/FilmSelect.tsx';
import { JobHead } from '../../ui/jobs/JobHead.tsx';
import { judge, NameList } from './NameList.tsx';
import { useList } from './useList.ts';
import { Wanted } from './Wanted.tsx';
import { useNames } from './useNames.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

const jobIn = (request: Request): string | null => new URL(request.url).searchParams.get('job');

/** Names or numbers as artwork: drawn and judged in the browser, put on a job as one drawing for each piece. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const id = jobIn(args.request);
  const [films, job] = await Promise.all([checkFilms(person), id === null ? undefined : namesOf(person, id)]);
  return { films, job };
}

export function action(args: Route.ActionArgs) {
  return actions(access, args, {
    // Reading drawings takes seconds on a thread: no transaction waits for it.
    put: apart(async ({ person, form }) => {
      await countDrawing(person);
      const id = jobIn(args.request) ?? '';
      await needSeen(form, id, () => shownNow('names', id)(person!));
      await setNames(person!, id, form);
      return `/jobs/${id}/vinyls`;
    }),
  });
}

export const shouldRevalidate = againWhenChanged;

export const meta: Route.MetaFunction = () => [{ title: words.title(words.names.title) }];

export default function Names({ loaderData: { films, job }, actionData }: Route.ComponentProps) {
  const t = words.names;
  const list = useList(job);
  const film = filmByKey(films, list.film ?? job?.vinyl);
  const { names, wrong, busy } = useNames({
    texts: list.texts,
    box: list.box,
    oneSize: list.oneSize,
    join: list.join ? film.needs.line : undefined,
    hex: list.hex,
    face: list.face,
    own: list.own,
  });
  const judged = useMemo(() => names.map((n) => judge(n, film)), [names, film]);
  const good = judged.filter((j) => j.good).length;
  const drawn = names.flatMap((n) => ('svg' in n ? [{ says: n.says, svg: n.svg, widthUm: n.widthUm }] : []));
  return (
    <>
      {job ? <JobHead title={t.title} job={{ id: job.id, name: job.name, missing: undefined }} /> : <h1>{t.title}</h1>}
      {actionData && <FormNotice answer={actionData} text={words.errors.form} />}
      <div className="names-page">
        <Wanted list={list} films={films} film={film} />
        <div aria-busy={busy}>
          <p className="big-line" role="status">
            <span className="big wordy" data-testid="names-answer">
              {names.length === 0
                ? t.none
                : good === names.length
                  ? t.good(names.length)
                  : t.bad(names.length - good, names.length)}
            </span>
          </p>
          {(wrong ?? list.wrong) && (
            <p className="notice bad" role="alert">
              {wrong ?? list.wrong}
            </p>
          )}
          {list.cut && <p className="notice">{t.most(jobLimits.pieces)}</p>}
          <NameList names={judged} box={list.box} hex={list.hex} />
          {drawn.length > 0 && (
            <div className="actions">
              {job ? (
                <WriteForm what="put" seen={job.seen} encType="multipart/form-data">
                  <input type="hidden" name="names" value={JSON.stringify(drawn)} />
                  <Button type="submit" variant="contained" disabled={busy} data-testid="put-names">
                    {t.put(drawn.length)}
                  </Button>
                </WriteForm>
              ) : (
                <Sheet names={drawn} />
              )}
            </div>
          )}
        </div>
      </div>
    </>
  );
}

/** Every name as a file of its own. */
function Sheet({ names }: { names: readonly { says: string; svg: string }[] }) {
  const t = words.names;
  const [all, setAll] = useState(false);
  const shown = all ? names : names.slice(0, 8);
  return (
    <p className="line-up">
      {t.save}{' '}
      {shown.map((n, i) => (
        <a
          key={`${i} ${n.says}`}
          className="plain-link"
          href={`data:image/svg+xml;charset=utf-8,${encodeURIComponent(n.svg)}`}
          download={`${n.says}.svg`}
        >
          {n.says}
        </a>
      ))}
      {shown.length < names.length && (
        <Button variant="text" onClick={() => setAll(true)}>
          {t.all}
        </Button>
      )}
    </p>
  );
}
