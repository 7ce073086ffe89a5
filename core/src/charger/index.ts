export * from './machine';
export * from './program';
export * from './stage';
