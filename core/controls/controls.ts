import { z } from 'zod';
import { describeLimits, limitsOf } from './axis.ts';
import { cutterModelSchema, type Setting } from './model.ts';
import { formatSetting, parseSetting, passesOf, SettingError, validateSetting, type SettingPart } from './setting.ts';
import { shippedModels } from './models.ts';

const key = z.string().min(1).max(60);

export const controlsInputSchema = z.strictObject({
  format: z.literal('versipel-controls/1'),
  model: z
    .union([cutterModelSchema, z.strictObject({ key, version: z.int().min(1).optional() })])
    .describe('a whole model, or the key (and version) of a shipped one'),
  steps: z.record(z.string(), z.number()).optional().describe('positions by axis key: whole steps, every axis'),
  typed: z
    .record(z.string(), z.string().max(200))
    .optional()
    .describe('texts by axis key; axes left out stand at their start'),
});
export type ControlsInput = z.infer<typeof controlsInputSchema>;

export type ControlsResult = {
  format: 'versipel-controls-result/1';
  setting: Setting;
  parts: (SettingPart & { position: number; min: number; max: number; limits: string })[];
  said: string;
  passes: number;
};

/**
 * Checks and says a whole setting of any model: from positions, or from what a person typed.
 *
 * @throws SettingError or AxisError, whose message names the axis and its limits
 */
export function controls(input: ControlsInput): ControlsResult {
  const asked = input.model;
  const model =
    'axes' in asked
      ? asked
      : shippedModels
          .filter((m) => m.key === asked.key && (asked.version === undefined || m.version === asked.version))
          .sort((a, b) => b.version - a.version)[0];
  if (!model) {
    const known = shippedModels.map((m) => `${m.key} version ${m.version}`).join(', ');
    throw new SettingError(
      `model: no shipped model is called "${asked.key}"${'version' in asked && asked.version ? ` in version ${asked.version}` : ''}; there are ${known}`,
    );
  }
  if ((input.steps === undefined) === (input.typed === undefined))
    throw new SettingError('give either steps or typed: positions, or what a person typed');
  const setting = input.typed
    ? parseSetting(model, input.typed)
    : validateSetting(model, { model: model.key, version: model.version, steps: input.steps! });
  const parts = formatSetting(model, setting).map((part) => {
    const axis = model.axes.find((a) => a.key === part.key)!;
    return { ...part, position: setting.steps[part.key]!, ...limitsOf(axis), limits: describeLimits(axis) };
  });
  return {
    format: 'versipel-controls-result/1',
    setting,
    parts,
    said: parts.map((p) => `${p.word} ${p.value}${p.unit ? ` ${p.unit}` : ''}`).join(', '),
    passes: passesOf(model, setting),
  };
}
