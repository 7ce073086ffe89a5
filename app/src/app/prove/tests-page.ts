import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Selection } from '../data/selection';
import { FindingsList } from '../ui/findings-list';
import { NextStation } from '../ui/next-station';
import { ProveHead } from './prove-head';
import { TestsPanel } from './tests-panel';
import { VisitPlanPanel } from './visit-plan';
import { ProveWays } from './ways';

/** The guided tests of a job: what each settles, and where it was left. */
@Component({
  selector: 'ck-tests-page',
  imports: [ProveHead, VisitPlanPanel, TestsPanel, NextStation, FindingsList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="sheet" aria-label="Prove">
      <ck-prove-head view="tests" title="Guided tests" about="Each ends with what was taken off being back." />
      <ck-visit-plan (begin)="ways.begin($event)" />
      <ck-tests-panel [device]="selection.charger()" (begin)="ways.begin($event)" (open)="ways.go(['tests', $event])" />
      <ck-next after="prove" />
    </section>
    <aside class="insp" aria-label="Findings"><ck-findings /></aside>
  `,
})
export class TestsPage {
  protected readonly selection = inject(Selection);
  protected readonly ways = inject(ProveWays);
}
