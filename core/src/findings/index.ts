export * from './alike';
export * from './consequence';
export * from './find';
export * from './finding';
export { findingRules, type FindingCode, type FindingFacts } from './list';
export type { OutsideBand } from './bands';
