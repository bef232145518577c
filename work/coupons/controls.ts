import { z } from 'zod';
import { AxisError, parseSetting, strengthAxis, type CutterModel, type Setting } from '#core/controls/index.ts';
import { Invalid } from '#work/base/errors.ts';

/**
 * Controls as a form states them: the strength as "strength", every other axis as "c." and its key. What is left out stands as
 * in `base`. @throws Invalid with the axis and its limits at the field that is wrong
 */
export function readControls(model: CutterModel, form: FormData, base: Setting, strength?: string): Setting {
  const typed: Record<string, string> = {};
  const fieldOf = (key: string) => (key === strengthAxis(model).key ? 'strength' : `c.${key}`);
  for (const axis of model.axes) {
    const text = axis.role === 'strength' ? strength : form.get(fieldOf(axis.key));
    if (typeof text === 'string') typed[axis.key] = text;
  }
  for (const [key, text] of Object.entries(typed))
    try {
      parseSetting(model, { [key]: text }, base);
    } catch (error) {
      if (error instanceof AxisError) throw new Invalid({ [fieldOf(key)]: `${error.message}.` });
      throw error;
    }
  return parseSetting(model, typed, base);
}

export const wantedForm = z.enum(['clean', 'through']).catch('clean');
