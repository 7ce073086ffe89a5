import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { countdown } from '../ui/countdown';

/** Counts the time down that a step of a test takes, from when a person says so. */
@Component({
  selector: 'ck-test-timer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (left() === null) {
      <button type="button" class="ghost" (click)="start()">Start the {{ minutes(seconds()) }} timer</button>
    } @else {
      <b class="n" role="timer">{{ minutes(left()!) }}</b>
      <span>{{ left() === 0 ? 'The time is over.' : 'left' }}</span>
    }
  `,
  styles: `
    :host {
      display: flex;
      gap: 10px;
      align-items: baseline;
      b {
        font-size: 2.5rem;
      }
    }
  `,
})
export class TestTimer {
  readonly seconds = input.required<number>();
  /** The step it counts for: another one begins uncounted. */
  readonly step = input.required<string>();
  private readonly count = countdown(() => this.step());
  protected readonly left = this.count.left;

  protected start(): void {
    this.count.start(this.seconds());
  }

  protected minutes(seconds: number): string {
    return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
  }
}
