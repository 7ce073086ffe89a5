export * from './figure';
export * from './plausible';
export * from './scale';
export * from './sheet';
export * from './text';
