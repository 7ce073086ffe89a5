import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Router } from '@angular/router';
import type { TestCode } from '@calm-keel/core';
import { JobStore } from '../data/job-store';
import { Selection } from '../data/selection';
import { TestWork } from '../data/test-work';
import { FindingsList } from '../ui/findings-list';
import { NextStation } from '../ui/next-station';
import { ProveHead } from './prove-head';
import { TestsPanel } from './tests-panel';

/** The guided tests of a job: what each settles, and where it was left. */
@Component({
  selector: 'ck-tests-page',
  imports: [ProveHead, TestsPanel, NextStation, FindingsList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="sheet" aria-label="Prove">
      <ck-prove-head view="tests" title="Guided tests" about="Each ends with what was taken off being back." />
      <ck-tests-panel [device]="selection.charger()" (begin)="begin($event)" (open)="open($event)" />
      <ck-next after="prove" />
    </section>
    <aside class="insp" aria-label="Findings"><ck-findings /></aside>
  `,
})
export class TestsPage {
  protected readonly selection = inject(Selection);
  private readonly store = inject(JobStore);
  private readonly tests = inject(TestWork);
  private readonly router = inject(Router);

  protected begin(of: { code: TestCode; device: string }): void {
    const id = this.tests.begin(of.code, of.device);
    if (id) this.open(id);
  }
  protected open(id: string): void {
    void this.router.navigate(['/job', this.store.job()?.id, 'prove', 'tests', id]);
  }
}
