import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { RunSheet, Standing } from '@calm-keel/core/runsheet';

/** All steps on one line: done filled, now copper, the end of a hazard ochre, skipped open with a stroke. Devices are named below. */
@Component({
  selector: 'ck-sheet-ruler',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.width]="width()" [attr.height]="names() ? 38 : 22" role="img" [attr.aria-label]="words()">
      @for (m of marks(); track m.i) {
        <rect
          [attr.x]="m.x"
          [attr.y]="m.now ? 1 : 5"
          [attr.width]="m.w"
          [attr.height]="m.now ? 18 : 10"
          [attr.fill]="m.fill"
          [attr.stroke]="m.stroke"
          [attr.stroke-width]="m.thick"
        />
      }
      @if (names()) {
        @for (g of groups(); track g.x) {
          <path [attr.d]="'M' + g.x + ' 22.5H' + g.to" stroke="var(--ck-rule)" />
          @if (g.name) {
            <text [attr.x]="g.x" y="35" font-size="12.5" font-weight="560" fill="var(--ck-ink)">{{ g.name }}</text>
          }
        }
      }
    </svg>
  `,
  styles: ':host { display: block; line-height: 0 }',
})
export class SheetRuler {
  readonly sheet = input.required<RunSheet>();
  readonly standing = input.required<Standing>();
  readonly skipped = input.required<ReadonlySet<string>>();
  readonly deviceNames = input.required<ReadonlyMap<string, string>>();
  readonly width = input.required<number>();
  readonly names = input(true);

  private readonly pitch = computed(() => this.width() / Math.max(1, this.sheet().steps.length));
  protected readonly words = computed(() => {
    const { at, done, skipped, open } = this.standing();
    const skips = skipped > 0 ? `, ${skipped} skipped` : '';
    return `Step ${Math.min(at + 1, this.sheet().steps.length)} of ${this.sheet().steps.length}: ${done} done${skips}, ${open} open.`;
  });
  protected readonly marks = computed(() => {
    const releases = new Set(this.sheet().hazards.map((h) => h.to));
    const { at, answered } = this.standing();
    const gap = this.pitch() > 7 ? 2 : 1;
    return this.sheet().steps.map((step, i) => {
      const now = i === at;
      const done = answered[i] === true && !this.skipped().has(step.id);
      const stroke = now || done ? 'none' : releases.has(i) ? 'var(--ck-attention)' : 'var(--ck-rule-strong)';
      return {
        i,
        now,
        x: Math.round(i * this.pitch() * 10) / 10 + 0.5,
        w: Math.max(1.5, Math.round((this.pitch() - gap) * 10) / 10 - 1),
        fill: now
          ? 'var(--ck-copper)'
          : done
            ? 'var(--ck-ink)'
            : releases.has(i)
              ? 'var(--ck-attention-wash)'
              : answered[i]
                ? 'var(--ck-rule)'
                : 'var(--ck-surface)',
        stroke,
        thick: releases.has(i) ? 1.8 : 1,
      };
    });
  });
  /** Runs of steps of one device; a name that has no room is left out. */
  protected readonly groups = computed(() => {
    const runs: { device: string | null; from: number; to: number }[] = [];
    this.sheet().steps.forEach((step, i) => {
      const device = step.kind === 'open' || step.kind === 'close' ? null : step.device;
      const last = runs.at(-1);
      if (last?.device === device) last.to = i + 1;
      else runs.push({ device, from: i, to: i + 1 });
    });
    return runs
      .filter((r) => r.device !== null)
      .map((r) => {
        const x = Math.round(r.from * this.pitch()) + 0.5;
        const to = Math.round(r.to * this.pitch()) - 2;
        const name = this.deviceNames().get(r.device ?? '') ?? '';
        return { x, to, name: name.length * 6.6 < to - x + 4 ? name : '' };
      });
  });
}
