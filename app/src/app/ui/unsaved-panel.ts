import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { format } from 'date-fns';
import { JobBook } from '../data/job-book';
import { JobFiles } from '../data/job-files';
import { JobStore } from '../data/job-store';
import { storageProblem } from '../data/database';
import { UnsavedChanges } from '../data/unsaved';
import { Glyph } from './glyph';

/** Changes that could not be stored: where they are, and what can be done. Of one job, or of all. */
@Component({
  selector: 'ck-unsaved-panel',
  imports: [Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (u of lines(); track u.key) {
      <div class="strip bad" role="alert">
        <ck-glyph name="stop" />
        <span>
          <b>“{{ u.name }}”: changes {{ u.when }} are not saved.</b> Last of them: {{ u.label }}. {{ u.where }}
        </span>
        @if (u.own) {
          <button type="button" class="ghost" (click)="again(u.key)">Try again</button>
        } @else {
          <button type="button" class="ghost" (click)="putBack(u.key)">Put them into the job</button>
        }
        <button type="button" class="ghost" (click)="save(u.key)">Save the job to a file</button>
        @if (asked() === u.key) {
          <button type="button" class="ghost" (click)="giveUp(u.key)">Yes, discard these changes</button>
          <button type="button" class="ghost" (click)="asked.set(null)">No, keep them</button>
        } @else {
          <button type="button" class="ghost" (click)="asked.set(u.key)">Discard</button>
        }
      </div>
    }
    @if (problem(); as why) {
      <p class="strip bad" role="alert"><ck-glyph name="attention" />{{ why }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
    }
  `,
})
export class UnsavedPanel {
  private readonly store = inject(JobStore);
  private readonly book = inject(JobBook);
  private readonly files = inject(JobFiles);
  private readonly held = inject(UnsavedChanges);
  /** Only this job; all when it is not told. */
  readonly job = input<string>();
  protected readonly asked = signal<string | null>(null);
  protected readonly problem = signal<string | null>(null);

  protected readonly lines = computed(() => {
    const wanted = this.job();
    const own = this.store.unstored().map((u) => ({
      key: `own ${u.id}`,
      own: true,
      id: u.id,
      name: u.doc.name,
      label: u.label,
      when: 'you have just made',
      doc: u.doc,
      page: this.held.page,
      where:
        u.held === 'browser'
          ? `${u.why} Until then they are held in this browser and survive a reload.`
          : `${u.why} They are only on this page: do not close or reload it.`,
    }));
    const left = this.held
      .all()
      .filter((u) => u.page !== this.held.page)
      .map((u) => ({
        key: `${u.page} ${u.id}`,
        own: false,
        id: u.id,
        name: u.name,
        label: u.label,
        when: `of ${format(u.at, 'd MMMM HH:mm')}`,
        doc: u.doc,
        page: u.page,
        where: 'They were made on a page that could not store them, and are held in this browser.',
      }));
    return [...own, ...left].filter((u) => wanted === undefined || u.id === wanted);
  });

  private readonly line = (key: string) => this.lines().find((u) => u.key === key);

  /** Tries to store them again; a job that is gone meanwhile comes back with them. */
  protected async again(key: string): Promise<void> {
    const line = this.line(key);
    if (!line) return;
    this.problem.set(null);
    try {
      if (await this.book.isThere(line.id)) await this.store.flush();
      else {
        await this.book.add(line.doc, 'Unsaved changes put back');
        this.store.giveUp(line.id);
        this.store.reopen(line.id);
      }
    } catch (error) {
      this.problem.set(storageProblem(error));
    }
  }

  protected save(key: string): void {
    const line = this.line(key);
    if (line) this.files.saveDocument(line.doc);
  }

  protected giveUp(key: string): void {
    const line = this.line(key);
    this.asked.set(null);
    if (!line) return;
    if (line.own) this.store.giveUp(line.id);
    else this.held.drop(line);
  }

  /** Puts the changes into the job as one step that undo takes back; a job that is gone comes back with them. */
  protected async putBack(key: string): Promise<void> {
    const line = this.line(key);
    if (!line) return;
    this.problem.set(null);
    try {
      if (await this.book.get(line.id)) await this.book.edit(line.id, 'Put unsaved changes back', () => line.doc, '');
      else await this.book.add(line.doc, 'Unsaved changes put back');
      this.held.drop(line);
    } catch (error) {
      this.problem.set(storageProblem(error));
    }
  }
}
