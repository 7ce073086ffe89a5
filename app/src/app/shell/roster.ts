import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { RouterLink } from '@angular/router';
import { acceptedBy } from '@calm-keel/core/job';
import { isAnswered } from '@calm-keel/core/runsheet';
import { bankLine, devicesOf } from '@calm-keel/core/settings';
import { hasFigures } from '@calm-keel/core/sheet';
import { JobStore } from '../data/job-store';
import { RunWork } from '../data/run-work';
import { Selection } from '../data/selection';
import { Speech } from '../data/speech';
import { Glyph, type GlyphName } from '../ui/glyph';

/** The bank and every device of the open job, each with the worst that is said of it, or how far its run sheet is. */
@Component({
  selector: 'ck-roster',
  imports: [Glyph, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './roster.html',
  styleUrl: './roster.scss',
})
export class Roster {
  private readonly store = inject(JobStore);
  private readonly speech = inject(Speech);
  private readonly run = inject(RunWork);
  protected readonly selection = inject(Selection);
  readonly job = input.required<string>();
  /** A device, or the bank as null. */
  readonly chosen = output<string | null>();

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
}
