export * from './consequence';
export * from './find';
export * from './finding';
export { findingRules } from './list';
