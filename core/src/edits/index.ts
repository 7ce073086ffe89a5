export * from './order';
export { editPlan, stepsToKey, type EditBlock, type EditOptions, type EditPlan, type EditStep } from './plan';
