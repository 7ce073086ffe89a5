export * from './card';
export * from './convention';
export * from './faults';
export * from './hold';
export * from './press';
export * from './quirks';
export * from './role';
