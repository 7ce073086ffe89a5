import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal } from '@angular/core';
import { displayText, parameterFor, settingsSaid, type Card } from '@calm-keel/core/card';
import { rangeVolts, type Charger } from '@calm-keel/core/system';
import { DeviceLink, staleMs } from '../data/device-link';
import { JobStore } from '../data/job-store';
import { RunWork } from '../data/run-work';
import { Glyph } from '../ui/glyph';

/** What a device that only talks says is set on it, to be taken as found on it after a look. */
@Component({
  selector: 'ck-said-settings',
  imports: [Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (said(); as s) {
      @if (s.fits.length + s.leftOut.length > 0) {
        <section aria-label="Settings among what it says">
          <p class="quiet">
            Also among what it says: names of its settings. A reading can have the same name: compare with its display, and untick what is not a setting.
          </p>
          <ul>
            @for (f of rows(); track f.role) {
              <li>
                @if (f.same) {
                  <span>{{ f.written }}</span>
                } @else {
                  <label
                    ><input #c type="checkbox" [checked]="!without().has(f.role)" (change)="count(f.role, c.checked)" /><span>{{ f.written }}</span></label
                  >
                }
                <span class="v"
                  ><b class="n">{{ f.text }}</b
                  ><small>{{ f.noted === null ? 'not noted yet' : f.same ? 'as noted' : 'noted: ' + f.noted }}</small></span
                >
              </li>
            }
            @for (l of s.leftOut; track l.name) {
              <li class="out">
                <span>{{ l.name }} = {{ l.value }}</span
                ><small>{{ l.why }}</small>
              </li>
            }
          </ul>
          @if (work.running()) {
            <p class="quiet">While a run sheet is open, each value is read off at its own step.</p>
          } @else if (fresh().length > 0) {
            <button type="button" class="ghost" [disabled]="stale()" (click)="take()">Take {{ fresh().length }} as found on it</button>
            @if (stale()) {
              <p class="quiet">It has said nothing for a while: what it said last may be old.</p>
            }
          }
          @if (taken() && fresh().length === 0) {
            <p class="said" role="status"><ck-glyph name="done" /><span class="line">Noted as found on it.</span></p>
          }
        </section>
      }
    }
  `,
  styleUrl: '../ui/brought.scss',
  styles: `
    label {
      display: flex;
      align-items: center;
      gap: 8px;
      min-height: 28px;
      min-width: 0;
      overflow-wrap: anywhere;
    }
    .v {
      display: grid;
      justify-items: end;
    }
    small {
      color: var(--ck-ink-2);
    }
    .ghost {
      margin-top: 8px;
    }
    @media (max-width: 767px) {
      label {
        min-height: 44px;
      }
    }
  `,
})
export class SaidSettings {
  private readonly link = inject(DeviceLink);
  private readonly store = inject(JobStore);
  protected readonly work = inject(RunWork);
  readonly device = input.required<Charger>();
  readonly card = input.required<Card>();

  /** What is ticked and taken belongs to one device. */
  private readonly id = computed(() => this.device().id);
  private readonly state = computed(() => this.link.live().get(this.device().link ?? '') ?? null);
  protected readonly stale = computed(() => this.link.now() - (this.state()?.at ?? 0) > staleMs);
  protected readonly said = computed(() => {
    const fields = this.state()?.fields;
    const plan = this.store.plan();
    return fields && plan ? settingsSaid(this.card(), fields, rangeVolts(plan.facts)) : null;
  });
  /** Roles that somebody has said are none of its settings. */
  protected readonly without = linkedSignal<string, ReadonlySet<string>>({ source: this.id, computation: () => new Set<string>() });
  protected readonly taken = linkedSignal({ source: this.id, computation: () => false });
  /** Beside each what is noted already. */
  protected readonly rows = computed(() => {
    const says = this.said();
    const { present } = this.device();
    return (says?.fits ?? []).map((f) => {
      const noted = present[f.role];
      const parameter = parameterFor(this.card(), f.role);
      return { ...f, same: noted === says?.values[f.role], noted: noted === undefined || !parameter ? null : displayText(parameter, noted) };
    });
  });
  /** What would change by taking it. */
  protected readonly fresh = computed(() => this.rows().filter((r) => !r.same && !this.without().has(r.role)));

  protected count(role: string, counts: boolean): void {
    this.without.update((set) => new Set(counts ? [...set].filter((r) => r !== role) : [...set, role]));
  }

  protected take(): void {
    const values = this.said()?.values ?? {};
    const roles = new Set<string>(this.fresh().map((r) => r.role));
    this.taken.set(true);
    this.work.noteFound(this.device().id, Object.fromEntries(Object.entries(values).filter(([role]) => roles.has(role))), 'wire');
  }
}
