import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { choiceChanges, settingShifts, sisterDifferences, toJob, withChoicesOf, type Job } from '@calm-keel/core/job';
import { deriveSettings, deviceName } from '@calm-keel/core/settings';
import type { JobRow } from '../data/database';
import { storageProblem } from '../data/database';
import { JobBook } from '../data/job-book';
import { today } from '../data/job-store';

/** The choices of one job put on a sister site, with what that makes of its settings, and how the two differ otherwise. */
@Component({
  selector: 'ck-sister-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="panel" aria-labelledby="sister-title">
      <h2 id="sister-title">Choices for “{{ row().doc.name }}” from a sister site</h2>
      <label class="lbl" for="sister-from">Sister site</label>
      <select #from id="sister-from" class="plain" (change)="fromId.set(from.value)">
        <option value="">Choose a job</option>
        @for (other of others(); track other.id) {
          <option [value]="other.id">{{ other.doc.name }}</option>
        }
      </select>
      @if (view(); as v) {
        <div class="two">
          <div>
            <h3>Choices that change</h3>
            <ul>
              @for (c of v.choices; track c.question) {
                <li>
                  <b>{{ c.question }}</b> {{ c.from }} <span class="to">becomes</span> {{ c.to }}
                </li>
              } @empty {
                <li>None: both have made the same choices.</li>
              }
            </ul>
            <h3>Settings that come out otherwise</h3>
            <ul>
              @for (s of v.shifts; track s.device + s.role) {
                <li>
                  <b>{{ s.device }}, {{ s.name }}</b
                  >&ngsp;<span class="n">{{ s.from }}</span
                  >&ngsp;<span class="to">becomes</span>&ngsp;<span class="n">{{ s.to }}</span>
                </li>
              } @empty {
                <li>None.</li>
              }
            </ul>
          </div>
          <div>
            <h3>What still differs between the two</h3>
            <ul>
              @for (d of v.still; track d.device + d.name) {
                <li>
                  <b>{{ d.device }}, {{ d.name }}</b
                  >&ngsp;<span class="n">{{ d.here }}</span> here, <span class="n">{{ d.there }}</span> there
                </li>
              } @empty {
                <li>No setting of chargers in the same place.</li>
              }
            </ul>
          </div>
        </div>
      }
      @if (problem(); as why) {
        <p class="wrong" role="alert">{{ why }}</p>
      }
      <p class="acts">
        <button type="button" class="press" (click)="take()" [disabled]="(view()?.choices ?? []).length === 0">
          {{ view() ? ((view()?.choices ?? []).length === 0 ? 'Nothing to take' : 'Take these choices') : 'Choose a sister site first' }}
        </button>
        <button type="button" class="ghost" (click)="done.emit(null)">Leave it</button>
      </p>
      <p class="quiet">Figures, chargers and overrides stay: they belong to a bank. The choices are signed, and undo on the job takes them back.</p>
    </section>
  `,
  styleUrl: './panel.scss',
})
export class SisterPanel {
  private readonly book = inject(JobBook);
  readonly row = input.required<JobRow>();
  readonly rows = input.required<readonly JobRow[]>();
  readonly done = output<readonly string[] | null>();
  protected readonly fromId = signal('');
  protected readonly problem = signal<string | null>(null);

  protected readonly others = computed(() => this.rows().filter((r) => r.id !== this.row().id && toJob(r.doc).ok));
  private readonly jobs = computed<{ here: Job; there: Job } | null>(() => {
    const other = this.rows().find((r) => r.id === this.fromId());
    const here = toJob(this.row().doc);
    const there = other && toJob(other.doc);
    return here.ok && there?.ok ? { here: here.value, there: there.value } : null;
  });
  protected readonly view = computed(() => {
    const jobs = this.jobs();
    if (!jobs) return null;
    const { here, there } = jobs;
    const after = withChoicesOf(here, there, 'technician', today());
    const [before, then, other] = [deriveSettings(here), deriveSettings(after), deriveSettings(there)];
    return {
      choices: choiceChanges(here, there),
      shifts: settingShifts(before, then).map((s) => ({ ...s, device: deviceName(here, s.device) })),
      still: sisterDifferences(then, other),
    };
  });

  protected async take(): Promise<void> {
    const jobs = this.jobs();
    if (!jobs) return;
    try {
      await this.book.edit(this.row().id, `Take the choices of ${jobs.there.name}`, (job) => withChoicesOf(job, jobs.there, 'technician', today()), '');
      this.done.emit([`“${jobs.here.name}” has the choices of “${jobs.there.name}” now.`]);
    } catch (error) {
      this.problem.set(storageProblem(error));
    }
  }
}
