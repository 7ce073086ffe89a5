import { computed, inject, Injectable } from '@angular/core';
import { displayText, parameterFor } from '@calm-keel/core/card';
import { editOf, type SheetStep } from '@calm-keel/core/runsheet';
import { cardOf, devicesOf } from '@calm-keel/core/settings';
import { JobStore } from '../data/job-store';
import { RunWork } from '../data/run-work';
import { Selection } from '../data/selection';
import { clockWords } from '../ui/day-words';
import type { StepRow } from './step-row';

/** The run sheet as its lists show it, and the device it has come to. */
@Injectable()
export class RunRows {
  private readonly store = inject(JobStore);
  private readonly work = inject(RunWork);
  private readonly selection = inject(Selection);

  readonly devices = computed(() => {
    const plan = this.store.settled();
    return plan ? devicesOf(plan.input).filter((d) => plan.settings.some((s) => s.charger === d.id)) : [];
  });
  readonly names = computed(() => new Map(this.devices().map((d) => [d.id, d.name])));
  /** Where the sheet has come to, else the one chosen. */
  readonly device = computed(() => {
    const here = this.work.running() ? this.work.step()?.device : null;
    const chosen = here ?? this.selection.charger();
    return this.devices().find((d) => d.id === chosen) ?? this.devices()[0] ?? null;
  });
  readonly card = computed(() => {
    const plan = this.store.settled();
    const device = this.device();
    return plan && device ? (cardOf(plan.input, device) ?? null) : null;
  });
  /** Steps skipped with a reason. */
  readonly skipped = computed(() => new Set([...this.work.kept().values()].flatMap((a) => (a.state === 'skipped' ? [a.step] : []))));

  /** Sources that are off, and until when. */
  readonly hazards = computed(() => {
    const sheet = this.work.sheet();
    const kept = this.work.kept();
    const open = (sheet?.hazards ?? []).flatMap((h) => {
      const opened = kept.get(`open/${h.id}`);
      const shut = kept.get(sheet?.steps[h.to]?.id ?? '');
      return opened?.state === 'done' && shut?.state !== 'done' ? [{ ...h, since: clockWords(opened.at) }] : [];
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
  readonly listed = computed(() => {
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
        time: answered && answer ? clockWords(answer.at) : '',
      };
    });
  });
  /** All steps on the display of the device that the sheet has come to; none between devices. */
  readonly ofDevice = computed(() => {
    const here = this.work.step();
    const rows = this.listed();
    const now = rows.find((r) => r.now);
    return here?.device && now?.device ? rows.filter((r) => r.step.device === here.device && r.device !== '') : [];
  });
  /** Those that are not answered, after the step in view. */
  readonly next = computed(() => {
    const at = this.work.standing()?.at ?? 0;
    return this.listed().filter((r, i) => i > at && !r.answered);
  });

  private readingWords(step: SheetStep, reading: number | string | undefined): string {
    if (reading === undefined) return '';
    const edit = editOf(step.id);
    const plan = this.store.settled();
    const place = edit && plan ? devicesOf(plan.input).find((d) => d.id === edit.device) : undefined;
    const card = place && plan ? cardOf(plan.input, place) : undefined;
    const p = edit && card ? parameterFor(card, edit.role) : undefined;
    return p ? displayText(p, reading) : String(reading);
  }
}
