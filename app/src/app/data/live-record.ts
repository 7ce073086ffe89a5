import { computed, inject, Injectable, signal } from '@angular/core';
import { cardOf, devicesOf, reportOf, type Job, type Log, type LogEntry } from '@calm-keel/core';
import { storageProblem } from './database';
import { DeviceLink } from './device-link';
import { freeId } from './free-id';
import { JobBook } from './job-book';
import { JobStore } from './job-store';

/** A moment as all devices told it. */
interface Sample {
  readonly at: number;
  readonly values: ReadonlyMap<string, Readonly<Record<string, number | null | undefined>>>;
}

const everyMs = 1000;
/** What is recorded is put away so often, so that a closed page loses little. */
const keepEveryMs = 10_000;
/** One sample a second for a day and a night. */
const mostSamples = 90_000;

/** Records what the devices tell into a log of the job, while somebody watches. */
@Injectable({ providedIn: 'root' })
export class LiveRecord {
  private readonly link = inject(DeviceLink);
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

  private samples: Sample[] = [];
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
        return card && d.link !== undefined ? [{ name: d.link, card }] : [];
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
    const values = new Map<string, Readonly<Record<string, number | null | undefined>>>();
    for (const d of this.linked()) {
      const state = this.link.live().get(d.link ?? '');
      // What is older than three seconds is no value of this moment.
      if (state?.problem === null && now - state.at < 3000) values.set(d.id, state.live);
    }
    if (values.size === 0) return;
    this.samples.push({ at: now / 1000, values });
    this.count.update((n) => n + 1);
    const own = this.watched === null ? undefined : values.get(this.watched);
    const bank = [...values.values()].find((v) => v['bankAmps'] !== undefined);
    this.recent.update((list) => [
      ...list.slice(-599),
      { at: now / 1000, volts: bank?.['volts'] ?? own?.['volts'] ?? NaN, amps: own?.['amps'] ?? NaN, celsius: own?.['celsius'] ?? NaN },
    ]);
    if (this.samples.length >= mostSamples) return void this.end();
    if (now - this.keptAt >= keepEveryMs) {
      this.keptAt = now;
      void this.keep();
    }
  }

  /** Puts what there is beside the job, and an entry into it. */
  private keep(): Promise<void> {
    const job = this.store.job();
    const running = this.running();
    if (!job || !running || this.samples.length < 2) return this.saving;
    const log = logOfSamples(job, this.samples);
    const report = reportOf(log, { skipped: 0, firstSkipped: [], notes: ['Recorded from the devices’ own registers.'] });
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

/** Samples as a log: the monitor's view of the bank, each charger's own of itself. */
export function logOfSamples(job: Job, samples: readonly Sample[]): Log {
  const column = (pick: (s: Sample) => number | null | undefined): Float32Array => Float32Array.from(samples, (s) => pick(s) ?? NaN);
  const any = (data: Float32Array): boolean => data.some((v) => v === v);
  const monitor = (s: Sample) => job.system.companions.map((c) => s.values.get(c.id)).find((v) => v?.['bankAmps'] != null);
  const chargers: Record<string, { volts?: Float32Array; amps?: Float32Array; arrayVolts?: Float32Array; stage?: Uint8Array }> = {};
  for (const { id } of job.system.chargers) {
    const of = (key: string): Float32Array => column((s) => s.values.get(id)?.[key]);
    const amps = of('amps');
    if (!any(amps)) continue;
    const arrayVolts = of('inputVolts');
    const volts = of('volts');
    const stage = of('stage');
    chargers[id] = {
      amps,
      ...(any(volts) ? { volts } : {}),
      ...(any(arrayVolts) ? { arrayVolts } : {}),
      ...(any(stage) ? { stage: Uint8Array.from(stage, (v) => (v === v ? v : 255)) } : {}),
    };
  }
  const bankVolts = column((s) => monitor(s)?.['volts'] ?? [...s.values.values()].find((v) => v['volts'] != null)?.['volts']);
  const bankAmps = column((s) => monitor(s)?.['bankAmps']);
  const batteryC = column((s) => monitor(s)?.['celsius'] ?? job.system.chargers.map((c) => s.values.get(c.id)?.['celsius']).find((v) => v != null));
  const charge = column((s) => monitor(s)?.['charge']);
  return {
    time: Float64Array.from(samples, (s) => s.at),
    offsetMinutes: -new Date((samples[0]?.at ?? 0) * 1000).getTimezoneOffset(),
    bankVolts,
    ...(any(bankAmps) ? { bankAmps } : {}),
    ...(any(batteryC) ? { batteryC } : {}),
    ...(any(charge) ? { stateOfCharge: charge } : {}),
    chargers,
  };
}
