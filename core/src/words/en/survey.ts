import { formatNumber, formatQuantity } from '../../quantity';
import { roleInfo, unitInfo } from '../../card';
import type { SurveyWords } from '../survey';
import { choiceTerms, roleTerms } from './roleTerms';

const number = (value: number): string => formatNumber(value, value % 1 === 0 ? 0 : Math.min(3, (String(value).split('.')[1] ?? '').length));

/** The survey of a charger, in English. */
export const surveyEnglish: SurveyWords = {
  roleTerms,
  choiceTerms,
  parts: { plate: 'Plate', way: 'How it is set', walk: 'Its settings', habits: 'What it does by itself', changes: 'What moves with what', result: 'Result' },
  ways: {
    list: { name: 'A list and keys', how: 'Keys step through one list of settings' },
    menus: { name: 'Menus and keys', how: 'Settings lie in menus with names' },
    contact: { name: 'One key, lamp or knob', how: 'One key or contact scrolls through values by itself' },
    numbers: { name: 'Numbered settings', how: 'A number for the setting, a number for the value' },
    switch: { name: 'Switches', how: 'A rotary or DIP switch chooses a fixed table' },
    app: { name: 'An app or page', how: 'On a phone, a computer or a remote' },
    wire: { name: 'Over a wire', how: 'Registers or commands of a program' },
    nothing: { name: 'Nothing', how: 'It has fixed values and no way to change them' },
  },
  reasons: ({ reasons }, shown, before) =>
    [
      ...(reasons.includes('name') ? ['by its name'] : []),
      ...(reasons.includes('value') ? [`${shown} is usual for it`] : []),
      ...(reasons.includes('order') && before !== undefined ? [`after ${roleInfo[before].name}`] : []),
    ].join(', '),
  asks: (ask) => {
    switch (ask.code) {
      case 'ranRound':
        return {
          says: `It shows ${number(ask.shown)}, and then ${number(ask.at)}.`,
          question: 'Does it run round from one end to the other?',
          yes: 'Yes, it runs round',
        };
      case 'endsCrossed':
        return {
          says: `${number(ask.least)} is not below ${number(ask.most)}.`,
          question: 'The lower end must be below the upper end. Are they swapped?',
          yes: 'Swap them',
        };
      case 'outsideEnds':
        return {
          says: `It shows ${number(ask.shown)}, ${ask.end === 'most' ? 'above' : 'below'} its end at ${number(ask.at)}.`,
          question: 'One of the two is not right. Correct it, or leave the end not known.',
          yes: 'Leave the end not known',
        };
      case 'stepUneven':
        return {
          says: `Steps of ${number(ask.step)} do not lead from ${number(ask.least)} to ${number(ask.most)}.`,
          question: 'Press once more and read it again, or leave the step not known.',
          yes: 'Leave the step not known',
        };
      case 'stepTooWide':
        return {
          says: `One press of ${number(ask.step)} is more than the whole range of ${number(ask.room)}.`,
          question: 'Read the step again.',
          yes: 'Leave the step not known',
        };
      case 'labelTwice':
        return { says: `Setting ${ask.place} is also called “${ask.label}”.`, question: 'Add the menu it is in, or correct one of the two.' };
      case 'roleTwice':
        return {
          says: `Setting ${ask.place} is already ${roleInfo[ask.role].name}.`,
          question: 'A charger has each setting once. Choose another meaning for one of them, or “don’t know”.',
        };
      case 'pointMissing':
        return {
          says: `${number(ask.shown)} V is more than such a bank has.`,
          question: `Is the point missing: ${number(ask.rather)} V?`,
          yes: `Yes, ${number(ask.rather)} V`,
        };
      case 'unitOther':
        return { says: `${roleInfo[ask.role].name} is not counted in this unit.`, question: 'Choose another unit or another meaning.' };
      case 'oneOption':
        return { says: 'One choice alone is no choice.', question: 'Step once further and add what it shows then.' };
    }
  },
  endsWhy: (role, shown) =>
    [
      role === null || role === undefined
        ? 'Worth trying only if you know what it is.'
        : `Settings then knows which values of ${roleInfo[role].name} it can hold.`,
      'Skip what you cannot try.',
      `The charger acts on what you set: turn it back${shown === '' ? '' : ` to ${shown}`} at once.`,
    ].join(' '),
  habits: {
    save: {
      name: 'Saving',
      question: 'What saves a changed value?',
      how: 'Change a value of no importance, such as the display’s light. Leave the menu in one way, switch the device off and on, and look.',
      hangs: 'The run sheet tells how to save, and the power-cut test checks it.',
      answers: { atOnce: 'It saves at once', key: 'A key saves it', long: 'A long press saves it', end: 'Only the end of the list saves it' },
    },
    timeout: {
      name: 'An edit left alone',
      question: 'Is an edit lost when you wait?',
      how: 'Change a value, do nothing, and count.',
      hangs: 'The run sheet counts the seconds with you.',
      answers: { stays: 'It waits for ever', goes: 'It is lost after some seconds' },
    },
    absorbStart: {
      name: 'Absorb begins',
      question: 'When does absorb begin?',
      how: 'Watch the stage on its display as the voltage reaches absorb, or look it up in the manual.',
      hangs: 'A charger that begins at the first touch ends absorb early under clouds.',
      answers: { touch: 'At the first touch of its voltage', held: 'After some seconds at its voltage' },
    },
    absorbCount: {
      name: 'Absorb time counts',
      question: 'How does it count absorb time?',
      how: 'Cover the panels, or take the engine off, for ten minutes during absorb. See whether the time left has gone on.',
      hangs: 'On a clock that goes on, absorb can end with the bank half full.',
      answers: { atVoltage: 'Only at its voltage', clock: 'By the clock, also below its voltage' },
    },
    absorbEnd: {
      name: 'Absorb ends by',
      question: 'What ends absorb?',
      how: 'See which of the two its menu has: a time, a current, or both. The manual tells which counts.',
      hangs: 'Settings needs it to keep loads from holding absorb open.',
      answers: {
        time: 'A time',
        current: 'A falling current',
        first: 'Time or current, whichever comes first',
        both: 'Both must be met',
        itself: 'It decides by itself',
        charge: 'A charge percentage',
        never: 'Nothing: it stays at absorb',
      },
    },
    absorbCurrent: {
      name: 'Current that ends absorb',
      question: 'Which current ends absorb?',
      how: 'Switch a load on during absorb. If its own amps rise with the load, it sees its own output.',
      hangs: 'With loads on, its own output never falls to the taper current.',
      answers: { own: 'Its own output', bank: 'The battery’s, by a shunt' },
    },
    rechargeRule: {
      name: 'A new charge at',
      question: 'What makes it begin a new charge?',
      how: 'Look for a recharge or return voltage in its menu; otherwise the manual tells.',
      hangs: 'A bank that floats at half charge is found by it.',
      answers: { voltage: 'A voltage', belowFloat: 'Volts below float', days: 'Days', never: 'Nothing but a restart' },
    },
    rechargeDaily: {
      name: 'A new charge every morning',
      question: 'Does it begin a new charge every morning?',
      how: 'See the stage in the first sun after a full day.',
      hangs: 'A daily absorb counts against what the sheet allows.',
      answers: { yes: 'Yes, every morning', no: 'No' },
    },
    sensorKind: {
      name: 'Battery temperature',
      question: 'Where does it get the battery’s temperature from?',
      how: 'Look for a socket and a lead. Warm the lead’s end in your hand and see whether its display follows.',
      hangs: 'A temperature from its own warm case protects no cold battery.',
      answers: { none: 'It has none', ownCase: 'From its own case', wired: 'From a sensor on a lead', network: 'From another device' },
    },
    sensorUse: {
      name: 'Used for',
      question: 'What does it use that temperature for?',
      how: 'Look for a compensation and a low-temperature cutoff in its menu.',
      hangs: 'Cold protection counts only if the sensor stops the charge.',
      answers: { slope: 'Compensation', cutoff: 'The cold cutoff', both: 'Both', shown: 'Only to show it' },
    },
    sensorLoss: {
      name: 'Without the sensor',
      question: 'What does it do without the sensor?',
      how: 'Pull the sensor’s plug while it charges and watch amps and messages. Put it back.',
      hangs: 'A charger that goes on charging has no cold protection once the lead is off.',
      answers: { ignores: 'It goes on charging', stops: 'It stops', assumes: 'It takes 25 °C and goes on' },
    },
    displayAdjust: {
      name: 'Voltmeter adjustable',
      question: 'Can its voltmeter be adjusted?',
      how: 'Look for an offset or a calibration in its menu.',
      hangs: 'If it can, Settings does not shift the setpoints by its error.',
      answers: { yes: 'Yes', no: 'No' },
    },
    sense: {
      name: 'Sense leads',
      question: 'Has it sense leads to the battery?',
      how: 'Look for two thin terminals beside the battery terminals.',
      hangs: 'The drop in its cables then does not count.',
      answers: { yes: 'Yes, and they are fitted', no: 'No' },
    },
    powerCut: {
      name: 'Lost at a power cut',
      question: 'What does it forget at a power cut?',
      how: 'Note its values, take it off the battery for thirty seconds, and read them again. Source off first.',
      hangs: 'The run sheet reads those values again after every cut.',
      answers: { nothing: 'Nothing', some: 'Some values' },
    },
    batteryLoss: {
      name: 'Survives losing the battery',
      question: 'Does it survive losing the battery while the source is on?',
      how: 'Do not try. The manual tells: “connect the battery first” means no.',
      hangs: 'The run sheet puts a caution before every disconnection.',
      answers: { yes: 'Yes, the manual says so', no: 'No' },
    },
    passcode: {
      name: 'Passcode from the factory',
      question: 'Has it a passcode from the factory?',
      how: 'Open its menu and see.',
      hangs: 'The run sheet changes one that everybody knows.',
      answers: { none: 'None', factory: 'Yes, one that is in its manual' },
    },
    bench: {
      name: 'Can be set on the bench',
      question: 'Can it be set on the bench, before it is mounted?',
      how: 'Give it the battery alone and see whether its menu opens.',
      hangs: 'It may then be set at a desk.',
      answers: { yes: 'Yes', no: 'No, only in its place' },
    },
  },
  costs: {
    ranges: 'Settings cannot say that a value is out of reach. Enter each exact value, or the nearest below that it takes.',
    settings: 'Nobody knows whether a figure of the sheet has no setting here.',
    saving: 'The run sheet cannot tell how to save. The power-cut test must show it.',
    saveTimeout: 'The run sheet cannot count the seconds an edit lasts.',
    absorb: 'Rehearse takes the usual charger of its kind.',
    absorbCurrent: 'Settings takes its own output: loads may hold absorb open.',
    sensorUse: 'It counts as no cold protection.',
    sensorLoss: 'It counts as one that goes on charging.',
    displayAdjust: 'A setpoint may be shifted where adjusting the display would do.',
    recharge: 'Rehearse takes a recharge by voltage.',
    sensor: 'It counts as no cold protection.',
    display: 'Its voltmeter is taken as 1 % and must be compared with a meter.',
    sense: 'The drop in its cables counts.',
    powerCut: 'Read every value again after each power cut.',
    batteryLoss: 'The run sheet treats it as one that does not survive.',
    passcode: 'Look for one when its menu opens.',
    input: 'Whether the array is too high cannot be checked.',
  },
  saves: {
    key: (keep) => (keep === undefined ? 'Press the key that saves' : `Press ${keep} to save`),
    long: (keep) => (keep === undefined ? 'Hold the key that saves until the display answers' : `Hold ${keep} until the display answers`),
    end: 'Go through the whole list to its end: only that saves',
    atOnce: 'Every change is saved at once',
  },
  faster: 'Held down, the keys run faster: stop early and press singly at the end.',
  unit: (unit) => (unit === 'choice' ? 'a word' : unitInfo[unit].label === '' ? 'no unit' : unitInfo[unit].label),
  ends: ({ least, most, step }, unit) =>
    [
      least === undefined && most === undefined
        ? 'ends not known'
        : `${least === undefined ? 'lower end not known' : number(least)} to ${most === undefined ? 'upper end not known' : number(most)} ${unit}`.trim(),
      step === undefined ? 'step not known' : `steps of ${formatQuantity(step, unit, (String(step).split('.')[1] ?? '').length).trim()}`,
    ].join(', '),
};
