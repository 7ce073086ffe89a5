import { inject, Injectable, signal } from '@angular/core';
import { JobStore } from '../data/job-store';

/** The question whether to leave a job whose last changes are not saved. */
@Injectable({ providedIn: 'root' })
export class Leaving {
  private readonly store = inject(JobStore);
  private answerTo: ((leave: boolean) => void) | null = null;
  /** Whether it is being asked. */
  readonly asking = signal(false);

  /** Whether the open job may be left: at once when everything of it is stored, else as a person says. */
  mayLeave(): boolean | Promise<boolean> {
    const id = this.store.job()?.id;
    return this.store.unstored().some((u) => u.id === id) ? this.ask() : true;
  }

  private ask(): Promise<boolean> {
    // Asked again before an answer: the first way off is not taken.
    this.answer(false);
    this.asking.set(true);
    return new Promise((resolve) => {
      this.answerTo = resolve;
    });
  }

  answer(leave: boolean): void {
    this.asking.set(false);
    this.answerTo?.(leave);
    this.answerTo = null;
  }
}
