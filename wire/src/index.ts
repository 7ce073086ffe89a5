export * from './list';
export * from './open';
export { makeMessageReader } from './talkers';
