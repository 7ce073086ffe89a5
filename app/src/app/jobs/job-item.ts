import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { RouterLink } from '@angular/router';
import { NgbDropdown, NgbDropdownItem, NgbDropdownMenu, NgbDropdownToggle } from '@ng-bootstrap/ng-bootstrap/dropdown';
import { Exchange } from '../data/exchange';
import { dayWords } from '../ui/day-words';
import { Glyph } from '../ui/glyph';
import { KeelLine } from '../ui/keel-line';
import { keelWidth, type JobLine } from './job-line';
import { isLate } from './job-shelf';
import { JobsWork } from './jobs-work';

/** One job of the list: how far it has come, its bank and chargers, what is due next, and what can be done with it. */
@Component({
  selector: 'ck-job-item',
  imports: [Glyph, KeelLine, NgbDropdown, NgbDropdownItem, NgbDropdownMenu, NgbDropdownToggle, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './job-item.html',
  styleUrl: './job-item.scss',
})
export class JobItem {
  protected readonly work = inject(JobsWork);
  protected readonly exchange = inject(Exchange);
  readonly job = input.required<Extract<JobLine, { readonly readable: true }>>();
  /** Another like it is to be named. */
  readonly again = output();
  protected readonly keelWidth = keelWidth;
  protected readonly dayWords = dayWords;
  protected readonly late = isLate;

  protected choices(): void {
    this.work.sisterId.set(this.job().id);
    scrollTo({ top: 0 });
  }
}
