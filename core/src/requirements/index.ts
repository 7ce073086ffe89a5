export * from './generate';
export * from './requirement';
export * from './rehearsed';
