import { Injectable } from '@angular/core';
import { proxy, transfer, wrap, type Remote } from 'comlink';
import type { Log } from '@calm-keel/core/proof';
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

/**
 * A log as it is sent to the worker: a copy whose samples go over as they lie, where a plain message would write and read every one of them. The page’s own
 * stays with the page.
 */
export function lent(log: Log): Log {
  const buffers: ArrayBuffer[] = [];
  const copy = <T>(of: T): T => {
    if (ArrayBuffer.isView(of)) {
      const own = (of as unknown as Uint8Array<ArrayBuffer>).slice();
      buffers.push(own.buffer);
      return own as unknown as T;
    }
    if (typeof of !== 'object' || of === null) return of;
    return Object.fromEntries(Object.entries(of).map(([key, value]) => [key, copy(value as unknown)])) as T;
  };
  return transfer(copy(log), buffers);
}
