export {
  axisSchema,
  cutterModelSchema,
  settingSchema,
  type Axis,
  type CutterModel,
  type DialAxis,
  type NumberAxis,
  type Setting,
} from './model.ts';
export {
  AxisError,
  describeLimits,
  formatPosition,
  limitsOf,
  parsePosition,
  positionsOf,
  startOf,
  strengthAxis,
} from './axis.ts';
export {
  atStrength,
  formatSetting,
  passesOf,
  SettingError,
  startingSetting,
  validateSetting,
  type SettingPart,
} from './setting.ts';
export { shippedModel, shippedModels } from './models.ts';
