import { isUnknown, type Card } from '../card';
import { formatQuantity } from '../quantity';
import type { Plan } from '../settings';
import { bare, type Place } from './place';
import type { Hazard, SheetStep } from './step';

/** What is opened, and in words how, before a source’s charger is keyed. */
const sourceWords: Partial<Record<Card['kind'], { what: (name: string) => string; open: string; shut: string; note?: string; caution?: string }>> = {
  solarMppt: {
    what: (name) => `Array of ${name}`,
    open: 'Open its isolator, in the array lead and not in the battery lead. The battery stays connected.',
    shut: 'Battery first, then array: close its isolator now.',
  },
  solarPwm: {
    what: (name) => `Array of ${name}`,
    open: 'Open its isolator, or cover the panels. The battery stays connected.',
    shut: 'Battery first, then array: close its isolator, or uncover the panels.',
    note: 'After dark see once that nothing flows back into the array.',
  },
  alternator: {
    what: (name) => `Engine of ${name}`,
    open: 'Stop the engine and take the key. The output stays connected.',
    shut: 'Join what was taken off, hands and tools away from the belt, then the engine may run.',
  },
  dcdc: {
    what: (name) => `Engine feeding ${name}`,
    open: 'Stop the engine. Both banks stay connected.',
    shut: 'The engine may run again.',
  },
  turbine: {
    what: (name) => `Turbine of ${name}`,
    open: 'Set the brake and see that it does not turn. The diversion load stays connected.',
    shut: 'Diversion load first, then release the brake.',
  },
  inverterCharger: {
    what: (name) => `Mains of ${name}`,
    open: 'Switch the mains input off at its breaker, or pull the shore plug.',
    shut: 'Mains may come back.',
    caution: 'Its capacitors draw an arc when it is first joined to the bank: precharge them as its manual says.',
  },
};

/** A source that is switched off before anything is keyed; null where a device has none. */
export function openStep({ charger, card }: Place): SheetStep | null {
  const words = sourceWords[card.kind];
  if (!words) return null;
  // What the words already tell is not told again.
  const off = card.programming.disconnected.filter((d) => !['array', 'turbine'].includes(d));
  return {
    ...bare(`open/${charger.id}`, 'open', charger.id, `${words.what(charger.name)}: off`),
    says: [words.open, ...(off.length > 0 ? [`Take off too: ${off.join(', ')}.`] : []), 'Tag it.'],
    notes: [],
    source: charger.id,
    ...(card.kind.startsWith('solar') ? { caution: 'Array leads are live in daylight.' } : {}),
    ...(card.survivesBatteryLoss
      ? {}
      : {
          caution: isUnknown(card, 'batteryLoss')
            ? `Nobody knows whether ${charger.name} survives losing the battery while its source is on: take it that it does not.`
            : `${charger.name} does not survive losing the battery while its source is on.`,
        }),
  };
}

/** Everything goes back on: battery, then sources, then loads, fuse last. */
export function closing(plan: Plan, places: readonly Place[], prefix: string, only?: ReadonlySet<string>): readonly SheetStep[] {
  const shut = places.flatMap(({ charger, card }): SheetStep[] => {
    const words = sourceWords[card.kind];
    if (!words || (only && !only.has(charger.id))) return [];
    const sensor = charger.sensor.fitted && card.sensor.reads === 'wired' ? ['See that its battery sensor is where it belongs.'] : [];
    return [
      {
        ...bare(`${prefix}close/${charger.id}`, 'close', charger.id, `${words.what(charger.name)}: on`),
        says: [words.shut, ...sensor, 'Take the tag off.'],
        notes: ['Watch the first minute: the volts stay below the sheet’s most, and the current goes the right way.', ...(words.note ? [words.note] : [])],
        source: charger.id,
        ...(words.caution ? { caution: words.caution } : {}),
      },
    ];
  });
  const most = plan.settings.find((s) => s.role === 'absorbVoltage' && s.band?.max !== undefined)?.band?.max;
  return [
    ...shut,
    {
      ...bare(`${prefix}handBack`, 'handBack', null, 'Leave it as it should run'),
      says: ['Go round once more before you leave.'],
      items: [
        'Every terminal that was opened is at its maker’s torque, its polarity checked with the meter, and no stud holds more lugs than its maker allows',
        'Every tag is off, every isolator closed, no tool left inside',
        'Battery sensors are where they belong',
        'Loads are on again; main fuse in, and it went in last',
        ...(most === undefined ? [] : [`The bank reads below ${formatQuantity(most, 'V', 1)}, and no device shows an alarm`]),
      ],
    },
  ];
}

/** What stays off, from the step that opens it (the first one, where that was on another sheet) to the one that closes it. */
export function hazardsOf(steps: readonly SheetStep[]): readonly Hazard[] {
  return steps.flatMap((step, to): Hazard[] => {
    if (step.kind !== 'close' || step.source === undefined) return [];
    const from = steps.findIndex((s) => s.kind === 'open' && s.source === step.source);
    return [{ id: step.source, words: step.title.replace(/: on$/, ''), from: Math.max(0, from), to }];
  });
}
