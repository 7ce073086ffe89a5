import { isSource, parameterFor } from '../card';
import { isLithium } from '../sheet';
import type { Plan } from './derive';
import { cardOf, type Schools } from './input';

/** One school: what it is called and what it gives and costs. */
interface SchoolOption {
  readonly value: string;
  readonly words: string;
  readonly gives: string;
}

/** A question on which practitioners differ. */
export interface SchoolQuestion {
  readonly school: Exclude<keyof Schools, 'reference' | 'fullEveryDays'>;
  readonly question: string;
  readonly options: readonly SchoolOption[];
  /** Whether it bears on this job at all. */
  readonly bears: (plan: Plan) => boolean;
}

const lithium = (plan: Plan): boolean => isLithium(plan.input.sheet.chemistry);
const has = (plan: Plan, kind: string): boolean => plan.input.system.chargers.some((c) => cardOf(plan.input, c)?.kind === kind);
const several = (plan: Plan): boolean => plan.input.system.chargers.filter((c) => isSource(cardOf(plan.input, c)?.kind ?? 'monitor')).length > 1;
const monitored = (plan: Plan): boolean => plan.input.system.companions.some((c) => cardOf(plan.input, c)?.kind === 'monitor');
const freezes = (plan: Plan): boolean => (plan.stairs[0]?.fromC ?? -Infinity) > plan.input.system.site.bankLowC;

/** Every question with its schools, the default first. */
export const schoolQuestions: readonly SchoolQuestion[] = [
  {
    school: 'topCharge',
    question: 'Top charge',
    bears: () => true,
    options: [
      { value: 'full', words: 'Full, to the target', gives: 'Full capacity and balance every day.' },
      { value: 'gentle', words: 'Gentle, low end of the band', gives: 'Longer life; needs a full charge now and then for balancing.' },
    ],
  },
  {
    school: 'absorbEnd',
    question: 'End of absorb',
    bears: () => true,
    options: [
      {
        value: 'asSheet',
        words: 'As the sheet says',
        gives: 'Both rules where it gives both, whichever comes first. By time alone beside a source that does not taper.',
      },
      { value: 'time', words: 'By time', gives: 'Ends whatever the loads take; may end early on a poor day.' },
      { value: 'taper', words: 'By taper current', gives: 'Ends when the bank is full; loads can hold it for ever, so a long timer stays as a backstop.' },
      { value: 'whicheverFirst', words: 'Whichever first', gives: 'Never longer than the time, never past the current.' },
    ],
  },
  {
    school: 'lithiumFloat',
    question: 'Lithium float',
    bears: lithium,
    options: [
      { value: 'hold', words: 'Hold at the sheet’s float', gives: 'The maker’s figure; loads run from the sun all day.' },
      { value: 'floatEqualsAbsorb', words: 'Float equals absorb', gives: 'One constant voltage for banks cycled daily; held high when they are not.' },
      { value: 'rest', words: 'Rest, no float', gives: 'Fewer hours at high charge; loads cycle the bank a little.' },
    ],
  },
  {
    school: 'lithiumEqualise',
    question: 'Lithium equalise',
    bears: lithium,
    options: [
      { value: 'offHarmless', words: 'Off and made harmless', gives: 'A stray press or a reset does no damage.' },
      { value: 'off', words: 'Off only', gives: 'Fewer values to enter; the old voltage stays stored.' },
    ],
  },
  {
    school: 'lithiumSensor',
    question: 'Compensation sensor on lithium',
    bears: lithium,
    options: [
      { value: 'byUse', words: 'By what the charger uses it for', gives: 'Left where a cutoff needs it, unplugged where only compensation does.' },
      { value: 'unplug', words: 'Unplug', gives: 'No reset can revive compensation; no cutoff can act either.' },
      { value: 'keep', words: 'Keep', gives: 'The temperature stays on the display; a reset revives compensation.' },
    ],
  },
  {
    school: 'coldProtection',
    question: 'Where cold protection lives',
    bears: freezes,
    options: [
      { value: 'anyThatWorks', words: 'The first that really works', gives: 'Charger, BMS or relay, whichever is proved.' },
      { value: 'two', words: 'Two of them', gives: 'One may fail unnoticed.' },
      { value: 'charger', words: 'In the charger', gives: 'Nothing to add; needs a sensor on the battery.' },
      { value: 'bms', words: 'In the BMS', gives: 'Acts for every source; cuts the whole bank off.' },
      { value: 'relay', words: 'Thermostat and relay', gives: 'For chargers without a cutoff; wiring, a coil and a contact to choose.' },
    ],
  },
  {
    school: 'cutoffFigure',
    question: 'Cutoff figure',
    bears: freezes,
    options: [
      { value: 'margin', words: 'Margin above the sheet', gives: 'The cell is never charged below the sheet’s least.' },
      { value: 'exact', words: 'The sheet’s figure exactly', gives: 'A few more hours of charge; cells are charged colder by what the sensor costs.' },
    ],
  },
  {
    school: 'coldCurrent',
    question: 'Cold and current',
    bears: freezes,
    options: [
      { value: 'sheetMinimum', words: 'Cutoff at the sheet’s least', gives: 'Right only where the sources give no more than the coldest stair.' },
      { value: 'raiseCutoff', words: 'Raise every cutoff', gives: 'Costs cold charging hours; limits stay.' },
      { value: 'stagger', words: 'Stagger the sources', gives: 'Small sources start cold, large ones warm; each stair is held to.' },
      { value: 'lowerLimits', words: 'Lower the limits', gives: 'Charges in the cold; slower all year.' },
    ],
  },
  {
    school: 'chargeCurrent',
    question: 'Charge current',
    bears: () => true,
    options: [
      { value: 'lowest', words: 'The lowest of all limits', gives: 'The maker’s recommendation counts.' },
      { value: 'makerMost', words: 'The maker’s most × strings', gives: 'Faster; sets the recommendation aside.' },
      { value: 'third', words: 'About 0.3 C', gives: 'Cooler cells and cables, slower.' },
    ],
  },
  {
    school: 'allocation',
    question: 'Sharing the ceiling',
    bears: several,
    options: [
      { value: 'byRating', words: 'By rating', gives: 'Every source gets the same part of its rating.' },
      { value: 'priority', words: 'In the order of the roster', gives: 'The first works at full power.' },
      { value: 'fixed', words: 'Agreed shares', gives: 'As entered on System for each charger; the rest by rating.' },
    ],
  },
  {
    school: 'limitMeasured',
    question: 'Where the limit is measured',
    bears: (plan) =>
      plan.input.system.chargers.some((c) => {
        const card = cardOf(plan.input, c);
        return card !== undefined && parameterFor(card, 'chargeCurrentLimit') !== undefined;
      }),
    options: [
      { value: 'chargerOutput', words: 'Charger output', gives: 'House loads share it: the bank gets less.' },
      { value: 'shunt', words: 'Battery shunt', gives: 'Loads come on top, where the charger can see the shunt.' },
    ],
  },
  {
    school: 'monitorCapacity',
    question: 'Capacity in the monitor',
    bears: monitored,
    options: [
      { value: 'factored', words: 'Rated × the recorded factor', gives: 'Honest about age, cold and habit.' },
      { value: 'rated', words: 'Rated', gives: 'The maker’s figure; shows charge that an old bank has not.' },
    ],
  },
  {
    school: 'monitorFull',
    question: 'Monitor and chargers agree on full',
    bears: monitored,
    options: [
      { value: 'lowerMonitor', words: 'Lower the monitor', gives: 'Absorb stays at the sheet’s target.' },
      { value: 'raiseAbsorb', words: 'Raise absorb within its band', gives: 'The monitor stays as found.' },
    ],
  },
  {
    school: 'alternator',
    question: 'Alternator',
    bears: (plan) => has(plan, 'alternator'),
    options: [
      { value: 'longCool', words: 'Long and cool', gives: 'One voltage, low case limit: spares the machine.' },
      { value: 'shortHot', words: 'Short, hot and fast', gives: 'High bulk, lower absorb and float, high case limit.' },
    ],
  },
  {
    school: 'unattended',
    question: 'Away for months',
    bears: (plan) => (plan.input.system.site.unattendedMonths ?? 0) >= 1,
    options: [
      { value: 'askMaker', words: 'Ask the maker', gives: 'Nothing is chosen yet.' },
      { value: 'absorbEvery', words: 'Absorb every so many days', gives: 'Prevents sulphation of lead; float or rest between.' },
      { value: 'storage', words: 'At storage charge', gives: 'Kind to lithium; loads must be off.' },
    ],
  },
];
