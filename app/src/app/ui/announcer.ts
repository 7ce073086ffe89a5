import { ChangeDetectionStrategy, Component, inject, Injectable, signal } from '@angular/core';

/** Says results to whoever does not see them change: one voice for the whole page, each thing once. */
@Injectable({ providedIn: 'root' })
export class Announcer {
  /** What is being said; said again, the same words are another element, so that they are heard again. */
  readonly said = signal<{ readonly text: string; readonly count: number }>({ text: '', count: 0 });

  say(text: string): void {
    if (text !== '') this.said.update(({ count }) => ({ text, count: count + 1 }));
  }
}

/** The place a screen reader listens to. */
@Component({
  selector: 'ck-announcer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: 'visually-hidden', role: 'status', 'aria-live': 'polite' },
  template: `
    @for (s of [voice.said()]; track s.count) {
      <span>{{ s.text }}</span>
    }
  `,
})
export class AnnouncerPlace {
  protected readonly voice = inject(Announcer);
}
