export * from './decimate';
export * from './judge';
export * from './log';
export * from './prove';
export * from './readLog';
export * from './stages';
export * from './statistics';
export * from './writeLog';
