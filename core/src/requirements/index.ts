export * from './allowed';
export * from './generate';
export * from './requirement';
export { taperOnBank, zeroAmps } from './context';
