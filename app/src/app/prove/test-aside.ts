import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal } from '@angular/core';
import { gradeSchema, gradeWords, type Expected, type TestRecord } from '@calm-keel/core/fieldtest';
import { judgeTest } from '@calm-keel/core/job';
import { verdictWords, type ProofRow } from '@calm-keel/core/proof';
import { saidBand } from '@calm-keel/core/quantity';
import { requirementKey } from '@calm-keel/core/requirements';
import { JobStore } from '../data/job-store';
import { Photos } from '../data/photos';
import { TestWork } from '../data/test-work';
import { Units } from '../data/units';
import { Glyph } from '../ui/glyph';
import { measuredWords, verdictGlyphs } from '../ui/verdicts';

/** Most photos of one test. */
const mostPhotos = 12;

/** What a test comes to so far, what was expected of it, and with what it was read. */
@Component({
  selector: 'ck-test-aside',
  imports: [Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (row of rows(); track keyOf(row)) {
      <div class="row">
        <span [class]="'st t-' + glyphs[row.verdict]"><ck-glyph [name]="glyphs[row.verdict]" [size]="15" />{{ words[row.verdict] }}</span>
        <b>{{ row.requirement.name }}</b>
        @if (measured(row); as m) {
          <span class="n">{{ m.value }} {{ m.plus }} {{ m.unit }}</span>
        }
        <p>{{ units.speak(row.why) }}</p>
        @if (row.next) {
          <p class="next">{{ units.speak(row.next) }}</p>
        }
      </div>
    } @empty {
      <p class="quiet">Nothing has been read yet that decides anything.</p>
    }
    <h3>Expected, worked out beforehand</h3>
    @for (e of expected(); track $index) {
      <p class="exp">
        <span>{{ units.speak(e.name) }}</span><b class="n">{{ expectedOf(e) }}</b>
      </p>
      <p class="quiet">{{ units.speak(e.why) }}</p>
    }
    <h3>Read with</h3>
    <p class="with">
      <select #ins class="plain" aria-label="Instrument" (change)="setInstrument(ins.value)">
        @for (i of instruments(); track i.id) {
          <option [value]="i.id" [selected]="i.id === record().instrument">{{ i.name }}</option>
        }
      </select>
      <select #gr class="plain" aria-label="Kind of evidence" (change)="setGrade(gr.value)">
        @for (g of grades; track g.value) {
          <option [value]="g.value" [selected]="g.value === record().grade">{{ g.words }}</option>
        }
      </select>
    </p>
    <h3>Note</h3>
    <textarea #note class="plain" rows="2" maxlength="1000" aria-label="Note" [value]="record().note" (change)="setNote(note.value)"></textarea>
    <p class="with">
      <label class="ghost photo"
        >Add a photo<input #ph class="visually-hidden" type="file" accept="image/*" capture="environment" (change)="photo(ph.files?.[0]); ph.value = ''"
      /></label>
      @if (record().photos.length > 0) {
        <span>{{ record().photos.length }} {{ record().photos.length === 1 ? 'photo' : 'photos' }} stored</span>
      }
    </p>
    @if (problem(); as why) {
      <p class="wrong" role="alert">{{ why }}</p>
    }
  `,
  styles: `
    h3 {
      font-size: 0.9062rem;
      font-weight: var(--ck-w-strong);
      margin-top: 12px;
    }
    .row {
      border-bottom: 1px solid var(--ck-rule);
      padding: 7px 0;
      font-size: 0.875rem;
      .st {
        margin-right: 8px;
      }
      .n {
        margin-left: 6px;
      }
      p {
        font-size: 0.8438rem;
        color: var(--ck-ink-2);
      }
      .next {
        color: var(--ck-ink);
      }
    }
    .exp {
      display: flex;
      justify-content: space-between;
      gap: 10px;
      font-size: 0.875rem;
      margin-top: 4px;
    }
    .with {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      align-items: center;
      margin-top: 6px;
      font-size: 0.875rem;
    }
    textarea {
      width: 100%;
    }
    .photo {
      display: inline-flex;
      align-items: center;
      cursor: pointer;
      position: relative;
    }
  `,
})
export class TestAside {
  private readonly store = inject(JobStore);
  private readonly work = inject(TestWork);
  private readonly photos = inject(Photos);
  protected readonly units = inject(Units);
  protected readonly glyphs = verdictGlyphs;
  protected readonly words = verdictWords;
  protected readonly grades = gradeSchema.options.map((value) => ({ value, words: gradeWords[value] }));
  readonly record = input.required<TestRecord>();
  readonly expected = input.required<readonly Expected[]>();
  /** What a photo of it is called. */
  readonly photoName = input.required<string>();
  private readonly id = computed(() => this.record().id);
  /** Why a photo could not be kept. */
  protected readonly problem = linkedSignal<string, string | null>({ source: this.id, computation: () => null });
  protected readonly rows = computed<readonly ProofRow[]>(() => {
    const plan = this.store.settled();
    const job = this.store.job();
    return plan && job ? judgeTest(plan, job, this.record()) : [];
  });
  protected readonly instruments = computed(() => this.store.job()?.system.instruments ?? []);

  protected readonly keyOf = requirementKey;
  protected measured(row: ProofRow): ReturnType<typeof measuredWords> {
    return measuredWords(row, this.units.scale());
  }
  protected expectedOf(e: Expected): string {
    return this.units.speak(saidBand(e.band, e.unit, e.digits));
  }

  protected setNote(note: string): void {
    this.work.note(this.id(), { note: note.slice(0, 1000) });
  }
  protected setGrade(value: string): void {
    this.work.note(this.id(), { grade: gradeSchema.parse(value) });
  }
  protected setInstrument(value: string): void {
    this.work.note(this.id(), { instrument: value });
  }

  protected async photo(file: File | null | undefined): Promise<void> {
    const job = this.store.job();
    const id = this.id();
    if (!file || !job) return;
    const entry = await this.photos.keep(job, file, id, this.photoName());
    if (typeof entry === 'string') {
      this.problem.set(entry);
      return;
    }
    this.problem.set(null);
    this.store.edit('Add a photo', (j) => ({
      ...j,
      attachments: [...j.attachments, entry],
      tests: j.tests.map((t) => (t.id === id ? { ...t, photos: [...t.photos, entry.id].slice(0, mostPhotos) } : t)),
    }));
  }
}
