export * from './array';
export * from './sun';
export * from './wire';
