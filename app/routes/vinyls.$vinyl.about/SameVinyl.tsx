import type { CatalogueView } from '#work/vinyls/catalogue.ts';
import Button from '@mui/material/Button';
import { words } from '../../messages/index.ts';
import { isolate } from '../../ui/base/format.ts';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { Section } from '../../ui/base/Section.tsx';

/** Entries that are the same vinyl. */
export function SameVinyl({ vinyl }: { vinyl: CatalogueView }) {
  const t = words.catalogue;
  return (
    <Section className="above-48" id="same" title={t.same}>
      {vinyl.aliases.length === 0 && vinyl.alike.length === 0 && <p className="quiet">{t.none}</p>}
      {vinyl.aliases.map((a) => (
        <div key={a.id} className="line-up">
          <span>{t.merged(isolate(a.name))}</span>
          {a.mine && (
            <WriteForm what="part">
              <input type="hidden" name="alias" value={a.id} />
              <Button type="submit">{t.part}</Button>
            </WriteForm>
          )}
        </div>
      ))}
      {vinyl.alike.length > 0 && <p>{t.alike}</p>}
      {vinyl.alike.map((a) => (
        <WriteForm className="above-12" key={a.id} what="merge">
          <input type="hidden" name="alias" value={a.id} />
          <Button type="submit">{t.merge(isolate(a.name))}</Button>
        </WriteForm>
      ))}
    </Section>
  );
}
