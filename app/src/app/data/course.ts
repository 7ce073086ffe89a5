import { computed, inject, Injectable } from '@angular/core';
import { stepsToKey } from '@calm-keel/core/edits';
import { JobStore } from './job-store';
import { RehearseWork } from './rehearse-work';
import { stationsOf, type Station } from './stations';

/** The stations of the job in view, each with how far it has come, and which comes after which. */
@Injectable({ providedIn: 'root' })
export class Course {
  private readonly store = inject(JobStore);
  private readonly rehearsing = inject(RehearseWork);
  /** Edits that stand between the devices and their targets; not counted anew while a value is tried. */
  private readonly toKey = computed(() => {
    const plan = this.store.settled();
    return plan ? stepsToKey(plan) : 0;
  });
  readonly stations = computed<readonly Station[]>(() => {
    const job = this.store.job();
    const plan = this.store.plan();
    return job && plan
      ? stationsOf(job, plan, this.store.findings(), this.store.standing(), this.rehearsing.standing(), this.toKey(), this.store.stopsThatStay().length)
      : [];
  });

  /** The station so many places after one; none past the ends. */
  beside(path: string, by: 1 | -1): Station | undefined {
    const at = this.stations().findIndex((s) => s.path === path);
    return at === -1 ? undefined : this.stations()[at + by];
  }
}
