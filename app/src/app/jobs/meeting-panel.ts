import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output, signal } from '@angular/core';
import { format } from 'date-fns';
import { mergeJobs, type MergeChoices } from '@calm-keel/core/job';
import { storageProblem } from '../data/database';
import { JobFiles, type Meeting } from '../data/job-files';

/** A copy came of a job that is here: what each changed, what both changed, and what is to become of it. */
@Component({
  selector: 'ck-meeting-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="panel" aria-labelledby="meeting-title">
      <h2 id="meeting-title">“{{ meeting().mine.name }}” is here already</h2>
      @if (merged(); as result) {
        @if (result.ok) {
          @if (result.value.conflicts.length === 0 && result.value.taken.length === 0) {
            <p>The copy from {{ meeting().from }} has nothing that is not here.</p>
          } @else {
            <p>
              @if (meeting().base) {
                Both come from one copy, so what only one of them changed is known.
              } @else {
                This device does not know the copy both come from, so everything that differs is asked.
              }
              {{ taken() }}
            </p>
          }
          @if (result.value.taken.length > 0) {
            <details>
              <summary>What only the copy from {{ meeting().from }} changed</summary>
              <ul>
                @for (place of result.value.taken.slice(0, 60); track $index) {
                  <li>{{ place }}</li>
                }
                @if (result.value.taken.length > 60) {
                  <li>and {{ result.value.taken.length - 60 }} more</li>
                }
              </ul>
            </details>
          }
          @if (result.value.conflicts.length > 0) {
            <table>
              <caption>
                Changed in both
                <button type="button" class="do" (click)="all('mine')">Mine everywhere</button>
                <button type="button" class="do" (click)="all('theirs')">Theirs everywhere</button>
              </caption>
              <thead>
                <tr>
                  <th scope="col">What</th>
                  <th scope="col">Was</th>
                  <th scope="col">Here</th>
                  <th scope="col">From {{ meeting().from }}</th>
                </tr>
              </thead>
              <tbody>
                @for (c of result.value.conflicts; track c.path) {
                  <tr>
                    <th scope="row">{{ c.label }}</th>
                    <td>{{ c.base ?? 'not known' }}</td>
                    @for (side of sides; track side) {
                      <td>
                        <label class="pick" [class.sel]="chosen(c.path) === side">
                          <input type="radio" [name]="c.path" [checked]="chosen(c.path) === side" (change)="choose(c.path, side)" />
                          <span>{{ side === 'mine' ? c.mine : c.theirs }}</span>
                        </label>
                      </td>
                    }
                  </tr>
                }
              </tbody>
            </table>
          }
        } @else {
          @for (p of result.problems; track $index) {
            <p class="wrong" role="alert">{{ p.text }}</p>
          }
        }
      }
      @if (problem(); as why) {
        <p class="wrong" role="alert">{{ why }}</p>
      }
      <p class="acts">
        <button type="button" class="press" (click)="merge()" [disabled]="busy() || !merged().ok">Merge them</button>
        <button type="button" class="ghost" (click)="beside()" [disabled]="busy()">Keep both beside each other</button>
        <button type="button" class="ghost" (click)="replace()" [disabled]="busy()">Put it in the place of the one here</button>
        <button type="button" class="ghost" (click)="done.emit(null)" [disabled]="busy()">Leave it</button>
      </p>
      <p class="quiet">The one here was made {{ day(meeting().mine.createdAt) }}. Merging and replacing are one step each, and undo takes them back.</p>
    </section>
  `,
  styleUrl: './panel.scss',
})
export class MeetingPanel {
  private readonly files = inject(JobFiles);
  readonly meeting = input.required<Meeting>();
  /** What happened, in words; null when it was left. */
  readonly done = output<readonly string[] | null>();
  protected readonly sides = ['mine', 'theirs'] as const;
  protected readonly choices = linkedSignal<Meeting, MergeChoices>({ source: this.meeting, computation: () => ({}) });
  protected readonly busy = signal(false);
  protected readonly problem = signal<string | null>(null);

  protected readonly merged = computed(() => mergeJobs(this.meeting().base, this.meeting().mine, this.meeting().came.job, this.choices()));
  protected readonly taken = computed(() => {
    const result = this.merged();
    if (!result.ok) return '';
    const { taken, conflicts } = result.value;
    const parts = [
      taken.length > 0 ? `${taken.length} ${taken.length === 1 ? 'change is' : 'changes are'} taken from the copy.` : '',
      conflicts.length > 0
        ? `${conflicts.length === 1 ? 'One thing was' : `${conflicts.length} things were`} changed in both; what is here counts until you choose otherwise.`
        : 'Nothing was changed in both.',
    ];
    return parts.filter(Boolean).join(' ');
  });
  protected readonly chosen = (path: string): 'mine' | 'theirs' => this.choices()[path] ?? 'mine';
  protected readonly day = (at: string): string => format(new Date(at), 'd MMM yyyy HH:mm');

  protected choose(path: string, side: 'mine' | 'theirs'): void {
    this.choices.update((all) => ({ ...all, [path]: side }));
  }

  protected all(side: 'mine' | 'theirs'): void {
    const result = this.merged();
    if (result.ok) this.choices.set(Object.fromEntries(result.value.conflicts.map((c) => [c.path, side])));
  }

  protected merge(): Promise<void> {
    return this.work(async () => {
      const result = this.merged();
      if (!result.ok) return [];
      const { job, renamed } = result.value;
      await this.files.instead(this.meeting(), job, `Merged with ${this.meeting().from}`, renamed);
      return [`“${job.name}” was merged with the copy from ${this.meeting().from}.`, ...this.meeting().came.notes];
    });
  }

  protected beside(): Promise<void> {
    return this.work(async () => (await this.files.beside(this.meeting().came, this.meeting().from)).notes);
  }

  protected replace(): Promise<void> {
    return this.work(async () => {
      await this.files.instead(this.meeting());
      return [`“${this.meeting().mine.name}” was replaced by the copy from ${this.meeting().from}.`, ...this.meeting().came.notes];
    });
  }

  private async work(what: () => Promise<readonly string[]>): Promise<void> {
    this.busy.set(true);
    this.problem.set(null);
    try {
      this.done.emit(await what());
    } catch (error) {
      this.problem.set(storageProblem(error));
    } finally {
      this.busy.set(false);
    }
  }
}
