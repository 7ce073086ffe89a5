import { computed, inject, Injectable, signal } from '@angular/core';
import type { Attachment } from '@calm-keel/core';
import type { PaperContext, PaperFault, PaperReading } from '@calm-keel/core/paper';
import type { OpenPaper } from '../workers/paper.worker';
import { JobBook } from './job-book';
import { PaperWork } from './paper-work';

/** How far a document has come: on its way, opened and read, or why not. */
export type PaperState =
  | { readonly kind: 'opening'; readonly done: number; readonly of: number }
  | { readonly kind: 'read'; readonly paper: OpenPaper; readonly reading: PaperReading }
  | { readonly kind: 'fault'; readonly fault: PaperFault | 'lost' };

/** One opened document of a job: its pages, and what was read from them. */
@Injectable()
export class PaperReader {
  private readonly book = inject(JobBook);
  private readonly work = inject(PaperWork);
  readonly state = signal<PaperState>({ kind: 'opening', done: 0, of: 0 });
  readonly reading = computed(() => {
    const state = this.state();
    return state.kind === 'read' ? state.reading : null;
  });
  private turn = 0;

  /** Opens a document and reads it. One that is opened meanwhile takes its place. */
  async open(jobId: string, attachment: Attachment, context: PaperContext): Promise<void> {
    const turn = ++this.turn;
    const put = (state: PaperState): void => {
      if (turn === this.turn) this.state.set(state);
    };
    put({ kind: 'opening', done: 0, of: 0 });
    const row = await this.book.getFile(jobId, attachment.id);
    if (!row) {
      put({ kind: 'fault', fault: 'lost' });
      return;
    }
    const opened = await this.work.api.open(
      row.bytes.slice(),
      attachment.type,
      new URL('.', document.baseURI).href,
      this.work.proxy((done: number, of: number) => {
        put({ kind: 'opening', done, of });
      }),
    );
    if (typeof opened === 'string') put({ kind: 'fault', fault: opened });
    else put({ kind: 'read', paper: opened, reading: await this.work.api.read(context) });
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
    void this.work.api.stop();
  }

  close(): void {
    this.turn++;
    void this.work.api.close();
  }
}
