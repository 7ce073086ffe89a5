import { ChangeDetectionStrategy, Component, computed, effect, inject, input, linkedSignal, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { FaceMove } from '@calm-keel/core/face';
import type { BenchDevice } from '@calm-keel/core/practice';
import { formatTimeOfDay } from '@calm-keel/core/quantity';
import { practiceEnglish } from '@calm-keel/core/words';
import { Library } from '../data/library';
import { DeviceFront } from '../drawings/device-front';
import { VoltsLine } from '../drawings/volts-line';
import { Glyph } from '../ui/glyph';
import { stageLook } from '../ui/stages';
import { BenchPapers } from './bench-papers';
import { BenchResult } from './bench-result';
import { BenchSay } from './bench-say';
import { BenchSession } from './bench-session';
import { BenchTools } from './bench-tools';
import { Exercises } from './exercises';
import { PracticeFrame } from './practice-frame';

/** Longest stretch of the bank’s volts that is drawn, and the shortest, minutes. */
const mostMinutes = 360;
const leastMinutes = 30;

/** The three parts of the bench, of which a phone shows one. */
type Pane = 'story' | 'bench' | 'say';

/** One exercise: the story, devices and instruments, what it is and what shows it. */
@Component({
  selector: 'ck-bench-page',
  imports: [RouterLink, Glyph, DeviceFront, VoltsLine, BenchPapers, BenchResult, BenchSay, BenchTools, PracticeFrame],
  providers: [BenchSession],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './bench-page.html',
  styleUrl: './bench-page.scss',
})
export class BenchPage {
  readonly id = input.required<string>();
  protected readonly session = inject(BenchSession);
  protected readonly library = inject(Library);
  private readonly exercises = inject(Exercises);
  protected readonly pane = signal<Pane>('story');
  protected readonly panes: readonly { readonly pane: Pane; readonly words: string }[] = [
    { pane: 'story', words: 'Story' },
    { pane: 'bench', words: 'Bench' },
    { pane: 'say', words: 'What is it?' },
  ];
  protected readonly skies = [
    { light: 1, words: 'as it is' },
    { light: 0.3, words: 'cloud' },
    { light: 0, words: 'dark' },
  ] as const;
  protected readonly engines = [
    { engine: null, words: 'as it is' },
    { engine: true, words: 'on' },
    { engine: false, words: 'off' },
  ] as const;
  protected readonly paper = signal<'none' | 'sheet' | 'log'>('none');

  constructor() {
    effect(() => {
      const id = this.id();
      if (this.library.shipped()) void this.session.open(id);
    });
  }

  protected readonly bench = this.session.bench;
  protected readonly place = computed(() => {
    const bench = this.bench();
    return bench && practiceEnglish.places[bench.exercise.place];
  });
  /** What the owner says: of the first fault, for it is what brought somebody here. */
  protected readonly complaint = computed(() => {
    const bench = this.bench();
    if (!bench) return '';
    const first = bench.exercise.kind === 'find' ? bench.exercise.faults[0] : undefined;
    return first ? practiceEnglish.complaint(first.code, bench.at.place.system.chargers.length) : '';
  });
  protected readonly toProgram = computed(() => {
    const bench = this.bench();
    const { exercise } = bench ?? {};
    return exercise?.kind === 'program' ? (bench?.devices.find((d) => d.id === exercise.device)?.name ?? '') : null;
  });
  protected readonly howMany = computed(() => {
    const exercise = this.bench()?.exercise;
    return exercise?.kind === 'find' ? exercise.faults.length : 0;
  });
  /** A fault is looked for and nothing has been done yet: it is said how it goes. */
  protected readonly fresh = computed(() => this.howMany() > 0 && this.session.done().length === 0 && this.session.judged() === null);
  protected readonly when = computed(() => formatTimeOfDay(this.session.now().bench?.minuteOfDay() ?? 0));
  protected readonly around = computed(() => this.session.now().bench?.around());
  /** Loads that can be switched on beside what is on: half of what was planned at most, and all of it. */
  protected readonly loads = computed(() => {
    const most = this.bench()?.at.plan.input.system.loads.maxA ?? 0;
    return [0, Math.max(1, Math.round(most / 2)), Math.max(2, Math.round(most))];
  });
  protected readonly hasEngine = computed(() => this.devices().some((d) => d.card.kind === 'alternator' || d.card.kind === 'dcdc'));
  protected readonly devices = computed(() => this.bench()?.devices ?? []);
  protected readonly chosen = linkedSignal<readonly BenchDevice[], string>({
    source: this.devices,
    computation: (devices, before) => (before && devices.some((d) => d.id === before.value) ? before.value : (devices[0]?.id ?? '')),
  });
  protected readonly device = computed(() => this.devices().find((d) => d.id === this.chosen()));
  protected readonly face = computed(() => {
    const { bench } = this.session.now();
    const d = this.device();
    return bench && d ? bench.face(d.id) : null;
  });
  /** What the home screen of the chosen device shows now. */
  protected readonly home = computed((): readonly string[] => {
    const { bench } = this.session.now();
    const d = this.device();
    const say = this.session.say();
    if (!bench || !d || !say) return [];
    const r = bench.reading(d.id);
    if (r)
      return [
        say.volts(r.volts),
        `${say.amps(r.amps)}, ${stageLook[r.stage].words}`,
        ...(d.card.sensor.reads === 'none' ? [] : [Number.isFinite(r.celsius) ? `battery ${say.celsius(r.celsius)}` : 'battery ––']),
      ];
    const bank = bench.bank();
    return d.card.kind === 'monitor'
      ? [say.amps(bench.monitorAmps()), say.volts(bank.volts), `${Math.round(100 * bench.monitorCharge())} %`]
      : [say.celsius(bank.celsius)];
  });
  protected readonly note = computed(() => {
    const note = this.face()?.note;
    const d = this.device();
    const say = this.session.say();
    return note && d && say ? practiceEnglish.note(note, (role) => say.label(d.id, role)) : '';
  });

  /** The bank’s volts since somebody arrived, and the band that the first charger’s absorb should be in by the sheet on the wall. */
  protected readonly volts = computed(() => {
    const { bench } = this.session.now();
    if (!bench) return null;
    const minute = (seconds: number): number => bench.arrivedMinute + seconds / 60;
    const now = minute(bench.seconds());
    const points = bench
      .samples()
      .map((s) => [minute(s.at), s.volts] as const)
      .filter(([at]) => at >= now - mostMinutes);
    const from = points[0]?.[0] ?? now;
    const band = bench.wall().settings.find((s) => s.role === 'absorbVoltage' && s.band)?.band;
    return {
      points,
      span: [from, Math.max(now, from + leastMinutes)] as const,
      band: band?.min != null && band.max != null ? { min: band.min, max: band.max } : null,
    };
  });

  protected move(move: FaceMove): void {
    const d = this.device();
    if (d) this.session.act({ ...move, device: d.id });
  }
  protected writeDown(): void {
    const d = this.device();
    if (d) this.session.act({ do: 'note', device: d.id });
  }
  protected readPaper(paper: 'sheet' | 'log'): void {
    this.pane.set('bench');
    this.paper.update((now) => (now === paper ? 'none' : paper));
    if (paper === 'log' && this.paper() === 'log') this.session.act({ do: 'log' });
  }

  /** The next exercise, drawn from what the book says now. */
  protected async next(): Promise<void> {
    if (await this.exercises.next()) this.anew();
  }
  protected async again(): Promise<void> {
    const exercise = this.bench()?.exercise;
    if (exercise && (await this.exercises.begin(exercise))) this.anew();
  }
  private anew(): void {
    this.pane.set('story');
    this.paper.set('none');
  }
}
