import { inject, Injectable } from '@angular/core';
import { admitAttachment, mostAttachmentBytes, type Attachment, type Job } from '@calm-keel/core/job';
import type { Problem } from '@calm-keel/core/quantity';
import { storageProblem } from './database';
import { freeId } from './free-id';
import { JobBook } from './job-book';
import { JobStore } from './job-store';
import { PaperWork } from './paper-work';

/** Documents kept with the job: the sheet as a PDF or a picture, the maker’s letter. */
@Injectable({ providedIn: 'root' })
export class Documents {
  private readonly store = inject(JobStore);
  private readonly book = inject(JobBook);
  private readonly work = inject(PaperWork);

  /**
   * Keeps a document with the open job: its bytes first, and only then its name in the job, so that no job speaks of a document that is not there. One that is
   * there already is not kept twice.
   *
   * @returns its entry, or what is wrong
   */
  async attach(file: File): Promise<Attachment | Problem> {
    const job = this.store.job();
    if (!job) return { code: 'no-job', text: 'No job is open.' };
    try {
      // A file far too large is not read into memory to find that out.
      const bytes = new Uint8Array(await file.slice(0, mostAttachmentBytes + 1).arrayBuffer());
      const admitted = admitAttachment(file.name, bytes, job.attachments);
      if (!admitted.ok) return admitted.problems[0] ?? { code: 'attachment', text: `“${file.name}” cannot be stored.` };
      const sha256 = await this.work.api.hash(bytes);
      const same = job.attachments.find((a) => a.sha256 === sha256);
      if (same) return same;
      const id = freeId(file.name, [...(await this.book.contentIds(job.id)), ...job.attachments.map((a) => a.id)], 'document');
      await this.book.putFile({ jobId: job.id, id, bytes });
      const entry: Attachment = { id, name: file.name.slice(0, 160), type: admitted.value, bytes: bytes.length, sheet: job.sheet.id, sha256 };
      this.store.edit(`Attach ${entry.name}`, (j: Job) => ({ ...j, attachments: [...j.attachments, entry] }));
      return entry;
    } catch (error) {
      return { code: 'storage', text: storageProblem(error) };
    }
  }
}
