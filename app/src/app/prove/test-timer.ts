import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, input, linkedSignal } from '@angular/core';

/** How often the time left is looked at, ms. */
const tickMs = 500;

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
  private readonly of = computed(() => this.step());
  /** Seconds left; null while nobody counts. */
  protected readonly left = linkedSignal<string, number | null>({ source: this.of, computation: () => null });
  private ticking: ReturnType<typeof setInterval> | undefined;

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      clearInterval(this.ticking);
    });
  }

  protected start(): void {
    clearInterval(this.ticking);
    const until = Date.now() + this.seconds() * 1000;
    this.left.set(this.seconds());
    this.ticking = setInterval(() => {
      if (this.left() === null || Date.now() >= until) clearInterval(this.ticking);
      if (this.left() !== null) this.left.set(Math.max(0, Math.round((until - Date.now()) / 1000)));
    }, tickMs);
  }

  protected minutes(seconds: number): string {
    return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
  }
}
