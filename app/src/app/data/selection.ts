import { Injectable, signal } from '@angular/core';
import type { FigureKey, Role } from '@calm-keel/core';

/** What is chosen in the job in view: a charger (or the bank), one of its settings, a figure, a log. */
@Injectable({ providedIn: 'root' })
export class Selection {
  /** Null means the bank. */
  readonly charger = signal<string | null>(null);
  readonly role = signal<Role>('absorbVoltage');
  readonly figure = signal<FigureKey>('absorbVoltage');
  readonly log = signal<string | null>(null);
  /** Which part of Prove is in view. */
  readonly prove = signal<'log' | 'tests' | 'glance'>('log');
}
