import { computed, DestroyRef, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { SwUpdate } from '@angular/service-worker';
import { fromEvent, interval, merge } from 'rxjs';

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
  private readonly put = signal(false);
  /** Whether to speak of it now. */
  readonly told = computed(() => (this.ready() || this.broken()) && !this.put());

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

  /** Loads the newer version. */
  load(): void {
    location.reload();
  }

  /** Later: it is loaded when the page is opened next. */
  later(): void {
    this.put.set(true);
  }
}
