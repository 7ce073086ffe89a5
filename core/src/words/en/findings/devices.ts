import { roleInfo, unknownWords } from '../../../card';
import { formatDuration, formatNumber } from '../../../quantity';
import { chemistryWords } from '../../../sheet';
import type { Language } from '../../language';
import { counted, listed, sheetBand } from '../join';

type Words = Language['findings'];

const ends = {
  time: 'by time',
  taper: 'by current',
  whicheverFirst: 'by time or current',
  both: 'by time and current',
  adaptive: 'by how long bulk took',
  stateOfCharge: 'by state of charge',
  none: 'never',
} as const;

const grounding = { bonded: 'bonded to earth elsewhere', throughCharger: 'earthed only through this detector', floating: 'floating' } as const;

const names = (roles: readonly (keyof typeof roleInfo)[]): string => listed(roles.map((role) => roleInfo[role].name));

/** A device with its model, where it is not called by it already. */
const named = (its: string, model: string): string => (its === model ? its : `${its} (${model})`);

/** What devices are, hold and show. */
export const deviceFindings = {
  absorbFoundLong: ({ foundS, wantedS }, say, its) => ({
    text: `${its}: absorb time was found at ${say.duration(foundS)}. ${say.duration(wantedS)} is worked out from the sheet.`,
    hurts: 'Lithium held at absorb for hours ages, and its fullest cell may trip the BMS.',
  }),
  absorbEndsDiffer: ({ groups }, say) => ({
    text: `The chargers end absorb by different rules: ${groups.map(({ devices, end, wallClock }) => `${listed(devices.map(say.name))} ${ends[end]}${wallClock ? ' on the wall clock' : ''}`).join('; ')}.`,
    hurts: 'One may leave absorb while another still holds it. Judge a full charge by the last of them.',
  }),
  bandImpossible: ({ role, least, most }, say, its) => ({
    text: `${its}: ${roleInfo[role].name} must be at least ${say.ofRole(role, least)} and at most ${say.ofRole(role, most)}. No value fits both.`,
    hurts: 'Two limits contradict each other. Look at what is entered for either.',
  }),
  cardMissing: ({ card }, _, its) => ({
    text: `${its} has no card: “${card}” is not in this job.`,
    hurts: 'No setting can be worked out for it. Choose its model on System.',
  }),
  chargersDisagree: ({ role, high, highDevice, low, lowDevice }, say) => ({
    text: `The chargers differ in ${roleInfo[role].name}: ${say.name(highDevice)} ${say.ofRole(role, high)}, ${say.name(lowDevice)} ${say.ofRole(role, low)}.`,
    hurts: role === 'absorbTime' ? 'The one with the longer time ends the charge alone.' : 'The higher one works alone; the lower one drops to float early.',
  }),
  chemistryNotSupported: ({ model, madeFor, chemistry }, _, its) => ({
    text: `${named(its, model)} is made for ${listed(madeFor.map((c) => chemistryWords[c]))}. The bank is ${chemistryWords[chemistry]}.`,
    hurts: 'It may lack what this chemistry needs: a low-temperature cutoff, or a way to end absorb.',
  }),
  defaultPasscode: (_, _say, its) => ({ text: `${its} still has its default passcode.`, hurts: 'Anyone in radio range can change its settings.' }),
  defaultUnexamined: ({ roles }, _, its) => ({
    text: `${its}: ${counted(roles.length, 'setting was', 'settings were')} not read off the device, and the factory value is another: ${
      roles.length > 4
        ? `${roles
            .slice(0, 3)
            .map((role) => roleInfo[role].name)
            .join(', ')} and ${roles.length - 3} more`
        : names(roles)
    }.`,
    hurts: 'A factory value that nobody looked at acts like a setting that nobody chose.',
  }),
  absorbEveryNowhere: ({ everyDays }) => ({
    text: `No charger on this job has a setting for an absorb every ${everyDays ?? 'so many'} days.`,
    hurts: 'Somebody has to start a charge by hand at that interval. Otherwise choose another plan for the time away.',
  }),
  cardNotKnown: ({ model, unknown }, _say, its) => ({
    text: `${its}: the card of ${model} does not say ${listed(unknown.map((what) => unknownWords[what]))}.`,
    hurts:
      'A value may be refused, rounded or lost, and the day may go otherwise than rehearsed. Read every value back, and enter on the card what its manual says.',
  }),
  displayCorrected: ({ entered, makesV, errorV, calibratable }, say, its) => ({
    text: `${its}: absorb is entered as ${say.reading(entered)} to make ${say.volts(makesV)}, because the display reads ${say.volts(Math.abs(errorV))} ${errorV > 0 ? 'high' : 'low'}.`,
    hurts: calibratable
      ? 'This display can be adjusted: bring it to the meter by its manual, compare again, and the value entered is the one that is meant.'
      : 'Whoever reads the display later will think it is set wrong. Confirm it with the meter while it holds absorb.',
  }),
  displayErrorLarge: ({ displayV, meterV }, say, its) => {
    const percent = (100 * (displayV - meterV)) / meterV;
    return {
      text: `${its}: the display shows ${say.volts(displayV)} and the meter ${say.volts(meterV)}, ${say.percent(Math.abs(percent), 1)} ${percent > 0 ? 'high' : 'low'}.`,
      hurts: 'More than 1 % points to a fault or to a drop in a lead. Find it before you correct setpoints by it.',
    };
  },
  displayNotCompared: (_, _say, its) => ({
    text: `${its}: the display was not compared with a meter.`,
    hurts: 'A display that is off by 1 % puts every setpoint off by 1 %. Enter a comparison on System.',
  }),
  fieldFoundHigh: ({ foundPercent, mostPercent }, say, its) => ({
    text: `${its}: field limit was found at ${say.percent(foundPercent)}. The chosen way of using the machine takes ${say.percent(mostPercent)}.`,
    hurts: 'The machine runs hotter than was chosen.',
  }),
  firmwareChanged: ({ updated, firmware, proved }, _, its) => ({
    text: updated ? `${its} runs firmware ${firmware ?? ''}. Its settings were proved on ${proved ?? ''}.` : `${its} was reset since its settings were proved.`,
    hurts: 'An update or a reset may have changed any value. Read all of them back first.',
  }),
  firmwareOtherThanCard: ({ firmware, describes, menu }, _, its) => ({
    text: `${its} runs firmware ${firmware}. Its card describes ${describes}, menu revision ${menu}.`,
    hurts: 'Labels, ranges and what it does without a sensor may differ. Look for a card of this firmware.',
  }),
  dictatedLine: ({ by, roles, whenLost }, say, its) => {
    const who = by === 'battery' ? 'the battery' : say.name(by);
    switch (whenLost) {
      case 'stops':
        return {
          text: `${its} stops charging when its data line to ${who} is lost.`,
          hurts: 'The bank runs flat with the source running. Look at the line first when charge is missing.',
        };
      case 'lastFigures':
        return {
          text: `${its} goes on with the last ${names(roles)} of ${who} when its data line is lost.`,
          hurts: 'Nothing lowers them then, whatever the battery does. Its own cutoff or the BMS must protect it.',
        };
      default:
        return {
          text: `${its} takes ${names(roles)} from ${who}. What it does when the data line is lost is not known.`,
          hurts: 'It may stop charging, or go on with the last figures. Unplug the line once, look, and enter it on its card.',
        };
    }
  },
  followerCannot: ({ leader, otherKind, model }, say, its) => ({
    text: otherKind
      ? `${its} is entered as a follower of ${say.name(leader)}, which is another model.`
      : `${named(its, model)} cannot take its settings from ${say.name(leader)}.`,
    hurts: 'Its own values count. They are worked out and entered like those of any other charger.',
  }),
  groundFaultSetting: ({ reads, earthed, fits }, _, its) => ({
    text: `${its}: ground-fault detection is on “${reads}”. The DC side is ${grounding[earthed]}: “${fits}” fits that.`,
    hurts: 'A second bond blinds or trips the detector; without the only one an earth fault goes unseen. Local codes and a licensed electrician decide.',
  }),
  meterOutOfRange: ({ meter, rangeV, absorbV }, say) => ({
    text: `${meter} shows at most ${say.volts(rangeV, 0)}. Absorb is ${say.volts(absorbV, 1)}.`,
    hurts: 'It cannot prove voltages of this bank. Choose another range or another meter.',
  }),
  meterPastCalibration: ({ meter, due }) => ({
    text: `${meter} was due for calibration ${due}.`,
    hurts: 'Its calibration expired: its ± can no longer be relied on, nor can a verdict that rests on it.',
  }),
  overrideNotReviewed: ({ role, reason }, _, its) => ({
    text: `${its}: the override of ${roleInfo[role].name} was not checked by a second person${reason ? '' : ', and has no reason'}.`,
    hurts: 'A typing slip goes unseen.',
  }),
  overrideOutsideSheet: ({ role, comesTo, min, max, by }, say, its) => ({
    text: `${its}: ${roleInfo[role].name} ${say.ofRole(role, comesTo)} is a figure of the ${by || 'person'}, outside ${sheetBand({ min, max }, say.bandOf(role, { min, max }))}.`,
    hurts: 'Every view and the report mark it as outside the sheet.',
  }),
  presetChosen: ({ reads, fits, sets }, _, its) => ({
    text: `${its} was found on battery type “${reads}”${sets === null ? '' : `, which sets ${counted(sets, 'value')} at once`}. “${fits}” takes the sheet’s figures.`,
    hurts: 'A preset hides values, or overwrites them when it is chosen again.',
  }),
  rangeCannotReach: ({ role, inRange, from, to, wanted, nearest }, say, its) => {
    const more = say.ofRole(role, wanted) === say.ofRole(role, nearest) ? 1 : 0;
    const name = roleInfo[role].name;
    return {
      text: inRange
        ? `${its} has no step for ${name} at ${say.ofRole(role, wanted, more)}, which the sheet requires. The nearest is ${say.ofRole(role, nearest, more)}.`
        : `${its} takes ${from && to ? `${say.reading(from)} to ${say.reading(to)}` : from ? `at least ${say.reading(from)}` : to ? `at most ${say.reading(to)}` : ''} for ${name}. The sheet requires ${say.ofRole(role, wanted, more)}.`,
      hurts: `The nearest it can hold is ${say.ofRole(role, nearest, more)}: it cannot meet the sheet here.${role === 'loadDisconnect' ? ' Loads go on draining the bank: fit a separate disconnect, or take loads off in winter.' : ''}`,
    };
  },
  ruleBroken: ({ role, value, other, otherValue, relation, gap }, say, its) => ({
    text: `${its} refuses ${roleInfo[role].name} ${say.reading(value)} with ${roleInfo[other].name} ${say.reading(otherValue)}: it must stay ${gap === null ? '' : `${say.reading(gap)} `}${relation === 'atLeast' ? 'above' : 'below'}.`,
    hurts: 'No order of edits gets there. One of the two has to change.',
  }),
  settingAbsent: ({ model, roles }, _, its) => ({
    text: `${named(its, model)} has no setting for ${names(roles)}. The sheet gives ${roles.length === 1 ? 'a figure' : 'figures'}.`,
    hurts: 'There it does what it was built to do. Check on the first days that this suits the sheet.',
  }),
  stepPastTolerance: ({ role, holds, wanted, tolerance }, say, its) => {
    const by = roleInfo[role].unit === '°C' ? say.degrees(tolerance) : say.ofRole(role, tolerance);
    return {
      text: `${its} can hold ${roleInfo[role].name} at ${say.ofRole(role, holds)}. The sheet requires ${say.ofRole(role, wanted)}${/[1-9]/.test(by) ? ` ± ${by}` : ''}.`,
      hurts: 'Its range or its steps come no closer. Write down that it does not meet the sheet here.',
    };
  },
  systemVoltageFound: ({ reads, bankV, automatic }, _, its) => ({
    text: `${its} was found on system voltage “${reads}”. The bank is ${bankV}\u00a0V.`,
    hurts: automatic
      ? 'If it detects wrongly once, on a flat bank or with the array connected first, every setpoint is doubled or halved.'
      : 'All setpoints are doubled or halved.',
  }),
  systemVoltageMismatch: ({ nominalV, model, worksAtV }, _, its) => ({
    text: `The bank is ${formatNumber(nominalV, 1)}\u00a0V nominal. ${named(its, model)} works at ${worksAtV.join(', ')}\u00a0V.`,
    hurts: 'On the wrong system voltage all setpoints are doubled or halved.',
  }),
  unattendedWithoutPlan: ({ months, everyDays, storePercent, lithium }, say) => ({
    text: `Nobody is on site for ${counted(months, 'month')}, and no plan is chosen for that time.${everyDays === null ? '' : ` The sheet requires an absorb every ${everyDays} days.`}${storePercent === null || everyDays !== null ? '' : ` The sheet stores at ${say.percent(storePercent)} or more.`}`,
    hurts: `${lithium ? 'Held full for months, lithium ages.' : 'Left without charge for months, lead sulphates.'} Ask the maker, then choose.`,
  }),
  valueLost: ({ timeoutS, endOfList, discards, forgets, proof }, _, its) => ({
    text: `${its} ${listed([
      ...(timeoutS === null ? [] : [`discards unsaved edits after ${formatDuration(timeoutS)}`]),
      ...(endOfList ? ['saves only at the end of the list'] : []),
      ...(discards === null ? [] : [`has two ways out, of which “${discards}” discards`]),
      ...(forgets.length > 0 ? [`loses ${names(forgets)} at a restart unless saved separately`] : []),
    ])}.`,
    hurts: `Everything looks right until the next power cut. Check the saved value: ${proof.charAt(0).toLowerCase()}${proof.slice(1)}`,
  }),
  wrapNearValue: ({ role, value, min, max }, say, its) => ({
    text: `${its}: ${roleInfo[role].name} is set to ${say.reading(value)}. One step below ${say.reading(min)} it jumps to ${say.reading(max)}.`,
    hurts: 'One press too many sets the largest value. Come from above, stop, and read it back.',
  }),
} satisfies Partial<Words>;
