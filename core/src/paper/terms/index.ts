import { de } from './de';
import { en } from './en';
import { es } from './es';
import { fr } from './fr';
import type { PaperTerms } from './terms';

/** The languages papers are read in, all of them at once: a page may hold several. */
export const languages: readonly PaperTerms[] = [en, de, fr, es];

export type * from './terms';
