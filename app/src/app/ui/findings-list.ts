import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { aboutOf, type Finding } from '@calm-keel/core/findings';
import { acceptedBefore, acceptedBy, type Acceptance } from '@calm-keel/core/job';
import type { SpokenFinding } from '@calm-keel/core/words';
import { JobStore } from '../data/job-store';
import { Speech } from '../data/speech';
import { stationOf } from '../data/stations';
import { Glyph } from './glyph';
import { TextField } from './text-field';

const words = { stop: 'Stop', attention: 'Attention', note: 'Note' } as const;

/** Findings: glyph, one sentence with both numbers, what it can hurt, and remedies that do the thing. The first two are open. */
@Component({
  selector: 'ck-findings',
  imports: [Glyph, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (!only()) {
      <div class="sech">
        <span role="heading" aria-level="2">Findings</span>
        <small>{{ open() === 0 ? 'none on this job' : open() + ' open on this job' }}</small>
      </div>
    } @else if (ordered().length > 0) {
      <h2 class="visually-hidden">What is found</h2>
    }
    @for (line of ordered(); track about(line.spoken) + line.spoken.text; let i = $index) {
      @let finding = line.spoken;
      <div class="fd">
        <ck-glyph [name]="acceptedWords(finding.finding) ? 'attention' : finding.severity" />
        <div>
          <h3>
            <button type="button" (click)="toggle(finding, i)" [attr.aria-expanded]="isOpen(finding, i)">
              <span class="visually-hidden">{{ words[finding.severity] }}: </span>{{ finding.text }}
            </button>
          </h3>
          @if (isOpen(finding, i)) {
            <p>
              {{ finding.hurts }}
              @if (acceptedWords(finding.finding); as words) {
                <b>{{ words }}</b>
              } @else if (beforeWords(finding.finding); as words) {
                <b>{{ words }}</b>
              }
              @for (remedy of finding.remedies; track remedy.label; let last = $last) {
                <button type="button" class="do" (click)="store.apply(remedy.label, remedy.changes)">{{ remedy.label }}</button>
                @if (!last) {
                  or
                }
              }
            </p>
            @if (finding.severity === 'stop' && !acceptedWords(finding.finding)) {
              @if (accepting() === finding.text) {
                <div class="accept" role="group" aria-label="Accept this stop">
                  <ck-text-field label="Reason, which goes into the report" [value]="reason()" [max]="300" (changed)="reason.set($event)" />
                  <ck-text-field label="By (their role, not a name)" [value]="by()" [max]="60" (changed)="by.set($event)" />
                  <button type="button" class="ghost" (click)="accepting.set(null)">Leave it open</button>
                  <button type="button" class="ghost" [disabled]="reason().trim() === ''" (click)="accept(line.all)">Accept with this reason</button>
                  @if (reason().trim() === '') {
                    <small class="quiet">A stop is accepted with a reason.</small>
                  }
                </div>
              } @else {
                <button type="button" class="do answer" (click)="accepting.set(finding.text); reason.set('')">Accept it with a reason</button>
              }
            }
          }
        </div>
      </div>
    } @empty {
      <p class="quiet">
        @if (store.plan()?.settings?.length === 0) {
          No charger yet. Findings appear with the first one.
        } @else {
          Nothing was found wrong with these settings. The maker’s manual has the last word.
        }
      </p>
    }
  `,
  styles: `
    .fd {
      display: grid;
      grid-template-columns: 16px 1fr;
      gap: 0 8px;
      padding: 6px 0 7px;
      border-top: 1px solid var(--ck-rule);
    }
    .fd:first-of-type {
      border-top: 0;
    }
    ck-glyph {
      margin-top: 2px;
    }
    h3 {
      font-size: 0.875rem;
      line-height: 1.28;
      font-weight: var(--ck-w-strong);
      margin: 0;
    }
    h3 button {
      text-align: left;
      font-weight: inherit;
    }
    p {
      font-size: 0.8438rem;
      line-height: 1.42;
      color: var(--ck-ink-2);
      margin-top: 2px;
    }
    .do {
      margin-left: 3px;
    }
    .answer {
      margin-left: 0;
      color: var(--ck-ink-2);
      font-size: 0.8438rem;
      font-weight: 450;
    }
    .accept {
      display: grid;
      gap: 6px;
      padding: 6px 0;
      justify-items: start;
      ck-text-field {
        width: 100%;
      }
    }
    @media (max-width: 767px) {
      h3,
      p {
        font-size: 0.9375rem;
      }
      h3 button {
        min-height: 44px;
      }
      .do {
        display: block;
        margin: 0;
        min-height: 44px;
        border-bottom: 0;
        text-decoration: underline;
        text-underline-offset: 5px;
      }
    }
  `,
})
export class FindingsList {
  protected readonly store = inject(JobStore);
  private readonly speech = inject(Speech);
  protected readonly words = words;
  protected readonly about = aboutOf;
  /** Findings of this charger come first within their severity. */
  readonly charger = input<string | null>(null);
  /** So do findings that are dealt with at this station. */
  readonly station = input<'spec' | 'system' | 'settings' | 'program' | null>(null);
  /** Just these, without a heading: where they stand in the way of something. */
  readonly only = input<readonly Finding[] | null>(null);
  /** Not these: they stand elsewhere on the page. */
  readonly except = input<readonly Finding[]>([]);
  /** Findings opened or closed by hand, by what they are about, so that one that goes does not open its neighbour. */
  private readonly byHand = signal<ReadonlyMap<string, boolean>>(new Map());

  protected readonly ordered = computed(() => {
    const order = ['stop', 'attention', 'note'];
    const mine = (f: Finding): number => (stationOf(f) === this.station() ? 0 : 2) + (f.charger === this.charger() ? 0 : 1);
    const elsewhere = new Set(this.except());
    const listed = [...(this.only() ?? this.store.findings().filter((f) => !elsewhere.has(f)))].sort(
      (a, b) => order.indexOf(a.severity) - order.indexOf(b.severity) || mine(a) - mine(b),
    );
    return this.speech.alike(listed, (f) => `${this.acceptedWords(f) ?? ''} ${this.beforeWords(f) ?? ''}`);
  });
  protected readonly open = computed(() => this.store.findings().filter((f) => f.severity !== 'note' && !this.acceptedWords(f)).length);

  protected readonly accepting = signal<string | null>(null);
  protected readonly reason = signal('');
  protected readonly by = signal('technician');

  /** Who accepted a stop, if somebody did and it still says the same. */
  protected acceptedWords(finding: Finding): string | null {
    const job = this.store.job();
    const by = job && finding.severity === 'stop' ? acceptedBy(job, finding) : undefined;
    return by ? `Accepted ${who(by)}` : null;
  }

  /** Who accepted it when its numbers were others. */
  protected beforeWords(finding: Finding): string | null {
    const job = this.store.job();
    const by = job && finding.severity === 'stop' ? acceptedBefore(job, finding) : undefined;
    return by ? `It was accepted with other numbers ${who(by)} Look at it again.` : null;
  }

  /** Accepts a stop on every device it is told of. */
  protected accept(findings: readonly Finding[]): void {
    for (const finding of findings) this.store.accept(finding, this.reason().trim(), this.by().trim() || 'technician');
    this.accepting.set(null);
  }

  protected isOpen(finding: SpokenFinding, index: number): boolean {
    return this.byHand().get(aboutOf(finding)) ?? index < 2;
  }

  protected toggle(finding: SpokenFinding, index: number): void {
    const open = this.isOpen(finding, index);
    this.byHand.update((map) => new Map(map).set(aboutOf(finding), !open));
  }
}

const who = ({ by, date, reason }: Acceptance): string => `by the ${by} on ${date}: ${reason.replace(/[.]?$/, '.')}`;
