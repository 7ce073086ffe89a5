import { computed, inject, Injectable, signal } from '@angular/core';
import type { LogEntry } from '@calm-keel/core/job';
import { logOfMoments, reportOf, valuesOfDevice, valuesOfFields, type Moment } from '@calm-keel/core/proof';
import { cardOf, devicesOf } from '@calm-keel/core/settings';
import { storageProblem } from './database';
import { DeviceLink } from './device-link';
import { FieldMaps } from './field-maps';
import { freeId } from './free-id';
import { JobBook } from './job-book';
import { JobStore } from './job-store';

const everyMs = 1000;
/** What is recorded is put away so often, so that a closed page loses little. */
const keepEveryMs = 10_000;
/** One sample a second for a day and a night. */
const mostSamples = 90_000;

/** Records what the devices tell into a log of the job, while somebody watches. */
@Injectable({ providedIn: 'root' })
export class LiveRecord {
  private readonly link = inject(DeviceLink);
  private readonly maps = inject(FieldMaps);
  private readonly store = inject(JobStore);
  private readonly book = inject(JobBook);

  /** The log that is being written; null while nothing is. */
  readonly running = signal<{ readonly id: string; readonly job: string; readonly since: number } | null>(null);
  readonly count = signal(0);
  readonly problem = signal<string | null>(null);
  /** The newest minutes, for a small plot: bank volts and the current of the chosen charger. */
  readonly recent = signal<readonly { readonly at: number; readonly volts: number; readonly amps: number; readonly celsius: number }[]>([]);
  readonly linked = computed(() => {
    const job = this.store.job();
    const names = this.link.names() ?? [];
    return job ? devicesOf(job).filter((d) => d.link !== undefined && names.includes(d.link)) : [];
  });

  private samples: Moment[] = [];
  private timer: ReturnType<typeof setInterval> | undefined;
  private keptAt = 0;
  private entered = false;
  private name = '';
  private watched: string | null = null;
  private saving: Promise<void> = Promise.resolve();

  /** Begins a log of everything that is linked. */
  async begin(name: string, watched: string | null): Promise<string | null> {
    const job = this.store.job();
    if (!job || this.running()) return this.running()?.id ?? null;
    this.problem.set(null);
    try {
      await this.link.look();
      const devices = this.linked().flatMap((d) => {
        const card = cardOf(job, d);
        return d.link === undefined ? [] : [{ name: d.link, card: card ?? null }];
      });
      if (devices.length === 0) {
        this.problem.set('No device of this job can be read over the wire. Name its address on System, or take readings by hand.');
        return null;
      }
      await this.link.attach(devices);
    } catch (error) {
      this.problem.set(error instanceof Error ? error.message : 'The devices cannot be read.');
      return null;
    }
    const id = freeId(name, await this.book.contentIds(job.id), 'live');
    this.samples = [];
    this.entered = false;
    this.count.set(0);
    this.recent.set([]);
    this.watched = watched;
    this.running.set({ id, job: job.id, since: Date.now() });
    this.keptAt = Date.now();
    this.name = name;
    this.timer = setInterval(() => {
      this.take();
    }, everyMs);
    return id;
  }

  /** Stops, and keeps what was recorded. */
  async end(): Promise<void> {
    clearInterval(this.timer);
    this.timer = undefined;
    await this.keep();
    this.running.set(null);
  }

  private take(): void {
    const job = this.store.job();
    const here = this.running()?.job;
    if (!job || here !== job.id) return void this.end();
    const now = Date.now();
    const values = new Map<string, number>();
    for (const d of this.linked()) {
      const state = this.link.live().get(d.link ?? '');
      // What is older than three seconds is no value of this moment.
      if (state?.problem !== null || now - state.at >= 3000) continue;
      const mapping = state.fields ? this.maps.of(d.link ?? '') : null;
      const told = state.fields
        ? mapping && valuesOfFields(mapping, state.fields)
        : valuesOfDevice(
            d.id,
            job.system.chargers.some((c) => c.id === d.id),
            state.live,
          );
      for (const [name, value] of told ?? []) if (!values.has(name)) values.set(name, value);
    }
    if (values.size === 0) return;
    this.samples.push({ at: now / 1000, values });
    this.count.update((n) => n + 1);
    const own = (meaning: string): number | undefined => (this.watched === null ? undefined : values.get(`${meaning} ${this.watched}`));
    this.recent.update((list) => [
      ...list.slice(-599),
      {
        at: now / 1000,
        volts: values.get('bankVolts') ?? own('volts') ?? NaN,
        amps: own('amps') ?? NaN,
        celsius: own('batteryC') ?? values.get('batteryC') ?? NaN,
      },
    ]);
    if (this.samples.length >= mostSamples) return void this.end();
    if (now - this.keptAt >= keepEveryMs) {
      this.keptAt = now;
      void this.keep();
    }
  }

  /** Where it all came from, in a sentence. */
  private heardHow(): string {
    const names = this.linked().map((d) => d.link ?? '');
    const talking = names.filter((n) => this.link.talks(n));
    const letGo = talking.map((n) => this.link.live().get(n)?.letGo);
    const lost = letGo.reduce((sum, l) => sum + (l ? l.noise + l.doubled + l.late + l.stored : 0), 0);
    return [
      talking.length < names.length ? 'Recorded from the devices’ own registers.' : '',
      talking.length > 0 ? `Recorded from what ${talking.map((n) => `“${n}”`).join(', ')} said.` : '',
      lost > 0 ? `${lost} lines or messages were damaged, doubled, late or of unknown age, and were left out.` : '',
    ]
      .filter(Boolean)
      .join(' ');
  }

  /** Puts what there is beside the job, and an entry into it. */
  private keep(): Promise<void> {
    const job = this.store.job();
    const running = this.running();
    if (!job || !running || this.samples.length < 2) return this.saving;
    const log = logOfMoments(this.samples, -new Date((this.samples[0]?.at ?? 0) * 1000).getTimezoneOffset());
    if (!log) return this.saving;
    const report = reportOf(log, { skipped: 0, firstSkipped: [], notes: [this.heardHow()] });
    const entry: LogEntry = {
      id: running.id,
      name: this.name.slice(0, 120),
      instrument: job.system.instruments.find((i) => i.id === 'monitor')?.id ?? job.system.provingInstrument,
      from: log.time[0] ?? 0,
      to: log.time.at(-1) ?? 0,
      rows: report.rows,
      recorded: true,
    };
    this.saving = this.saving
      .then(() => this.book.putLog({ jobId: job.id, id: running.id, log, report }))
      .then(() => {
        // The job is told at the beginning and at the end; in between only samples are put away, so that undo is not flooded.
        if (this.entered && this.timer !== undefined) return;
        this.entered = true;
        this.store.edit(`Record ${entry.name}`, (j) => ({
          ...j,
          logs: j.logs.some((l) => l.id === entry.id)
            ? j.logs.map((l) => (l.id === entry.id ? { ...l, to: entry.to, rows: entry.rows } : l))
            : [...j.logs, entry],
        }));
      })
      .catch((error: unknown) => {
        this.problem.set(storageProblem(error));
      });
    return this.saving;
  }
}
