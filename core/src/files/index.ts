export * from './open';
export * from './zip';
