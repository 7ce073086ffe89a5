import { ChangeDetectionStrategy, Component, computed, inject, signal, type ElementRef, viewChild } from '@angular/core';
import { admitAttachment, editionOf, mostAttachmentBytes, type Attachment, type Problem } from '@calm-keel/core';
import { storageProblem } from '../data/database';
import { freeId } from '../data/free-id';
import { JobBook } from '../data/job-book';
import { JobStore } from '../data/job-store';
import { Glyph } from '../ui/glyph';

/** Documents kept with the job: the sheet as a PDF or a picture, the maker's letter. */
@Component({
  selector: 'ck-documents',
  imports: [Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="sech">
      <span>Documents</span><small>PDF or picture, at most {{ most }} MB each; they go into the job file</small>
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
        <button type="button" class="do" (click)="remove(a)" [attr.aria-label]="'Take out ' + a.name">Take out</button>
      </p>
    } @empty {
      <p class="quiet">No document yet. Attach the sheet itself, so that a year from now nobody has to look for it.</p>
    }
    <input #picker type="file" class="visually-hidden" tabindex="-1" aria-label="Document file" accept=".pdf,.png,.jpg,.jpeg,.webp" (change)="attach(picker)" />
    <button type="button" class="ghost" (click)="pick()" [disabled]="busy()">{{ busy() ? 'Keeping it' : 'Attach a document' }}</button>
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
  private readonly store = inject(JobStore);
  private readonly book = inject(JobBook);
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

  /** Keeps the bytes first and names them in the job only then, so that no job speaks of a document that is not there. */
  protected async attach(input: HTMLInputElement): Promise<void> {
    const file = input.files?.[0];
    const job = this.store.job();
    if (!file || !job) return;
    this.problems.set([]);
    this.busy.set(true);
    try {
      // A file far too large is not read into memory to find that out.
      const bytes = new Uint8Array(await file.slice(0, mostAttachmentBytes + 1).arrayBuffer());
      const admitted = admitAttachment(file.name, bytes, job.attachments);
      if (!admitted.ok) {
        this.problems.set(admitted.problems);
        return;
      }
      const id = freeId(file.name, await this.book.contentIds(job.id), 'document');
      await this.book.putFile({ jobId: job.id, id, bytes });
      const entry: Attachment = { id, name: file.name.slice(0, 160), type: admitted.value, bytes: bytes.length, sheet: job.sheet.id };
      this.store.edit(`Attach ${entry.name}`, (j) => ({ ...j, attachments: [...j.attachments, entry] }));
    } catch (error) {
      this.problems.set([{ code: 'storage', text: storageProblem(error) }]);
    } finally {
      this.busy.set(false);
      input.value = '';
    }
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
