import { inject, Injectable } from '@angular/core';
import { Router, type NavigationExtras } from '@angular/router';
import type { TestCode } from '@calm-keel/core/fieldtest';
import { JobStore } from '../data/job-store';
import { TestWork } from '../data/test-work';

/** The addresses of Prove in the job in view, and the ways to them. */
@Injectable({ providedIn: 'root' })
export class ProveWays {
  private readonly store = inject(JobStore);
  private readonly tests = inject(TestWork);
  private readonly router = inject(Router);

  /** The address of a part: none for the newest log, “log” and its name, “tests”, “tests” and a test’s name, “glance”, “mapping”. */
  to(...part: readonly string[]): readonly string[] {
    return ['/job', this.store.job()?.id ?? '', 'prove', ...part];
  }
  go(part: readonly string[], extras?: NavigationExtras): Promise<boolean> {
    return this.router.navigate(this.to(...part), extras);
  }
  /** Begins a guided test of a device and goes to it; stays where somebody has not said who they are. */
  begin({ code, device }: { readonly code: TestCode; readonly device: string }): void {
    const id = this.tests.begin(code, device);
    if (id) void this.go(['tests', id]);
  }
}
