import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { format } from 'date-fns';
import { storageProblem } from '../data/database';
import { download, JobFiles } from '../data/job-files';
import { Safekeeping } from '../data/safekeeping';
import { Glyph } from '../ui/glyph';

const megabytes = (bytes: number): string => (bytes < 1e8 ? `${(bytes / 1e6).toFixed(1)} MB` : `${(bytes / 1e9).toFixed(1)} GB`);

/** How well this device keeps the book: the last backup, the room left, whether everything holds together. */
@Component({
  selector: 'ck-safe-panel',
  imports: [Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Saved on this device</h2>
    <p>
      @if (safe.backedUpAt(); as at) {
        Backed up {{ day(at) }};
        {{ safe.since() === 0 ? 'nothing touched since' : safe.since() === 1 ? '1 job touched since' : safe.since() + ' jobs touched since' }}.
      } @else {
        Never backed up. This device, and this browser on it, hold the only copy.
      }
    </p>
    @if (safe.remind()) {
      <p class="st t-attention"><ck-glyph name="attention" [size]="15" />It is time for a backup: a week’s work has no second copy.</p>
    }
    @if (running(); as r) {
      <p role="status">Packing, {{ r.done }} of {{ r.all }} jobs. <button type="button" class="do" (click)="stopping = true">Stop</button></p>
    } @else {
      <p class="acts">
        <button type="button" class="do" (click)="backUp()">Back up all jobs</button>
        <button type="button" class="do" (click)="restore.emit()">Restore from a backup</button>
        <button type="button" class="do" (click)="check()">Check the book</button>
      </p>
    }
    @if (room(); as r) {
      <p class="quiet">
        {{ r.words }}
        @if (safe.persisted() === true) {
          The browser does not delete it even when room gets short.
        } @else {
          The browser may clear it when room gets short.
          <button type="button" class="do" (click)="keep()">Ask it to keep everything</button>
        }
        @if (asked() && safe.persisted() !== true) {
          It did not agree; back up instead.
        }
      </p>
    }
    @if (lacks().length > 0) {
      <div class="fault" role="alert">
        <ck-glyph name="attention" [size]="15" />
        <span>
          The file is saved, but the backup is not whole, so it is not counted as one:
          @for (text of lacks(); track $index) {
            <br />{{ text }}
          }
        </span>
      </div>
    }
    @if (problem(); as why) {
      <p class="wrong" role="alert">{{ why }}</p>
    }
    @if (checked()) {
      @for (f of safe.faults(); track $index) {
        <p class="fault">
          <ck-glyph name="attention" [size]="15" />
          <span
            >{{ f.text }}
            @if (f.mend) {
              <button type="button" class="do" (click)="mend(f)">{{ f.mend }}</button>
            }
          </span>
        </p>
      } @empty {
        <p class="st t-done" role="status"><ck-glyph name="done" [size]="15" />Everything in the book holds together.</p>
      }
    }
  `,
  styles: `
    :host {
      display: block;
      font-size: 0.8438rem;
      color: var(--ck-ink-2);
    }
    h2 {
      font-size: 0.8438rem;
      font-weight: var(--ck-w-strong);
      color: var(--ck-ink);
    }
    .acts {
      padding: 4px 0;
    }
    .fault {
      display: flex;
      gap: 6px;
      padding: 3px 0;
      color: var(--ck-attention);
    }
    @media (max-width: 767px) {
      .do {
        min-height: 44px;
      }
    }
  `,
})
export class SafePanel {
  private readonly files = inject(JobFiles);
  protected readonly safe = inject(Safekeeping);
  /** Somebody wants to choose a backup. */
  readonly restore = output();
  protected readonly running = signal<{ done: number; all: number } | null>(null);
  protected readonly problem = signal<string | null>(null);
  /** What the backup just saved does not hold. */
  protected readonly lacks = signal<readonly string[]>([]);
  protected readonly checked = signal(false);
  protected readonly asked = signal(false);
  protected stopping = false;
  protected readonly room = computed(() => {
    const room = this.safe.room();
    if (!room) return null;
    const short = room.quota - room.used < 5e7;
    return { words: `${megabytes(room.used)} in use of ${megabytes(room.quota)}${short ? ': little is left' : ''}.` };
  });
  protected readonly day = (at: number): string => format(at, 'd MMMM yyyy HH:mm');

  constructor() {
    void this.safe.look();
  }

  protected async keep(): Promise<void> {
    await this.safe.persist();
    this.asked.set(true);
  }

  protected async backUp(): Promise<void> {
    this.stopping = false;
    this.problem.set(null);
    this.lacks.set([]);
    this.running.set({ done: 0, all: 0 });
    try {
      const made = await this.files.backUp((done, all) => {
        this.running.set({ done, all });
        return !this.stopping;
      });
      if (!made) return;
      download(made.blob, `calm-keel-${format(new Date(), 'yyyy-MM-dd-HHmm')}.backup.zip`);
      this.lacks.set(made.lacks);
      // One that is not whole does not count: the reminder stays.
      if (made.lacks.length === 0) await this.safe.noteBackup(made.count);
    } catch (error) {
      this.problem.set(storageProblem(error));
    } finally {
      this.running.set(null);
      void this.safe.look();
    }
  }

  protected async check(): Promise<void> {
    await this.guarded(() => this.safe.check());
    this.checked.set(true);
  }

  protected mend(fault: Parameters<Safekeeping['mend']>[0]): Promise<void> {
    return this.guarded(() => this.safe.mend(fault));
  }

  private async guarded(work: () => Promise<void>): Promise<void> {
    this.problem.set(null);
    try {
      await work();
    } catch (error) {
      this.problem.set(storageProblem(error));
    }
  }
}
