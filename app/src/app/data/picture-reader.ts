import { Injectable } from '@angular/core';
import { wordsOfPicture, type Word } from '@calm-keel/core/paper';
import type { Worker } from 'tesseract.js';

/** Reads the words of pictures, in a worker of its own; loaded when first wanted, from this application alone. */
@Injectable({ providedIn: 'root' })
export class PictureReader {
  private worker: Promise<Worker> | null = null;
  private progress: (share: number) => void = () => undefined;

  private start(): Promise<Worker> {
    const base = new URL('ocr/', document.baseURI).href;
    this.worker ??= import('tesseract.js').then(async ({ default: { createWorker, PSM } }) => {
      const worker = await createWorker('eng', 1, {
        workerPath: `${base}worker.min.js`,
        corePath: `${base}tesseract-core-simd-lstm.wasm.js`,
        langPath: base.replace(/\/$/, ''),
        workerBlobURL: false,
        cacheMethod: 'none',
        gzip: true,
        logger: ({ status, progress }) => {
          if (status === 'recognizing text') this.progress(progress);
        },
      });
      await worker.setParameters({ tessedit_pageseg_mode: PSM.AUTO, user_defined_dpi: '260' });
      return worker;
    });
    return this.worker;
  }

  /** The words of a picture; null when reading was stopped. */
  async read(picture: Blob, progress: (share: number) => void): Promise<readonly Word[] | null> {
    this.progress = progress;
    const started = this.start();
    const stopped = new Promise<null>((resolve) => (this.stopped = () => resolve(null)));
    const read = started.then(async (worker) => {
      const { data } = await worker.recognize(picture, {}, { blocks: true, text: false });
      return wordsOfPicture(data.blocks ?? []);
    });
    return Promise.race([read, stopped]);
  }
  private stopped: () => void = () => undefined;

  /** Ends what is being read, and lets the worker go. */
  stop(): void {
    this.stopped();
    const worker = this.worker;
    this.worker = null;
    void worker?.then((w) => w.terminate()).catch(() => undefined);
  }
}
