export * from './candidate';
export { cellsFrom, type PaperFact, type PaperFacts } from './facts';
export { headOf, meaningIn, meaningOf, type NameMeaning } from './meaning';
export * from './page';
export * from './paste';
export * from './pdf';
export { readPaper, type Derating, type PaperContext, type PaperReading } from './read';
export * from './value';
export { languages, type ForeignTerm, type PaperTerms } from './terms';
