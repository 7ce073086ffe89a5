import { strToU8, zipSync } from 'fflate';

/** A cell of a made-up workbook: text, a number, a date as a serial day with its format, a formula with what it last came to, or an error. */
export type MadeCell =
  | string
  | number
  | null
  | { readonly serial: number; readonly as: 'date' | 'time' | 'both' }
  | { readonly formula: string; readonly value: string | number | null }
  | { readonly error: string };

const escaped = (text: string): string => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');
const column = (i: number): string => (i >= 26 ? column(Math.floor(i / 26) - 1) : '') + String.fromCharCode(65 + (i % 26));
/** Places of the formats in `styles` below. */
const style = { date: 1, time: 2, both: 3 };

/**
 * A workbook by ECMA-376, written by hand, so that what reads it is not measured with itself.
 *
 * @param sheets rows of cells by the name of the sheet
 */
export function madeWorkbook(
  sheets: Readonly<Record<string, readonly (readonly MadeCell[])[]>>,
  { from1904 = false, macros = false, merged = [] as readonly string[] } = {},
): Uint8Array<ArrayBuffer> {
  const texts: string[] = [];
  const cell = (c: MadeCell, at: string): string => {
    if (c === null) return '';
    if (typeof c === 'number') return `<c r="${at}"><v>${c}</v></c>`;
    if (typeof c === 'string') {
      if (!texts.includes(c)) texts.push(c);
      return `<c r="${at}" t="s"><v>${texts.indexOf(c)}</v></c>`;
    }
    if ('serial' in c) return `<c r="${at}" s="${style[c.as]}"><v>${c.serial}</v></c>`;
    if ('error' in c) return `<c r="${at}" t="e"><f>1/0</f><v>${c.error}</v></c>`;
    const value = c.value === null ? '' : `<v>${c.value}</v>`;
    return `<c r="${at}"${typeof c.value === 'string' ? ' t="str"' : ''}><f>${escaped(c.formula)}</f>${value}</c>`;
  };
  const names = Object.keys(sheets);
  const head = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>';
  const main = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
  const office = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
  const packages = 'http://schemas.openxmlformats.org/package/2006/relationships';
  const members: Record<string, string> = {};
  names.forEach((name, k) => {
    const rows = (sheets[name] ?? []).map((row, r) => `<row r="${r + 1}">${row.map((c, i) => cell(c, `${column(i)}${r + 1}`)).join('')}</row>`).join('');
    const merges = merged.length > 0 ? `<mergeCells count="${merged.length}">${merged.map((ref) => `<mergeCell ref="${ref}"/>`).join('')}</mergeCells>` : '';
    members[`xl/worksheets/sheet${k + 1}.xml`] = `${head}<worksheet xmlns="${main}"><sheetData>${rows}</sheetData>${merges}</worksheet>`;
  });
  members['xl/workbook.xml'] =
    `${head}<workbook xmlns="${main}" xmlns:r="${office}"><workbookPr${from1904 ? ' date1904="1"' : ''}/><sheets>${names.map((name, k) => `<sheet name="${escaped(name)}" sheetId="${k + 1}" r:id="rId${k + 1}"/>`).join('')}</sheets></workbook>`;
  members['xl/_rels/workbook.xml.rels'] =
    `${head}<Relationships xmlns="${packages}">${names.map((_, k) => `<Relationship Id="rId${k + 1}" Type="${office}/worksheet" Target="worksheets/sheet${k + 1}.xml"/>`).join('')}<Relationship Id="rId90" Type="${office}/styles" Target="styles.xml"/><Relationship Id="rId91" Type="${office}/sharedStrings" Target="sharedStrings.xml"/></Relationships>`;
  members['xl/sharedStrings.xml'] =
    `${head}<sst xmlns="${main}" count="${texts.length}" uniqueCount="${texts.length}">${texts.map((t) => `<si><t xml:space="preserve">${escaped(t)}</t></si>`).join('')}</sst>`;
  members['xl/styles.xml'] =
    `${head}<styleSheet xmlns="${main}"><numFmts count="1"><numFmt numFmtId="164" formatCode="yyyy\\-mm\\-dd\\ hh:mm:ss"/></numFmts><fonts count="1"><font/></fonts><fills count="1"><fill/></fills><borders count="1"><border/></borders><cellStyleXfs count="1"><xf numFmtId="0"/></cellStyleXfs><cellXfs count="4"><xf numFmtId="0"/><xf numFmtId="14" applyNumberFormat="1"/><xf numFmtId="21" applyNumberFormat="1"/><xf numFmtId="164" applyNumberFormat="1"/></cellXfs></styleSheet>`;
  members['[Content_Types].xml'] =
    `${head}<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="xml" ContentType="application/xml"/><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/></Types>`;
  members['_rels/.rels'] =
    `${head}<Relationships xmlns="${packages}"><Relationship Id="rId1" Type="${office}/officeDocument" Target="xl/workbook.xml"/></Relationships>`;
  if (macros) members['xl/vbaProject.bin'] = 'not run';
  return new Uint8Array(zipSync(Object.fromEntries(Object.entries(members).map(([name, text]) => [name, strToU8(text)]))));
}

/** A moment as a spreadsheet counts it: days since the last day but one of 1899, or since 1904. */
export const serialOf = (iso: string, from1904 = false): number => (Date.parse(iso) - (from1904 ? Date.UTC(1904, 0, 1) : Date.UTC(1899, 11, 30))) / 86_400_000;
