import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, input, resource, signal } from '@angular/core';
import type { Visit } from '@calm-keel/core/job';
import { JobStore } from '../data/job-store';
import { Photos } from '../data/photos';

/** Photos of a visit: shown small, pressed to see them whole. */
@Component({
  selector: 'ck-visit-photos',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="row">
      @for (p of pictures.value(); track p.id) {
        <a [href]="p.url" target="_blank" rel="noopener"><img [src]="p.url" [alt]="p.name" width="96" height="72" /></a>
      }
      @if (!closed()) {
        <label class="ghost">Add a photo<input #ph class="visually-hidden" type="file" accept="image/*" (change)="add(ph.files?.[0]); ph.value = ''" /></label>
      }
    </div>
    @if (missing() > 0) {
      <p class="quiet">{{ missing() === 1 ? 'One photo is' : missing() + ' photos are' }} not on this device.</p>
    }
    @if (problem(); as why) {
      <p class="wrong" role="alert">{{ why }}</p>
    }
  `,
  styles: `
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      align-items: center;
      padding: 4px 0;
    }
    img {
      display: block;
      object-fit: cover;
      border: 1px solid var(--ck-rule-strong);
    }
  `,
})
export class VisitPhotos {
  private readonly store = inject(JobStore);
  private readonly photos = inject(Photos);
  readonly visit = input.required<Visit>();
  readonly closed = input.required<boolean>();
  protected readonly problem = signal<string | null>(null);
  private shown: string[] = [];

  protected readonly pictures = resource({
    params: () => ({ job: this.store.job()?.id ?? '', ids: this.visit().photos.join(' ') }),
    defaultValue: [],
    loader: async ({ params: { job, ids } }) => {
      const names = new Map(this.store.job()?.attachments.map((a) => [a.id, a.name]));
      const list = await Promise.all(
        ids
          .split(' ')
          .filter(Boolean)
          .map(async (id) => ({ id, name: names.get(id) ?? 'Photo', url: await this.photos.show(job, id) })),
      );
      const found = list.flatMap(({ id, name, url }) => (url ? [{ id, name, url }] : []));
      this.letGo();
      this.shown = found.map((p) => p.url);
      return found;
    },
  });
  protected readonly missing = computed(() => (this.pictures.isLoading() ? 0 : this.visit().photos.length - this.pictures.value().length));

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      this.letGo();
    });
  }

  private letGo(): void {
    for (const url of this.shown) URL.revokeObjectURL(url);
  }

  protected async add(file: File | undefined): Promise<void> {
    const job = this.store.job();
    if (!file || !job) return;
    this.problem.set(null);
    const visit = this.visit();
    const entry = await this.photos.keep(job, file, visit.id, `Photo, ${visit.purpose || 'visit'}, ${visit.date}`);
    if (typeof entry === 'string') {
      this.problem.set(entry);
      return;
    }
    this.store.edit('Add a photo', (j) => ({
      ...j,
      attachments: [...j.attachments, entry],
      visits: j.visits.map((v) => (v.id === visit.id ? { ...v, photos: [...v.photos, entry.id].slice(0, 12) } : v)),
    }));
  }
}
