export * from './definition';
export * from './fit';
export * from './list';
export * from './record';
export * from './historyFile';
export * from './visit';
