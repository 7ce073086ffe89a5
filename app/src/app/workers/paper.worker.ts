/// <reference lib="webworker" />
import { expose, transfer } from 'comlink';
import * as pdfWorker from 'pdfjs-dist/legacy/build/pdf.worker.mjs';
import { getDocument, VerbosityLevel, type PDFDocumentLoadingTask, type PDFDocumentProxy } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { sha256Hex } from '@calm-keel/core/quantity';
import {
  eraseRules,
  faultOf,
  pagesOf,
  readPaper,
  tableTexts,
  type PaperContext,
  type PaperFault,
  type PaperPage,
  type PaperReading,
  type Word,
} from '@calm-keel/core/paper';

// The reader of PDFs looks here for its other half: both run in this worker, none of it on the page.
(globalThis as { pdfjsWorker?: unknown }).pdfjsWorker = pdfWorker;

/** Canvases without a page. */
class Canvases {
  create(width: number, height: number): { canvas: OffscreenCanvas; context: OffscreenCanvasRenderingContext2D | null } {
    const canvas = new OffscreenCanvas(width, height);
    return { canvas, context: canvas.getContext('2d') };
  }
  reset(pair: { canvas: OffscreenCanvas }, width: number, height: number): void {
    pair.canvas.width = width;
    pair.canvas.height = height;
  }
  destroy(pair: { canvas: OffscreenCanvas | null; context: unknown }): void {
    pair.canvas = null;
    pair.context = null;
  }
}

/** Filters of pictures need a page; a paper is read without them. */
class NoFilters {
  addFilter = (): string => 'none';
  addHCMFilter = (): string => 'none';
  addAlphaFilter = (): string => 'none';
  addLuminosityFilter = (): string => 'none';
  addHighlightHCMFilter = (): string => 'none';
  destroy = (): void => undefined;
}

type Page = Awaited<ReturnType<PDFDocumentProxy['getPage']>>;
/** Where a page is drawn: its types know canvases of a page only. */
const onto = (canvas: OffscreenCanvas) =>
  ({ canvas, canvasContext: canvas.getContext('2d') }) as unknown as Pick<Parameters<Page['render']>[0], 'canvas' | 'canvasContext'>;

let task: PDFDocumentLoadingTask | null = null;
let pdf: PDFDocumentProxy | null = null;
let picture: ImageBitmap | null = null;
let pages: readonly PaperPage[] = [];
let stopped = false;

/** Pixels that a page is read wide: A4 at some 260 dots an inch. */
const pictureWidth = 2150;

/** An opened document: how many pages it has, the sizes of those that were read, and whether words were found on them. */
export interface OpenPaper {
  readonly count: number;
  readonly pages: readonly { readonly number: number; readonly width: number; readonly height: number; readonly words: number }[];
}

async function close(): Promise<void> {
  await task?.destroy();
  picture?.close();
  task = null;
  pdf = null;
  picture = null;
  pages = [];
}

const sizes = (): OpenPaper['pages'] => pages.map(({ number, width, height, words }) => ({ number, width, height, words: words.length }));

const api = {
  /** Opens a document and reads the words of its pages. A picture has one page and no words yet. */
  async open(bytes: Uint8Array, type: string, base: string, progress: (done: number, of: number) => void): Promise<OpenPaper | PaperFault> {
    await close();
    stopped = false;
    try {
      if (type !== 'application/pdf') {
        picture = await createImageBitmap(new Blob([bytes as BlobPart], { type }));
        pages = [{ number: 1, width: picture.width, height: picture.height, words: [] }];
        return { count: 1, pages: sizes() };
      }
      task = getDocument({
        data: bytes,
        verbosity: VerbosityLevel.ERRORS,
        isEvalSupported: false,
        disableFontFace: true,
        useSystemFonts: false,
        useWasm: false,
        standardFontDataUrl: `${base}pdf-fonts/`,
        CanvasFactory: Canvases,
        FilterFactory: NoFilters,
      });
      pdf = await task.promise;
      const read = await pagesOf(pdf, (done, of) => {
        progress(done, of);
        return !stopped;
      });
      if (read === 'stopped') return read;
      pages = read.pages;
      return { count: read.count, pages: sizes() };
    } catch (error) {
      return faultOf(error);
    }
  },

  /** A page as a reader of pictures wants it: large, without the ruled lines of its tables. Null where it cannot be drawn. */
  async picture(number: number): Promise<{ readonly blob: Blob; readonly width: number } | null> {
    const drawn = await api.draw(number, pictureWidth);
    if (!drawn) return null;
    const canvas = new OffscreenCanvas(drawn.width, drawn.height);
    const context = canvas.getContext('2d', { willReadFrequently: true });
    if (!context) return null;
    context.fillStyle = 'white';
    context.fillRect(0, 0, canvas.width, canvas.height);
    context.drawImage(drawn, 0, 0);
    drawn.close();
    const pixels = context.getImageData(0, 0, canvas.width, canvas.height);
    eraseRules(pixels);
    context.putImageData(pixels, 0, 0);
    return { blob: await canvas.convertToBlob({ type: 'image/png' }), width: canvas.width };
  },

  /** Gives a page the words that were read from its picture, so many pixels wide. */
  setWords(number: number, words: readonly Word[], width: number): OpenPaper['pages'] {
    pages = pages.map((page) => {
      if (page.number !== number) return page;
      const by = page.width / width;
      return { ...page, words: words.map((w) => ({ ...w, x: w.x * by, y: w.y * by, w: w.w * by, h: w.h * by })) };
    });
    return sizes();
  },

  /** What the opened document says. */
  read: (context: PaperContext): PaperReading => readPaper(pages, context),

  /** The text of each page, the cells of its tables parted by tabs. */
  tables: (): readonly string[] => tableTexts(pages),

  /** SHA-256 of a document’s bytes, in hexadecimal. */
  hash: (bytes: Uint8Array): string => sha256Hex(bytes),

  /** Draws a page, so many pixels wide; null where it cannot be drawn. */
  async draw(number: number, width: number): Promise<ImageBitmap | null> {
    if (picture) {
      const copy = await createImageBitmap(picture, { resizeWidth: Math.min(width, picture.width) });
      return transfer(copy, [copy]);
    }
    if (!pdf || number > pdf.numPages) return null;
    const page = await pdf.getPage(number);
    const scale = width / page.getViewport({ scale: 1 }).width;
    const viewport = page.getViewport({ scale });
    const canvas = new OffscreenCanvas(Math.round(viewport.width), Math.round(viewport.height));
    try {
      await page.render({ ...onto(canvas), viewport }).promise;
    } catch {
      return null;
    }
    page.cleanup();
    const drawn = canvas.transferToImageBitmap();
    return transfer(drawn, [drawn]);
  },

  stop(): void {
    stopped = true;
  },
  close,
};

export type PaperWorkerApi = typeof api;
expose(api);
