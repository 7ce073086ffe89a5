import type { Content, ContentTable, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces';
import type { Block, Cell, Paper } from '@calm-keel/core/report';
import { colour, type ColourToken } from '../ui/tokens';

/** Drawings of a report as SVG documents, by the name that its blocks call them. */
export type Drawings = Readonly<Record<string, string>>;

const ink = (): string => colour('ink');
const second = (): string => colour('ink-2');
const tones: Readonly<Record<NonNullable<Cell['tone']>, ColourToken>> = { plain: 'ink', quiet: 'ink-2', caution: 'attention', stop: 'stop' };
/** Width of the text on A4 between margins of 48 pt, pt. */
const textWidth = 595.28 - 96;

/** Words before a tone, so that a print without colours says it too. */
const toneMark: Partial<Record<NonNullable<Cell['tone']>, string>> = { stop: '! ' };

const cellOf = (cell: Cell, size = 8.5): TableCell => ({
  stack: [
    {
      text: `${cell.tone && cell.text ? (toneMark[cell.tone] ?? '') : ''}${cell.text}`,
      color: colour(tones[cell.tone ?? 'plain']),
      bold: cell.tone === 'stop',
      fontSize: size,
    },
    ...(cell.below ? [{ text: cell.below, color: second(), fontSize: size - 1 }] : []),
  ],
});

/** Hairlines between rows, an ink line under the head, nothing upright. */
const ruled = {
  hLineWidth: (i: number) => (i === 1 ? 0.8 : 0.35),
  vLineWidth: () => 0,
  hLineColor: (i: number) => (i === 1 ? ink() : colour('rule-mid')),
  paddingLeft: () => 0,
  paddingRight: () => 6,
  paddingTop: () => 2,
  paddingBottom: () => 2,
};

function block(b: Block, drawings: Drawings): Content {
  switch (b.kind) {
    case 'text':
      return { text: b.text, color: colour(tones[b.tone ?? 'plain']), margin: [0, 3, 0, 3] };
    case 'heading':
      return {
        text: [{ text: b.text, bold: true, fontSize: 11 }, ...(b.beside ? [{ text: `   ${b.beside}`, color: second(), fontSize: 8.5 }] : [])],
        margin: [0, 8, 0, 2],
        headlineLevel: 2,
      };
    case 'facts':
      return {
        table: {
          widths: [96, '*'],
          body: b.rows.map((r) => [cellOf({ text: r.name, tone: 'quiet' }, 9), cellOf({ text: r.text, ...(r.tone ? { tone: r.tone } : {}) }, 9)]),
        },
        layout: { ...ruled, hLineWidth: (i: number) => (i === 0 ? 0 : 0.35), hLineColor: () => colour('rule-mid') },
      };
    case 'list':
      return b.items.length === 0
        ? { text: b.empty, color: second(), margin: [0, 2, 0, 2] }
        : { ul: b.items.map((item) => cellOf(item, 9) as Content), margin: [0, 2, 0, 2] };
    case 'table': {
      if (b.rows.length === 0) return { text: b.empty, color: second(), margin: [0, 2, 0, 2] };
      const all = b.columns.reduce((sum, c) => sum + c.share, 0);
      const table: ContentTable = {
        table: {
          headerRows: 1,
          dontBreakRows: true,
          widths: b.columns.map((c) => (c.share / all) * (textWidth - 6 * b.columns.length)),
          body: [b.columns.map((c) => ({ text: c.head, color: second(), fontSize: 8 })), ...b.rows.map((row) => row.map((c) => cellOf(c)))],
        },
        layout: ruled,
        margin: [0, 2, 0, 4],
      };
      return table;
    }
    case 'sum':
      return {
        unbreakable: true,
        margin: [18, 6, 60, 2],
        stack: [
          { text: b.title.charAt(0).toUpperCase() + b.title.slice(1), bold: true, fontSize: 9 },
          {
            table: {
              widths: ['*', 'auto'],
              body: b.lines.map((l) => [
                { text: l.words, fontSize: 8.5, color: l.kind === 'note' ? second() : ink(), bold: l.kind === 'set' },
                { text: l.figure, fontSize: 8.5, alignment: 'right', bold: l.kind === 'set' },
              ]),
            },
            layout: { ...ruled, hLineWidth: () => 0.3, hLineColor: () => colour('rule-mid') },
          },
          ...b.sources.map((source) => ({ text: source, fontSize: 7.5, color: second() })),
        ],
      };
    case 'drawing':
    case 'log': {
      const svg = drawings[b.kind === 'log' ? `log-${b.log}` : b.drawing];
      return {
        unbreakable: true,
        margin: [0, 6, 0, 4],
        stack: [
          svg ? { svg, width: textWidth } : { text: 'This drawing could not be made here.', color: second() },
          { text: b.caption, fontSize: 8, color: second() },
        ],
      };
    }
  }
}

/** The report as the PDF package wants it. */
export const documentOf = (paper: Paper, drawings: Drawings): TDocumentDefinitions => ({
  pageSize: 'A4',
  pageMargins: [48, 48, 48, 52],
  info: { title: paper.title, creator: 'Calm Keel', producer: 'Calm Keel' },
  language: 'en',
  defaultStyle: { font: 'Atkinson', fontSize: 9.5, color: ink(), lineHeight: 1.15 },
  footer: (page, pages) => ({
    margin: [48, 12, 48, 0],
    columns: [
      { text: paper.foot, fontSize: 7.5, color: second(), width: '*' },
      { text: `${page} of ${pages}`, fontSize: 7.5, color: second(), width: 44, alignment: 'right' },
    ],
  }),
  content: [
    { text: paper.title, bold: true, fontSize: 18 },
    ...paper.lines.map((line): Content => ({ text: line, color: second() })),
    ...paper.sections.flatMap((s): Content[] => [
      { text: s.title, bold: true, fontSize: 13, margin: [0, 14, 0, 3], headlineLevel: 1 },
      ...s.blocks.map((b) => block(b, drawings)),
    ]),
  ],
  // A heading is not left alone at the foot of a page, nor with the head of its table.
  pageBreakBefore: (node) => node.headlineLevel !== undefined && node.startPosition.verticalRatio > 0.86,
});

const base64 = async (path: string): Promise<string> => {
  const response = await fetch(path);
  if (!response.ok) throw new Error(`the font ${path} could not be read`);
  const bytes = new Uint8Array(await response.arrayBuffer());
  let text = '';
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  return btoa(text);
};

/** Makes the PDF in the page, with its fonts in it. Nothing is sent anywhere. */
export async function paperPdf(paper: Paper, drawings: Drawings): Promise<Blob> {
  const [{ default: pdfMake }, regular, bold] = await Promise.all([
    import('pdfmake/build/pdfmake'),
    base64('fonts/AtkinsonHyperlegibleNext_400Regular.ttf'),
    base64('fonts/AtkinsonHyperlegibleNext_700Bold.ttf'),
  ]);
  pdfMake.addVirtualFileSystem({ 'regular.ttf': regular, 'bold.ttf': bold });
  const face = { normal: 'regular.ttf', bold: 'bold.ttf', italics: 'regular.ttf', bolditalics: 'bold.ttf' };
  // Drawings name the face in full.
  pdfMake.addFonts({ Atkinson: face, 'Atkinson Hyperlegible Next': face, 'Atkinson Hyperlegible Next Variable': face, 'sans-serif': face });
  return pdfMake.createPdf(documentOf(paper, drawings)).getBlob();
}
