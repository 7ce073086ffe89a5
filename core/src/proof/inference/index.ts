export * from './infer';
export * from './levels';
export * from './plateau';
export * from './signal';
export * from './slope';
export { disagreement } from './spans';
