import type { Axis } from './axisShapes.ts';
import type { CutterModel, Setting } from './model.ts';
import { AxisError, formatPosition, limitsOf, parsePosition, startOf } from './axis.ts';

/** A setting that does not belong to the model it is used with. */
export class SettingError extends Error {}

/** The axis of a role; undefined where the model has none. */
export const axisOfRole = (model: CutterModel, role: Axis['role']) => model.axes.find((a) => a.role === role);

/** Where an axis stands when nobody said anything: the maker's place for plain vinyl; one pass. */
const startPosition = (axis: Axis): number =>
  axis.role === 'passes' ? Math.max(1, limitsOf(axis).min) : startOf(axis);

/** The setting a model starts from: plain vinyl, one pass. */
export function startingSetting(model: CutterModel): Setting {
  const steps = Object.fromEntries(model.axes.map((a) => [a.key, startPosition(a)]));
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

/**
 * Reads a setting as a person types it, one text an axis. Axes nobody typed stand where `base` has them, or at their start.
 * @param typed texts by axis key
 * @throws AxisError on a text that is no place on its axis; SettingError on an axis the model does not have
 */
export function parseSetting(model: CutterModel, typed: Record<string, string>, base?: Setting): Setting {
  const unknown = Object.keys(typed).find((key) => !model.axes.some((a) => a.key === key));
  if (unknown !== undefined) throw new SettingError(`${model.name} has no control called "${unknown}"`);
  const steps = Object.fromEntries(
    model.axes.map((axis) => {
      const text = typed[axis.key];
      return [
        axis.key,
        text === undefined ? (base?.steps[axis.key] ?? startPosition(axis)) : parsePosition(axis, text),
      ];
    }),
  );
  return validateSetting(model, { model: model.key, version: model.version, steps });
}

/**
 * A setting of one version of a model in the terms of another, by what the controls show: force 120 stays force 120 whatever
 * its steps were. A control the new version added stands at its start.
 *
 * @returns undefined where a shown value has no place in the other version, or the models are not one and the same
 */
export function carrySetting(from: CutterModel, to: CutterModel, setting: Setting): Setting | undefined {
  if (from.key !== to.key) return undefined;
  validateSetting(from, setting);
  const typed: Record<string, string> = {};
  for (const axis of from.axes)
    if (to.axes.some((a) => a.key === axis.key)) typed[axis.key] = formatPosition(axis, setting.steps[axis.key]!);
  try {
    return parseSetting(to, typed);
  } catch (error) {
    if (error instanceof AxisError) return undefined;
    throw error;
  }
}

/** Passes of a setting: its passes axis, or one. */
export function passesOf(model: CutterModel, setting: Setting): number {
  const axis = axisOfRole(model, 'passes');
  return axis ? (setting.steps[axis.key] ?? 1) : 1;
}

/** The number a setting shows for speed; undefined where the model has none. */
export function speedOf(model: CutterModel, setting: Setting): number | undefined {
  const axis = axisOfRole(model, 'speed');
  const position = axis && setting.steps[axis.key];
  return axis?.kind === 'number' && position !== undefined ? position * axis.step : undefined;
}

/** The position of the blade depth; undefined where the model has none. */
export function depthOf(model: CutterModel, setting: Setting): number | undefined {
  const axis = axisOfRole(model, 'depth');
  return axis && setting.steps[axis.key];
}

/** A strength as a person would say it: "force 134", "pressure −3"; the entry of a list speaks for itself. */
export function sayStrength(axis: Axis, position: number): string {
  const said = formatPosition(axis, position);
  return axis.kind === 'list' ? said : `${axis.word} ${said}`;
}

export function strengthAxis(model: CutterModel): Axis {
  return model.axes.find((a) => a.role === 'strength')!;
}
