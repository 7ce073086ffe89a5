import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { format, parseISO } from 'date-fns';
import { editPlan, type EditPlan } from '@calm-keel/core/edits';
import { changedSince, type Job } from '@calm-keel/core/job';
import { targetsOf, type Plan } from '@calm-keel/core/settings';
import { JobStore } from '../data/job-store';
import { RunWork } from '../data/run-work';
import { Selection } from '../data/selection';
import { FindingsList } from '../ui/findings-list';
import { Glyph } from '../ui/glyph';
import { Tabs } from '../ui/tabs';
import { BeginPanel } from './begin-panel';
import { FatesTable } from './fates-table';
import { RecordPanel } from './record-panel';
import { RunRows } from './run-rows';

/** What of a device is shown before its run sheet is begun. */
export type OrderList = 'order' | 'record' | 'fates';

/** Before a run sheet is begun: what holds it up, the order of edits of each device, its record, and how every setting ends. */
@Component({
  selector: 'ck-order-view',
  imports: [BeginPanel, FatesTable, FindingsList, Glyph, RecordPanel, RouterLink, Tabs],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './order-view.html',
  styleUrl: './order-view.scss',
})
export class OrderView {
  protected readonly store = inject(JobStore);
  protected readonly work = inject(RunWork);
  protected readonly rows = inject(RunRows);
  private readonly selection = inject(Selection);
  readonly job = input.required<Job>();
  readonly plan = input.required<Plan>();
  readonly shown = input.required<OrderList>();
  readonly view = output<OrderList>();
  readonly printed = output();
  protected readonly lists = computed(() => {
    const changed = this.changedCount();
    return [
      { id: 'order', words: 'Order of edits' },
      { id: 'record', words: `Record${changed > 0 ? `, ${changed} changed` : ''}` },
      { id: 'fates', words: 'Every setting' },
    ] as const;
  });
  protected readonly live = signal(false);
  protected readonly back = signal(false);

  /** Towards the targets, or back to what was found. */
  protected readonly edits = computed<EditPlan | null>(() => {
    const plan = this.plan();
    const device = this.rows.device();
    if (!device) return null;
    return this.back()
      ? editPlan(plan, device.id, { from: targetsOf(plan, device.id), to: device.present, live: this.live() })
      : editPlan(plan, device.id, { live: this.live() });
  });
  protected readonly foundNothing = computed(() => Object.keys(this.rows.device()?.present ?? {}).length === 0);
  protected readonly unread = computed(() => this.edits()?.steps.filter((s) => !s.readOff).length ?? 0);
  protected readonly mendedWords = computed(() => {
    const mended = this.store.openStops().length - this.store.stopsThatStay().length;
    const more = this.store.stopsThatStay().length > 0 ? ' more' : '';
    return mended === 0
      ? ''
      : mended === 1
        ? ` One${more} stop is about a value found on a device: entering the target fixes it.`
        : ` ${mended}${more} stops are about values found on the devices: entering the targets fixes them.`;
  });
  protected readonly changedCount = computed(() => changedSince(this.job()).length);
  protected readonly lastRun = computed(() => {
    const r = this.work.record();
    if (!r) return '';
    const date = format(parseISO(r.endedAt ?? r.begunAt), 'd MMM yyyy HH:mm');
    const open = this.work.standing()?.open ?? 0;
    const rest = [
      ...(open > 0 ? [open === 1 ? 'one step is open' : `${open} steps are open`] : []),
      ...(r.trouble.length > 0 ? [r.trouble.length === 1 ? 'once something went otherwise' : `${r.trouble.length} times something went otherwise`] : []),
    ];
    return `${r.aim === 'putBack' ? 'Put back as found' : 'Last run sheet ended'} ${date}, by ${r.by || 'nobody named'}${rest.map((w) => `; ${w}`).join('')}.`;
  });

  protected choose(id: string): void {
    this.selection.charger.set(id);
  }
}
