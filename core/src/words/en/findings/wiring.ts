import { formatNumber } from '../../../quantity';
import { breakWords } from '../../../settings';
import type { Language } from '../../language';
import { codesDecide, listed } from '../join';

type Words = Language['findings'];

const fusesDecide = `A fault in one string is fed by all the others. ${codesDecide}`;

/** Arrays, cables, fuses, relays and what turns. */
export const wiringFindings = {
  arrayClipped: ({ labelW, ceilingW }, say, its) => ({
    text: `The array of ${its} is rated ${say.watts(labelW)}. The charger passes on ${say.watts(ceilingW)} in absorb.`,
    hurts: 'The rest is lost around noon on clear days. System shows how much in a year.',
  }),
  arrayParts: ({ part, ratedA, brightA }, say, its) => {
    const digits = say.digits(ratedA, brightA);
    return {
      text: `The ${part === 'isolator' ? 'array isolator' : 'string fuse'} of ${its} is rated for ${say.amps(ratedA, digits)}. In bright light ${say.amps(brightA, digits)} flow through it.`,
      hurts: `It ${part === 'isolator' ? 'overheats, or cannot open' : 'opens on bright days'}. ${codesDecide}`,
    };
  },
  arrayStringFuses: ({ strings, backA, maxFuseA }, say, its) => ({
    text: `${strings} strings of panels are in parallel on ${its}, without a fuse in each.${maxFuseA === null ? '' : ` The others drive ${say.amps(backA, say.digits(backA, maxFuseA))} into a faulty one; the label allows ${say.amps(maxFuseA, say.digits(backA, maxFuseA))}.`}`,
    hurts: fusesDecide,
  }),
  stringFusePastPanel: ({ fuseA, maxFuseA }, say, its) => ({
    text: `The string fuses of ${its} are ${say.amps(fuseA)}. The label of its panels allows at most ${say.amps(maxFuseA)}.`,
    hurts: `A faulty panel burns before the fuse opens. ${codesDecide}`,
  }),
  arrayTooHigh: ({ inSeries, coldV, mostV, recordLowC, ratedV }, say, its) => {
    const digits = say.digits(coldV, ratedV);
    const past = coldV > ratedV;
    return {
      text: `The array of ${its}, ${inSeries} in series, reaches ${say.volts(coldV, digits)} at ${say.celsius(recordLowC)}${past ? '' : `, and up to ${say.volts(mostV, say.digits(mostV, ratedV))} with the label’s tolerance on a clear night`}. The charger’s input is rated for ${say.volts(ratedV, digits)}.`,
      hurts: past
        ? 'The first clear frosty dawn destroys the charger. Put fewer panels in series.'
        : 'Panels at the top of their tolerance destroy the charger on a clear frosty dawn. Put fewer panels in series, or measure the string cold.',
    };
  },
  arrayTooLow: ({ hotV, recordHighC, leastV }, say, its) => {
    const digits = say.digits(hotV, leastV);
    return {
      text: `The array of ${its} works at ${say.volts(hotV, digits)} when the air is at ${say.celsius(recordHighC)}. To reach absorb it needs ${say.volts(leastV, digits)}.`,
      hurts: 'On hot days the bank is never filled, whatever is set.',
    };
  },
  arrayTooMuchCurrent: ({ designA, ratedA }, say, its) => {
    const digits = say.digits(designA, ratedA);
    return {
      text: `The array of ${its} can deliver ${say.amps(designA, digits)} in bright light. The charger’s input is rated for ${say.amps(ratedA, digits)}.`,
      hurts: 'The input or its wiring overheats. Put fewer strings in parallel.',
    };
  },
  cableDrop: ({ lostV, amps, allA }, say, its) => ({
    text: `The cables from ${its} to the bank lose ${say.volts(lostV)} at ${say.amps(amps)}${allA === null || allA <= amps + 0.05 ? '' : `, with ${say.amps(allA)} of all chargers in the main cable`}.`,
    hurts: 'Absorb begins early and lasts longer. Fit a thicker cable or sense leads. Do not raise a setpoint for it: the drop goes as the current tapers.',
  }),
  fuseCannotBreak: ({ shortCircuitA, breaksA }, say) => ({
    text: `The bank drives ${say.amps(shortCircuitA)} into a short. ${breaksA === null ? 'The breaking capacity of the main fuse is not entered.' : `The main fuse can break ${say.amps(breaksA)}.`}`,
    hurts: 'A fuse that cannot break the arc burns on. Its data sheet gives the breaking capacity at the bank’s voltage.',
  }),
  fuseMissing: ({ noFuse, noIsolator, nominalV }, say, its) => ({
    text: `${its}: ${listed([...(noFuse ? ['no fuse to the bank'] : []), ...(noIsolator ? ['no array isolator'] : [])])} entered. A ${say.volts(nominalV, 0)} bank feeds every short.`,
    hurts: `Without it nothing opens in a fault, and there is no safe way to work. ${codesDecide}`,
  }),
  fusePastCable: ({ fuseA, cableA }, say, its) => {
    const digits = say.digits(fuseA, cableA);
    return {
      text: `${its === '' ? 'The main fuse of' : `${its}: the fuse of`} ${say.amps(fuseA, digits)} is larger than its cable’s rating of ${say.amps(cableA, digits)}.`,
      hurts: `The cable burns before the fuse opens. ${codesDecide}`,
    };
  },
  loadDump: (_, _say, its) => ({
    text: `${its}: the BMS can disconnect while it charges, and no load-dump protection is entered.`,
    hurts: 'The voltage spike destroys diodes and electronics. Never open the output of a turning alternator: stop it at its field.',
  }),
  mainPathTooSmall: ({ part, ratedA, flowsA, charging }, say) => {
    const digits = say.digits(ratedA, flowsA);
    return {
      text: `The ${part === 'shunt' ? 'shunt' : 'main switch'} is rated for ${say.amps(ratedA, digits)}. ${charging ? 'The chargers together give' : 'The loads take'} up to ${say.amps(flowsA, digits)}.`,
      hurts: `It overheats${part === 'shunt' ? ' and reads wrong' : ''}. ${codesDecide}`,
    };
  },
  outputOpened: ({ device, kind }, say, its) => ({
    text: `${its} would open the output of ${say.name(device)} while it turns.`,
    hurts:
      kind === 'alternator'
        ? 'The load dump destroys diodes and electronics. Stop an alternator at its field.'
        : 'An unloaded turbine overspeeds. Stop it by its brake.',
  }),
  panelCoefficient: ({ percent, likelier, most, least }, _, its) => ({
    text: `The panels of ${its} are entered with an open-circuit change of ${formatNumber(percent, 2)} %/°C. The usual range is ${formatNumber(most, 1)} to ${formatNumber(least, 1)} %/°C.${likelier === null ? '' : ` ${formatNumber(likelier, 2)} %/°C is likelier.`}`,
    hurts: 'The volts on a frosty dawn come out wrong, and with them whether the charger survives it. Look at the label.',
  }),
  relayContactTooSmall: ({ own, volts, amps, breaks, device, mustVolts, mustAmps }, say, its) => {
    const v = (value: number | null): string => (value === null ? 'an unknown voltage' : say.volts(value, 0));
    const a = (value: number | null): string => (value === null ? 'an unknown current' : say.amps(value));
    return {
      text: `${own ? `${its}’s own contact` : `The relay of ${its}`} is rated for ${v(volts)} and ${a(amps)}. On ${breakWords[breaks]} of ${say.name(device)} it must break ${v(mustVolts)} and ${a(mustAmps)}.`,
      hurts: 'A DC arc does not go out in too small a contact: it welds shut, or burns.',
    };
  },
  relayWrongSide: ({ breaks, devices, right }, say, its) => ({
    text: `${its} opens ${breakWords[breaks]} of ${listed(devices.map(say.name))}. It belongs on ${listed(right.map((side) => breakWords[side]))}.`,
    hurts:
      breaks === 'batterySide'
        ? 'Every cold night the charger loses its supply and its count, and may then detect the system voltage wrongly.'
        : 'It does not stop this source.',
  }),
  stringFuses: ({ strings }) => ({ text: `${strings} strings are in parallel, without a fuse in each.`, hurts: fusesDecide }),
  turbineWithoutDiversion: (f, say, its) => {
    if (f.lacks === 'load')
      return {
        text: `${its}: no diversion load is entered.`,
        hurts: 'When the bank is full, or a BMS trips, the turbine overspeeds. Enter the load on System. It gets hot, and no single fault may disconnect it.',
      };
    if (f.lacks === 'brake')
      return {
        text: `${its}: the brake does not close by itself when its supply fails.`,
        hurts: 'The fault that takes the load away takes the brake with it.',
      };
    const { loadW, peakW } = f;
    return f.lacks === 'power'
      ? {
          text: `${its}: the diversion load takes ${say.watts(loadW)}. The turbine gives ${say.watts(peakW)} at its peak.`,
          hurts: 'The load burns out, and then the turbine overspeeds.',
        }
      : {
          text: `${its}: the diversion load takes ${say.watts(loadW)}, ${say.percent((100 * loadW) / peakW)} of the turbine’s peak of ${say.watts(peakW)}. Codes often require 150 %.`,
          hurts: 'It runs at its limit for days. Local codes decide.',
        };
  },
} satisfies Partial<Words>;
