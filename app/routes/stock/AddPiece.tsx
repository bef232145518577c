import type { FormAnswer } from '../../server/enter.server.ts';
import type { Vinyl } from '#work/vinyls/vinyls.ts';
import Button from '@mui/material/Button';
import type { stockKinds } from '#work/vinyls/stock.ts';
import { words } from '../../messages/index.ts';
import { Choices } from '../../ui/base/Choices.tsx';
import { Field, FormNotice } from '../../ui/base/Field.tsx';
import { WriteForm } from '../../ui/base/WriteForm.tsx';

/** Puts a roll, a sheet or an offcut into the stock. */
export function AddPiece({
  vinyl,
  kinds,
  actionData,
  unit,
}: {
  vinyl: Vinyl & { colours: readonly { id: string; name: string }[] };
  kinds: typeof stockKinds;
  actionData: FormAnswer | undefined;
  unit: 'mm' | 'in';
}) {
  const t = words.stock;
  return (
    <WriteForm what="add" className="form" noValidate style={{ maxWidth: 720, marginTop: 40 }}>
      <h2 className="section-word">{t.add}</h2>
      <FormNotice answer={actionData} text={words.errors.form} />
      <input type="hidden" name="vinyl" value={vinyl.id} />
      <Choices
        name="kind"
        legend={t.kind}
        answer={actionData}
        initial="roll"
        options={kinds.map((k) => [k, t.kinds[k], ''] as const)}
      />
      <div className="pair">
        <Field
          name="colour"
          label={t.colour}
          answer={actionData}
          initial={vinyl.colour?.id ?? ''}
          select
          slotProps={{ select: { native: true } }}
        >
          {vinyl.colours.map((c) => (
            <option key={c.id} value={c.id}>
              {c.name}
            </option>
          ))}
        </Field>
        <Field name="batch" label={t.batch} answer={actionData} autoComplete="off" />
        <Field
          name="width"
          label={t.width(unit)}
          answer={actionData}
          initial={unit === 'mm' ? '305' : '12'}
          autoComplete="off"
        />
        <Field name="length" label={t.length(unit)} answer={actionData} autoComplete="off" />
        <Field name="price" label={t.price} answer={actionData} inputMode="decimal" autoComplete="off" />
        <Field name="currency" label={t.currency} answer={actionData} autoComplete="off" />
        <Field name="pieces" label={t.pieces} answer={actionData} initial="1" inputMode="numeric" autoComplete="off" />
        <Field name="note" label={t.note} answer={actionData} autoComplete="off" />
      </div>
      <div>
        <Button type="submit" variant="contained">
          {t.add}
        </Button>
      </div>
    </WriteForm>
  );
}
