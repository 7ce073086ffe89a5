import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { allRoles, deviceDecimals, deviceGrid, deviceUnitLabel, hasTrait, parameterFor, roleInfo, type NumberParameter, type Role } from '@calm-keel/core/card';
import { formatNumber, tidy } from '@calm-keel/core/quantity';
import { variantValues, type Rehearsal } from '@calm-keel/core/rehearsal';
import { trueOf, type Plan } from '@calm-keel/core/settings';
import { JobStore, today } from '../data/job-store';
import { RehearseWork } from '../data/rehearse-work';
import { TextField } from '../ui/text-field';

/** Settings that move a rehearsal, absorb before all others: it is what is asked most. */
const tried = allRoles.filter((role) => hasTrait(role, 'rehearsed')).sort((a, b) => Number(b === 'absorbVoltage') - Number(a === 'absorbVoltage'));

/** Tries another value on the chosen charger: the rehearsal follows at once, the settings do not, until it is kept with a reason. */
@Component({
  selector: 'ck-try-panel',
  imports: [TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styles: `
    .row {
      display: flex;
      align-items: stretch;
      margin: 6px 0;
    }
    .row button {
      width: 44px;
      min-height: 46px;
      border: var(--ck-edge);
      background: var(--ck-surface);
    }
    .row button:disabled {
      color: var(--ck-ink-3);
    }
    .row span {
      flex: 1;
      display: flex;
      align-items: center;
      justify-content: center;
      border: var(--ck-edge);
      border-width: 1px 0;
      font-size: 1.25rem;
      background: var(--ck-surface);
    }
    .row i {
      font-style: normal;
      font-family: var(--ck-font);
      font-size: 0.875rem;
      margin-left: 0.3em;
    }
    .row .on {
      background: var(--ck-copper-wash);
    }
    li {
      display: flex;
      justify-content: space-between;
      gap: 8px;
      border-top: 1px solid var(--ck-rule);
      padding: 4px 0;
      font-size: 0.875rem;
    }
    .two {
      display: flex;
      gap: 8px;
      margin: 8px 0;
      flex-wrap: wrap;
    }
  `,
  template: `
    <h2 class="sech">
      Try a value
      <small>{{ device()?.name }}</small>
    </h2>
    @if (choice(); as c) {
      <label class="lbl" for="try-role">Setting</label>
      <select #roleField id="try-role" class="plain" (change)="role.set(asRole(roleField.value))">
        @for (r of roles(); track r) {
          <option [value]="r" [selected]="r === c.role">{{ roleInfo[r].name }}</option>
        }
      </select>
      <div class="row">
        <button type="button" aria-label="One device step down" [disabled]="c.down === null" (click)="put(c.down)">
          <svg width="18" height="18" aria-hidden="true"><path d="M3 9h12" stroke="var(--ck-ink)" stroke-width="2.2" /></svg>
        </button>
        <span class="n" [class.on]="c.nudged" data-testid="tried-value"
          >{{ c.shown }}<i>{{ c.unit }}</i></span
        >
        <button type="button" aria-label="One device step up" [disabled]="c.up === null" (click)="put(c.up)">
          <svg width="18" height="18" aria-hidden="true"><path d="M3 9h12M9 3v12" stroke="var(--ck-ink)" stroke-width="2.2" /></svg>
        </button>
      </div>
      @if (c.nudged) {
        <p class="quiet">Instead of {{ c.before }}. The day is rehearsed with it; Settings does not change.</p>
      }
    } @else {
      <p class="quiet">Nothing of this device moves a rehearsal.</p>
    }
    @if (rehearsal().nudges.length > 0) {
      <ul>
        @for (n of list(); track n.key) {
          <li>
            <span>{{ n.words }}</span>
            <button type="button" class="do" (click)="drop(n.charger, n.role)">Drop it</button>
          </li>
        }
      </ul>
      <ck-text-field label="Reason for keeping them on Settings" [value]="reason()" [max]="300" (changed)="reason.set($event)" />
      <div class="two">
        <button type="button" class="ghost" (click)="dropAll()">Let all go</button>
        <button type="button" class="ghost" [disabled]="reason().trim() === ''" (click)="keep()">Keep as overrides</button>
      </div>
      @if (reason().trim() === '') {
        <p class="quiet">A figure of one’s own needs a reason: it stays marked on every view.</p>
      }
    }
  `,
})
export class TryPanel {
  private readonly store = inject(JobStore);
  private readonly work = inject(RehearseWork);
  readonly plan = input.required<Plan>();
  readonly rehearsal = input.required<Rehearsal>();
  readonly charger = input<string | null>(null);

  protected readonly roleInfo = roleInfo;
  protected readonly reason = signal('');
  private readonly devices = computed(() => [...this.plan().input.system.chargers, ...this.plan().input.system.companions]);
  protected readonly device = computed(() => this.devices().find((d) => d.id === this.charger()) ?? this.devices()[0] ?? null);
  private readonly card = computed(() => this.plan().input.cards.find((c) => c.id === this.device()?.card) ?? null);
  protected readonly roles = computed(() =>
    tried.filter((role) => {
      const card = this.card();
      const parameter = card && parameterFor(card, role);
      return parameter && parameter.unit !== 'choice' && typeof this.valueOf(role) === 'number';
    }),
  );
  protected readonly role = linkedSignal<readonly Role[], Role | null>({
    source: () => this.roles(),
    computation: (roles, previous) => (previous?.value && roles.includes(previous.value) ? previous.value : (roles[0] ?? null)),
  });
  private readonly set = computed(() => variantValues(this.plan(), 'asSet'));

  private valueOf(role: Role): number | string | undefined {
    return this.set()[this.device()?.id ?? '']?.[role];
  }

  protected readonly choice = computed(() => {
    const role = this.role();
    const device = this.device();
    const card = this.card();
    const parameter = card && role ? parameterFor(card, role) : undefined;
    if (!role || !device || !parameter || parameter.unit === 'choice') return null;
    const before = this.valueOf(role);
    if (typeof before !== 'number') return null;
    const nudge = this.rehearsal().nudges.find((n) => n.charger === device.id && n.role === role);
    const now = nudge?.value ?? before;
    const { grid, words } = this.scaleOf(parameter);
    return {
      role,
      nudged: nudge !== undefined,
      shown: formatNumber(now, deviceDecimals(parameter)),
      unit: deviceUnitLabel(parameter),
      before: words(before),
      down: grid.filter((v) => v < now - 1e-9).at(-1) ?? null,
      up: grid.find((v) => v > now + 1e-9) ?? null,
    };
  });

  private scaleOf(parameter: NumberParameter) {
    const volts = this.plan().facts.systemVolts ?? this.plan().facts.nominalVolts;
    return {
      grid: deviceGrid(parameter, volts),
      words: (value: number): string => `${formatNumber(value, deviceDecimals(parameter))} ${deviceUnitLabel(parameter)}`,
    };
  }

  protected readonly list = computed(() =>
    this.rehearsal().nudges.map((n) => {
      const device = this.devices().find((d) => d.id === n.charger);
      const card = this.plan().input.cards.find((c) => c.id === device?.card);
      const role = n.role as Role;
      const parameter = card && parameterFor(card, role);
      const value = parameter && parameter.unit !== 'choice' ? this.scaleOf(parameter).words(n.value) : String(n.value);
      return { ...n, key: `${n.charger}/${n.role}`, words: `${device?.name ?? n.charger}, ${roleInfo[role].name}: ${value}` };
    }),
  );

  protected asRole(text: string): Role {
    return text as Role;
  }

  protected put(value: number | null): void {
    const device = this.device();
    const role = this.role();
    if (value === null || !device || !role) return;
    const others = this.rehearsal().nudges.filter((n) => n.charger !== device.id || n.role !== role);
    const back = this.valueOf(role);
    const nudges = typeof back === 'number' && Math.abs(back - value) < 1e-9 ? others : [...others, { charger: device.id, role, value: tidy(value) }];
    // What was tried is seen against what stands without it.
    const against = this.rehearsal().nudges.length === 0 && nudges.length > 0 ? 'asSet' : this.rehearsal().against;
    this.write({ nudges, against: nudges.length === 0 && against === 'asSet' ? 'asFound' : against });
  }

  protected drop(charger: string, role: string): void {
    const nudges = this.rehearsal().nudges.filter((n) => n.charger !== charger || n.role !== role);
    this.write({ nudges, against: nudges.length === 0 && this.rehearsal().against === 'asSet' ? 'asFound' : this.rehearsal().against });
  }

  protected dropAll(): void {
    this.write({ nudges: [], against: this.rehearsal().against === 'asSet' ? 'asFound' : this.rehearsal().against });
  }

  private write(change: Partial<Rehearsal>): void {
    this.work.keep('Try a value in the rehearsal', { ...this.rehearsal(), ...change }, 'rehearsal nudge');
  }

  /** Everything tried becomes a person's figure on Settings. */
  protected keep(): void {
    const reason = this.reason().trim();
    const plan = this.plan();
    const overrides = this.rehearsal().nudges.flatMap(({ charger, role, value }) => {
      const real = trueOf(plan, charger, role as Role, value);
      return real === null ? [] : [{ charger, role: role as Role, value: tidy(real), reason, by: 'technician', date: today() }];
    });
    if (reason === '' || overrides.length === 0) return;
    const rehearsal: Rehearsal = { ...this.rehearsal(), nudges: [], against: this.rehearsal().against === 'asSet' ? 'asFound' : this.rehearsal().against };
    this.work.draft.set(null);
    this.store.edit('Keep what was tried in the rehearsal', (job) => ({
      ...job,
      rehearsal,
      overrides: [...job.overrides.filter((o) => !overrides.some((n) => n.charger === o.charger && n.role === o.role)), ...overrides],
    }));
    this.reason.set('');
  }
}
