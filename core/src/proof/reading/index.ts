export * from './guess';
export * from './jsonLines';
export * from './mapping';
export * from './merge';
export * from './number';
export * from './readLog';
export * from './report';
export * from './time';
