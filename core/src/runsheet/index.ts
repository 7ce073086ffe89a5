export { linePrefix } from './lines';
export * from './cautions';
export * from './judge';
export * from './progress';
export * from './record';
export { atTheBattery, runSheet } from './sheet';
export * from './step';
