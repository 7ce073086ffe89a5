import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, viewChild, type ElementRef } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { format, parseISO } from 'date-fns';
import { displayText, parameterFor } from '@calm-keel/core/card';
import { editPlan, type EditPlan } from '@calm-keel/core/edits';
import { changedSince } from '@calm-keel/core/job';
import { editOf, judgeReading, runSheet, type Fate, type SheetStep } from '@calm-keel/core/runsheet';
import { cardOf, devicesOf, nextHeld, targetsOf } from '@calm-keel/core/settings';
import { DeviceLink } from '../data/device-link';
import { JobStore } from '../data/job-store';
import { RunWork } from '../data/run-work';
import { keepAwake } from '../data/screen-awake';
import { Selection } from '../data/selection';
import { ViewSize } from '../data/view-size';
import { Units } from '../data/units';
import { Derivation } from '../ui/derivation';
import { FindingsList } from '../ui/findings-list';
import { NextStation } from '../ui/next-station';
import { Glyph } from '../ui/glyph';
import { measuredWidth } from '../ui/measured-width';
import { BeginPanel } from './begin-panel';
import { DeviceSteps } from './device-steps';
import { OwnLine } from './own-line';
import { PaperEntry } from './paper-entry';
import { PaperSheet } from './paper-sheet';
import { RecordPanel } from './record-panel';
import { ResetPanel } from './reset-panel';
import { RunStep } from './run-step';
import { SheetRuler } from './sheet-ruler';
import type { StepRow } from './step-row';
import { WirePanel } from './wire-panel';

const fateWords: Readonly<Record<Fate['ends'], string>> = {
  set: 'Set',
  stands: 'Stands',
  inherited: 'Inherited',
  left: 'Left',
  notUsed: 'Not used',
  open: 'Open',
};

/** Program: the order of edits before it is begun, the run sheet while it is, and the record of both. */
@Component({
  selector: 'ck-program-page',
  imports: [
    NextStation,
    Glyph,
    FindingsList,
    RouterLink,
    NgTemplateOutlet,
    Derivation,
    BeginPanel,
    DeviceSteps,
    OwnLine,
    PaperEntry,
    PaperSheet,
    RecordPanel,
    ResetPanel,
    RunStep,
    SheetRuler,
    WirePanel,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './program-page.html',
  styleUrl: './program-page.scss',
})
export class ProgramPage {
  protected readonly units = inject(Units);
  protected readonly store = inject(JobStore);
  protected readonly work = inject(RunWork);
  protected readonly size = inject(ViewSize);
  private readonly selection = inject(Selection);
  private readonly router = inject(Router);
  protected readonly live = signal(false);
  protected readonly back = signal(false);
  /** Which list, in the address: a reload, a link and the way back come to it. */
  readonly view = input<string>();
  protected readonly shown = computed(() => (this.view() === 'record' || this.view() === 'fates' ? this.view() : 'order'));
  protected readonly mode = signal<'step' | 'device' | 'list' | 'paper'>('step');
  protected readonly stopping = signal(false);
  protected readonly runStep = viewChild<RunStep>('runStep');
  private readonly measure = viewChild<ElementRef<HTMLElement>>('measure');
  private readonly stepId = computed(() => this.work.step()?.id);
  private readonly sheetAt = viewChild<ElementRef<HTMLElement>>('sheetAt');
  private readonly insp = viewChild<ElementRef<HTMLElement>>('insp');
  protected readonly width = measuredWidth(this.measure);

  protected readonly devices = computed(() => {
    const plan = this.store.settled();
    return plan ? devicesOf(plan.input).filter((d) => plan.settings.some((s) => s.charger === d.id)) : [];
  });
  protected readonly names = computed(() => new Map(this.devices().map((d) => [d.id, d.name])));
  protected readonly device = computed(() => {
    const here = this.work.running() ? this.work.step()?.device : null;
    const chosen = here ?? this.selection.charger();
    return this.devices().find((d) => d.id === chosen) ?? this.devices()[0] ?? null;
  });
  protected readonly card = computed(() => {
    const plan = this.store.settled();
    const device = this.device();
    return plan && device ? (cardOf(plan.input, device) ?? null) : null;
  });
  /** Towards the targets, or back to what was found. */
  protected readonly edits = computed<EditPlan | null>(() => {
    const plan = this.store.settled();
    const device = this.device();
    if (!plan || !device) return null;
    return this.back()
      ? editPlan(plan, device.id, { from: targetsOf(plan, device.id), to: device.present, live: this.live() })
      : editPlan(plan, device.id, { live: this.live() });
  });
  protected readonly foundNothing = computed(() => Object.keys(this.device()?.present ?? {}).length === 0);
  protected readonly unread = computed(() => this.edits()?.steps.filter((s) => !s.readOff).length ?? 0);
  protected readonly mendedWords = computed(() => {
    const mended = this.store.openStops().length - this.store.stopsThatStay().length;
    const more = this.store.stopsThatStay().length > 0 ? ' more' : '';
    return mended === 0
      ? ''
      : mended === 1
        ? ` One${more} stop is about a value found on a device: entering the target fixes it.`
        : ` ${mended}${more} stops are about values found on the devices: entering the targets fixes them.`;
  });
  protected readonly changedCount = computed(() => {
    const job = this.store.job();
    return job ? changedSince(job).length : 0;
  });

  /** The setting that the step in view sets. */
  protected readonly setting = computed(() => {
    const step = this.work.step();
    return step?.value && step.device ? (this.store.settled()?.setting(step.device, step.value.role) ?? null) : null;
  });
  protected readonly skipped = computed(() => new Set([...this.work.kept().values()].flatMap((a) => (a.state === 'skipped' ? [a.step] : []))));
  protected readonly shownAt = computed(() => Math.min((this.work.standing()?.at ?? 0) + 1, this.work.sheet()?.steps.length ?? 0));
  /** Sources that are off, and until when. */
  protected readonly hazards = computed(() => {
    const sheet = this.work.sheet();
    const kept = this.work.kept();
    const open = (sheet?.hazards ?? []).flatMap((h) => {
      const opened = kept.get(`open/${h.id}`);
      const shut = kept.get(sheet?.steps[h.to]?.id ?? '');
      return opened?.state === 'done' && shut?.state !== 'done' ? [{ ...h, since: this.clock(opened.at) }] : [];
    });
    const [first] = open;
    if (!first) return null;
    if (open.length === 1) return { title: `${first.words} stays off until step ${first.to + 1}`, words: `Tagged at ${first.since}.` };
    const to = open.map((h) => h.to + 1);
    return {
      title: `${open.length} sources stay off until steps ${Math.min(...to)} to ${Math.max(...to)}`,
      words: `${open.map((h) => h.words).join(', ')}. Tagged from ${first.since}.`,
    };
  });

  /** Every step as a row: its answer, its time. */
  protected readonly listed = computed(() => {
    const sheet = this.work.sheet();
    const standing = this.work.standing();
    const kept = this.work.kept();
    return (sheet?.steps ?? []).map((step, i): StepRow => {
      const answer = kept.get(step.id);
      const answered = standing?.answered[i] === true;
      const skipped = answered && answer?.state === 'skipped';
      return {
        step,
        number: i + 1,
        device: step.device === null || step.kind === 'open' || step.kind === 'close' ? '' : (this.names().get(step.device) ?? ''),
        now: standing?.at === i,
        answered,
        skipped,
        at: answer?.at ?? '',
        glyph: !answered ? 'notyet' : skipped ? 'attention' : 'done',
        reading: answered ? this.readingWords(step, answer?.reading) : '',
        time: answered && answer ? this.clock(answer.at) : '',
      };
    });
  });
  /** All steps on the display of the device that the sheet has come to; none between devices. */
  protected readonly ofDevice = computed(() => {
    const here = this.work.step();
    const rows = this.listed();
    const now = rows.find((r) => r.now);
    return here?.device && now?.device ? rows.filter((r) => r.step.device === here.device && r.device !== '') : [];
  });
  /** The list of that device is in view; between devices the step itself is. */
  protected readonly wholeDevice = computed(() => this.mode() === 'device' && this.ofDevice().length > 0);
  protected readonly recent = computed(() => {
    const order = new Map((this.work.record()?.answers ?? []).map((a, i) => [a.step, i]));
    return this.listed()
      .filter((r) => r.answered)
      .sort((a, b) => (order.get(b.step.id) ?? 0) - (order.get(a.step.id) ?? 0))
      .slice(0, this.size.phone() ? 3 : 5);
  });
  protected readonly last = computed(() => this.recent()[0] ?? null);
  protected readonly next = computed(() => {
    const at = this.work.standing()?.at ?? 0;
    return this.listed()
      .filter((r, i) => i > at && !r.answered)
      .slice(0, 3);
  });

  /** Readings that are likely instead of the right one, judged as they would be. */
  protected readonly instead = computed(() => {
    const plan = this.store.settled();
    const step = this.work.step();
    const card = this.card();
    const p = step?.value && card ? parameterFor(card, step.value.role) : undefined;
    if (!plan || !step?.value || !step.device || !p) return [];
    const { from, to, role } = step.value;
    const up = typeof to === 'number' ? nextHeld(plan, step.device, role, 1)?.device : undefined;
    const far = p.unit !== 'choice' && p.wraps ? p.max : undefined;
    return [up, from ?? undefined, far]
      .filter((v): v is number | string => v !== undefined && v !== to)
      .filter((v, i, list) => list.indexOf(v) === i)
      .map((v) => {
        const judged = judgeReading(plan, step, v);
        return { reads: displayText(p, v), says: `${judged.says.replace(`${displayText(p, v)}. `, '')} ${judged.next}` };
      });
  });

  protected readonly fateRows = computed(() => {
    const only = this.work.running() ? null : this.device()?.id;
    return (this.work.sheet()?.fates ?? [])
      .filter((f) => only === null || f.device === only)
      .map((f) => ({
        key: `${f.device}/${f.role}`,
        device: this.names().get(f.device) ?? '',
        label: f.label,
        text: f.text,
        ends: fateWords[f.ends],
        because: f.because,
      }));
  });
  protected readonly endWords = computed(() => {
    const standing = this.work.standing();
    const open = (this.work.sheet()?.fates ?? []).filter((f) => f.ends === 'open').length;
    const skips = standing?.skipped ?? 0;
    return [
      skips > 0 ? `${skips === 1 ? 'One step was' : `${skips} steps were`} skipped with a reason.` : 'None was skipped.',
      open > 0 ? `${open === 1 ? 'One setting was' : `${open} settings were`} not keyed.` : '',
      'What the chargers do with it is for Prove to say.',
    ]
      .filter((w) => w !== '')
      .join(' ');
  });
  protected readonly lastRun = computed(() => {
    const r = this.work.record();
    if (!r) return '';
    const date = format(parseISO(r.endedAt ?? r.begunAt), 'd MMM yyyy HH:mm');
    const open = this.work.standing()?.open ?? 0;
    const rest = [
      ...(open > 0 ? [open === 1 ? 'one step stands open' : `${open} steps stand open`] : []),
      ...(r.trouble.length > 0 ? [r.trouble.length === 1 ? 'once something went otherwise' : `${r.trouble.length} times something went otherwise`] : []),
    ];
    return `${r.aim === 'putBack' ? 'Put back as found' : 'Last run sheet ended'} ${date}, by ${r.by || 'nobody named'}${rest.map((w) => `; ${w}`).join('')}.`;
  });
  protected readonly backWords = computed(() => {
    const plan = this.store.settled();
    const record = this.work.record();
    if (!plan || !record) return '';
    const edits = runSheet(plan, { ...record, aim: 'putBack' }).steps.filter((s) => s.kind === 'edit').length;
    const keyed = [...this.work.kept().values()].filter((a) => a.state === 'done' && editOf(a.step));
    // What was never noted before it was changed cannot be put back.
    const unnoted = keyed.filter((a) => {
      const edit = editOf(a.step);
      return edit && record.found[edit.device]?.[edit.role] === undefined;
    }).length;
    const on = 'then everything that is off goes on again';
    const lost =
      unnoted === 0
        ? ''
        : unnoted === 1
          ? ' One value was never noted before it was changed: it stays.'
          : ` ${unnoted} values were never noted before they were changed: they stay.`;
    return `${edits === 0 ? `Nothing to key, ${on}` : edits === 1 ? `One edit, ${on}` : `${edits} edits, ${on}`}.${lost}`;
  });

  constructor() {
    keepAwake(this.work.running);
    void inject(DeviceLink).look();
    // What is said of a step begins at the top.
    effect(() => {
      this.stepId();
      for (const part of [this.insp(), this.sheetAt()]) part?.nativeElement.scrollTo({ top: 0 });
      if (this.size.phone()) window.scrollTo({ top: 0 });
    });
    // The roster shows which device the sheet has come to.
    effect(() => {
      const device = this.work.running() ? this.work.step()?.device : undefined;
      if (device) this.selection.charger.set(device);
    });
  }

  private readingWords(step: SheetStep, reading: number | string | undefined): string {
    if (reading === undefined) return '';
    const edit = editOf(step.id);
    const plan = this.store.settled();
    const place = edit && plan ? devicesOf(plan.input).find((d) => d.id === edit.device) : undefined;
    const card = place && plan ? cardOf(plan.input, place) : undefined;
    const p = edit && card ? parameterFor(card, edit.role) : undefined;
    return p ? displayText(p, reading) : String(reading);
  }

  protected readonly clock = (iso: string): string => format(parseISO(iso), 'HH:mm');

  /** Shows one step by itself. */
  protected open(id: string): void {
    this.work.show(id);
    this.mode.set('step');
  }

  protected show(view: 'order' | 'record' | 'fates'): void {
    void this.router.navigate([], { queryParams: { view: view === 'order' ? null : view }, queryParamsHandling: 'merge' });
  }
  protected choose(id: string): void {
    this.selection.charger.set(id);
  }

  protected print(): void {
    window.print();
  }

  protected putBack(): void {
    this.stopping.set(false);
    this.work.aim('putBack');
  }

  protected endHere(): void {
    this.stopping.set(false);
    this.work.end();
  }

  /** Goes to the first step that switches something on again. */
  protected closeUp(): void {
    this.stopping.set(false);
    const row = this.listed().find((r) => r.step.kind === 'close' && !r.answered) ?? this.listed().find((r) => r.step.kind === 'handBack');
    if (row) this.work.show(row.step.id);
  }
}
