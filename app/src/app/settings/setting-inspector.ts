import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, output } from '@angular/core';
import { offNumber, parameterFor, roleInfo, type Role } from '@calm-keel/core/card';
import { aboutOf, findFindings, type Finding } from '@calm-keel/core/findings';
import { accept, applyChange, type Job } from '@calm-keel/core/job';
import { formatBand, formatNumber, tidy } from '@calm-keel/core/quantity';
import { cardOf, devicesOf, keyedText, nextHeld, type Override } from '@calm-keel/core/settings';
import { rankWords } from '@calm-keel/core/sheet';
import type { SpokenFinding } from '@calm-keel/core/words';
import { JobStore, today } from '../data/job-store';
import { Selection } from '../data/selection';
import { Speech } from '../data/speech';
import { Units } from '../data/units';
import { BandLine } from '../ui/band-line';
import { Derivation } from '../ui/derivation';
import { Glyph, type GlyphName } from '../ui/glyph';
import { TextField } from '../ui/text-field';

/** The chosen setting: its value, what is being tried, a person's figure with its reason and second look, and the sum. */
@Component({
  selector: 'ck-setting-inspector',
  imports: [Derivation, BandLine, Glyph, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './setting-inspector.html',
  styleUrl: './setting-inspector.scss',
})
export class SettingInspector {
  protected readonly store = inject(JobStore);
  private readonly selection = inject(Selection);
  private readonly speech = inject(Speech);
  protected readonly units = inject(Units);
  readonly chosen = output<{ charger: string; role: Role }>();

  protected readonly roleInfo = roleInfo;
  protected readonly keyed = keyedText;
  private readonly devices = computed(() => {
    const plan = this.store.plan();
    return plan ? devicesOf(plan.input) : [];
  });
  /** The device whose setting is shown: the chosen one, else the first. */
  protected readonly device = computed(() => this.devices().find((d) => d.id === this.selection.charger()) ?? this.devices()[0] ?? null);
  protected readonly ofDevice = computed(() => this.store.plan()?.settings.filter((s) => s.charger === this.device()?.id) ?? []);
  protected readonly setting = computed(() => this.ofDevice().find((s) => s.role === this.selection.role()) ?? this.ofDevice()[0] ?? null);
  protected readonly trying = computed(() => {
    const trial = this.store.trial();
    const s = this.setting();
    return trial?.charger === s?.charger && trial?.role === s?.role ? trial : null;
  });
  /** The value without the trial. */
  protected readonly before = computed(() => {
    const s = this.setting();
    const settled = s && this.store.settled()?.setting(s.charger, s.role);
    return settled ? keyedText(settled) : '';
  });
  /** Reason and person of the trial, typed before it is kept. */
  protected readonly reason = linkedSignal<string, string>({
    source: () => `${this.trying()?.charger ?? ''}/${this.trying()?.role ?? ''}`,
    computation: () => '',
  });
  protected readonly by = linkedSignal<string, string>({
    source: () => this.setting()?.charger ?? '',
    computation: (_, previous) => previous?.value ?? 'technician',
  });

  protected readonly chip = computed<{ glyph: GlyphName; words: string } | null>(() => {
    const s = this.setting();
    if (!s) return null;
    if (this.trying()) return { glyph: s.within === 'outside' ? 'stop' : 'attention', words: s.within === 'outside' ? 'Trying, out of band' : 'Trying' };
    if (s.override) return { glyph: 'attention', words: 'Override' };
    if (s.left) return { glyph: 'attention', words: 'Left by choice' };
    if (s.inherited) return { glyph: 'done', words: 'From its leader' };
    if (s.noValue === 'missingFigure') return { glyph: 'attention', words: 'No figure' };
    if (s.noValue) return { glyph: 'note', words: s.noValue === 'notUsed' ? 'Not used' : 'Left' };
    if (s.within === 'outside') return { glyph: 'stop', words: 'Out of band' };
    if (s.within === 'inside') return { glyph: 'done', words: 'In band' };
    return { glyph: 'done', words: s.off ? 'Off' : 'Derived' };
  });
  protected readonly shown = computed(() => {
    const s = this.setting();
    return s?.value == null ? '—' : typeof s.value === 'number' ? formatNumber(s.value, s.digits) : s.value;
  });
  protected readonly isNumber = computed(() => {
    const s = this.setting();
    return typeof s?.value === 'number' && s.inherited === undefined;
  });
  protected readonly facts = computed(() => {
    const s = this.setting();
    if (!s) return '';
    const band = s.band && roleInfo[s.role].unit === 'V' ? `Allowed: ${formatBand(s.band, 'V', 2)}. ` : '';
    const figure =
      s.role === 'absorbVoltage' || s.role === 'floatVoltage' || s.role === 'rechargeVoltage' ? this.store.plan()?.input.sheet.figures[s.role] : undefined;
    const found =
      s.present === undefined ? '' : `As found: ${typeof s.present === 'number' ? `${formatNumber(s.present, s.digits)} ${s.unit}` : `“${s.present}”`}. `;
    return `${band}${figure ? `Rank: ${rankWords[figure.rank]}. ` : ''}${found}Menu: ${[...s.menu, s.label].join(', ')}.`;
  });

  protected asRole(role: string): Role {
    return role as Role;
  }

  /** Tries the next value of the device. */
  protected step(by: 1 | -1): void {
    const plan = this.store.plan();
    const s = this.setting();
    const next = plan && s && nextHeld(plan, s.charger, s.role, by);
    if (s && next) this.store.try({ charger: s.charger, role: s.role, value: tidy(next.real) });
  }

  /** What the card says of the setting. */
  private readonly parameter = computed(() => {
    const s = this.setting();
    const plan = this.store.plan();
    const device = this.device();
    const card = plan && device && cardOf(plan.input, device);
    return s && card ? parameterFor(card, s.role) : undefined;
  });
  /** The words a choice could be set to instead. */
  protected readonly options = computed(() => {
    const parameter = this.parameter();
    return parameter?.unit === 'choice' ? parameter.options.map((o) => o.value) : [];
  });

  /** Whether the device has an off of its own here that is not set already. */
  protected readonly canBeOff = computed(() => {
    const parameter = this.parameter();
    return this.setting()?.off === false && parameter !== undefined && parameter.unit !== 'choice' && offNumber(parameter) !== undefined;
  });

  /** Tries an option, off, or what stands on the device, as a value is tried. */
  protected tryValue(value: string | false | null): void {
    const s = this.setting();
    if (s) this.store.try({ charger: s.charger, role: s.role, value });
  }

  /** What is found without what is tried: worked out once, not at every step of a drag. */
  private readonly foundBefore = computed(() => {
    const settled = this.store.settled();
    return new Set(settled ? findFindings(settled, today()).map(aboutOf) : []);
  });
  /** Stops that stand with what is tried and not without it. */
  protected readonly raised = computed<readonly SpokenFinding[]>(() => {
    if (!this.trying()) return [];
    const before = this.foundBefore();
    return this.speech.findings(this.store.findings().filter((f) => f.severity === 'stop' && !before.has(aboutOf(f))));
  });
  protected readonly accepting = linkedSignal<string, boolean>({ source: () => this.trying()?.role ?? '', computation: () => false });

  /** Keeps what is tried with its reason, and answers the stops it raises in the same breath where that was ticked. */
  protected keep(): void {
    const trial = this.trying();
    const reason = this.reason().trim();
    if (!trial || reason === '') return;
    const by = this.by().trim() || 'technician';
    const answered = this.accepting() ? this.raised().map((f) => f.finding) : [];
    this.store.trial.set(null);
    this.putOverride({ ...trial, reason, by }, trial.value === null ? 'Leave a value' : 'Override a value', answered);
  }

  private putOverride(override: Override, label: string, answered: readonly Finding[] = []): void {
    this.store.edit(
      label,
      (job) =>
        answered.reduce<Job>(
          (next, stop) => accept(next, stop, { by: override.by, reason: override.reason, date: today() }),
          applyChange(job, { kind: 'override', override }),
        ),
      `override ${override.charger} ${override.role}`,
    );
  }

  protected editOverride(change: Partial<Override>): void {
    const s = this.setting();
    const override = s?.override ?? s?.left;
    if (override) this.putOverride({ ...override, ...change, date: change.reviewedBy === undefined ? today() : override.date }, 'Change an override');
  }

  protected clearOverride(): void {
    const s = this.setting();
    if (s) this.store.apply('Go back to the derived value', [{ kind: 'clearOverride', charger: s.charger, role: s.role }]);
  }
}
