import { inject, Injectable } from '@angular/core';
import { admitAttachment, attachmentSchema, type Attachment, type Job } from '@calm-keel/core/job';
import { storageProblem } from './database';
import { freeId } from './free-id';
import { JobBook } from './job-book';
import { LogWork } from './log-work';

/** Photos kept with a job: made small in the worker first, so that they fit beside everything else. */
@Injectable({ providedIn: 'root' })
export class Photos {
  private readonly book = inject(JobBook);
  private readonly worker = inject(LogWork);

  /** Keeps the bytes of a photo and gives the entry that names it; the job is still to be told of it. A sentence when it cannot be stored. */
  async keep(job: Job, file: File, idFrom: string, name: string): Promise<Attachment | string> {
    try {
      const bytes = await this.worker.api.shrink(file);
      const admitted = admitAttachment(file.name, bytes, job.attachments);
      if (!admitted.ok) return admitted.problems[0]?.text ?? '';
      const id = freeId(`photo-${idFrom}`, [...(await this.book.contentIds(job.id)), ...job.attachments.map((a) => a.id)], 'photo');
      await this.book.putFile({ jobId: job.id, id, bytes });
      return attachmentSchema.parse({ id, name: name.slice(0, 160), type: admitted.value, bytes: bytes.byteLength });
    } catch (error) {
      return error instanceof DOMException && error.name === 'InvalidStateError'
        ? 'This picture cannot be read. Take it as JPEG or PNG.'
        : storageProblem(error);
    }
  }

  /** A photo as an address the page can show; null when its bytes are not on this device. Whoever asks gives it back with `URL.revokeObjectURL`. */
  async show(jobId: string, id: string): Promise<string | null> {
    const row = await this.book.getFile(jobId, id);
    return row ? URL.createObjectURL(new Blob([row.bytes as BlobPart], { type: 'image/jpeg' })) : null;
  }
}
