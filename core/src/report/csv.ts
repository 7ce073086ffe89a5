/**
 * A table as CSV, RFC 4180, with a byte order mark so that spreadsheets take it as UTF-8. A text that a spreadsheet would take for a formula is written with
 * an apostrophe before it; numbers stay numbers.
 *
 * @example writeCsv([['name', 'V'], ['=1+1', -0.5]]) // '\ufeffname,V\r\n'=1+1,-0.5\r\n'
 */
export function writeCsv(rows: readonly (readonly (string | number | null)[])[]): string {
  return `\ufeff${rows.map((row) => row.map(csvCell).join(',')).join('\r\n')}\r\n`;
}

/** A sign that begins a formula, wide ones too, also behind white space and signs that nobody sees: some spreadsheets trim those before they look. */
const formula = /^[\s\p{C}\p{Z}]*[=+\-@\uff1d\uff0b\uff0d\uff20]|^[\t\r]/u;

function csvCell(value: string | number | null): string {
  if (value === null) return '';
  if (typeof value === 'number') return Number.isFinite(value) ? String(value) : '';
  const harmless = formula.test(value) ? `'${value}` : value;
  return /[",\r\n;]/.test(harmless) ? `"${harmless.replaceAll('"', '""')}"` : harmless;
}
