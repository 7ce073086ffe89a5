export * from './face';
export * from './memory';
export * from './menu';
export * from './keysTo';
