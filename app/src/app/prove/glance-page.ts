import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Router } from '@angular/router';
import type { TestCode } from '@calm-keel/core';
import { JobStore } from '../data/job-store';
import { TestWork } from '../data/test-work';
import { FindingsList } from '../ui/findings-list';
import { NextStation } from '../ui/next-station';
import { GlancePanel } from './glance-panel';
import { ProveHead } from './prove-head';

/** Every requirement of the job, and what it is proved by. */
@Component({
  selector: 'ck-glance-page',
  imports: [ProveHead, GlancePanel, NextStation, FindingsList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="sheet" aria-label="Prove">
      <ck-prove-head
        view="glance"
        title="What is proved by what"
        about="Evidence from before a change of settings, a reset or new firmware no longer counts."
      />
      <ck-glance-panel (openLog)="open('log', $event)" (openTest)="open('tests', $event)" (begin)="begin($event)" />
      <ck-next after="prove" />
    </section>
    <aside class="insp" aria-label="Findings"><ck-findings /></aside>
  `,
})
export class GlancePage {
  private readonly store = inject(JobStore);
  private readonly tests = inject(TestWork);
  private readonly router = inject(Router);

  protected open(kind: 'log' | 'tests', id: string): void {
    void this.router.navigate(['/job', this.store.job()?.id, 'prove', kind, id]);
  }
  protected begin(of: { code: TestCode; device: string }): void {
    const id = this.tests.begin(of.code, of.device);
    if (id) this.open('tests', id);
  }
}
