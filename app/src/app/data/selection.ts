import { Injectable, signal } from '@angular/core';
import type { Role } from '@calm-keel/core/card';
import type { FigureKey } from '@calm-keel/core/sheet';

/** What is chosen in the job in view: a charger (or the bank), one of its settings, a figure. */
@Injectable({ providedIn: 'root' })
export class Selection {
  /** Null means the bank. */
  readonly charger = signal<string | null>(null);
  readonly role = signal<Role>('absorbVoltage');
  readonly figure = signal<FigureKey>('absorbVoltage');
}
