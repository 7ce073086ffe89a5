export * from './order';
export { editPlan, targetsOf, valuesOn, type DeviceValues, type EditBlock, type EditOptions, type EditPlan, type EditStep } from './plan';
