export { english, surveyEnglish } from './en';
export * from './language';
export { sayFor, type Say } from './say';
export type * from './survey';
