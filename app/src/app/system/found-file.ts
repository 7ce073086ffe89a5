import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal } from '@angular/core';
import { settingsOn, type BroughtSettings, type Card } from '@calm-keel/core/card';
import type { Problem } from '@calm-keel/core/quantity';
import { deviceName, overridesHolding } from '@calm-keel/core/settings';
import { rangeVolts } from '@calm-keel/core/system';
import { JobStore, today } from '../data/job-store';
import { LogWork } from '../data/log-work';
import { RunWork } from '../data/run-work';
import { WhoIsThere } from '../data/who-is-there';
import { FileButton } from '../ui/file-button';
import { Glyph } from '../ui/glyph';

/** A file that was opened: what it says of this device, or why nothing. */
type Opened = { readonly file: string; readonly says: BroughtSettings } | { readonly file: string; readonly problems: readonly Problem[] };

/** Brings a charger's own settings file in: as what stands on it, or as its targets where it is a sister's. */
@Component({
  selector: 'ck-found-file',
  imports: [FileButton, Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ck-file-button words="Bring in its settings file" label="Settings file" accept=".csv,.txt,.tsv,.json,.ini,.cfg,.xlsx,.zip" (chosen)="open($event)" />
    @if (opened(); as o) {
      @if (problems(); as list) {
        <div class="said bad" role="alert">
          <ck-glyph name="stop" /><span class="line">
            @for (p of list; track $index) {
              {{ p.text }}
            }
            Nothing was taken.</span
          >
          <button type="button" class="do" (click)="opened.set(null)">Close</button>
        </div>
      }
      @if (says(); as s) {
        <section role="status" [attr.aria-label]="'What ' + o.file + ' says'">
          <p class="head">
            <b>{{ s.fits.length === 0 ? 'Nothing in ' + o.file + ' fits this card.' : o.file + ': ' + s.fits.length + ' of its values fit.' }}</b>
            {{ s.fits.length > 0 && s.model === null ? 'It does not say which model it is of: compare the label on the device.' : '' }}
          </p>
          @if (s.fits.length > 0) {
            <ul>
              @for (f of s.fits; track f.role) {
                <li>
                  <span>{{ f.name }}</span><b class="n">{{ f.text }}</b>
                </li>
              }
            </ul>
          }
          @if (s.leftOut.length > 0) {
            <details [open]="s.fits.length === 0">
              <summary class="quiet">{{ s.leftOut.length }} left out</summary>
              <ul>
                @for (l of s.leftOut; track $index) {
                  <li class="out">
                    <span>{{ l.name }} = {{ l.value }}</span
                    ><small>{{ l.why }}</small>
                  </li>
                }
              </ul>
            </details>
          }
          <div class="acts">
            @if (s.fits.length > 0) {
              <button type="button" class="ghost" (click)="asFound()">Take {{ s.fits.length }} as found on it</button>
              @if (sets()) {
                <button type="button" class="ghost" (click)="asTargets()">Make them its targets</button>
                <p class="quiet">As targets they count against the sheet like any other override. Use this for a sister that was set well.</p>
              }
            }
            <button type="button" class="do" (click)="opened.set(null)">Leave it</button>
          </div>
        </section>
      }
    }
  `,
  styleUrl: '../ui/brought.scss',
  styles: `
    :host {
      display: block;
      padding-top: 8px;
    }
    .head {
      white-space: normal;
      padding-bottom: 4px;
    }
    .acts {
      display: grid;
      gap: 6px;
      padding-top: 8px;
      justify-items: start;
    }
  `,
})
export class FoundFile {
  private readonly store = inject(JobStore);
  private readonly work = inject(LogWork);
  private readonly run = inject(RunWork);
  private readonly who = inject(WhoIsThere);
  readonly device = input.required<string>();
  readonly card = input.required<Card>();

  /** Of one device: the next one does not get what was opened for this. */
  protected readonly opened = linkedSignal<string, Opened | null>({ source: () => this.device(), computation: () => null });
  protected readonly says = computed(() => {
    const o = this.opened();
    return o && 'says' in o ? o.says : null;
  });
  protected readonly problems = computed(() => {
    const o = this.opened();
    return o && 'problems' in o ? o.problems : null;
  });
  /** Whether anything is set on it at all: a companion without targets has none to take. */
  protected readonly sets = computed(() => this.store.plan()?.settings.some((s) => s.charger === this.device()) ?? false);

  protected async open(file: File): Promise<void> {
    const device = this.device();
    const written = await this.work.api.settings(file, file.name);
    if (device !== this.device()) return;
    const plan = this.store.plan();
    this.opened.set(
      written.ok
        ? { file: file.name, says: settingsOn(this.card(), written.value, plan ? rangeVolts(plan.facts) : 12) }
        : { file: file.name, problems: written.problems },
    );
  }

  protected asFound(): void {
    const says = this.says();
    if (!says) return;
    this.run.noteFound(this.device(), says.values, 'file');
    this.opened.set(null);
  }

  protected asTargets(): void {
    const o = this.opened();
    const plan = this.store.plan();
    if (!o || !('says' in o) || !plan) return;
    const said = { reason: `as in the settings file ${o.file}`.slice(0, 300), by: this.who.initials().slice(0, 60), date: today() };
    const overrides = overridesHolding(plan, this.device(), o.says.values, said);
    this.store.edit(`Targets of ${deviceName(plan.input, this.device())} from a file`, (job) => ({
      ...job,
      overrides: [...job.overrides.filter((old) => !overrides.some((n) => n.charger === old.charger && n.role === old.role)), ...overrides],
    }));
    this.opened.set(null);
  }
}
