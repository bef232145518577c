import type { FormAnswer } from '../../server/enter.server.ts';
import { Field } from '../base/Field.tsx';
import { capitalise } from '#core/units/index.ts';

/** Fields that are chosen and not typed, by the column's key. Empty follows the type. */
const chosen: Record<string, readonly string[]> = {
  side: ['carrier down', 'backing down', 'face down'],
  mirror: ['yes', 'no'],
  carrier: ['shiny', 'dull', 'unknown'],
  mat: ['ordinary', 'high grip', 'none'],
  carry: ['none', 'tape', 'mask'],
  opacity: ['opaque', 'translucent', 'clear'],
  tack: ['low', 'medium', 'high'],
  press_pressure: ['light', 'medium', 'heavy'],
  press_peel: ['hot', 'warm', 'lukewarm', 'cool', 'cold', 'by the leaflet'],
};

type Shown = { key: string; word: string; about: string; said?: string; type?: string };

/** One field a column of the catalogue; what the type says stands in grey where nothing is said. */
export function CatalogueFields({ fields, answer }: { fields: readonly Shown[]; answer: FormAnswer | undefined }) {
  return (
    <div className="triple">
      {fields.map((f) => {
        const label = capitalise(f.word);
        const choices = chosen[f.key];
        if (choices)
          return (
            <Field
              key={f.key}
              name={f.key}
              label={label}
              answer={answer}
              initial={f.said ?? ''}
              select
              slotProps={{ select: { native: true } }}
            >
              <option value="">{f.type ? `${f.type} (its type)` : '–'}</option>
              {choices.map((c) => (
                <option key={c} value={c}>
                  {c}
                </option>
              ))}
            </Field>
          );
        return (
          <Field
            key={f.key}
            name={f.key}
            label={label}
            answer={answer}
            initial={f.said ?? ''}
            placeholder={f.type ?? ''}
            help={f.about}
            autoComplete="off"
          />
        );
      })}
    </div>
  );
}
