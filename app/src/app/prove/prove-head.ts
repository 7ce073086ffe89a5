import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, inject, input, viewChild } from '@angular/core';
import { RouterLink } from '@angular/router';
import { formatClock } from '@calm-keel/core/quantity';
import { LiveRecord } from '../data/live-record';
import { LogImport } from '../data/log-import';
import { Glyph } from '../ui/glyph';
import { logFiles } from '../ui/log-files';
import { ProveWays } from './ways';

/** The parts of Prove, each with an address of its own. */
export type ProvePart = 'log' | 'tests' | 'glance' | 'mapping';

const parts = [
  { view: 'log', words: 'Logs', path: [] },
  { view: 'tests', words: 'Guided tests', path: ['tests'] },
  { view: 'glance', words: 'At a glance', path: ['glance'] },
] as const;

/** The head of every part of Prove: where one is, bringing a log in, and what is being read or recorded. */
@Component({
  selector: 'ck-prove-head',
  imports: [RouterLink, Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './prove-head.html',
  styles: `
    :host {
      display: block;
    }
  `,
  host: { '(document:dragover)': '$event.preventDefault()', '(document:drop)': 'drop($event)' },
})
export class ProveHead {
  protected readonly import = inject(LogImport);
  protected readonly live = inject(LiveRecord);
  protected readonly ways = inject(ProveWays);
  private readonly picker = viewChild.required<ElementRef<HTMLInputElement>>('picker');
  readonly view = input.required<ProvePart>();
  readonly heading = input.required<string>();
  readonly about = input.required<string>();
  protected readonly parts = parts;
  protected readonly logFiles = logFiles;

  pick(): void {
    this.picker().nativeElement.click();
  }

  protected async bring(list: FileList | null | undefined): Promise<void> {
    const read = await this.import.bring([...(list ?? [])]);
    if (read !== null) await this.ways.go(['log', read]);
    else if (this.import.waiting().length > 0) await this.ways.go(['mapping']);
  }

  protected drop(event: DragEvent): void {
    event.preventDefault();
    void this.bring(event.dataTransfer?.files);
  }

  protected async stopLive(): Promise<void> {
    const id = this.live.running()?.id;
    await this.live.end();
    if (id) await this.ways.go(['log', id]);
  }

  protected clock(ms: number): string {
    return formatClock(ms / 1000, -new Date(ms).getTimezoneOffset());
  }
}
