import type { FormAnswer } from '../../server/enter.server.ts';
import type { AwayThing } from '#work/answer/editable.ts';
import type { CatalogueView } from '#work/vinyls/catalogue.ts';
import MenuItem from '@mui/material/MenuItem';
import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { words } from '../../messages/index.ts';
import { Field, FormNotice } from '../../ui/base/Field.tsx';
import { AwayList } from '../../ui/base/AwayList.tsx';
import { PutRightLink } from '../../ui/base/PutRightLink.tsx';
import { HexField } from '../../ui/vinyls/HexField.tsx';
import { isolate } from '../../ui/base/format.ts';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { Section } from '../../ui/base/Section.tsx';

/** The colours of a vinyl and its batches. */
export function Colours({
  vinyl,
  away,
  actionData,
}: {
  vinyl: CatalogueView;
  away: readonly AwayThing[];
  actionData: FormAnswer | undefined;
}) {
  const t = words.catalogue;
  const colourAnswer = actionData?.values.what === 'colour' ? actionData : undefined;
  return (
    <Section className="above-48" id="colours" title={t.colours}>
      <ul className="dabs">
        {vinyl.colours.map((c) => (
          <li key={c.id}>
            <Link to={`/vinyls/${vinyl.id}?colour=${c.id}`}>
              <span className="dab" style={{ background: c.hex }} aria-hidden="true" />
              {isolate(c.name)}
            </Link>
            {vinyl.own && <PutRightLink kind="colour" id={c.id} />}
          </li>
        ))}
      </ul>
      {vinyl.own && <AwayList things={away} />}
      {vinyl.own && (
        <WriteForm what="colour" className="filters" noValidate key={vinyl.colours.length}>
          <Field name="colour" label={words.newVinyl.colour} answer={colourAnswer} autoComplete="off" />
          <HexField hex={colourAnswer?.values.hex ?? '#c99a2c'} id="new-hex" />
          <Button type="submit">{t.addColour}</Button>
        </WriteForm>
      )}
      <p className="above-16">
        <strong>{t.batches}:</strong>{' '}
        {vinyl.batches.length === 0
          ? t.noBatches
          : vinyl.batches.map((b, i) => (
              <span key={b.id}>
                {i > 0 && ' · '}
                {isolate([b.label, b.colour].filter(Boolean).join(', '))}
                {b.mine && (
                  <>
                    {' '}
                    <PutRightLink kind="batch" id={b.id} />
                  </>
                )}
              </span>
            ))}
      </p>
      {vinyl.batches.some((b) => !b.mine) && (
        <details className="above-12" open={actionData?.values.what === 'report batch'}>
          <summary>{t.reportBatch}</summary>
          <WriteForm what="report batch" className="form" noValidate>
            <FormNotice
              answer={actionData?.values.what === 'report batch' ? actionData : undefined}
              text={words.errors.form}
            />
            <Field name="batch" label={t.whichBatch} answer={actionData} select>
              {vinyl.batches
                .filter((b) => !b.mine)
                .map((b) => (
                  <MenuItem key={b.id} value={b.id}>
                    {isolate(b.label)}
                  </MenuItem>
                ))}
            </Field>
            <Field name="why" id="batch-why" label={t.whyBatch} answer={actionData} />
            <div>
              <Button type="submit">{t.reportIt}</Button>
            </div>
          </WriteForm>
        </details>
      )}
    </Section>
  );
}
