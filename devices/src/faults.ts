/** What can go wrong with a simulated device at the press of a key, in words. `once` faults act on the next frame and are gone. */
export const faultKinds = {
  sourceOff: { words: 'Its source is switched off (no fault: as the run sheet says)', once: false },
  clips: { words: 'Holds volts at 0.3 V under what is written, and acknowledges', once: false },
  rounds: { words: 'Rounds every number to coarser steps, and acknowledges', once: false },
  commitIgnored: { words: 'Acknowledges the save without storing anything', once: false },
  losesAtCut: { words: 'Loses its settings at every power cut', once: false },
  timeout: { words: 'Does not answer', once: false },
  exception: { words: 'Answers every write with an exception', once: false },
  late: { words: 'Answers once so late that its neighbour is being asked (on a serial line)', once: true },
  garbled: { words: 'Garbles its next answer', once: true },
  dropAfter: { words: 'Takes the next write, and drops the connection before it answers', once: true },
  dropBefore: { words: 'Drops the connection in the middle of the next write', once: true },
  wrongDevice: { words: 'Another device answers at this address', once: false },
  clockWrong: { words: 'Its clock is seven hours ahead', once: false },
  displayError: { words: 'Reads 0.3 V too high', once: false },
  sensorMissing: { words: 'Its temperature sensor is pulled', once: false },
  equalise: { words: 'Somebody presses equalise', once: true },
} as const;
export type Fault = keyof typeof faultKinds;
/** Whether there is a fault of this name. */
export const isFault = (name: string): name is Fault => Object.hasOwn(faultKinds, name);
