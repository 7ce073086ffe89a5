import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Selection } from '../data/selection';
import { WhoIsThere } from '../data/who-is-there';
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
      <ck-prove-head view="tests" heading="Guided tests" about="Each ends with what was taken off being back." />
      <p class="who">
        <label
          >Initials, which go with every reading
          <input #who class="plain" type="text" maxlength="20" [value]="there.initials()" (input)="there.initials.set(who.value)"
        /></label>
      </p>
      <ck-visit-plan (begin)="ways.begin($event)" />
      <ck-tests-panel [device]="selection.charger()" (begin)="ways.begin($event)" (open)="ways.go(['tests', $event])" />
      <ck-next after="prove" />
    </section>
    <aside class="insp" aria-label="Findings"><ck-findings /></aside>
  `,
  styles: `
    .who {
      padding: 6px 0 10px;
      font-size: 0.875rem;
      input {
        width: 90px;
        min-height: 40px;
        margin-left: 8px;
      }
    }
  `,
})
export class TestsPage {
  protected readonly selection = inject(Selection);
  protected readonly ways = inject(ProveWays);
  protected readonly there = inject(WhoIsThere);
}
