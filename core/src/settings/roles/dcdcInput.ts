import { formatQuantity } from '../../quantity';
import type { RoleContext, RoleRule } from '../context';
import type { Step } from '../setting';

/** Highest resting volts of a full lead starter battery, V per 12 V (general electrochemistry). */
const restingPer12 = 12.8;
/** A running alternator holds its battery at least this far above rest, V per 12 V. */
const running = 0.4;

/** The highest voltage at which the feeding battery rests, V. */
export const restingVolts = ({ charger }: Pick<RoleContext, 'charger'>): { volts: number; entered: boolean } => {
  const feed = charger.feed;
  return feed?.restingV === undefined ? { volts: (restingPer12 * (feed?.volts ?? 12)) / 12, entered: false } : { volts: feed.restingV, entered: true };
};

const restingStep = (context: RoleContext): Step => {
  const resting = restingVolts(context);
  return {
    kind: 'start',
    words: 'Highest resting volts of the feeding battery',
    value: resting.volts,
    unit: 'V',
    digits: 2,
    source: resting.entered ? 'As measured on site' : 'General electrochemistry, not measured: 12.8 V for 12 V of lead',
  };
};

/**
 * Input stop: above the feeding battery's resting volts at the charger's input. It is not lowered by the drop of the input cable, which goes as the
 * current tapers: what stopped safely at full current would then drain the battery.
 */
export const inputStopVoltage: RoleRule = {
  role: 'inputStopVoltage',
  want: (context) => {
    const drop = context.charger.feed?.dropV ?? 0;
    const exact = restingVolts(context).volts;
    return {
      kind: 'number',
      exact,
      band: { min: exact },
      inset: 0,
      prefer: 'up',
      steps: [
        restingStep(context),
        ...(drop > 0
          ? [
              {
                kind: 'note',
                words: `The input cable drops ${formatQuantity(drop, 'V', 2)} at full current, and the stop is not lowered by it: the drop goes as the current tapers. Where the charger stops under load, take the engine signal, its delay, or a thicker cable.`,
              } as const,
            ]
          : []),
        { kind: 'subtotal', words: 'Never lower, or the feeding battery is drained', value: exact, unit: 'V', digits: 2 },
      ],
    };
  },
};

/** Input start: so far above rest that the alternator surely runs. */
export const inputStartVoltage: RoleRule = {
  role: 'inputStartVoltage',
  want: (context) => {
    const resting = restingVolts(context).volts;
    const by = (running * (context.charger.feed?.volts ?? 12)) / 12;
    return {
      kind: 'number',
      exact: resting + by,
      band: { min: resting },
      inset: 0,
      prefer: 'up',
      steps: [
        restingStep(context),
        { kind: 'change', words: 'Only a running alternator lifts it by', value: by, unit: 'V', digits: 2 },
        ...(context.charger.feed?.engineSignal ? [{ kind: 'note', words: 'The engine signal decides first; this is the fallback.' } as const] : []),
      ],
    };
  },
};
