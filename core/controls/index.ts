export {
  axisSchema,
  cutterModelSchema,
  settingSchema,
  type Axis,
  type CutterModel,
  type DialAxis,
  type ListAxis,
  type NumberAxis,
  type Setting,
} from './model.ts';
export {
  AxisError,
  describeLimits,
  formatPosition,
  limitsOf,
  listPlace,
  modifiersOf,
  parsePosition,
  positionsOf,
  shortPosition,
  startOf,
  strengthAxis,
} from './axis.ts';
export {
  atStrength,
  carrySetting,
  formatSetting,
  axisOfRole,
  passesOf,
  depthOf,
  parseSetting,
  sayStrength,
  speedOf,
  SettingError,
  startingSetting,
  validateSetting,
  type SettingPart,
} from './setting.ts';
export { shippedModel, shippedModels } from './models.ts';
export { controls, controlsInputSchema, type ControlsInput } from './controls.ts';
export { fitScale, ScaleError, scaleDefaults, scaleInputSchema, type ScaleFit } from './scaleFit.ts';
