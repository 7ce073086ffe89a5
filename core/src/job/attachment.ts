import { bad, good, type Result } from '../quantity';
import type { attachmentTypes } from './job';
import { type Attachment } from './job';

/** One document may have this many bytes, all of a job together the second figure. */
export const mostAttachmentBytes = 8_000_000;
const mostAttachmentBytesTogether = 40_000_000;

type AttachmentType = (typeof attachmentTypes)[number];

/** What a document is by its first bytes, whatever its name says; null for anything else. */
export function sniffAttachment(bytes: Uint8Array): AttachmentType | null {
  const starts = (...head: number[]): boolean => head.every((b, i) => bytes[i] === b);
  if (starts(0x25, 0x50, 0x44, 0x46)) return 'application/pdf';
  if (starts(0x89, 0x50, 0x4e, 0x47)) return 'image/png';
  if (starts(0xff, 0xd8, 0xff)) return 'image/jpeg';
  const webp = [0x57, 0x45, 0x42, 0x50].every((b, i) => bytes[8 + i] === b);
  return starts(0x52, 0x49, 0x46, 0x46) && webp ? 'image/webp' : null;
}

const megabytes = (bytes: number): string => `${(bytes / 1e6).toFixed(1)} MB`;

/**
 * Whether a document can be kept with a job.
 *
 * @param kept documents the job has already
 * @returns its type, or a sentence that says what is wrong and what to do
 */
export function admitAttachment(name: string, bytes: Uint8Array, kept: readonly Attachment[]): Result<AttachmentType> {
  if (bytes.length === 0) return bad('attachment-empty', `“${name}” is empty. Download or scan it again.`);
  const type = sniffAttachment(bytes);
  if (!type) return bad('attachment-type', `“${name}” is no PDF, PNG, JPEG or WebP. Print it to a PDF, or take a picture of the page.`);
  if (bytes.length > mostAttachmentBytes)
    return bad(
      'attachment-too-large',
      `“${name}” has ${megabytes(bytes.length)}; at most ${megabytes(mostAttachmentBytes)} can be saved with a job. Leave only the pages that matter.`,
    );
  const together = kept.reduce((sum, a) => sum + a.bytes, bytes.length);
  if (together > mostAttachmentBytesTogether)
    return bad(
      'attachments-too-large',
      `With “${name}” the documents of this job would have ${megabytes(together)}; at most ${megabytes(mostAttachmentBytesTogether)} fit. Take one out first.`,
    );
  return good(type);
}
