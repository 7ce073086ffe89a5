import { ApplicationRef, ChangeDetectionStrategy, Component, computed, inject, Injector, signal, viewChild, type ElementRef } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import { NgbDropdown, NgbDropdownItem, NgbDropdownMenu, NgbDropdownToggle } from '@ng-bootstrap/ng-bootstrap/dropdown';
import { addDays, format } from 'date-fns';
import { catchError, of } from 'rxjs';
import { asTemplate, toJob, type KeptVerdicts } from '@calm-keel/core/job';
import type { Problem } from '@calm-keel/core/quantity';
import { storageProblem, type DamagedRow, type JobRow } from '../data/database';
import { Exchange, ExchangeProblem } from '../data/exchange';
import { freeId } from '../data/free-id';
import { JobBook } from '../data/job-book';
import { today } from '../data/job-store';
import { download, JobFiles, type Brought, type Meeting, type OpenBackup } from '../data/job-files';
import { Library } from '../data/library';
import { Safekeeping } from '../data/safekeeping';
import { Glyph, type GlyphName } from '../ui/glyph';
import { KeelLine } from '../ui/keel-line';
import { PageBar } from '../ui/page-bar';
import { logFiles } from '../ui/log-files';
import { UnsavedPanel } from '../ui/unsaved-panel';
import { DamagedPanel } from './damaged-panel';
import { ExchangePanel } from './exchange-panel';
import { dayWords } from '../ui/day-words';
import { jobLine, keelWidth, type JobLine } from './job-line';
import { MeetingPanel } from './meeting-panel';
import { RestorePanel } from './restore-panel';
import { SafePanel } from './safe-panel';
import { SisterPanel } from './sister-panel';
import { version } from '../../../../package.json';

type Filter = 'all' | 'stops' | 'due' | 'archived';

/** Due within so many days counts as due. */
const soonDays = 30;

const legend: readonly (readonly [GlyphName, string])[] = [
  ['proved', 'Proved'],
  ['done', 'Done'],
  ['attention', 'Attention'],
  ['stop', 'Stop'],
  ['notyet', 'Not yet'],
  ['inconclusive', 'Inconclusive'],
];

/** The opening view: every job on this device, how far each has come, and what is due. */
@Component({
  selector: 'ck-jobs-page',
  imports: [
    RouterLink,
    Glyph,
    KeelLine,
    PageBar,
    ExchangePanel,
    MeetingPanel,
    RestorePanel,
    SafePanel,
    SisterPanel,
    DamagedPanel,
    UnsavedPanel,
    NgbDropdown,
    NgbDropdownToggle,
    NgbDropdownMenu,
    NgbDropdownItem,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './jobs-page.html',
  styleUrl: './jobs-page.scss',
})
export class JobsPage {
  protected readonly version = version;
  private readonly book = inject(JobBook);
  private readonly files = inject(JobFiles);
  private readonly library = inject(Library);
  private readonly safe = inject(Safekeeping);
  protected readonly exchange = inject(Exchange);
  private readonly injector = inject(Injector);
  private readonly router = inject(Router);
  private readonly application = inject(ApplicationRef);
  protected readonly keelWidth = keelWidth;
  protected readonly legend = legend;
  protected readonly logFiles = logFiles;
  protected readonly dayWords = dayWords;
  protected readonly late = (on: string): boolean => on < today();
  private readonly picker = viewChild.required<ElementRef<HTMLInputElement>>('picker');

  protected readonly storageFault = signal<string | null>(null);
  protected readonly rows = toSignal(this.book.jobs$.pipe(catchError((error: unknown) => this.fault(error))), { initialValue: null });
  private readonly kept = toSignal(this.book.verdicts().pipe(catchError(() => of([]))), { initialValue: [] });
  protected readonly deleted = toSignal(this.book.deleted$.pipe(catchError((error: unknown) => this.fault(error))), { initialValue: [] });
  protected readonly problems = signal<readonly Problem[]>([]);
  protected readonly notes = signal<readonly string[]>([]);
  protected readonly busy = signal<string | null>(null);
  /** What is being named: a new job, or one made like another. */
  protected readonly naming = signal<{ readonly like: string | null; readonly name: string } | null>(null);
  protected readonly meeting = signal<Meeting | null>(null);
  protected readonly backup = signal<OpenBackup | null>(null);
  private readonly sisterId = signal<string | null>(null);
  protected readonly sister = computed(() => this.rows()?.find((row) => row.id === this.sisterId()) ?? null);

  /** Something waits for an answer: that has the one copper button. */
  protected readonly asking = computed(() => this.meeting() !== null || this.backup() !== null || this.sister() !== null);

  protected readonly search = signal('');
  protected readonly filter = signal<Filter>('all');

  protected readonly loading = computed(() => this.rows() === null);
  private readonly lines = computed(() => {
    const kept = this.kept();
    const sheets = this.library.sheets();
    const before = this.known;
    this.known = new Map();
    return (this.rows() ?? []).map((row) =>
      this.line(
        row,
        kept.filter((v) => v.jobId === row.id),
        sheets,
        before,
      ),
    );
  });
  protected readonly count = computed(() => this.lines().filter((l) => l.readable).length);
  private readonly damagedRows = toSignal(this.book.damaged$.pipe(catchError(() => of([]))), { initialValue: [] });
  /** What is stored as a job and cannot be read as one. */
  protected readonly damaged = computed<readonly DamagedRow[]>(() => [
    ...this.damagedRows(),
    ...this.lines().flatMap((l): DamagedRow[] =>
      l.readable ? [] : [{ table: 'jobs', key: l.id, name: l.name, why: l.why, raw: this.rows()?.find((row) => row.id === l.id) }],
    ),
  ]);
  protected readonly filters = computed(() =>
    (
      [
        ['all', 'All'],
        ['stops', 'With stops'],
        ['due', 'Due soon'],
        ['archived', 'Put away'],
      ] as const
    ).map(([id, words]) => ({ id, words, count: this.lines().filter((l) => l.readable && passes(l, id)).length })),
  );
  protected readonly jobs = computed<readonly Extract<JobLine, { readable: true }>[]>(() => {
    const wanted = this.search().trim().toLowerCase().split(/\s+/).filter(Boolean);
    return this.lines().filter(
      (l): l is Extract<JobLine, { readable: true }> => l.readable && passes(l, this.filter()) && wanted.every((word) => l.text.includes(word)),
    );
  });
  /** Everything that is due on jobs that are not put away, the soonest first. */
  protected readonly due = computed(() =>
    this.lines()
      .flatMap((l) => (l.readable && !l.archived ? l.due.map((d) => ({ ...d, id: l.id, name: l.name, late: this.late(d.on) })) : []))
      .sort((a, b) => a.on.localeCompare(b.on)),
  );
  protected readonly where = computed(() => (this.count() === 1 ? '1 job kept on this device' : `${this.count()} jobs kept on this device`));

  /** The lines last shown, by what they rest on: a job that was not touched is not worked out again. */
  private known = new Map<string, JobLine>();
  private line(row: JobRow, kept: readonly KeptVerdicts[], sheets: Parameters<typeof jobLine>[2], before: ReadonlyMap<string, JobLine>): JobLine {
    const key = [row.id, row.updatedAt, row.seq, row.archivedAt, today(), sheets.length, ...kept.map((k) => `${k.logId} ${k.basis}`)].join('|');
    const line = before.get(key) ?? jobLine(row, kept, sheets);
    this.known.set(key, line);
    return line;
  }

  private fault(error: unknown) {
    this.storageFault.set(storageProblem(error));
    return of<readonly JobRow[]>([]);
  }

  protected startNaming(like: JobLine | null = null): void {
    this.naming.set({ like: like?.id ?? null, name: like ? `${like.name}, again` : '' });
    // Drawn and in hand before the next key comes: a quick typist loses no letter.
    this.application.tick();
    const field = document.getElementById('newname') as HTMLInputElement | null;
    field?.focus();
    field?.select();
  }

  protected async create(name: string): Promise<void> {
    const plain = name.trim();
    const naming = this.naming();
    if (plain === '' || !naming) return;
    await this.guarded('Making the job', async () => {
      const id = naming.like === null ? await this.book.create(plain) : await this.like(naming.like, plain);
      this.naming.set(null);
      void this.safe.persist();
      await this.router.navigate(['job', id, naming.like === null ? 'spec' : 'system']);
      return null;
    });
  }

  private async like(id: string, name: string): Promise<string> {
    const row = await this.book.get(id);
    const job = row && toJob(row.doc);
    if (!job?.ok) throw new Error('this job cannot be read');
    return this.book.add(asTemplate(job.value, freeId(name, [], 'job'), name, new Date().toISOString()), `Made like ${job.value.name}`);
  }

  protected openDemo(): Promise<void> {
    return this.guarded('Opening the demo', () => this.files.openDemo());
  }

  protected pick(): void {
    this.picker().nativeElement.click();
  }

  protected async bring(input: HTMLInputElement): Promise<void> {
    const file = input.files?.[0];
    if (!file) return;
    await this.guarded(`Reading ${file.name}`, () => this.files.bring(file));
    input.value = '';
  }

  /** Makes a job of a log: nothing of it is made before its files were opened and hold a log. */
  protected async judgeLog(input: HTMLInputElement): Promise<void> {
    const files = [...(input.files ?? [])];
    const [first] = files;
    if (!first) return;
    await this.guarded(`Looking at ${files.length > 1 ? `${files.length} files` : first.name}`, async () => {
      const { LogImport } = await import('../data/log-import');
      const logs = this.injector.get(LogImport);
      const look = await logs.look(files, { chargers: [], nominalVolts: null });
      if (!look) return { ok: false, problems: logs.problems() };
      const id = await this.book.create(first.name.replace(/\.\w+$/, '').slice(0, 80) || 'Log');
      logs.hold(id, look);
      void this.safe.persist();
      await this.router.navigate(['job', id, 'prove', 'mapping']);
      return null;
    });
    input.value = '';
  }

  protected remove(id: string): Promise<void> {
    return this.quietly('Deleting', () => this.book.remove(id));
  }

  protected restore(id: string): Promise<void> {
    return this.quietly('Bringing back', () => this.book.restore(id));
  }

  /** Which deleted job is asked about. */
  protected readonly clearing = signal<string | null>(null);
  protected clearAway(id: string): Promise<void> {
    this.clearing.set(null);
    return this.quietly('Deleting for good', () => this.book.clearAway(id));
  }

  protected archive(id: string, away: boolean): Promise<void> {
    return this.quietly(away ? 'Putting away' : 'Taking out', () => this.book.archive(id, away));
  }

  protected save(id: string): Promise<void> {
    return this.quietly('Packing the job', async () => {
      const row = await this.book.get(id);
      const job = row && toJob(row.doc);
      if (job?.ok) await this.files.save(job.value);
    });
  }

  protected give(id: string): Promise<void> {
    return this.guarded('Handing the job over', async () => {
      const row = await this.book.get(id);
      const job = row && toJob(row.doc);
      if (!job?.ok) return null;
      await this.exchange.give(job.value);
      return { ok: true, id, notes: [`“${job.value.name}” waits for the other device to take it in.`] };
    });
  }

  /** Something came over from the other device. */
  protected take(brought: Brought): Promise<void> {
    return this.guarded('Taking it in', () => Promise.resolve(brought));
  }

  protected choices(id: string): void {
    this.sisterId.set(id);
    scrollTo({ top: 0 });
  }

  protected settled(notes: readonly string[] | null): void {
    this.meeting.set(null);
    this.backup.set(null);
    this.sisterId.set(null);
    this.notes.set(notes ?? []);
  }

  protected calendar(): Promise<void> {
    return this.quietly('Writing the calendar', async () => {
      const jobs = this.lines().flatMap((l) => (l.readable && !l.archived && l.due.length > 0 ? [{ id: l.id, name: l.name, due: l.due }] : []));
      const { calendarOf } = await import('../data/calendar');
      download(new Blob([calendarOf(jobs, new Date().toISOString())], { type: 'text/calendar' }), 'calm-keel-due.ics');
    });
  }

  private quietly(what: string, work: () => Promise<void>): Promise<void> {
    return this.guarded(what, async () => {
      await work();
      return null;
    });
  }

  private async guarded(what: string, work: () => Promise<Brought | null>): Promise<void> {
    this.settled([]);
    this.problems.set([]);
    this.busy.set(what);
    try {
      const result = await work();
      if (!result) return;
      if (!result.ok) this.problems.set(result.problems);
      else if ('meets' in result) this.meeting.set(result.meets);
      else if ('backup' in result) this.backup.set(result.backup);
      else {
        this.notes.set(result.notes);
        void this.safe.persist();
      }
    } catch (error) {
      this.problems.set([{ code: 'storage', text: error instanceof ExchangeProblem ? error.message : storageProblem(error) }]);
    } finally {
      this.busy.set(null);
    }
  }
}

function passes(line: JobLine, filter: Filter): boolean {
  if (filter === 'archived') return line.archived;
  if (line.archived) return false;
  if (filter === 'stops') return line.readable && line.stops > 0;
  if (filter === 'due') return line.readable && line.due.some((d) => d.on <= soon());
  return true;
}

const soon = (): string => format(addDays(new Date(), soonDays), 'yyyy-MM-dd');
