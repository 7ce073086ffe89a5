import { Injectable } from '@angular/core';
import { proxy, wrap, type Remote } from 'comlink';
import type { PaperWorkerApi } from '../workers/paper.worker';

/** The worker that reads documents and draws their pages; started when first wanted. */
@Injectable({ providedIn: 'root' })
export class PaperWork {
  private remote: Remote<PaperWorkerApi> | null = null;

  get api(): Remote<PaperWorkerApi> {
    this.remote ??= wrap<PaperWorkerApi>(new Worker(new URL('../workers/paper.worker', import.meta.url), { type: 'module' }));
    return this.remote;
  }

  readonly proxy = proxy;
}
