export * from './decimate';
export { type Explanation } from './explain';
export * from './judge';
export * from './log';
export * from './prove';
export * from './reading';
export * from './inference';
export * from './statistics';
export * from './writeLog';
