import type { Master, Waits } from '@calm-keel/core/wire';

/** A wire that several devices may share. */
export interface Bus {
  /** The device with this number on it. */
  unit(unit: number): Master;
  close(): void;
}

/** Time as this machine has it. */
export const waits: Waits = {
  now: () => performance.now(),
  pause: (ms) =>
    new Promise((resolve) => {
      setTimeout(resolve, ms);
    }),
};
