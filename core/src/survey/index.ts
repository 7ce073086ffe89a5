export * from './asks';
export * from './guess';
export * from './habits';
export * from './manual';
export * from './reading';
export * from './result';
export * from './start';
export * from './survey';
