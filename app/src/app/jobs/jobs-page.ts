import { ApplicationRef, ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Glyph } from '../ui/glyph';
import { logFiles } from '../ui/log-files';
import { PageBar } from '../ui/page-bar';
import { UnsavedPanel } from '../ui/unsaved-panel';
import { BeginWays } from './begin-ways';
import { DamagedPanel } from './damaged-panel';
import { DeletedList } from './deleted-list';
import { DueList } from './due-list';
import { ExchangePanel } from './exchange-panel';
import { JobItem } from './job-item';
import type { JobLine } from './job-line';
import { JobShelf } from './job-shelf';
import { JobsFoot } from './jobs-foot';
import { JobsWork } from './jobs-work';
import { MeetingPanel } from './meeting-panel';
import { RestorePanel } from './restore-panel';
import { SisterPanel } from './sister-panel';

/** The opening view: every job on this device, how far each has come, and what is due. */
@Component({
  selector: 'ck-jobs-page',
  imports: [
    BeginWays,
    DamagedPanel,
    DeletedList,
    DueList,
    ExchangePanel,
    Glyph,
    JobItem,
    JobsFoot,
    MeetingPanel,
    PageBar,
    RestorePanel,
    RouterLink,
    SisterPanel,
    UnsavedPanel,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './jobs-page.html',
  styleUrl: './jobs-page.scss',
  providers: [JobShelf, JobsWork],
})
export class JobsPage {
  protected readonly shelf = inject(JobShelf);
  protected readonly work = inject(JobsWork);
  private readonly application = inject(ApplicationRef);
  protected readonly logFiles = logFiles;
  protected readonly sister = computed(() => this.shelf.rows()?.find((row) => row.id === this.work.sisterId()) ?? null);
  /** Something waits for an answer: that has the one copper button. */
  protected readonly asking = computed(() => this.work.meeting() !== null || this.work.backup() !== null || this.sister() !== null);

  /** The files just chosen; the field is empty again, so that the same one can be chosen once more. */
  protected chosen(field: HTMLInputElement): readonly File[] {
    const files = [...(field.files ?? [])];
    field.value = '';
    return files;
  }

  protected startNaming(like: JobLine | null = null): void {
    this.work.name(like);
    // Drawn and in hand before the next key comes: a quick typist loses no letter.
    this.application.tick();
    const field = document.getElementById('newname') as HTMLInputElement | null;
    field?.focus();
    field?.select();
  }
}
