import { driveOf, isUnknown, quickCard, type Card } from '../card';
import { findFindings, type Finding } from '../findings';
import { clearYear } from '../physics';
import { cardOf, deriveSettings, mostAmps, notSaid, targetsOf, type Assumable, type Plan } from '../settings';
import { arrayFacts } from '../system';
import { onCharger, onPresent, withDevice } from './devices';
import type { Job } from './job';

/** Id of the device that is tried. */
const tried = 'tried-before-it-is-bought';

/** What is found of a device because of what its model is, whoever mounts it and however. */
const ofModel: ReadonlySet<string> = new Set([
  'chemistryNotSupported',
  'systemVoltageMismatch',
  'arrayTooHigh',
  'arrayTooLow',
  'arrayTooMuchCurrent',
  'arrayClipped',
  'rangeCannotReach',
  'stepPastTolerance',
  'settingAbsent',
  'coldProtection',
  'coldPastDiversion',
  'diversionFixed',
  'compensationMissingLead',
  'compensationOnLithium',
  'floatNotPermitted',
  'limitsPastCeiling',
]);

/** Findings that hang on the place: while nobody has said it they are guesses, and not told. */
const ofPlace: Readonly<Record<string, readonly Assumable[]>> = {
  arrayTooHigh: ['recordLowC'],
  arrayTooLow: ['recordHighC'],
  coldProtection: ['bankLowC'],
  coldPastDiversion: ['bankLowC'],
  compensationMissingLead: ['bankLowC', 'bankHighC'],
};

/** A device without a cutoff of its own can still be protected by another, and what nobody knows of its sensor is not against it. */
const isOwnAffair = (code: string, card: Card): boolean => code === 'coldProtection' && isUnknown(card, 'sensor');
const stops = ({ code, severity }: Finding): boolean => severity === 'stop' && code !== 'coldProtection';

/** The job with a device of a card in place, its sensor fitted where it takes one and keyed as worked out: what is left to find is the model's own. */
function withTried(job: Job, card: Card): Job {
  // The card as it is on the shelf, whatever the job has under the same name.
  const bare = { ...job, cards: job.cards.filter((c) => c.id !== card.id) };
  const outside = card.sensor.reads === 'wired' || card.sensor.reads === 'network';
  return onCharger(withDevice(bare, card, { id: tried, name: card.model }), tried, (charger) =>
    outside ? { ...charger, sensor: { ...charger.sensor, fitted: true, place: 'batteryCase', offsetC: 0 } } : charger,
  );
}

/** How a model would do on a job. */
export interface Suitability {
  readonly card: Card;
  /** `no`: something stops it. `look`: something to look at first. `yes`: nothing is against it. `open`: nothing that is known of card and place is. */
  readonly does: 'yes' | 'look' | 'no' | 'open';
  /** What is against it, the worst first, and what is good to know. */
  readonly findings: readonly Finding[];
  /** The job with it in place, for the names of its findings. */
  readonly on: Job;
}

/** What somebody must have said of the battery before a charger can be chosen for it. */
const ofBank: readonly Assumable[] = ['chemistry', 'nominalVolts', 'cellsInSeries', 'unitsInSeries'];
/** Whether it is said. */
export const bankIsSaid = (job: Job): boolean => !notSaid(job).some((key) => ofBank.includes(key));

/** Whether the coldest and the hottest of the air are said: what a string makes of them decides a charger’s input. */
const climateIsSaid = (job: Job): boolean => !notSaid(job).some((key) => key === 'recordLowC' || key === 'recordHighC');

/**
 * How each card would do on a job, before one is bought: the findings that its model alone would raise there, with the panels that
 * no charger takes yet.
 *
 * @param today year-month-day
 * @returns in the order of the cards; nothing while nobody has said what the battery is
 */
export function suitabilityOf(job: Job, cards: readonly Card[], today: string): readonly Suitability[] {
  if (!bankIsSaid(job)) return [];
  const unsaid = notSaid(job);
  const already = findFindings(deriveSettings(job), today).some((f) => f.code === 'limitsPastCeiling');
  return cards.map((card) => {
    const bare = withTried(job, card);
    const on = onPresent(bare, tried, () => targetsOf(deriveSettings(bare), tried));
    const every = findFindings(deriveSettings(on), today).filter(
      ({ code, charger }) =>
        ofModel.has(code) && !isOwnAffair(code, card) && (charger === tried || (charger === undefined && code === 'limitsPastCeiling' && !already)),
    );
    const found = every.filter(({ code }) => ofPlace[code]?.some((key) => unsaid.includes(key)) !== true);
    const findings = [...found.filter(stops), ...found.filter((f) => !stops(f))];
    // With panels the place decides, whatever a guess of it comes to; without them only where it would have spoken.
    const placeSaid = every.length === found.length && (job.system.plannedArray === undefined || driveOf(card.kind) !== 'sun' || climateIsSaid(job));
    const knows = placeSaid && !isUnknown(card, 'settings') && !isUnknown(card, 'input');
    const look = findings.some((f) => f.severity !== 'note');
    return { card, does: findings.some(stops) ? 'no' : look ? 'look' : knows ? 'yes' : 'open', findings, on };
  });
}

/** An output rating, and what it would throw away. */
export interface OutputRating {
  readonly amps: number;
  /** Part of a year of clear days that it cannot pass on, %; null without a latitude. */
  readonly lostPercent: number | null;
}

/** What a charger's ratings would have to be. */
export interface RatingsWanted {
  /** Class of the bank, V; null where its volts belong to none, or nobody has said them. */
  readonly systemVolts: number | null;
  /** Volts it must reach in absorb, V; null where the sheet gives none. */
  readonly absorbV: number | null;
  /** What the ceiling of the bank leaves beside the chargers that are there, A; null where nothing limits it. */
  readonly leftA: number | null;
  readonly input: {
    /** Open circuit of a string at the record low, and with the label's tolerance on a clear night, V. */
    readonly coldV: number;
    readonly coldMostV: number;
    /** Short-circuit current in bright light, A. */
    readonly designA: number;
    /** Working volts on the hottest day, V, and the least that an MPPT charger wants; null without absorb volts. */
    readonly hotV: number;
    readonly leastV: number | null;
  } | null;
  /** MPPT: ratings from the one that passes all on downwards; empty without array or absorb volts. */
  readonly outputs: readonly OutputRating[];
  /** PWM: its output takes the panels' own current; what it passes on in absorb of what the label gives, W; null where its volts do not reach the bank. */
  readonly pwm: { readonly amps: number; readonly passesW: number; readonly labelW: number } | null;
}

/** Parts of the whole for which an output rating is worked out. */
const parts = [1, 0.8, 0.6] as const;

/**
 * What ratings a charger for this job would have to have. Nothing is assumed of what nobody has said: it is null.
 * The panels are those that no charger takes yet.
 *
 * @example ratingsWanted(job).input.coldMostV // 131.4 V: an input of 150 V takes it, one of 100 V does not
 */
export function ratingsWanted(job: Job): RatingsWanted {
  const array = job.system.plannedArray ?? null;
  const unsaid = notSaid(job);
  const bankSaid = bankIsSaid(job);
  const before = deriveSettings(job);
  const volts = before.facts.systemVolts ?? 12;
  const card = quickCard({ id: 'any', maker: '', model: 'any', kind: 'solarMppt', outputA: 1000, systemVolts: [volts] });
  const plan = deriveSettings(withTried(job, card));
  const absorbV = bankSaid ? (plan.setting(tried, 'absorbVoltage')?.trueValue ?? null) : null;
  const { site } = job.system;
  const climateSaid = climateIsSaid(job);
  const facts = array && arrayFacts(array, card, site, absorbV ?? 0, 1000);
  const wholeW = facts?.stcW ?? 0;
  const reaches = facts !== null && climateSaid && absorbV !== null && facts.hotVolts >= absorbV;
  return {
    systemVolts: bankSaid ? before.facts.systemVolts : null,
    absorbV,
    leftA: bankSaid && !unsaid.includes('stringsInParallel') ? leftOf(before) : null,
    input:
      facts && climateSaid
        ? {
            coldV: facts.coldVolts,
            coldMostV: facts.coldMostVolts,
            designA: facts.designA,
            hotV: facts.hotVolts,
            leastV: absorbV === null ? null : facts.leastVolts,
          }
        : null,
    outputs:
      array && absorbV !== null
        ? parts.map((part) => {
            const amps = Math.ceil((part * wholeW) / absorbV - 1e-9);
            const year = site.latitude === undefined ? null : clearYear(site.latitude, array.tilt, array.azimuth, wholeW, amps * absorbV);
            return { amps, lostPercent: year && (year.kWh === 0 ? 0 : (100 * year.clippedKWh) / year.kWh) };
          })
        : [],
    pwm: array && reaches && absorbV !== null ? { amps: facts.designA, passesW: array.inParallel * array.panel.impA * absorbV, labelW: wholeW } : null,
  };
}

/** What the ceiling leaves beside the chargers that are there, A, never less than nothing; null without a ceiling. */
function leftOf(plan: Plan): number | null {
  const { binding } = plan.ceiling;
  if (!binding) return null;
  const set = plan.input.system.chargers.reduce((sum, charger) => {
    const card = cardOf(plan.input, charger);
    return sum + (card ? mostAmps(plan, charger, card) : 0);
  }, 0);
  return Math.max(0, binding.amps - set);
}
