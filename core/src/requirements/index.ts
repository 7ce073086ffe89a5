export * from './allowed';
export * from './generate';
export * from './requirement';
export { onBank, zeroAmps } from './context';
