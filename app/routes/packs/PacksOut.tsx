import Button from '@mui/material/Button';
import { words } from '../../messages/index.ts';
import { Choices } from '../../ui/base/Choices.tsx';
import { Field } from '../../ui/base/Field.tsx';
import { Section } from '../../ui/base/Section.tsx';

/** Hands the shelf on, as a pack or as a table. */
export function PacksOut() {
  const t = words.packs;
  return (
    <Section id="out" title={t.out}>
      <form action="/packs/shelf" method="get" className="form">
        <Field
          name="q"
          label={t.which}
          answer={undefined}
          help={t.whichHelp}
          slotProps={{ htmlInput: { maxLength: 200 } }}
        />
        <Choices
          name="licence"
          legend={t.licence}
          answer={undefined}
          initial="cc-by"
          options={(['cc-by', 'cc0'] as const).map((l) => [l, words.licences[l].name, words.licences[l].says])}
        />
        <p className="quiet small" style={{ margin: '-14px 0 0' }}>
          {t.licenceHelp}
        </p>
        <div className="actions">
          <Button type="submit">{t.asPack}</Button>
          <Button type="submit" formAction="/packs/shelf.csv">
            {t.asTable}
          </Button>
        </div>
      </form>
    </Section>
  );
}
