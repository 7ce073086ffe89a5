export * from './letter';
