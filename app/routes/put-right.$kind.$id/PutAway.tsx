import Button from '@mui/material/Button';
import type { Thing } from '#work/answer/editable.ts';
import { words } from '../../messages/index.ts';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { capitalise } from '#core/units/index.ts';

/** Whether a thing stays: put away with everything that rests on it, taken up again, or gone for good where nothing does. */
export function PutAway({ thing }: { thing: Thing }) {
  const t = words.putRight;
  const { kind } = thing;
  const rests = thing.rests.map(({ what, n }) => t.rest[what](n));
  const list = rests.length > 1 ? `${rests.slice(0, -1).join(', ')} and ${rests.at(-1)}` : (rests[0] ?? '');
  return (
    <section aria-label={t.away[kind]} className="put-away">
      {thing.away ? (
        <WriteForm what="take up">
          <Button type="submit" variant="contained">
            {t.takeUp[kind]}
          </Button>
        </WriteForm>
      ) : (
        <>
          <p>
            {t.why[kind]} {t.again}
          </p>
          <WriteForm what="away">
            <Button type="submit">{t.away[kind]}</Button>
          </WriteForm>
        </>
      )}
      {rests.length > 0 && (
        <p className="quiet" data-testid="rests">
          {capitalise(t.rests(list, rests.length > 1 ? 2 : thing.rests[0]!.n))}
        </p>
      )}
      {thing.mayGo && (
        <details>
          <summary>{t.go}</summary>
          <p className="quiet">{t.goWhy}</p>
          <WriteForm what="delete">
            <Button type="submit">{t.sure}</Button>
          </WriteForm>
        </details>
      )}
    </section>
  );
}
