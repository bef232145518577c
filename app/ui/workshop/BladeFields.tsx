import { words } from '../../messages/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { Field } from '../base/Field.tsx';
import { typedMetres } from '../base/format.ts';

/** What is said of a blade beside its name. @param blade one that is there already */
export function BladeFields({
  answer,
  blade,
  lasted,
}: {
  answer: FormAnswer | undefined;
  /** How long the blades before it lasted. */
  lasted?: { lifeUm: number; blades: number } | undefined;
  blade?: { angle: number; offsetUm: number; lifeUm: number; beforeUm: number };
}) {
  const t = words.newCutter;
  return (
    <div className="pair">
      <Field name="angle" label={t.angle} answer={answer} initial={String(blade?.angle ?? 45)} help={t.angleHelp} />
      <Field
        name="offset"
        label={t.offset}
        answer={answer}
        initial={blade ? String(blade.offsetUm / 1000) : '0.25'}
        help={t.offsetHelp}
      />
      <Field
        name="life"
        label={t.life}
        answer={answer}
        initial={blade ? typedMetres(blade.lifeUm) : ''}
        help={lasted ? t.lifeLearnt(typedMetres(lasted.lifeUm), lasted.blades) : t.lifeHelp}
      />
      <Field
        name="used"
        label={t.used}
        answer={answer}
        initial={blade ? typedMetres(blade.beforeUm) : '0'}
        help={t.usedHelp}
      />
    </div>
  );
}
