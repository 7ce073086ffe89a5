export * from './generate';
export * from './requirement';
