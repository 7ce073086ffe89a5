export * from './allowed';
export * from './generate';
export * from './requirement';
export { zeroAmps } from './context';
