import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { JobStore } from '../data/job-store';
import { ViewSize } from '../data/view-size';
import { Glyph } from './glyph';
import { Course } from '../data/course';
import type { Station } from '../data/stations';

/** What a station is for, in the order of the work. */
const purposes: Readonly<Record<Station['path'], string>> = {
  spec: 'the maker’s figures',
  system: 'bank, chargers, sensors and wiring',
  settings: 'what each charger is to be set to',
  rehearse: 'a day worked out before anything is entered',
  program: 'entering, and reading back',
  prove: 'logs and tests against the sheet',
  'hand-over': 'the report, the owner’s card, the labels',
};

/** The way on, at the end of a station’s work. */
@Component({
  selector: 'ck-next',
  imports: [RouterLink, Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (next(); as n) {
      <a [routerLink]="['/job', store.job()?.id, n.path]">
        <ck-glyph [name]="n.state" [size]="19" />
        <span
          ><b>Next: {{ n.name }}</b
          ><small>{{ purposes[n.path] }}; {{ n.words }}</small></span
        >
        @if (!size.phone()) {
          <kbd>Alt</kbd><kbd>Page Down</kbd>
        }
      </a>
    }
  `,
  styles: `
    :host {
      display: block;
      padding: 24px 0 16px;
    }
    a {
      display: flex;
      align-items: center;
      gap: 10px;
      min-height: 52px;
      padding: 6px 0;
      border-top: 1.5px solid var(--ck-ink);
      border-bottom: 1px solid var(--ck-rule);
      span {
        flex: 1;
      }
      b {
        color: var(--ck-copper-text);
      }
      small {
        display: block;
        font-size: 0.8125rem;
        color: var(--ck-ink-2);
      }
      &:hover b {
        text-decoration: underline;
      }
    }
    kbd {
      background: none;
      font: inherit;
      font-size: 0.75rem;
      color: var(--ck-ink-2);
      border: 1px solid var(--ck-rule-strong);
      border-radius: 4px;
      padding: 1px 6px;
    }
    @media print {
      :host {
        display: none;
      }
    }
  `,
})
export class NextStation {
  protected readonly store = inject(JobStore);
  protected readonly size = inject(ViewSize);
  private readonly course = inject(Course);
  /** The station at whose end it stands. */
  readonly after = input.required<Station['path']>();
  protected readonly next = computed(() => this.course.beside(this.after(), 1));
  protected readonly purposes = purposes;
}
