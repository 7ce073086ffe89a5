import { ChangeDetectionStrategy, Component, computed, inject, signal, viewChild, type ElementRef } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import { format, isToday } from 'date-fns';
import { catchError, of } from 'rxjs';
import {
  chemistryWords,
  deriveSettings,
  findFindings,
  standingOfAll,
  toJob,
  type KeptVerdicts,
  type Problem,
  openStops,
  stepsToKey,
  stopsThatStay,
} from '@calm-keel/core';
import { storageProblem, type JobRow } from '../data/database';
import { today } from '../data/job-store';
import { JobBook } from '../data/job-book';
import { JobFiles, type Brought } from '../data/job-files';
import { Glyph } from '../ui/glyph';
import { KeelLine } from '../ui/keel-line';
import { ScaleSwitch } from '../ui/scale-switch';
import { stationsOf } from '../shell/stations';

const keelWidth = 326;

/** The opening view: every job on this device, and how far each has come. */
@Component({
  selector: 'ck-jobs-page',
  imports: [RouterLink, Glyph, KeelLine, ScaleSwitch],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './jobs-page.html',
  styleUrl: './jobs-page.scss',
})
export class JobsPage {
  private readonly book = inject(JobBook);
  private readonly files = inject(JobFiles);
  private readonly router = inject(Router);
  protected readonly keelWidth = keelWidth;
  private readonly picker = viewChild.required<ElementRef<HTMLInputElement>>('picker');

  protected readonly storageFault = signal<string | null>(null);
  private readonly rows = toSignal(this.book.jobs$.pipe(catchError((error: unknown) => this.fault(error))), { initialValue: null });
  private readonly kept = toSignal(this.book.verdicts().pipe(catchError(() => of([]))), { initialValue: [] });
  protected readonly deleted = toSignal(this.book.deleted$.pipe(catchError((error: unknown) => this.fault(error))), { initialValue: [] });
  protected readonly problems = signal<readonly Problem[]>([]);
  protected readonly notes = signal<readonly string[]>([]);
  protected readonly busy = signal<string | null>(null);
  protected readonly naming = signal(false);

  protected readonly loading = computed(() => this.rows() === null);
  protected readonly jobs = computed(() =>
    (this.rows() ?? []).map((row) =>
      line(
        row,
        this.kept().filter((v) => v.jobId === row.id),
      ),
    ),
  );
  protected readonly where = computed(() => (this.jobs().length === 1 ? '1 job kept on this device' : `${this.jobs().length} jobs kept on this device`));

  constructor() {
    this.book.purge().catch((error: unknown) => {
      this.storageFault.set(storageProblem(error));
    });
  }

  private fault(error: unknown) {
    this.storageFault.set(storageProblem(error));
    return of<readonly JobRow[]>([]);
  }

  protected startNaming(): void {
    this.naming.set(true);
    setTimeout(() => document.getElementById('newname')?.focus());
  }

  protected async create(name: string): Promise<void> {
    const plain = name.trim();
    if (plain === '') return;
    await this.guarded('Making the job', async () => {
      const id = await this.book.create(plain);
      await this.router.navigate(['job', id, 'spec']);
      return null;
    });
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

  protected async remove(id: string): Promise<void> {
    await this.guarded('Deleting', async () => {
      await this.book.remove(id);
      return null;
    });
  }

  protected async restore(id: string): Promise<void> {
    await this.guarded('Bringing back', async () => {
      await this.book.restore(id);
      return null;
    });
  }

  private async guarded(what: string, work: () => Promise<Brought | null>): Promise<void> {
    this.problems.set([]);
    this.notes.set([]);
    this.busy.set(what);
    try {
      const result = await work();
      if (result && !result.ok) this.problems.set(result.problems);
      if (result?.ok) this.notes.set(result.notes);
    } catch (error) {
      this.problems.set([{ code: 'storage', text: storageProblem(error) }]);
    } finally {
      this.busy.set(null);
    }
  }
}

/** One row of the list. */
function line(row: JobRow, kept: readonly KeptVerdicts[]) {
  const opened = isToday(row.updatedAt) ? `${format(row.updatedAt, 'HH:mm')} today` : format(row.updatedAt, 'd MMMM yyyy');
  const read = toJob(row.doc);
  if (!read.ok) return { id: row.id, name: row.doc.name || row.id, place: '', opened, readable: false as const };
  const job = read.value;
  const plan = deriveSettings(job);
  const findings = findFindings(plan, today());
  const stations = stationsOf(job, plan, findings, standingOfAll(job, plan, kept), null, stepsToKey(plan), stopsThatStay(job, plan, findings, today()).length);
  const stops = openStops(findings, job.accepted).length;
  const attention = findings.filter((f) => f.severity === 'attention').length;
  const next = stations.find((s) => s.state === 'stop') ?? stations.find((s) => s.state !== 'done') ?? stations[3];
  return {
    id: row.id,
    name: job.name,
    place: job.system.site.place,
    opened,
    readable: true as const,
    stations,
    places: stations.map((_, i) => 26 + (i * (keelWidth - 52)) / Math.max(1, stations.length - 1)),
    next,
    state: stops > 0 ? ('stop' as const) : attention > 0 ? ('attention' as const) : stations[0]?.state === 'notyet' ? ('notyet' as const) : ('done' as const),
    words:
      stops + attention === 0
        ? stations[0]?.state === 'notyet'
          ? 'Nothing entered yet'
          : 'No open findings'
        : [stops ? `${stops} ${stops === 1 ? 'stop' : 'stops'}` : '', attention ? `${attention} attention` : ''].filter(Boolean).join(', '),
    bank: `${job.system.bank.unitsInSeries * job.system.bank.stringsInParallel} × ${job.sheet.maker} ${job.sheet.battery}`,
    bankLine: `${plan.facts.nominalVolts.toFixed(1)} V ${plan.facts.ratedAh} Ah ${chemistryWords[job.sheet.chemistry]}, ${plan.facts.cells} cells`,
    chargers: job.system.chargers.map((c) => c.name),
  };
}
