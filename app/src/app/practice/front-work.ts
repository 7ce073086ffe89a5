import { computed, DestroyRef, inject, linkedSignal, type Signal } from '@angular/core';
import { parameterFor } from '@calm-keel/core/card';
import { cutFacePower, makeMove, newFace, passFaceTime, type FaceMove, type FaceRules, type FaceState, type Memory } from '@calm-keel/core/face';
import { practiceEnglish } from '@calm-keel/core/words';
import type { FrontStep } from '../drawings/device-front';

/** How often time passes over a front that is open, ms. */
const tickMs = 1000;

/** A front that is worked by itself, without a plant behind it: its state, what the last key did, and time that passes while it is looked at. */
export interface FrontWork {
  readonly state: Signal<FaceState | null>;
  readonly note: Signal<string>;
  readonly move: (move: FaceMove) => void;
  /** What is done on a front that has no keys. */
  readonly step: (change: FrontStep) => void;
  readonly cut: () => void;
  /** Back to what it began with. */
  readonly afresh: () => void;
}

/**
 * Works a front, in an injection context.
 *
 * @param begin what it holds at the beginning
 */
export function workFront(rules: Signal<FaceRules | null>, begin: Signal<Memory | null>): FrontWork {
  const state = linkedSignal<FaceState | null>(() => {
    const memory = begin();
    return memory && newFace(memory);
  });
  const step = (change: FrontStep): void => {
    const by = rules();
    if (by) state.update((now) => now && change(by, now));
  };
  const timer = window.setInterval(() => {
    if ((state()?.at.length ?? 0) > 0 && !document.hidden) step((by, now) => passFaceTime(by, now, tickMs / 1000));
  }, tickMs);
  inject(DestroyRef).onDestroy(() => {
    clearInterval(timer);
  });
  return {
    state,
    note: computed(() => {
      const [by, note] = [rules(), state()?.note];
      return by && note ? practiceEnglish.note(note, (role) => parameterFor(by.card, role)?.label ?? role) : '';
    }),
    move: (move) => {
      step((by, now) => makeMove(by, now, move));
    },
    step,
    cut: () => {
      step(cutFacePower);
    },
    afresh: () => {
      const memory = begin();
      if (memory) state.set(newFace(memory));
    },
  };
}
