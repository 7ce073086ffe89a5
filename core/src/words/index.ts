export { english, paperEnglish, surveyEnglish } from './en';
export * from './language';
export type * from './paper';
export { sayFor, type Say } from './say';
export type * from './survey';
