import { useEffect, useRef } from 'react';
import { useNumberStyle } from '../../ui/people/usePerson.ts';
import type { Blade } from '#work/workshop/workshop.ts';
import type { Bench } from '#work/workshop/bench.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { vinylTypes } from '#core/vinyls/index.ts';
import { words } from '../../messages/index.ts';
import { Field } from '../../ui/base/Field.tsx';
import { PutRightLink } from '../../ui/base/PutRightLink.tsx';
import { BladeFields } from '../../ui/workshop/BladeFields.tsx';
import { day, metres } from '../../ui/base/format.ts';
import { WriteForm } from '../../ui/base/WriteForm.tsx';

/** A cutter with its blade, how much of its life is left, and what can be done with both. */
export function CutterRow({
  bladeAnswer,
  cutter,
  blade,
  newer,
  onBench,
  left,
  lasted,
  changing,
  setChanging,
  zone,
}: {
  bladeAnswer: FormAnswer | undefined;
  cutter: Bench['cutter'];
  blade: Bench['blade'];
  newer: number | undefined;
  onBench: string | undefined;
  left: Record<string, Blade['left']>;
  lasted: { lifeUm: number; blades: number } | undefined;
  changing: string | undefined;
  setChanging: (id: string | undefined) => void;
  zone: string;
}) {
  const t = words.workshop;
  const style = useNumberStyle();
  // The form of a new blade is put away once that is mounted, never while it may yet be refused.
  const mounted = useRef(blade?.mounting);
  useEffect(() => {
    if (mounted.current !== blade?.mounting && changing === cutter.id) setChanging(undefined);
    mounted.current = blade?.mounting;
  }, [blade?.mounting, changing, cutter.id, setChanging]);
  return (
    <li className="row row-cutter">
      <div>
        <div className="row-name">{cutter.name}</div>
        <div className="quiet">
          {cutter.model.name} · <PutRightLink kind="cutter" id={cutter.id} />
        </div>
        <div className="ways-of small">
          <Link to={`/workshop/cutters/${cutter.id}/scale`}>{t.scale}</Link>
          <Link to={`/workshop/cutters/${cutter.id}/others`}>{t.others}</Link>
        </div>
        {newer !== undefined && (
          <WriteForm what="newer">
            <input type="hidden" name="cutter" value={cutter.id} />
            <p className="small">{t.newer(newer)}</p>
            <Button type="submit" variant="text">
              {t.takeNewer}
            </Button>
          </WriteForm>
        )}
      </div>
      <div>
        {blade ? (
          <>
            {blade.name}, {blade.angle}° · <PutRightLink kind="blade" id={blade.id} />
            {blade.wear.state !== 'fresh' && (
              <>
                {' '}
                <strong data-testid="blade-state">{t[blade.wear.state]}</strong>
              </>
            )}
            <div className="quiet small">
              {words.frame.age(metres(blade.cutUm, style), metres(blade.lifeUm, style))} ·{' '}
              {t.since(day(blade.mountedAt, zone))}
              <br />
              {t.goesOn(
                (left[blade.id] ?? [])
                  .map(([type, um]) => `${metres(um, style)} m ${vinylTypes[type].word}`)
                  .join(', '),
              )}
            </div>
          </>
        ) : (
          words.frame.noBlade
        )}
      </div>
      <div className="row-actions">
        {onBench === cutter.id ? (
          <strong>{t.onBench}</strong>
        ) : (
          <WriteForm what="bench">
            <input type="hidden" name="cutter" value={cutter.id} />
            <Button type="submit">{t.use}</Button>
          </WriteForm>
        )}
        <Button
          onClick={() => setChanging(changing === cutter.id ? undefined : cutter.id)}
          aria-expanded={changing === cutter.id}
        >
          {t.newBlade}
        </Button>
      </div>
      {changing === cutter.id && (
        <div className="row-open">
          <NewBlade bladeAnswer={bladeAnswer} cutter={cutter} lasted={lasted} />
        </div>
      )}
    </li>
  );
}

/** A new blade in place of the one on a cutter. */
function NewBlade({
  bladeAnswer,
  cutter,
  lasted,
}: {
  bladeAnswer: FormAnswer | undefined;
  cutter: Bench['cutter'];
  lasted: { lifeUm: number; blades: number } | undefined;
}) {
  const t = words.workshop;
  return (
    <WriteForm what="blade" className="form above-8" noValidate>
      <input type="hidden" name="cutter" value={cutter.id} />
      <Field name="name" label={t.bladeName} answer={bladeAnswer} />
      <BladeFields answer={bladeAnswer} lasted={lasted} />
      <div>
        <Button type="submit" variant="contained">
          {t.mount}
        </Button>
      </div>
    </WriteForm>
  );
}
