import { inject, Injectable, signal } from '@angular/core';
import type { CanDeactivateFn } from '@angular/router';
import { JobStore } from '../data/job-store';

/** The question whether to leave a job whose last changes are not saved. */
@Injectable({ providedIn: 'root' })
export class Leaving {
  private answerTo: ((leave: boolean) => void) | null = null;
  /** Whether it is being asked. */
  readonly asking = signal(false);

  ask(): Promise<boolean> {
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

/** Leaves a job at once when everything of it is stored. */
export const mayLeave: CanDeactivateFn<unknown> = () => {
  const id = inject(JobStore).job()?.id;
  return inject(JobStore)
    .unstored()
    .some((u) => u.id === id)
    ? inject(Leaving).ask()
    : true;
};
