export * from './order';
export { editPlan, stepsToKey, targetsOf, valuesOn, type DeviceValues, type EditBlock, type EditOptions, type EditPlan, type EditStep } from './plan';
