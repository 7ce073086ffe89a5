import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output, signal } from '@angular/core';
import { format } from 'date-fns';
import type { RestoreChoice } from '@calm-keel/core/job';
import { storageProblem } from '../data/database';
import { JobFiles, type OpenBackup } from '../data/job-files';

const stateWords = { new: 'not on this device', same: 'the same as here', differs: 'here otherwise' } as const;

/** What a backup would change, job by job, before anything is changed. */
@Component({
  selector: 'ck-restore-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="panel" aria-labelledby="restore-title">
      <h2 id="restore-title">Restore from {{ backup().name }}</h2>
      <p>
        Made {{ day(backup().head.at) }}. Nothing is changed until you say so.
        @if (extras() > 0) {
          Own cards, sheets and readings of files come with it; those that are here stay.
          @if (backup().head.raw?.length; as n) {
            {{ n === 1 ? 'One entry' : n + ' entries' }} could not be read where the backup was made; they are put away as they are.
          }
        }
      </p>
      @for (text of backup().unread; track text) {
        <p class="wrong">{{ text }} It is left out.</p>
      }
      <table>
        <thead>
          <tr>
            <th scope="col">Job</th>
            <th scope="col">In the backup</th>
            <th scope="col">On this device</th>
            <th scope="col">What becomes of it</th>
          </tr>
        </thead>
        <tbody>
          @for (line of backup().lines; track line.id) {
            <tr>
              <th scope="row">{{ line.name }}</th>
              <td>{{ day(line.there) }}</td>
              <td>{{ line.here === null ? words[line.state] : words[line.state] + ', touched ' + day(line.here) }}</td>
              <td>
                @if (line.state === 'same') {
                  stays as it is
                } @else if (line.state === 'new') {
                  <select class="plain" [attr.aria-label]="line.name" (change)="choose(line.id, $any($event.target).value)">
                    <option value="keepBoth" selected>Bring it in</option>
                    <option value="skip">Leave it</option>
                  </select>
                } @else {
                  <select class="plain" [attr.aria-label]="line.name" (change)="choose(line.id, $any($event.target).value)">
                    <option value="keepBoth" selected>Keep both beside each other</option>
                    <option value="replace">Put it in the place of the one here</option>
                    <option value="skip">Leave it</option>
                  </select>
                }
              </td>
            </tr>
          }
        </tbody>
      </table>
      @if (running(); as r) {
        <p role="status">Restoring, {{ r.done }} of {{ r.all }}. <button type="button" class="ghost" (click)="stopping = true">Stop</button></p>
      } @else {
        <p class="acts">
          <button type="button" class="press" (click)="restore()" [disabled]="wanted() + extras() === 0">{{ label() }}</button>
          <button type="button" class="ghost" (click)="done.emit([])">Leave it</button>
        </p>
      }
    </section>
  `,
  styleUrl: './panel.scss',
})
export class RestorePanel {
  private readonly files = inject(JobFiles);
  readonly backup = input.required<OpenBackup>();
  /** What happened, in words; nothing when it was left. */
  readonly done = output<readonly string[]>();
  protected readonly words = stateWords;
  protected readonly choices = linkedSignal<OpenBackup, Readonly<Record<string, RestoreChoice>>>({ source: this.backup, computation: () => ({}) });
  protected readonly running = signal<{ done: number; all: number } | null>(null);
  protected stopping = false;

  /** This device's own sheets, cards and readings of files that come with it. */
  protected readonly extras = computed(() => {
    const { sheets, cards, mappings, surveys, raw } = this.backup().head;
    return sheets.length + cards.length + mappings.length + (surveys?.length ?? 0) + (raw?.length ?? 0);
  });
  protected readonly wanted = computed(() => this.backup().lines.filter((l) => l.state !== 'same' && this.choices()[l.id] !== 'skip').length);
  protected readonly label = computed(() =>
    this.wanted() === 0
      ? this.extras() === 0
        ? 'Nothing to restore'
        : 'Restore what comes beside the jobs'
      : this.wanted() === 1
        ? 'Restore 1 job'
        : `Restore ${this.wanted()} jobs`,
  );
  protected readonly day = (at: string | number): string => format(new Date(at), 'd MMM yyyy HH:mm');

  protected choose(id: string, choice: RestoreChoice): void {
    this.choices.update((all) => ({ ...all, [id]: choice }));
  }

  protected async restore(): Promise<void> {
    this.stopping = false;
    this.running.set({ done: 0, all: this.wanted() });
    try {
      const notes = await this.files.restore(this.backup(), this.choices(), (done, all) => {
        this.running.set({ done, all });
        return !this.stopping;
      });
      this.done.emit(notes);
    } catch (error) {
      this.done.emit([storageProblem(error)]);
    } finally {
      this.running.set(null);
    }
  }
}
