export * from './apply';
export * from './attachment';
export * from './bundle';
export * from './gate';
export * from './job';
export * from './migrate';
export * from './read';
export * from './standing';
