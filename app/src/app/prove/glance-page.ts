import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { FindingsList } from '../ui/findings-list';
import { NextStation } from '../ui/next-station';
import { GlancePanel } from './glance-panel';
import { ProveHead } from './prove-head';
import { ProveWays } from './ways';

/** Every requirement of the job, and what it is proved by. */
@Component({
  selector: 'ck-glance-page',
  imports: [ProveHead, GlancePanel, NextStation, FindingsList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="sheet" aria-label="Prove">
      <ck-prove-head
        view="glance"
        heading="What is proved by what"
        about="Evidence from before a change of settings, a reset or new firmware no longer counts."
      />
      <ck-glance-panel (openLog)="ways.go(['log', $event])" (openTest)="ways.go(['tests', $event])" (begin)="ways.begin($event)" />
      <ck-next after="prove" />
    </section>
    <aside class="insp" aria-label="Findings"><ck-findings /></aside>
  `,
})
export class GlancePage {
  protected readonly ways = inject(ProveWays);
}
