export * from './definition';
export * from './fit';
export * from './list';
export * from './record';
export { expectedVolts } from './tools';
export { chillLimits } from './tests/chill';
