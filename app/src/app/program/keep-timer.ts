import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { countdown } from '../ui/countdown';

/** Counts the seconds in which a device keeps an edit, from when a person says that it began. */
@Component({
  selector: 'ck-keep-timer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (left() === null) {
      <button type="button" class="ghost" (click)="start()">Count {{ seconds() }} s</button>
      <span>Left alone for {{ seconds() }} s, the edit is lost. Press as you begin.</span>
    } @else if (left()! > 0) {
      <b class="n big" role="timer">{{ left() }} s</b><span>left to keep the edit.</span>
    } @else {
      <span class="over" role="alert">{{ seconds() }} s are over. If it was not saved, it is lost: begin this step again.</span>
      <button type="button" class="ghost" (click)="start()">Count again</button>
    }
  `,
  styles: `
    :host {
      display: flex;
      gap: 4px 12px;
      line-height: 1.3;
      .ghost {
        flex: none;
      }
      align-items: center;
      font-size: 0.875rem;
      .big {
        font-size: 2rem;
      }
      .over {
        color: var(--ck-stop);
        font-weight: 600;
      }
    }
  `,
})
export class KeepTimer {
  readonly seconds = input.required<number>();
  /** The step it counts for: another one begins uncounted. */
  readonly step = input.required<string>();
  private readonly count = countdown(() => this.step());
  protected readonly left = this.count.left;

  protected start(): void {
    this.count.start(this.seconds());
  }
}
