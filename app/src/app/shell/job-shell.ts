import type { TemplateRef } from '@angular/core';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  Injector,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { NavigationEnd, Router, RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';
import { NgbDropdown, NgbDropdownItem, NgbDropdownMenu, NgbDropdownToggle } from '@ng-bootstrap/ng-bootstrap/dropdown';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { NgbOffcanvas } from '@ng-bootstrap/ng-bootstrap/offcanvas';
import { format } from 'date-fns';
import { distinctUntilChanged, filter, map, skip, startWith, tap } from 'rxjs';
import { JobFiles } from '../data/job-files';
import { LogJudge } from '../data/log-judge';
import { JobStore } from '../data/job-store';
import { Selection } from '../data/selection';
import { Units } from '../data/units';
import { ViewSize } from '../data/view-size';
import { Announcer } from '../ui/announcer';
import { land } from '../ui/focus-keeper';
import { Glossary } from '../ui/glossary';
import { Glyph } from '../ui/glyph';
import { KeelLine } from '../ui/keel-line';
import { ScaleSwitch } from '../ui/scale-switch';
import { Tip } from '../ui/tip';
import { isTyping } from '../ui/typing';
import { UnsavedPanel } from '../ui/unsaved-panel';
import { WordsButton } from '../ui/words-button';
import { Course } from '../data/course';
import { ChosenAddress } from './chosen-address';
import { Leaving } from './leaving';
import { Roster } from './roster';

/** The frame of an open job: top bar, keel line, roster, and the station's own work and inspector. */
@Component({
  selector: 'ck-job-shell',
  imports: [
    RouterOutlet,
    RouterLink,
    RouterLinkActive,
    Glyph,
    KeelLine,
    Roster,
    ScaleSwitch,
    Tip,
    UnsavedPanel,
    WordsButton,
    NgbDropdown,
    NgbDropdownToggle,
    NgbDropdownMenu,
    NgbDropdownItem,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './job-shell.html',
  styleUrls: ['./keel.scss', './phone-bar.scss', './job-shell.scss'],
  providers: [ChosenAddress],
  host: { '(document:keydown)': 'keys($event)' },
})
export class JobShell {
  protected readonly store = inject(JobStore);
  protected readonly units = inject(Units);
  protected readonly selection = inject(Selection);
  protected readonly size = inject(ViewSize);
  readonly leaving = inject(Leaving);
  protected readonly glossary = inject(Glossary);
  private readonly files = inject(JobFiles);
  private readonly router = inject(Router);
  private readonly injector = inject(Injector);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly id = input.required<string>();
  private readonly drawers = inject(NgbOffcanvas);
  private readonly modals = inject(NgbModal);
  private readonly question = viewChild.required<TemplateRef<unknown>>('question');
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

  constructor() {
    inject(LogJudge);
    inject(ChosenAddress);
    this.reading.set(this.station() === 'paper');
    effect(() => {
      this.store.open(this.id());
    });
    effect(() => {
      if (this.leaving.asking())
        untracked(() => {
          this.askToLeave();
        });
    });
    // Who goes to another station goes to its work: the next Tab is the first thing there.
    this.router.events
      .pipe(
        filter((event) => event instanceof NavigationEnd),
        tap(() => {
          this.drawers.dismiss();
        }),
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

  /** On a phone: the roster, over the work. */
  protected openRoster(drawer: TemplateRef<unknown>): void {
    this.drawers.open(drawer, { position: 'end', animation: false, ariaLabelledBy: 'roster-title' });
  }

  /** Whether a job is left whose last changes are not saved; Escape stays. */
  private askToLeave(): void {
    // Asked again while it is open: the same answer counts.
    if (this.modals.hasOpenModals()) return;
    const asked = this.modals.open(this.question(), { animation: false, ariaLabelledBy: 'leave-title', centered: true });
    asked.result.then(
      () => {
        this.leaving.answer(true);
      },
      () => {
        this.leaving.answer(false);
      },
    );
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
    this.drawers.dismiss();
    if (charger === null) void this.router.navigate(['job', this.id(), 'system']);
  }
}
