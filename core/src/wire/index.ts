export * from './bus';
export * from './master';
export * from './rtu';
export * from './speak';
export * from './talk';
export * from './listen';
export * from './find';
