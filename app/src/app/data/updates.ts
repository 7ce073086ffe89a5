import { computed, DestroyRef, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { SwUpdate } from '@angular/service-worker';
import { fromEvent, interval, merge } from 'rxjs';
import { isLostPart } from './lost-part';

/** How often a newer version is looked for, ms. */
const everyMs = 3 * 3600_000;

/** Newer versions of the application: told, never put under anybody's hands. The page is loaded anew only when somebody says so. */
@Injectable({ providedIn: 'root' })
export class Updates {
  private readonly worker = inject(SwUpdate);
  /** A newer version is on this device and waits. */
  readonly ready = signal(false);
  /** The version in use has lost some of its files. */
  readonly broken = signal(false);
  /** The address of a part that could not be fetched: a newer version has taken its place on the server, or the connection is gone. */
  readonly lost = signal<string | null>(null);
  private readonly put = signal(false);
  /** Whether to speak of it now. */
  readonly told = computed(() => this.lost() !== null || ((this.ready() || this.broken()) && !this.put()));

  constructor() {
    if (!this.worker.isEnabled) return;
    const gone = inject(DestroyRef);
    this.worker.versionUpdates.pipe(takeUntilDestroyed(gone)).subscribe((event) => {
      if (event.type === 'VERSION_READY') {
        this.ready.set(true);
        this.put.set(false);
      }
    });
    this.worker.unrecoverable.pipe(takeUntilDestroyed(gone)).subscribe(() => {
      this.broken.set(true);
    });
    merge(interval(everyMs), fromEvent(window, 'online'))
      .pipe(takeUntilDestroyed(gone))
      .subscribe(() => {
        this.worker.checkForUpdate().catch(() => undefined);
      });
  }

  /** Loads the newer version, at the part that was wanted. */
  load(): void {
    const lost = this.lost();
    if (lost === null) location.reload();
    else location.assign(lost);
  }

  /** A part of the program was wanted and could not be fetched; what is in view stays. */
  noteLost(error: unknown, url: string): void {
    if (isLostPart(error)) this.lost.set(url);
  }

  /** Later: it is loaded when the page is opened next. */
  later(): void {
    this.lost.set(null);
    this.put.set(true);
  }
}
