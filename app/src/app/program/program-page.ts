import { ChangeDetectionStrategy, Component, computed, effect, inject, input, viewChild, type ElementRef } from '@angular/core';
import { Router } from '@angular/router';
import { DeviceLink } from '../data/device-link';
import { JobStore } from '../data/job-store';
import { RunWork } from '../data/run-work';
import { keepAwake } from '../data/screen-awake';
import { Selection } from '../data/selection';
import { ViewSize } from '../data/view-size';
import { FindingsList } from '../ui/findings-list';
import { measuredWidth } from '../ui/measured-width';
import { NextStation } from '../ui/next-station';
import { OrderView, type OrderList } from './order-view';
import { PaperSheet } from './paper-sheet';
import { ResetPanel } from './reset-panel';
import { RunAside } from './run-aside';
import { RunRows } from './run-rows';
import { RunView } from './run-view';
import { WirePanel } from './wire-panel';

/** Program: the order of edits before it is begun, the run sheet while it is, and the record of both. */
@Component({
  selector: 'ck-program-page',
  imports: [FindingsList, NextStation, OrderView, PaperSheet, ResetPanel, RunAside, RunView, WirePanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './program-page.html',
  styleUrl: './program-page.scss',
  providers: [RunRows],
})
export class ProgramPage {
  protected readonly store = inject(JobStore);
  protected readonly work = inject(RunWork);
  protected readonly rows = inject(RunRows);
  private readonly size = inject(ViewSize);
  private readonly selection = inject(Selection);
  private readonly router = inject(Router);
  /** Which list, in the address: a reload, a link and the way back come to it. */
  readonly view = input<string>();
  protected readonly shown = computed((): OrderList => {
    const view = this.view();
    return view === 'record' || view === 'fates' ? view : 'order';
  });
  private readonly measure = viewChild<ElementRef<HTMLElement>>('measure');
  private readonly stepId = computed(() => this.work.step()?.id);
  private readonly sheetAt = viewChild<ElementRef<HTMLElement>>('sheetAt');
  private readonly insp = viewChild<ElementRef<HTMLElement>>('insp');
  protected readonly width = measuredWidth(this.measure);

  constructor() {
    keepAwake(this.work.running);
    void inject(DeviceLink).look();
    // What is said of a step begins at the top.
    effect(() => {
      this.stepId();
      for (const part of [this.insp(), this.sheetAt()]) part?.nativeElement.scrollTo({ top: 0 });
      if (this.size.phone()) window.scrollTo({ top: 0 });
    });
    // The roster shows which device the sheet has come to.
    effect(() => {
      const device = this.work.running() ? this.work.step()?.device : undefined;
      if (device) this.selection.charger.set(device);
    });
  }

  protected show(view: OrderList): void {
    void this.router.navigate([], { queryParams: { view: view === 'order' ? null : view }, queryParamsHandling: 'merge' });
  }

  protected print(): void {
    window.print();
  }
}
