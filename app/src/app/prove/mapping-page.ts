import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { LogImport } from '../data/log-import';
import { FindingsList } from '../ui/findings-list';
import { Glyph } from '../ui/glyph';
import { ImportPanel, type SettledFiles } from './import-panel';
import { ProveHead } from './prove-head';
import { ProveWays } from './ways';

/** Before a log is read: what its columns mean. */
@Component({
  selector: 'ck-mapping-page',
  imports: [RouterLink, ProveHead, ImportPanel, Glyph, FindingsList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="sheet" aria-label="Prove">
      <ck-prove-head view="mapping" heading="A log to be read" about="Say what its columns mean. Until then nothing in this job is changed." />
      @for (line of import.leftOut(); track line) {
        <p class="said" role="status">
          <ck-glyph name="attention" /><span class="line">{{ line }}</span>
        </p>
      }
      @if (import.waiting().length > 0) {
        @if (!import.progress()) {
          <ck-import-panel [files]="import.waiting()" (read)="read($event)" (left)="leave()" />
        }
      } @else if (!import.progress()) {
        <p class="said">
          <ck-glyph name="note" /><span class="line"
            >No log waits here. A file that is not read yet is only held while the page is open: bring it in again, or go
            <a class="do" [routerLink]="ways.to()">back to the logs</a>.</span
          >
        </p>
      }
    </section>
    <aside class="insp" aria-label="Findings"><ck-findings /></aside>
  `,
})
export class MappingPage {
  protected readonly import = inject(LogImport);
  protected readonly ways = inject(ProveWays);

  protected async read({ settled, newcomers }: SettledFiles): Promise<void> {
    const id = await this.import.readSettled(settled, newcomers);
    if (id !== null) await this.ways.go(['log', id], { replaceUrl: true });
  }
  protected async leave(): Promise<void> {
    this.import.leave();
    await this.ways.go([], { replaceUrl: true });
  }
}
