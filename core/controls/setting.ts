import { AxisError, formatPosition, limitsOf, startOf, strengthAxis } from './axis.ts';
import type { CutterModel, Setting } from './model.ts';

/** A setting that does not belong to the model it is used with. */
export class SettingError extends Error {}

/** The setting a model starts from: plain vinyl, one pass. */
export function startingSetting(model: CutterModel): Setting {
  const steps = Object.fromEntries(
    model.axes.map((a) => [a.key, a.role === 'passes' ? Math.max(1, limitsOf(a).min) : startOf(a)]),
  );
  return { model: model.key, version: model.version, steps };
}

/**
 * Checks every axis of a setting against its model.
 * @throws SettingError on a foreign model or a missing or unknown axis; AxisError on a value outside its axis
 */
export function validateSetting(model: CutterModel, setting: Setting): Setting {
  if (setting.model !== model.key || setting.version !== model.version)
    throw new SettingError(
      `this setting is for ${setting.model} version ${setting.version}, not ${model.key} version ${model.version}`,
    );
  for (const axis of model.axes) {
    const position = setting.steps[axis.key];
    if (position === undefined) throw new SettingError(`${axis.word} is missing: ${model.name} needs it`);
    const { min, max } = limitsOf(axis);
    if (!Number.isInteger(position) || position < min || position > max) throw new AxisError(axis, position);
  }
  const unknown = Object.keys(setting.steps).find((key) => !model.axes.some((a) => a.key === key));
  if (unknown !== undefined) throw new SettingError(`${model.name} has no control called "${unknown}"`);
  return setting;
}

/** The same setting at another strength. */
export function atStrength(model: CutterModel, setting: Setting, strength: number): Setting {
  return { ...setting, steps: { ...setting.steps, [strengthAxis(model).key]: strength } };
}

export type SettingPart = { key: string; role: string; word: string; value: string; note?: string; unit?: string };

/** A whole setting in the cutter's own words, strength first. */
export function formatSetting(model: CutterModel, setting: Setting): SettingPart[] {
  const first = strengthAxis(model);
  return [first, ...model.axes.filter((a) => a !== first)].map((axis) => {
    const position = setting.steps[axis.key]!;
    const part: SettingPart = {
      key: axis.key,
      role: axis.role,
      word: axis.word,
      value: formatPosition(axis, position),
    };
    if (axis.kind === 'number' && axis.words?.[position]) part.note = axis.words[position];
    if (axis.kind === 'number' && axis.unit) part.unit = axis.unit;
    return part;
  });
}

/** Passes of a setting: its passes axis, or one. */
export function passesOf(model: CutterModel, setting: Setting): number {
  const axis = model.axes.find((a) => a.role === 'passes');
  return axis ? (setting.steps[axis.key] ?? 1) : 1;
}
