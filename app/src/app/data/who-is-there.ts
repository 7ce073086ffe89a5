import { effect, Injectable, signal } from '@angular/core';

const key = 'calm-keel.initials';

/** Initials of who works here, kept on this device so that they are typed once. */
@Injectable({ providedIn: 'root' })
export class WhoIsThere {
  readonly initials = signal(read());

  constructor() {
    effect(() => {
      const initials = this.initials();
      try {
        localStorage.setItem(key, initials);
      } catch {
        // A device that keeps nothing asks again next time.
      }
    });
  }
}

function read(): string {
  try {
    return (localStorage.getItem(key) ?? '').slice(0, 20);
  } catch {
    return '';
  }
}
