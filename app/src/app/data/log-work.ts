import { Injectable } from '@angular/core';
import { proxy, wrap, type Remote } from 'comlink';
import type { LogWorkerApi } from '../workers/log.worker';

/** The worker that reads, judges and packs logs; started when first wanted. */
@Injectable({ providedIn: 'root' })
export class LogWork {
  private remote: Remote<LogWorkerApi> | null = null;

  get api(): Remote<LogWorkerApi> {
    this.remote ??= wrap<LogWorkerApi>(new Worker(new URL('../workers/log.worker', import.meta.url), { type: 'module' }));
    return this.remote;
  }

  readonly proxy = proxy;
}
