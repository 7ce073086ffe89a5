export * from './decimate';
export * from './judge';
export * from './log';
export * from './prove';
export * from './reading';
export * from './inference';
export * from './statistics';
export * from './writeLog';
