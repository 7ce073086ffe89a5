import { ChangeDetectionStrategy, Component, computed, inject, signal, type ElementRef, viewChild } from '@angular/core';
import { RouterLink } from '@angular/router';
import { mostAttachmentBytes, type Attachment } from '@calm-keel/core/job';
import type { Problem } from '@calm-keel/core/quantity';
import { editionOf } from '@calm-keel/core/sheet';
import { Documents } from '../data/documents';
import { JobBook } from '../data/job-book';
import { JobStore } from '../data/job-store';
import { Glyph } from '../ui/glyph';

/** Documents kept with the job: the sheet as a PDF or a picture, the maker's letter. */
@Component({
  selector: 'ck-documents',
  imports: [Glyph, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="sech">
      <span role="heading" aria-level="2">Documents</span><small>PDF or picture, at most {{ most }} MB each; they go into the job file</small>
    </div>
    @for (problem of problems(); track $index) {
      <div class="said bad" role="alert">
        <ck-glyph name="stop" /><span class="line">{{ problem.text }}</span>
      </div>
    }
    @for (a of documents(); track a.id) {
      <p class="doc">
        <button type="button" class="do" (click)="show(a)">{{ a.name }}</button>
        <span class="quiet"
          >{{ a.type === 'application/pdf' ? 'PDF' : 'picture' }}, {{ (a.bytes / 1e6).toFixed(2) }} MB{{ a.sheet ? ', with ' + sheetOf(a) : '' }}</span
        >
        <a class="do" [routerLink]="['/job', store.job()!.id, 'paper', a.id]" [attr.aria-label]="'Read ' + a.name">Read it</a>
        <button type="button" class="do" (click)="remove(a)" [attr.aria-label]="'Take out ' + a.name">Take out</button>
      </p>
    } @empty {
      <p class="quiet">No document yet. Attach the sheet itself: its figures are read from it, and a year from now nobody has to look for it.</p>
    }
    <input
      #picker
      type="file"
      class="visually-hidden"
      tabindex="-1"
      aria-label="Document file"
      accept=".pdf,.png,.jpg,.jpeg,.webp"
      multiple
      (change)="attach(picker.files)"
    />
    <button type="button" class="ghost" (click)="pick()" [disabled]="busy()">{{ busy() ? 'Keeping it' : 'Attach documents' }}</button>
  `,
  styles: `
    .doc {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 14px;
      align-items: baseline;
      padding: 5px 0;
      border-bottom: 1px solid var(--ck-rule);
      .do {
        overflow-wrap: anywhere;
      }
      .quiet {
        flex: 1;
      }
    }
    .ghost {
      margin-top: 10px;
    }
  `,
})
export class DocumentsPanel {
  protected readonly store = inject(JobStore);
  private readonly book = inject(JobBook);
  private readonly kept = inject(Documents);
  private readonly picker = viewChild.required<ElementRef<HTMLInputElement>>('picker');
  protected readonly most = mostAttachmentBytes / 1e6;
  protected readonly documents = computed(() => this.store.job()?.attachments ?? []);
  protected readonly problems = signal<readonly Problem[]>([]);
  protected readonly busy = signal(false);

  protected pick(): void {
    this.picker().nativeElement.click();
  }

  protected sheetOf(a: Attachment): string {
    const job = this.store.job();
    const sheet = job && [job.sheet, ...job.otherSheets].find((s) => s.id === a.sheet);
    return sheet ? editionOf(sheet) : 'a sheet no longer here';
  }

  protected async attach(files: FileList | null): Promise<void> {
    this.problems.set([]);
    this.busy.set(true);
    for (const file of files ?? []) {
      const kept = await this.kept.attach(file);
      if ('code' in kept) this.problems.update((all) => [...all, kept]);
    }
    this.busy.set(false);
    this.picker().nativeElement.value = '';
  }

  protected async show(a: Attachment): Promise<void> {
    const job = this.store.job();
    const row = job && (await this.book.getFile(job.id, a.id));
    if (!row) {
      this.problems.set([
        { code: 'document-lost', text: `The contents of “${a.name}” are not on this device. Bring in the job file that holds it, or attach it again.` },
      ]);
      return;
    }
    const url = URL.createObjectURL(new Blob([row.bytes as BlobPart], { type: a.type }));
    window.open(url, '_blank', 'noopener');
    setTimeout(() => {
      URL.revokeObjectURL(url);
    }, 60_000);
  }

  protected remove(a: Attachment): void {
    this.store.edit(`Take out ${a.name}`, (job) => ({ ...job, attachments: job.attachments.filter((x) => x.id !== a.id) }));
  }
}
