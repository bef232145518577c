export { axisSchema, cutterModelSchema, settingSchema, type CutterModel, type Setting } from './model.ts';
export { type Axis, type DialAxis, type ListAxis, type NumberAxis } from './axisShapes.ts';
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
} from './axis.ts';
export { strengthAxis } from './setting.ts';
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
export { usableWidth } from './usableWidth.ts';
export { controls, controlsInputSchema, type ControlsInput } from './controls.ts';
export { fitScale, ScaleError, scaleDefaults, scaleInputSchema, type ScaleFit } from './scaleFit.ts';
