import { inject, Injectable, linkedSignal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { ActivatedRoute, Router } from '@angular/router';
import { debounceTime, Subject } from 'rxjs';
import { RehearseWork } from '../data/rehearse-work';

/** A moment is dragged through many; the address takes the one at which it rests for so long, ms. */
const restsMs = 250;

/** How far into a rehearsal a moment is, to the second, as the address writes it: “14:20”, “14:20:30”, or “38:05” on its second day. */
export function momentText(seconds: number): string {
  const whole = Math.round(seconds);
  const two = (n: number): string => String(n).padStart(2, '0');
  return `${Math.floor(whole / 3600)}:${two(Math.floor(whole / 60) % 60)}${whole % 60 === 0 ? '' : `:${two(whole % 60)}`}`;
}

/** How far into a rehearsal the address is, s; null where it names no moment. */
export function secondsOfMoment(text: string | null): number | null {
  const [, hours, minutes, seconds = '0'] = /^(\d{1,4}):([0-5]\d)(?::([0-5]\d))?$/.exec(text ?? '') ?? [];
  return hours === undefined || minutes === undefined ? null : Number(hours) * 3600 + Number(minutes) * 60 + Number(seconds);
}

/** From when to when a rehearsal goes, and where its first absorb begins, s. */
interface Span {
  readonly from: number;
  readonly to: number;
  readonly first: number;
}

/**
 * The chosen moment of a rehearsal: stays in place while the day changes, and begins where the address says, else where the first absorb does. A reload
 * and a link come back to it.
 */
@Injectable()
export class ChosenMoment {
  private readonly work = inject(RehearseWork);
  private readonly router = inject(Router);
  private readonly route = inject(ActivatedRoute);
  private readonly rests$ = new Subject<number>();

  /** The day in view; while it is worked out anew, the one before. */
  private readonly run = linkedSignal<Span | null, Span | null>({
    source: () => {
      const a = this.work.shown()?.a;
      return a ? { from: a.from, to: a.to, first: a.events.find((e) => e.beginsAbsorb)?.at ?? (a.from + a.to) / 2 } : null;
    },
    computation: (run, previous) => run ?? previous?.value ?? null,
  });

  /** s, on the clock of the rehearsal. */
  readonly at = linkedSignal<Span | null, number>({
    source: this.run,
    computation: (run, previous) => {
      if (!run) return 0;
      const before = previous?.source;
      if (before && before.to - before.from === run.to - run.from) return run.from + (previous.value - before.from);
      const named = before ? null : secondsOfMoment(this.route.snapshot.queryParamMap.get('at'));
      return named !== null && named <= run.to - run.from ? run.from + named : run.first;
    },
  });

  constructor() {
    this.rests$.pipe(debounceTime(restsMs), takeUntilDestroyed()).subscribe((seconds) => {
      void this.router.navigate([], { relativeTo: this.route, queryParams: { at: momentText(seconds) }, queryParamsHandling: 'merge', replaceUrl: true });
    });
  }

  /** Goes to a moment, s on the clock of the rehearsal. */
  go(at: number): void {
    this.at.set(at);
    const run = this.run();
    if (run) this.rests$.next(Math.max(0, at - run.from));
  }
}
