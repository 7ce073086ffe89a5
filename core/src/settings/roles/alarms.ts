import { formatNumber, makeBand } from '../../quantity';
import { cite, statedFigure } from '../../sheet';
import { belowTripPer12V, lowestTrip } from '../../system';
import { referenceC } from '../input';
import { missing, per12, voltsFromSheet, type RoleContext, type RoleRule } from '../context';
import type { Step } from '../setting';

/** Distance of an alarm from what it must clear, V per 12 V. */
const clear = 0.2;

/** The highest voltage a charger of this bank may rightly aim at, V: the sheet's most, lifted by compensation at the bank's coldest. */
function highestLegitimate(context: RoleContext): { volts: number; steps: Step[] } | null {
  const { input, done, facts } = context;
  const equalise = statedFigure(input.sheet, 'equaliseVoltage') ? voltsFromSheet(context, 'equaliseVoltage', 'most') : null;
  const absorb = voltsFromSheet(context, 'absorbVoltage', 'most');
  const most = equalise ?? absorb;
  if (!most) return null;
  const top = most.band.max ?? most.volts;
  const steps: Step[] = [
    {
      kind: 'start',
      words: equalise ? 'Most of the equalise band' : 'Most of the absorb band',
      value: top,
      unit: 'V',
      digits: 2,
      source: cite(input.sheet, most.figure),
    },
  ];
  const slope = (done.get('compensationSlope')?.trueValue ?? 0) * facts.cells;
  const lift = slope * (Math.max(input.system.site.bankLowC, done.get('compensationMinTemp')?.trueValue ?? -Infinity) - referenceC(context));
  if (lift <= 0) return { volts: top, steps };
  return { volts: top + lift, steps: [...steps, { kind: 'change', words: 'Lifted by compensation at the bank’s coldest', value: lift, unit: 'V', digits: 2 }] };
}

/** High-voltage alarm: above the highest rightful setpoint, and early enough before the lowest BMS trip. */
export const highVoltageAlarm: RoleRule = {
  role: 'highVoltageAlarm',
  want: (context) => {
    const highest = highestLegitimate(context);
    if (!highest) return missing(context, 'absorb voltage');
    const { sheet, system } = context.input;
    const trip = lowestTrip(sheet, system);
    const by = per12(context, clear);
    const most = trip ? trip.volts - per12(context, belowTripPer12V) : undefined;
    const wanted = highest.volts + by;
    const exact = most === undefined ? wanted : Math.min(wanted, most);
    const steps: Step[] = [
      ...highest.steps,
      { kind: 'change', words: 'Room for overshoot, 0.2 V per 12 V', value: by, unit: 'V', digits: 2 },
      ...(trip?.cell && exact < wanted
        ? [
            {
              kind: 'note',
              words: `The BMS trips on its highest cell: ${formatNumber(trip.cell.tripV, 2)} V less ${formatNumber(trip.cell.spreadV, 2)} V of ${trip.cell.assumed ? 'assumed' : 'measured'} spread, × ${context.facts.cells} cells is ${formatNumber(trip.volts, 2)} V`,
            } as const,
          ]
        : []),
      ...(exact < wanted
        ? [
            {
              kind: 'change',
              words: `At least ${belowTripPer12V} V per 12 V below the lowest BMS trip`,
              value: exact,
              unit: 'V',
              digits: 2,
              source: cite(sheet, statedFigure(sheet, trip?.by === 'cell' ? 'bmsCellOverVoltage' : 'bmsOverVoltage')),
            } as const,
          ]
        : []),
    ];
    return { kind: 'number', exact, band: makeBand(Math.min(exact, highest.volts), most), inset: 0, prefer: 'down', steps };
  },
};

/** Low-voltage alarm: a little above the load disconnect, so that it comes first. */
export const lowVoltageAlarm: RoleRule = {
  role: 'lowVoltageAlarm',
  want: (context) => {
    const sheet = voltsFromSheet(context, 'disconnectVoltage');
    if (!sheet) return missing(context, 'load disconnect voltage');
    const by = per12(context, clear);
    return {
      kind: 'number',
      exact: sheet.volts + by,
      band: { min: sheet.volts },
      inset: 0,
      prefer: 'up',
      steps: [...sheet.steps, { kind: 'change', words: 'Above it by 0.2 V per 12 V, so that the alarm comes first', value: by, unit: 'V', digits: 2 }],
    };
  },
};
