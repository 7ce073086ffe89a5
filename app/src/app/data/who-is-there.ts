import { effect, Injectable, signal } from '@angular/core';
import { heldText, holdText } from './small-store';

const key = 'calm-keel.initials';

/** Initials of who works here, kept on this device so that they are typed once. */
@Injectable({ providedIn: 'root' })
export class WhoIsThere {
  readonly initials = signal(read());

  constructor() {
    effect(() => {
      // A device that keeps nothing asks again next time.
      holdText(key, this.initials());
    });
  }
}

const read = (): string => (heldText(key) ?? '').slice(0, 20);
