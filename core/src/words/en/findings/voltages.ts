import { roleInfo } from '../../../card';
import { digitsApart } from '../../../quantity';
import type { OutsideBand } from '../../../findings';
import type { Language, Said } from '../../language';
import type { Say } from '../../say';
import { sheetBand } from '../join';

type Words = Language['findings'];

/** "0.31 V below", "at", "0.20 V above". */
const beside = (value: number, limit: number, say: Say, digits = 2): string =>
  Math.abs(value - limit) < 1e-9 ? 'at' : `${say.volts(Math.abs(value - limit), digits)} ${value > limit ? 'above' : 'below'}`;

const outsideBand =
  (role: 'absorbVoltage' | 'floatVoltage', above: string, below: string) =>
  ({ comesTo, by, min, max, overriddenBy }: OutsideBand, say: Say, its: string): Said => ({
    text: `${its}: ${roleInfo[role].name} ${overriddenBy === null ? 'comes' : `is overridden by the ${overriddenBy} and comes`} to ${say.volts(comesTo)}, ${say.volts(Math.abs(by))} ${by > 0 ? 'above' : 'below'} ${sheetBand({ min, max }, say.voltsBand({ min, max }))}.`,
    hurts: by > 0 ? above : below,
  });

/** Charging voltages, trips, alarms and diversion. */
export const voltageFindings = {
  absorbNearTrip: ({ absorb, trip, least }, say, its) => ({
    text: `${its} absorbs at ${say.volts(absorb)}, ${beside(absorb, trip, say)} the BMS trip of ${say.volts(trip)}. It must be at least ${say.volts(least)} below.`,
    hurts: 'The BMS disconnects the bank while it charges: a voltage spike hits diodes and electronics, and the loads go off.',
  }),
  absorbOutsideBand: outsideBand('absorbVoltage', 'Cells age, and the BMS may trip while charging.', 'The bank is never fully charged or balanced.'),
  alarmPastTrip: ({ alarm, trip, by, least }, say, its) => {
    const digits = digitsApart(alarm, trip, 1);
    return {
      text: `${its}: high-voltage alarm is at ${say.volts(alarm, digits)}, ${beside(alarm, trip, say, digits)} ${by === 'cell' ? 'where the BMS trips on its highest cell,' : 'the BMS trip of'} ${say.volts(trip, digits)}. It must be at least ${say.volts(least, 1)} below.`,
      hurts: 'The BMS disconnects the bank before anybody is warned.',
    };
  },
  cellSpread: ({ absorb, meanV, spreadV, assumed, tripV, lowestV, leastV, alarm }, say, its) => {
    const highest = meanV + spreadV;
    const digits = digitsApart(highest, tripV, 2);
    return {
      text: `${its} absorbs at ${say.volts(absorb)}, a mean of ${say.volts(meanV)} per cell. With ${say.volts(spreadV)} of ${assumed ? 'assumed' : 'measured'} spread the highest cell reaches ${say.volts(highest, digits)}, and the BMS trips at ${say.volts(tripV, digits)} on any cell. Absorb must be at most ${say.volts(lowestV - leastV)}.`,
      hurts: `One cell ahead of the others disconnects the bank before it is full.${alarm ? ' No alarm fits between absorb and this trip.' : ''}${assumed ? ' Measure the cells at the end of absorb and enter the spread on System.' : ''}`,
    };
  },
  dcdcDrainsStarter: ({ set, stopV, restsV, feed }, say, its) => ({
    text: `${its} ${{ target: 'would stop', factory: 'leaves the factory set to stop', found: 'was found set to stop' }[set]} at ${say.volts(stopV, digitsApart(stopV, restsV, 1))}. ${feed ?? 'The battery it draws from'} rests at ${say.volts(restsV, digitsApart(stopV, restsV, 1))}.`,
    hurts: 'It goes on charging with the engine off, and the starter battery is flat in the morning.',
  }),
  dcdcStartsLow: ({ found, startV, restsV, feed }, say, its) => {
    const digits = digitsApart(startV, restsV, 1);
    return {
      text: `${its} ${found ? 'was found set to start' : 'would start'} at ${say.volts(startV, digits)}. ${feed ?? 'The battery it draws from'} rests at ${say.volts(restsV, digits)}.`,
      hurts: 'It starts with the engine off and drains the starter battery.',
    };
  },
  diversionBelowAbsorb: ({ diversion, absorb }, say, its) => ({
    text: `${its}: diversion at ${say.volts(diversion)} is not above absorb at ${say.volts(absorb)}.`,
    hurts: 'The bank is never filled: everything above goes into the diversion load.',
  }),
  diversionFixed: ({ diversion, bankLowC, coldV, bankHighC, hotV }, say, its) => ({
    text: `${its} diverts at a fixed ${say.volts(diversion)}. It would charge to ${say.volts(coldV)} at ${say.celsius(bankLowC)} and to ${say.volts(hotV)} at ${say.celsius(bankHighC)}.`,
    hurts: 'In the cold the bank is not filled. A fixed diversion high enough for the cold does not protect in the heat: change it with the seasons.',
  }),
  equaliseReachable: ({ found, reads, why }, _, its) => ({
    text: `${its} ${found ? 'was found' : 'leaves the factory'} with equalise on “${reads}”. ${{ lithium: 'Lithium must never be equalised', sheet: 'The sheet does not permit equalising', silent: 'The sheet says nothing of equalising, which counts as not permitted' }[why]}.`,
    hurts: 'One wrong press overcharges the bank.',
  }),
  equaliseStored: ({ least, storedV, mostV }, say, its) => {
    const digits = digitsApart(storedV, mostV, 1);
    return least
      ? {
          text: `${its} cannot store an equalise voltage below ${say.volts(storedV, digits)}. The sheet allows at most ${say.volts(mostV, digits)}.`,
          hurts: 'A factory reset or a wrong press overcharges the bank.',
        }
      : {
          text: `${its} still stores ${say.volts(storedV, digits)} for equalise. The sheet allows at most ${say.volts(mostV, digits)}.`,
          hurts: 'A factory reset or a wrong press puts that voltage on the bank.',
        };
  },
  floatNotPermitted: ({ float, restsV }, say, its) => ({
    text: `${its} would float at ${say.volts(float)}. The sheet permits no float${restsV === null ? '' : `; a full bank rests at ${say.volts(restsV)}`}.`,
    hurts: 'Held at that voltage all day, the cells age.',
  }),
  floatOutsideBand: outsideBand('floatVoltage', 'Held above the sheet all day, cells age.', 'The bank drains slowly while the sun shines.'),
  inputLimitAboveRating: ({ limitV, ratedV }, say, its) => ({
    text: `${its}: the input limit of ${say.volts(limitV, 0)} is not below the ${say.volts(ratedV, 0)} its input is rated for.`,
    hurts: 'A turbine that overspeeds destroys the charger before the limit acts.',
  }),
  presentOutsideBand: ({ role, foundV, by, min, max, harms }, say, its) => {
    const digits = digitsApart(foundV, foundV - by, 1);
    return {
      text: `${its}: ${roleInfo[role].name} was found at ${say.volts(foundV, digits)}, ${say.volts(Math.abs(by), digits)} ${by > 0 ? 'above' : 'below'} ${sheetBand({ min, max }, say.voltsBand({ min, max }, digits))}.`,
      hurts: harms
        ? 'Cells age until it is changed on the device.'
        : by > 0
          ? 'Charging starts sooner than the sheet requires until it is changed on the device.'
          : 'The bank is undercharged until it is changed on the device.',
    };
  },
  rechargeBelowDisconnect: ({ recharge, disconnect, device }, say, its) => ({
    text: `${its} starts a new charge at ${say.volts(recharge)}. ${say.name(device)} disconnects the loads at ${say.volts(disconnect)} already.`,
    hurts: 'On a sunny day the loads are off while the charger waits.',
  }),
  rechargeNearFloat: ({ recharge, float, least }, say, its) => ({
    text: `${its}: recharge at ${say.volts(recharge)} is ${beside(recharge, float, say)} float at ${say.volts(float)}. It must be at least ${say.volts(least)} below.`,
    hurts: 'A new charge starts at every passing load.',
  }),
  schoolAgainstSheet: (f, say) => ({
    text:
      f.chosen === 'equalsAbsorb'
        ? `The choice “float equals absorb” holds ${say.volts(f.holdsV)}. The sheet’s float is at most ${say.volts(f.mostV)}.`
        : `The choice “rest” sets no float. The sheet gives ${say.volts(f.sheetV)}.`,
    hurts: 'The report marks it as outside the sheet, and the maker may refuse a claim.',
  }),
} satisfies Partial<Words>;
