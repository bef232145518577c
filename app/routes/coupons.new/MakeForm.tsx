import { useNumberStyle } from '../../ui/people/usePerson.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import type { Piece } from '#work/vinyls/stock.ts';
import type { Vinyl } from '#work/vinyls/vinyls.ts';
import type { Bench } from '#work/workshop/bench.ts';
import type { Preview } from '#work/coupons/plan.ts';
import Button from '@mui/material/Button';
import { formatPosition } from '#core/controls/index.ts';
import { words } from '../../messages/index.ts';
import { Field } from '../../ui/base/Field.tsx';
import { FinestFields } from './FinestFields.tsx';
import { bothLengths } from '../../ui/base/format.ts';
import { WriteForm } from '../../ui/base/WriteForm.tsx';

/** Makes the coupon that is shown, off a piece of stock or not. */
export function MakeForm({
  preview,
  cutter,
  vinyl,
  card,
  job,
  stock,
  unit,
  actionData,
}: {
  preview: Preview;
  cutter: Bench['cutter'];
  vinyl: Vinyl;
  card: string | null;
  /** The job it is made for. */
  job: string | null;
  stock: readonly Piece[];
  unit: 'mm' | 'in';
  actionData: FormAnswer | undefined;
}) {
  const t = words.plan;
  const style = useNumberStyle();
  const { plan, wanted, base, mode, also } = preview;
  const others = cutter.model.axes.filter((a) => a.role !== 'strength');
  return (
    <WriteForm what="make">
      <input type="hidden" name="vinyl" value={vinyl.id} />
      <input type="hidden" name="cells" value={plan.asked} />
      <input type="hidden" name="wanted" value={wanted} />
      <input type="hidden" name="mode" value={mode} />
      {job && <input type="hidden" name="job" value={job} />}
      {card && <input type="hidden" name="card" value={card} />}
      <FinestFields finest={preview.sheet.finest} />
      {also.map((a) => (
        <input key={a} type="hidden" name="also" value={a} />
      ))}
      {others.map((a) => (
        <input key={a.key} type="hidden" name={`c.${a.key}`} value={formatPosition(a, base.steps[a.key]!)} />
      ))}
      {vinyl.colour && <input type="hidden" name="colour" value={vinyl.colour.id} />}
      <details open={!!actionData?.fields.piece || !!actionData?.fields.batch} style={{ marginBottom: 12 }}>
        <summary>{t.from}</summary>
        <div className="pair above-8">
          {stock.length > 0 && (
            <Field
              name="piece"
              label={words.stock.cutFrom}
              answer={actionData}
              select
              slotProps={{ select: { native: true } }}
            >
              <option value="">{words.stock.noPiece}</option>
              {stock.map((p) => (
                <option key={p.id} value={p.id}>
                  {[words.stock.kinds[p.kind], p.code, p.vinyl.colour?.name, bothLengths(p.leftUm, unit, style)[0]]
                    .filter(Boolean)
                    .join(', ')}
                </option>
              ))}
            </Field>
          )}
          <Field name="batch" label={words.stock.batch} answer={actionData} autoComplete="off" />
        </div>
      </details>
      <Button type="submit" variant="contained">
        {t.make}
      </Button>
    </WriteForm>
  );
}
