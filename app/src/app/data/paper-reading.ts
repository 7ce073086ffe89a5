import { computed, inject, Injectable, signal } from '@angular/core';
import type { Attachment } from '@calm-keel/core/job';
import type { PaperContext, PaperFault, PaperReading } from '@calm-keel/core/paper';
import type { OpenPaper } from '../workers/paper.worker';
import { JobBook } from './job-book';
import { PaperWork } from './paper-work';
import { PictureReader } from './picture-reader';

/** How far a document has come: on its way, opened and read, or why not. */
export type PaperState =
  | { readonly kind: 'opening'; readonly done: number; readonly of: number }
  /** A page without text is read as a picture; its share, 0 to 1. */
  | { readonly kind: 'picture'; readonly page: number; readonly share: number }
  | { readonly kind: 'read'; readonly paper: OpenPaper; readonly reading: PaperReading }
  | { readonly kind: 'fault'; readonly fault: PaperFault | 'lost' };

/** Pages without text that are read as pictures, at most: each takes some seconds. */
const mostPictures = 6;

/** One opened document of a job: its pages, and what was read from them. */
@Injectable()
export class PaperReader {
  private readonly book = inject(JobBook);
  private readonly work = inject(PaperWork);
  private readonly pictures = inject(PictureReader);
  readonly state = signal<PaperState>({ kind: 'opening', done: 0, of: 0 });
  /** The reader of pictures could not be started, or broke off. */
  readonly failed = signal(false);
  readonly reading = computed(() => {
    const state = this.state();
    return state.kind === 'read' ? state.reading : null;
  });
  private turn = 0;
  private stopped = false;

  /** Begins with another document: whether it is still the one that is wanted, and its state for as long as it is. */
  private begin(): { readonly put: (state: PaperState) => void; readonly wanted: () => boolean } {
    const turn = ++this.turn;
    const wanted = (): boolean => turn === this.turn;
    const put = (state: PaperState): void => {
      if (wanted()) this.state.set(state);
    };
    this.stopped = false;
    this.failed.set(false);
    put({ kind: 'opening', done: 0, of: 0 });
    return { put, wanted };
  }

  /** Opens a document and reads it, with what is known once it is open. One that is opened meanwhile takes its place. */
  async open(jobId: string, attachment: Attachment, context: () => PaperContext): Promise<void> {
    const { put, wanted } = this.begin();
    const row = await this.book.getFile(jobId, attachment.id);
    if (!row) {
      put({ kind: 'fault', fault: 'lost' });
      return;
    }
    const opened = await this.opened(row.bytes.slice(), attachment.type, put);
    if (!opened) return;
    const paper = await this.withPictures(opened, put, wanted);
    put({ kind: 'read', paper, reading: await this.work.api.read(context()) });
  }

  /**
   * Reads a file for the tables on its pages; nothing of it is held.
   *
   * @returns the text of each page, cells parted by tabs; null where it cannot be read, which the state then says
   */
  async tables(file: File): Promise<readonly string[] | null> {
    const { put, wanted } = this.begin();
    const opened = await this.opened(new Uint8Array(await file.arrayBuffer()), file.type, put);
    if (!opened || !wanted()) return null;
    await this.withPictures(opened, put, wanted);
    const texts = await this.work.api.tables();
    return wanted() && !this.stopped ? texts : null;
  }

  /** Opens a document’s bytes; null where they are none, which the state then says. */
  private async opened(bytes: Uint8Array, type: string, put: (state: PaperState) => void): Promise<OpenPaper | null> {
    const opened = await this.work.api.open(
      bytes,
      type,
      new URL('.', document.baseURI).href,
      this.work.proxy((done: number, of: number) => {
        put({ kind: 'opening', done, of });
      }),
    );
    if (typeof opened !== 'string') return opened;
    put({ kind: 'fault', fault: opened });
    return null;
  }

  /** Reads the pages that hold no text as pictures, the first of them; a page that cannot be read stays without words. */
  private async withPictures(paper: OpenPaper, put: (state: PaperState) => void, wanted: () => boolean): Promise<OpenPaper> {
    let { pages } = paper;
    for (const { number } of pages.filter((page) => page.words === 0).slice(0, mostPictures)) {
      if (!wanted() || this.stopped) break;
      put({ kind: 'picture', page: number, share: 0 });
      const picture = await this.work.api.picture(number);
      if (!picture) continue;
      const words = await this.pictures
        .read(picture.blob, (share) => {
          put({ kind: 'picture', page: number, share });
        })
        .catch(() => {
          this.failed.set(true);
          return [];
        });
      if (words === null) break;
      pages = await this.work.api.setWords(number, words, picture.width);
    }
    return { ...paper, pages };
  }

  /** Reads the opened document again, with another chemistry, other cells, or another of its batteries. */
  async again(context: PaperContext): Promise<void> {
    const state = this.state();
    const turn = this.turn;
    if (state.kind !== 'read') return;
    const reading = await this.work.api.read(context);
    if (turn === this.turn) this.state.set({ ...state, reading });
  }

  /** A page as a picture, so many pixels wide. */
  draw(page: number, width: number): Promise<ImageBitmap | null> {
    return this.work.api.draw(page, width);
  }

  stop(): void {
    this.stopped = true;
    this.pictures.stop();
    void this.work.api.stop();
  }

  close(): void {
    this.turn++;
    this.pictures.stop();
    void this.work.api.close();
  }
}
