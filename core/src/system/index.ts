export * from './array';
export * from './ceiling';
export * from './display';
export * from './facts';
export * from './sensor';
export * from './system';
export * from './trip';
export * from './wiring';
