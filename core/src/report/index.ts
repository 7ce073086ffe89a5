export * from './csv';
export * from './handover';
export * from './label';
export * from './letter';
export * from './ownersCard';
export * from './paper';
export * from './settingsFile';
