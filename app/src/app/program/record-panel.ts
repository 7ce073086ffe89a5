import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { format, parseISO } from 'date-fns';
import { parameterFor, type Role } from '@calm-keel/core/card';
import { changedSince, valueText, type Job } from '@calm-keel/core/job';
import { verifiedWords, wayWords, type Snapshot } from '@calm-keel/core/runsheet';
import { cardOf, devicesOf, targetsOf, valuesOn, type Plan } from '@calm-keel/core/settings';
import type { Charger } from '@calm-keel/core/system';
import { Glyph } from '../ui/glyph';
import { Moves } from '../ui/moves';

/** What stood on a device, visit by visit, and how it differs: from the target, the last visit, the sister charger. */
@Component({
  selector: 'ck-record-panel',
  imports: [Moves, Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (changed().length > 0) {
      <div class="said bad" role="alert">
        <ck-glyph name="attention" [size]="18" />
        <div>
          <p>
            <b>{{ changed().length === 1 ? 'One setting is' : changed().length + ' settings are' }} otherwise than it was left.</b> Somebody, or something,
            changed it since.
          </p>
          @for (c of changed(); track c.role) {
            <p class="n small">{{ c.label }}: left at {{ c.left }} on {{ c.date }}, now {{ c.now }}</p>
          }
        </div>
      </div>
    }
    <div class="sech">
      <span role="heading" aria-level="2">What {{ device().name }} is set to</span><small>{{ latest() }}</small>
    </div>
    <div class="scroll" ckMoves="What the devices are set to">
      <table class="rows">
        <thead>
          <tr>
            <th scope="col">Setting</th>
            <th scope="col" class="r">Now</th>
            <th scope="col" class="r">Target</th>
            @if (before(); as b) {
              <th scope="col" class="r">{{ b.date }}</th>
            }
            @if (sister(); as s) {
              <th scope="col" class="r">{{ s.name }}</th>
            }
          </tr>
        </thead>
        <tbody>
          @for (row of rows(); track row.role) {
            <tr>
              <td>{{ row.label }}</td>
              <td class="n r">{{ row.now }}</td>
              <td class="n r" [class.off]="row.offTarget">{{ row.target }}</td>
              @if (before()) {
                <td class="n r" [class.off]="row.offBefore">{{ row.before }}</td>
              }
              @if (sister()) {
                <td class="n r" [class.off]="row.offSister">{{ row.sister }}</td>
              }
            </tr>
          }
        </tbody>
      </table>
    </div>
    <div class="sech"><span role="heading" aria-level="2">Visits</span><small>newest first</small></div>
    <ul>
      @for (s of visits(); track s.at + s.verified) {
        <li>
          <b class="n">{{ when(s) }}</b>
          <span>{{ words[s.verified] }}{{ s.way === 'display' ? '' : ', ' + ways[s.way] }}, by {{ s.by || 'nobody named' }}</span>
          <span class="n">{{ count(s) }} values</span>
        </li>
      } @empty {
        <li>Nothing is recorded yet. Values read off, read back or read again after a power cut appear here.</li>
      }
    </ul>
  `,
  styles: `
    .scroll {
      overflow-x: auto;
    }
    .off {
      background: var(--ck-attention-wash);
      color: var(--ck-attention);
      font-weight: 640;
    }
    li {
      display: grid;
      grid-template-columns: 150px 1fr auto;
      gap: 10px;
      font-size: 0.875rem;
      padding: 5px 0;
      border-bottom: 1px solid var(--ck-rule);
    }
    .small {
      font-size: 0.8438rem;
      white-space: normal;
    }
    @media (max-width: 767px) {
      td.n {
        white-space: normal;
      }
      li {
        grid-template-columns: 1fr auto;
        span:nth-child(2) {
          grid-row: 2;
          grid-column: 1 / -1;
        }
      }
    }
  `,
})
export class RecordPanel {
  readonly job = input.required<Job>();
  readonly plan = input.required<Plan>();
  readonly device = input.required<Charger>();
  protected readonly words = verifiedWords;
  protected readonly ways = wayWords;

  private readonly card = computed(() => cardOf(this.plan().input, this.device()));
  private readonly text = (role: Role, value: number | string | undefined): string =>
    value === undefined ? '' : valueText(this.plan().input, this.device().id, role, value);
  protected readonly visits = computed(() =>
    this.job()
      .snapshots.filter((s) => s.device === this.device().id)
      .reverse(),
  );
  protected readonly latest = computed(() => {
    const last = this.visits()[0];
    return last ? `${verifiedWords[last.verified]}, ${this.when(last)}` : 'nothing verified yet';
  });
  /** The newest snapshot that is not of today’s sheet. */
  protected readonly before = computed<Snapshot | null>(() => {
    const begun = this.job().programming?.begunAt ?? '';
    return this.visits().find((s) => s.verified !== 'readOff' && s.at < begun) ?? null;
  });
  protected readonly sister = computed(() => devicesOf(this.plan().input).find((d) => d.id !== this.device().id && d.card === this.device().card) ?? null);
  protected readonly changed = computed(() =>
    changedSince(this.job())
      .filter((c) => c.device === this.device().id)
      .map((c) => ({ role: c.role, label: this.label(c.role), left: this.text(c.role, c.left), now: this.text(c.role, c.now), date: c.since.date })),
  );
  private readonly label = (role: Role): string => {
    const card = this.card();
    return (card && parameterFor(card, role)?.label) ?? role;
  };
  protected readonly rows = computed(() => {
    const plan = this.plan();
    const device = this.device();
    const targets = targetsOf(plan, device.id);
    const before = this.before();
    const sister = this.sister();
    const there = sister ? { ...valuesOn(plan, sister.id), ...sister.present } : {};
    return (this.card()?.parameters ?? []).map((p) => {
      const now = device.present[p.role];
      const [target, was, other] = [targets[p.role], before?.values[p.role], sister ? there[p.role] : undefined];
      return {
        role: p.role,
        label: p.label,
        now: now === undefined ? 'not read' : this.text(p.role, now),
        target: target === undefined ? 'left' : this.text(p.role, target),
        before: this.text(p.role, was),
        sister: this.text(p.role, other),
        offTarget: now !== undefined && target !== undefined && now !== target,
        offBefore: now !== undefined && was !== undefined && now !== was,
        offSister: now !== undefined && other !== undefined && now !== other,
      };
    });
  });

  protected readonly when = (s: Snapshot): string => format(parseISO(s.at), 'd MMM yyyy HH:mm');
  protected readonly count = (s: Snapshot): number => Object.keys(s.values).length;
}
