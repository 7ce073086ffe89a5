export * from './cold';
export * from './compensate';
export { provingUncertainty } from './context';
export * from './derive';
export { chooseOnGrid, correctionAt, trueFromDisplay } from './fit';
export * from './input';
export { roleRules } from './roles';
export * from './setting';
