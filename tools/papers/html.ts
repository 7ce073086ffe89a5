/** Small pieces of which the made-up sheets are put together. */
import type { Truth } from './truth';

export interface Sheet {
  readonly html: string;
}

export const page = (style: string, body: string): string =>
  `<!doctype html><meta charset="utf-8"><style>@page{size:A4;margin:18mm 16mm}body{font:11pt/1.35 "DejaVu Sans",sans-serif;color:#111}table{border-collapse:collapse}${style}</style>${body}`;

export const table = (head: readonly string[], rows: readonly (readonly string[])[], attributes = ''): string =>
  `<table ${attributes}>${head.length ? `<thead><tr>${head.map((h) => `<th>${h}</th>`).join('')}</tr></thead>` : ''}<tbody>${rows
    .map((row) => `<tr>${row.map((cell) => `<td>${cell}</td>`).join('')}</tr>`)
    .join('')}</tbody></table>`;

/** A number as it would be printed: so many decimals, with a comma where the country writes one. */
export const num = (n: number, digits: number, comma = false): string =>
  n
    .toFixed(digits)
    .replace('-', '−')
    .replace('.', comma ? ',' : '.');

export const v = (truth: Truth, n: number, comma = false): string => num(n, truth.cells > 1 && n > 5 ? 1 : 2, comma);

export const hours = (seconds: number): string => String(seconds / 3600);
