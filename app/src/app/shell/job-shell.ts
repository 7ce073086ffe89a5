import { afterNextRender, ChangeDetectionStrategy, Component, computed, effect, ElementRef, inject, Injector, input, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { NavigationEnd, Router, RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';
import { NgbDropdown, NgbDropdownItem, NgbDropdownMenu, NgbDropdownToggle } from '@ng-bootstrap/ng-bootstrap/dropdown';
import { format } from 'date-fns';
import { distinctUntilChanged, filter, map, skip, startWith, tap } from 'rxjs';
import { acceptedBy } from '@calm-keel/core/job';
import { isAnswered } from '@calm-keel/core/runsheet';
import { bankLine, devicesOf } from '@calm-keel/core/settings';
import { hasFigures } from '@calm-keel/core/sheet';
import { JobFiles } from '../data/job-files';
import { LogJudge } from '../data/log-judge';
import { JobStore } from '../data/job-store';
import { RunWork } from '../data/run-work';
import { Selection } from '../data/selection';
import { Speech } from '../data/speech';
import { Units } from '../data/units';
import { ViewSize } from '../data/view-size';
import { Announcer } from '../ui/announcer';
import { land } from '../ui/focus-keeper';
import { Glossary } from '../ui/glossary';
import { Glyph, type GlyphName } from '../ui/glyph';
import { KeelLine } from '../ui/keel-line';
import { ScaleSwitch } from '../ui/scale-switch';
import { isTyping } from '../ui/typing';
import { UnsavedPanel } from '../ui/unsaved-panel';
import { WordsButton } from '../ui/words-button';
import { Course } from '../data/course';
import { ChosenAddress } from './chosen-address';
import { Leaving } from './leaving';

/** The frame of an open job: top bar, keel line, roster, and the station's own work and inspector. */
@Component({
  selector: 'ck-job-shell',
  imports: [
    RouterOutlet,
    RouterLink,
    RouterLinkActive,
    Glyph,
    KeelLine,
    ScaleSwitch,
    UnsavedPanel,
    WordsButton,
    NgbDropdown,
    NgbDropdownToggle,
    NgbDropdownMenu,
    NgbDropdownItem,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './job-shell.html',
  styleUrls: ['./keel.scss', './roster.scss', './phone-bar.scss', './job-shell.scss'],
  providers: [ChosenAddress],
  host: { '(document:keydown)': 'keys($event)' },
})
export class JobShell {
  protected readonly store = inject(JobStore);
  protected readonly units = inject(Units);
  private readonly speech = inject(Speech);
  protected readonly selection = inject(Selection);
  protected readonly size = inject(ViewSize);
  readonly leaving = inject(Leaving);
  protected readonly glossary = inject(Glossary);
  private readonly files = inject(JobFiles);
  private readonly run = inject(RunWork);
  private readonly router = inject(Router);
  private readonly injector = inject(Injector);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly id = input.required<string>();
  protected readonly rosterOpen = signal(false);
  private readonly announcer = inject(Announcer);

  private readonly course = inject(Course);
  protected readonly stations = this.course.stations;
  /** Stations stand at equal distances, the first a little in from the edge. */
  protected readonly places = computed(() => this.stations().map((_, i) => Math.round(34 + (i * (this.size.width() - 40)) / this.stations().length)));
  /** Being stored: shown, and not spoken; that it is stored is. */
  protected readonly saving = computed(() => this.store.save().kind === 'saving');
  protected readonly saved = computed(() => {
    const save = this.store.save();
    return save.kind === 'saved' ? (save.at === 0 ? '' : `Saved on this device ${format(save.at, 'HH:mm')}`) : 'Not saved';
  });
  protected readonly bank = computed(() => {
    const plan = this.store.plan();
    if (!plan) return null;
    const { sheet, system } = plan.input;
    const units = system.bank.unitsInSeries * system.bank.stringsInParallel;
    return {
      units: `${units} × ${sheet.maker} ${sheet.battery}`.trim(),
      cells: bankLine(plan),
      ...(hasFigures(sheet)
        ? { state: 'done' as const, words: sheet.revision === '' ? 'Sheet entered' : `Sheet rev ${sheet.revision}` }
        : { state: 'notyet' as const, words: 'No figure yet' }),
    };
  });
  private readonly roster = computed(() => {
    const plan = this.store.plan();
    if (!plan) return [];
    const job = this.store.job();
    if (!job) return [];
    return devicesOf(plan.input).map((device) => {
      const card = plan.input.cards.find((c) => c.id === device.card);
      const worst = this.store.findings().find((f) => f.charger === device.id && f.severity !== 'note' && !acceptedBy(job, f));
      const entered = this.entered().get(device.id);
      if (entered) return { id: device.id, name: device.name, model: card ? `${card.maker} ${card.model}` : 'No card', ...entered };
      const state: GlyphName = worst ? worst.severity : card ? 'done' : 'notyet';
      const fine = device.follows === undefined ? 'In band' : 'Follows its leader';
      return {
        id: device.id,
        name: device.name,
        model: card ? `${card.maker} ${card.model}` : 'No card',
        state,
        words: worst ? this.speech.short(worst.code) : fine,
      };
    });
  });
  /** While a run sheet is under way: how many values of each device were read back. */
  private readonly entered = computed(() => {
    const sheet = this.run.running() ? this.run.sheet() : null;
    const all = new Map<string, { state: GlyphName; words: string }>();
    if (!sheet) return all;
    const kept = this.run.kept();
    for (const device of new Set(sheet.steps.flatMap((s) => s.device ?? []))) {
      const edits = sheet.steps.filter((s) => s.device === device && s.kind === 'edit');
      const proof = sheet.steps.find((s) => s.device === device && s.kind === 'persist');
      const done = edits.filter((s) => isAnswered(s, kept)).length;
      const proved = proof !== undefined && kept.get(proof.id)?.state === 'done';
      all.set(
        device,
        proved
          ? { state: 'done', words: 'Read back' }
          : { state: 'notyet', words: edits.length === 0 ? 'To be looked at' : `${done} of ${edits.length} entered` },
      );
    }
    return all;
  });
  /** The roster in its parts: chargers, then companions. */
  protected readonly parts = computed(() => {
    const count = this.store.plan()?.input.system.chargers.length ?? 0;
    return [
      { title: 'Chargers', devices: this.roster().slice(0, count) },
      ...(this.roster().length > count ? [{ title: 'Companions', devices: this.roster().slice(count) }] : []),
    ];
  });

  constructor() {
    inject(LogJudge);
    inject(ChosenAddress);
    this.reading.set(this.station() === 'paper');
    effect(() => {
      this.store.open(this.id());
    });
    // Who goes to another station goes to its work: the next Tab is the first thing there.
    this.router.events
      .pipe(
        filter((event) => event instanceof NavigationEnd),
        map(() => this.station()),
        tap((station) => {
          this.reading.set(station === 'paper');
        }),
        startWith(this.station()),
        distinctUntilChanged(),
        skip(1),
        takeUntilDestroyed(),
      )
      .subscribe(() => {
        if (this.size.phone()) scrollTo(0, 0);
        afterNextRender(
          () => {
            this.toWork();
          },
          { injector: this.injector },
        );
      });
  }

  /** A paper is read: it takes the room of the roster. */
  protected readonly reading = signal(false);

  /** The station in view, from the address. */
  private station(): string {
    return this.router.url.split(/[/?#]/)[3] ?? '';
  }

  /** Puts the focus to the head of the work, where the next Tab goes on from. */
  protected toWork(): void {
    const head = this.host.nativeElement.querySelector<HTMLElement>('.work h1');
    if (!head || head.closest('.work')?.querySelector('.sheet :focus')) return;
    land(head);
  }

  protected keys(event: KeyboardEvent): void {
    if (event.altKey && (event.key === 'PageDown' || event.key === 'PageUp')) {
      const beside = this.course.beside(this.station(), event.key === 'PageDown' ? 1 : -1);
      event.preventDefault();
      if (beside) void this.router.navigate(['job', this.id(), beside.path]);
      return;
    }
    // Where text is typed, undo is the field's own.
    if (!(event.ctrlKey || event.metaKey) || isTyping(event.target) || event.key.toLowerCase() !== 'z') return;
    event.preventDefault();
    void this.step(event.shiftKey ? 1 : -1);
  }

  protected async step(direction: -1 | 1): Promise<void> {
    const label = direction === -1 ? await this.store.undo() : await this.store.redo();
    if (label) this.announcer.say(`${direction === -1 ? 'Undid' : 'Redid'}: ${label}`);
  }

  protected async saveFile(alone: boolean): Promise<void> {
    const job = this.store.job();
    if (!job) return;
    if (alone) this.files.saveDocument(job);
    else await this.files.save(job);
  }

  protected choose(charger: string | null): void {
    this.selection.charger.set(charger);
    this.rosterOpen.set(false);
    if (charger === null) void this.router.navigate(['job', this.id(), 'system']);
  }
}
