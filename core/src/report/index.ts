export * from './csv';
export * from './handover/handover';
export { openPoints } from './handover/open';
export * from './label';
export * from './letter';
export * from './ownersCard';
export * from './paper';
export * from './settingsFile';
