export { aloneEnglish, english, glossaryEnglish, paperEnglish, practiceEnglish, surveyEnglish, visitEnglish } from './en';
export type * from './alone';
export type * from './glossary';
export * from './language';
export type * from './paper';
export type * from './practice';
export { sayFor, type Say } from './say';
export type * from './survey';
export type * from './visit';
