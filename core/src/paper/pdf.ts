import { wordsOfItems, type PaperPage } from './page';

/** What is used of an opened PDF; any reader of PDFs that gives runs of text with their places will do. */
export interface OpenPdf {
  readonly numPages: number;
  readonly getPage: (number: number) => Promise<{
    readonly getViewport: (options: { scale: number }) => { readonly width: number; readonly height: number; readonly transform: readonly number[] };
    readonly getTextContent: () => Promise<{ readonly items: readonly object[] }>;
    readonly cleanup: () => unknown;
  }>;
}

/** More pages than this are not read: a sheet has a few, and a book is no sheet. */
export const mostPages = 80;

/** Why a document cannot be read. */
export type PaperFault = 'locked' | 'broken' | 'empty' | 'stopped';

/** A document’s pages with their words. */
export interface ReadPages {
  readonly pages: readonly PaperPage[];
  /** Pages the document has; only the first {@link mostPages} are read. */
  readonly count: number;
}

const times = (m: readonly number[], n: readonly number[]): readonly number[] => {
  const [a = 1, b = 0, c = 0, d = 1, e = 0, f = 0] = m;
  const [g = 1, h = 0, i = 0, j = 1, k = 0, l = 0] = n;
  return [a * g + c * h, b * g + d * h, a * i + c * j, b * i + d * j, a * k + c * l + e, b * k + d * l + f];
};

/**
 * The words of a PDF’s pages, from their upper left corners.
 *
 * @param each told after every page; false stops
 */
export async function pagesOf(pdf: OpenPdf, each: (done: number, of: number) => boolean = () => true): Promise<ReadPages | 'stopped'> {
  const pages: PaperPage[] = [];
  const of = Math.min(pdf.numPages, mostPages);
  for (let number = 1; number <= of; number++) {
    const page = await pdf.getPage(number);
    const viewport = page.getViewport({ scale: 1 });
    const { items } = await page.getTextContent();
    const runs = items.flatMap((item) => {
      const { str, width, transform } = item as { str?: unknown; width?: unknown; transform?: unknown };
      return typeof str === 'string' && typeof width === 'number' && Array.isArray(transform)
        ? [{ str, width, transform: times(viewport.transform, transform as number[]) }]
        : [];
    });
    pages.push({ number, width: viewport.width, height: viewport.height, words: wordsOfItems(runs) });
    page.cleanup();
    if (!each(number, of)) return 'stopped';
  }
  return { pages, count: pdf.numPages };
}

/** What the error of a PDF reader means. */
export const faultOf = (error: unknown): PaperFault => (error instanceof Error && error.name === 'PasswordException' ? 'locked' : 'broken');
