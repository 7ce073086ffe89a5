import { digitsApart } from '../../../quantity';
import type { ColdGuardFault } from '../../../settings';
import { sensorPlaceWords } from '../../../system';
import type { Language } from '../../language';
import type { Say } from '../../say';
import { listed } from '../join';

type Words = Language['findings'];

const guardFault = (fault: ColdGuardFault, say: Say): string => {
  switch (fault.why) {
    case 'noCutoff':
      return 'it has no low-temperature cutoff';
    case 'cutoffNotKnown':
      return 'nobody knows yet whether it has a low-temperature cutoff';
    case 'noSensorStops':
      return 'it has no battery sensor, and charges nothing while its cutoff is set';
    case 'noSensorIgnores':
      return 'it has no battery sensor, and ignores its cutoff without one';
    case 'sensorNotKnown':
      return 'nobody has said whether its battery sensor is fitted';
    case 'sensorElsewhere':
      return `its sensor is ${sensorPlaceWords[fault.place]}, which is not the battery`;
    case 'bmsTooCold':
      return `the BMS stops charging at ${say.celsius(fault.stopsC)}, below the sheet’s ${say.celsius(fault.leastC)}`;
    case 'relayMisplaced':
      return `${say.name(fault.device)} switches it at the wrong place`;
    case 'relayTooSmall':
      return `the contact of ${say.name(fault.device)} is too small for it`;
    case 'relaySensorNotKnown':
      return `nobody has said where the sensor of ${say.name(fault.device)} sits`;
    case 'relayHeats':
      return `the heating output of ${say.name(fault.device)} closes in the cold`;
  }
};

/** Charging in the cold, sensors and compensation. */
export const coldFindings = {
  batteryReadingMissing: ({ known }, say, its) => ({
    text: `${its} reads the battery’s temperature over its network, and ${known ? 'no sensor is on that network' : 'nobody has said whether a sensor is on it'}.`,
    hurts: `Without one it assumes ${say.celsius(25)}, or does nothing by temperature.`,
  }),
  coldPastDiversion: ({ bankLowC, device, coldV, diversionV, brakeV }, say, its) => ({
    text: `At ${say.celsius(bankLowC)} ${say.name(device)} absorbs at ${say.volts(coldV)}, above ${listed([...(diversionV === null ? [] : [`the diversion of ${its} at ${say.volts(diversionV)}`]), ...(brakeV === null ? [] : [`${diversionV === null ? `the brake of ${its}` : 'its brake'} at ${say.volts(brakeV)}`])])}.`,
    hurts: `In the cold ${diversionV === null ? 'the brake stops the turbine while the bank still takes charge' : 'its power goes into the diversion load, and the bank is not filled'}. Move the two together with the seasons, or let both be compensated.`,
  }),
  coldProtection: ({ faults, chosen, bankLowC, leastC, lithium }, say, its) => {
    const why = faults.map((fault) => guardFault(fault, say)).join(', and ');
    const none = chosen === 'bms' ? 'no BMS stops it' : 'no relay stops it';
    return {
      text: `${its} has no working cold protection: ${why === '' ? none : why}. The bank falls to ${say.celsius(bankLowC)} and must not be charged below ${say.celsius(leastC)}.`,
      hurts:
        faults.every((fault) => fault.why === 'noSensorStops') && faults.length > 0
          ? 'The bank runs flat with the source running. Fit the sensor, or protect it another way.'
          : lithium
            ? 'Charging frozen cells damages them for good and can make them dangerous.'
            : 'Charging a frozen battery can burst it.',
    };
  },
  coldProtectionSingle: ({ only }, _, its) => ({
    text: `${its} has one working cold protection, ${{ charger: 'its own cutoff', bms: 'the BMS', relay: 'a relay' }[only]}. Two were chosen.`,
    hurts: 'If it fails, nobody notices until the cells are damaged.',
  }),
  compensatedVoltage: ({ holds, bankLowC, coldV, what, atV }, say, its) => {
    const digits = digitsApart(coldV, atV, 2);
    const does = holds === 'equaliseVoltage' ? 'equalise' : holds === 'bulkVoltage' ? 'bulk' : 'absorb';
    return {
      text: `At ${say.celsius(bankLowC)} ${its} would ${does} at ${say.volts(coldV, digits)}. ${what === 'trip' ? 'The BMS trips at' : 'The loads are rated for'} ${say.volts(atV, digits)}.`,
      hurts:
        what === 'trip'
          ? 'The BMS disconnects the bank on the coldest sunny day. Limit the compensation.'
          : 'Electronics on the bank fail on the coldest sunny day. Limit the compensation, or feed the loads through a regulator.',
    };
  },
  compensationMissingLead: ({ why, bankLowC, bankHighC }, say, its) => ({
    text: `${its} ${{ none: 'has no temperature compensation', off: 'has its compensation set to 0', noSensor: 'has no sensor on the battery to compensate by', sensorNotKnown: 'compensates by a battery sensor, and nobody has said whether it is fitted' }[why]}. This lead bank goes from ${say.celsius(bankLowC)} to ${say.celsius(bankHighC)}.`,
    hurts: 'It is undercharged in the cold and overcharged in the heat.',
  }),
  compensationOnLithium: (f, say, its) =>
    f.set === 'target'
      ? {
          text: `${its} would compensate by ${say.slope(f.perDegreeV)} on a lithium bank.`,
          hurts: 'In the cold the charge voltage rises above what the sheet allows.',
        }
      : {
          text: `${its} ${f.set === 'found' ? 'was found with' : 'leaves the factory with'} compensation on, at ${say.reading(f.reads)}. A lithium bank needs ${say.reading(f.off)}.`,
          hurts: 'In the cold compensation raises the charge voltage above what the sheet allows. A reset brings it back.',
        },
  cutoffBelowSheet: ({ found, cutoffC, leastC, sheetC }, say, its) => ({
    text: `${its}: low-temperature cutoff ${found ? 'was found at' : 'would be'} ${say.celsius(cutoffC)}. It must be at least ${say.celsius(leastC)}${sheetC === null || leastC - sheetC < 0.05 ? ', the sheet’s figure' : ` (sheet ${say.celsius(sheetC)} + sensor margin ${say.degrees(leastC - sheetC)})`}.`,
    hurts: 'The cells are charged too cold, which damages lithium for good.',
  }),
  cutoffTooHigh: ({ foundC, enoughC }, say, its) => ({
    text: `${its}: low-temperature cutoff was found at ${say.celsius(foundC)}. ${say.celsius(enoughC)} is enough.`,
    hurts: 'On days between the two the bank is not charged although it may be.',
  }),
  cutoffWithoutMargin: ({ cutoffC, coldestC }, say, its) => ({
    text: `${its} stops at ${say.celsius(cutoffC)} by its sensor. The cell may then be at ${say.celsius(coldestC)}.`,
    hurts: 'Tape, lag and sensor error add up to that much: the cells are charged colder than the sheet allows.',
  }),
  cutoffWithoutSensor: (f, say, its) =>
    f.chargesNothing
      ? {
          text: f.known
            ? `${its} charges nothing: its cutoff is set, it has no battery sensor, and without one it stops.`
            : `${its} has its cutoff set, and without a battery sensor it charges nothing. Nobody has said whether one is fitted.`,
          hurts: 'The bank runs flat with the source running.',
        }
      : {
          text: f.known
            ? `${its} has its cutoff at ${say.reading(f.cutoff)} and no sensor on the battery. It ignores the cutoff.`
            : `${its} has its cutoff at ${say.reading(f.cutoff)}, and nobody has said whether a sensor is on the battery. Without one it ignores the cutoff.`,
          hurts: 'Whoever reads the setting believes in a protection that is not there.',
        },
  resumeTooClose: ({ found, resumeC, cutoffC, leastDegrees }, say, its) => ({
    text: `${its} ${found ? 'was found to resume' : 'resumes'} at ${say.celsius(resumeC)}, ${say.degrees(resumeC - cutoffC)} above its cutoff. It needs ${say.degrees(leastDegrees)}.`,
    hurts: 'The sensor warms before the cell does: charging resumes while the core is still too cold.',
  }),
  sensorReadsWarm: ({ warmerDegrees, cutoffC }, say, its) => ({
    text: `${its}: the sensor reads ${say.degrees(warmerDegrees)} warmer than the cell${cutoffC === null ? '' : `, so the cutoff is ${say.celsius(cutoffC)}`}.`,
    hurts: 'With the sheet’s own figure entered, the cells would be charged that much too cold.',
  }),
  sensorStillPlugged: (_, _say, its) => ({
    text: `${its}: the battery sensor is plugged in, and this charger uses it only for compensation.`,
    hurts: 'After a reset compensation is on again, and with the sensor it acts on this lithium bank.',
  }),
  sensorUnplugged: ({ known, stops }, _, its) => ({
    text: `${its}: ${known ? 'the sensor is unplugged, and the cutoff needs it' : 'the cutoff needs the battery sensor, and nobody has said whether it is fitted'}. Without it the charger ${stops ? 'stops charging' : 'ignores the cutoff'}.`,
    hurts: known
      ? 'Compensation is switched off by its own setting. Unplugging the sensor takes the cold protection away.'
      : 'Until somebody has looked it counts as not fitted. Say on System where it sits.',
  }),
  slopeAsFound: ({ found, reads, ratio, factor, right, sheetSlope }, say, its) => {
    const times = factor ?? Number(ratio.toFixed(1));
    const how = ratio < 0 ? 'with the sign reversed' : times >= 1 ? `${times} times the sheet’s` : `1/${Math.round(1 / times)} of the sheet’s`;
    return {
      text: `${its}: compensation slope ${found ? 'was found at' : 'is set to'} ${say.reading(reads)}, ${how}. ${right === null ? `The sheet’s is ${say.slope(sheetSlope)} per cell` : `It must be ${say.reading(right)}`}.`,
      hurts: `${ratio < 0 || ratio > 1 ? 'In the cold or the heat the bank is overcharged' : 'The bank is undercharged in the cold and overcharged in the heat'}.${factor === null ? '' : ' Per cell, per 12 V and per bank may be mixed up.'}`,
    };
  },
  thermostatAsFound: (f, say, its) => ({
    text:
      f.wrong === 'output'
        ? `${its} was found on output “${f.reads}”. It must be on “${f.fits}”.`
        : `${its}: setpoint was found at ${say.celsius(f.foundC)}. It must be at least ${say.celsius(f.leastC)}.`,
    hurts: f.wrong === 'output' ? 'It lets sources charge in the cold, and stops them when it is warm.' : 'It lets sources charge cells that are too cold.',
  }),
} satisfies Partial<Words>;
