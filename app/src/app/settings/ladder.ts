import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { formatBand, formatNumber, type Plan, type Role } from '@calm-keel/core';
import { layoutLadder, type BandShape, type Rung } from './ladder-layout';

/** The setpoint ladder: every setpoint on one scale of bank volts, the maker's bands behind. */
@Component({
  selector: 'ck-ladder',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './ladder.svg.html',
  styles: `
    :host {
      display: block;
    }
    svg {
      display: block;
      max-width: 100%;
      user-select: none;
    }
    .rung {
      cursor: pointer;
      outline: none;
    }
    .rung:focus-visible .frame {
      stroke: var(--ck-ink);
      stroke-width: 3;
      opacity: 1;
    }
    .hit {
      fill: transparent;
    }
  `,
})
export class LadderDrawing {
  readonly plan = input.required<Plan>();
  readonly width = input.required<number>();
  readonly height = input(500);
  readonly only = input<string | null>(null);
  readonly charger = input<string | null>(null);
  readonly role = input<Role | null>(null);
  readonly chosen = output<{ charger: string; role: Role }>();

  protected readonly ladder = computed(() => layoutLadder(this.plan(), this.width(), this.height(), this.only()));
  protected readonly revision = computed(() => `rev ${this.plan().input.sheet.revision}, ${this.plan().input.sheet.date}`);
  protected readonly summary = computed(
    () =>
      `Setpoint ladder: ${this.ladder().columns.length} chargers, their setpoints on one voltage scale with the maker’s bands behind. The table view has the same values.`,
  );

  protected bandText(shape: BandShape): string {
    const { min, max } = shape.band;
    return min === max && max !== undefined
      ? `${formatNumber(max, 1)} V`
      : shape.kind === 'recharge' && min === undefined
        ? `${formatNumber(max ?? 0, 1)} V at most`
        : formatBand(shape.band, 'V', this.bandDigits(shape));
  }

  private bandDigits({ band }: BandShape): number {
    return [band.min, band.max].every((v) => v === undefined || Math.abs(v * 10 - Math.round(v * 10)) < 1e-6) ? 1 : 2;
  }

  protected readonly volts = (value: number): string => formatNumber(value, 1);
  protected readonly perCell = (value: number): string => formatNumber(value, 2);

  protected isChosen(charger: string, rung: Rung): boolean {
    return this.charger() === charger && this.role() === rung.role && !rung.asFound;
  }

  protected label(name: string, rung: Rung): string {
    const out = rung.outside === 0 ? '' : `, ${formatNumber(Math.abs(rung.outside), 2)} V ${rung.outside > 0 ? 'above' : 'below'} the band`;
    return `${name}: ${rung.words} ${formatNumber(rung.volts, 2)} V${rung.key ? `, ${rung.key}` : ''}${out}${rung.overridden ? ', override' : ''}`;
  }

  protected off(rung: Rung): string {
    return `${formatNumber(Math.abs(rung.outside), 1)} V ${rung.outside > 0 ? 'above' : 'below'} band`;
  }

  /** Teeth of a trip line, pointing into the allowed side. */
  protected teeth(y: number, allowed: 'below' | 'above'): string {
    const { left, right } = this.ladder();
    const tip = allowed === 'below' ? 6 : -6;
    let path = `M${left} ${y}`;
    for (let x = left; x + 10 <= right; x += 10) path += `l5 ${tip}l5 ${-tip}`;
    return `${path}H${right}v${-tip / 3}H${left}z`;
  }

  /** Hanging ticks of an "at most" line. */
  protected hanging(y: number): string {
    const { left, right } = this.ladder();
    let path = '';
    for (let x = left + 3; x < right; x += 6) path += `M${x} ${y}v7`;
    return path;
  }

  protected zigzag(y: number): string {
    const { left, right } = this.ladder();
    let path = `M${left} ${y}`;
    for (let x = left; x + 12 <= right; x += 12) path += 'l6 -4l6 4';
    return path;
  }
}
