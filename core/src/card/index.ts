export * from './card';
export * from './convention';
export * from './role';
