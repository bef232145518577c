import type { FormAnswer } from '../../server/enter.server.ts';
import type { Vinyl } from '#work/vinyls/vinyls.ts';
import type { Bench } from '#work/workshop/bench.ts';
import type { Preview } from '#work/coupons/plan.ts';
import { Form, useSubmit } from 'react-router';
import { cellLimits, planModes } from '#core/planner/index.ts';
import { words } from '../../messages/index.ts';
import { ControlField } from '../../ui/workshop/ControlFields.tsx';
import { Field } from '../../ui/base/Field.tsx';
import { FinestFields } from './FinestFields.tsx';

/** What is asked of the plan: its purpose, what is wanted, how many cells, the other controls. */
export function Wish({
  preview,
  cutter,
  vinyl,
  card,
  job,
  wrong,
  submit,
}: {
  preview: Preview;
  cutter: Bench['cutter'];
  vinyl: Vinyl;
  card: string | null;
  job: string | null;
  wrong: FormAnswer | undefined;
  submit: ReturnType<typeof useSubmit>;
}) {
  const t = words.plan;
  const { plan, wanted, base, mode, also } = preview;
  const others = cutter.model.axes.filter((a) => a.role !== 'strength');
  // A cutter without either has nothing to ask there.
  const ways = (['passes', 'speed'] as const).filter((role) => others.some((a) => a.role === role));
  return (
    <Form
      method="get"
      key={JSON.stringify([wanted, base, wrong, mode, also])}
      onChange={(e) => {
        const wish = new FormData(e.currentTarget);
        // Another purpose has its own number of cells.
        if ((e.target as unknown as HTMLInputElement).name === 'mode') wish.delete('cells');
        void submit(wish, { preventScrollReset: true, replace: true });
      }}
      style={{ display: 'grid', gap: 20 }}
    >
      <input type="hidden" name="vinyl" value={vinyl.id} />
      {vinyl.colour && <input type="hidden" name="colour" value={vinyl.colour.id} />}
      {card && <input type="hidden" name="card" value={card} />}
      {job && <input type="hidden" name="job" value={job} />}
      <FinestFields finest={preview.sheet.finest} />
      <fieldset>
        <legend>{t.mode}</legend>
        <div className="choices">
          {planModes
            .filter((m) => (m !== 'check' || card) && (m !== 'decide' || mode === 'decide'))
            .map((m) => (
              <label className="choice" key={m}>
                <input type="radio" name="mode" value={m} defaultChecked={mode === m} />
                <span>{t.modes[m]}</span>
              </label>
            ))}
        </div>
      </fieldset>
      <fieldset>
        <legend>{t.wanted}</legend>
        <div className="choices">
          {(['clean', 'through'] as const).map((w) => (
            <label className="choice" key={w}>
              <input type="radio" name="wanted" value={w} defaultChecked={wanted === w} />
              <span>{w === 'clean' ? t.wantedClean : t.wantedThrough}</span>
            </label>
          ))}
        </div>
      </fieldset>
      {mode !== 'even' && ways.length > 0 && (
        <fieldset>
          <legend>{t.also}</legend>
          <div className="choices">
            {ways.map((role) => (
              <label className="choice" key={role}>
                <input type="checkbox" name="also" value={role} defaultChecked={also.includes(role)} />
                <span>{t.alsoWays[role]}</span>
              </label>
            ))}
          </div>
        </fieldset>
      )}
      <div className="pair">
        <Field
          name="cells"
          label={t.count}
          answer={undefined}
          initial={String(plan.asked)}
          select
          slotProps={{ select: { native: true } }}
        >
          {Array.from({ length: cellLimits.max - cellLimits.min + 1 }, (_, i) => cellLimits.min + i).map((n) => (
            <option key={n}>{n}</option>
          ))}
        </Field>
        {others.map((a) => (
          <ControlField key={a.key} axis={a} answer={wrong} initial={base.steps[a.key]} />
        ))}
      </div>
      <noscript>
        <button type="submit">{t.show}</button>
      </noscript>
    </Form>
  );
}
