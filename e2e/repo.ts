import { fileURLToPath } from 'node:url';

/** A file of the repository. */
export const repo = (path: string): string => fileURLToPath(new URL(`../${path}`, import.meta.url));
