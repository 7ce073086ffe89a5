/**
 * A number as a program writes it into a table, with or without a unit behind it; null for what is none.
 *
 * @param comma the decimal mark may be a comma
 */
export function readWritten(text: string, comma: boolean): number | null {
  const plain = text
    .trim()
    .replace(/^\u2212/, '-')
    .replace(/\s*(?:[mk]?[VAW]h?|Ah|°?[CF]|%)$/, '');
  const pointed = comma ? plain.replace(',', '.') : plain;
  return /^[+-]?(\d+(\.\d*)?|\.\d+)$/.test(pointed) ? Number(pointed) : null;
}
