import type { DeviceValues } from '../card';
import { programOf, type ChargerProgram } from '../charger';
import { bad, good, type Problem, type Result } from '../quantity';
import { cardOf, referenceC } from '../settings';
import { rangeVolts, type Charger } from '../system';
import type { RunInput } from './runInput';

/** Step sizes that are taken, s. */
export const stepLimits = { least: 0.1, most: 300 } as const;

/** What one charger of a run does with these values on it; the scenario may have set it higher than the others. */
export function programFor({ plan, scenario }: Pick<RunInput, 'plan' | 'scenario'>, charger: Charger, on: DeviceValues): Result<ChargerProgram> {
  const card = cardOf(plan.input, charger);
  if (!card) return bad('no-card', `${charger.name}: the job carries no card for it, so nobody knows what it does. Choose its card on System.`);
  const at = { systemVolts: rangeVolts(plan.facts), cellsInSeries: plan.facts.cells, ratingA: card.ratings.outputA };
  const made = programOf(card, on, at, referenceC(plan), charger.name);
  const up = scenario.raised?.charger === charger.id ? scenario.raised.volts : 0;
  return made.ok && up !== 0 ? good({ ...made.value, bulkV: made.value.bulkV + up, absorbV: made.value.absorbV + up, floatV: made.value.floatV + up }) : made;
}

/**
 * The programs of all chargers, by id; or every reason at once why this cannot be rehearsed.
 *
 * @param stepS finest step, s
 * @param capacityAh of the bank, Ah
 */
export function programsOf(input: RunInput, stepS: number, capacityAh: number): Result<ReadonlyMap<string, ChargerProgram>> {
  const { plan, scenario, values } = input;
  const { chargers } = plan.input.system;
  const problems: Problem[] = [];
  if (!(stepS >= stepLimits.least && stepS <= stepLimits.most))
    problems.push({
      code: 'step-size',
      text: `A step of ${String(stepS)} s cannot be rehearsed. Choose ${stepLimits.least} to ${stepLimits.most} s.`,
      place: 'step',
    });
  if (!(capacityAh > 0) || !Number.isFinite(capacityAh))
    problems.push({ code: 'no-capacity', text: 'The capacity of the battery is not known. Enter its Ah on Spec.', place: 'capacity' });
  const numbers = [...Object.values(scenario), ...Object.values(scenario.load)].filter((v) => typeof v === 'number');
  if (!numbers.every(Number.isFinite))
    problems.push({ code: 'scenario-number', text: 'The day holds something that is no number. Choose the day again.', place: 'scenario' });
  if (chargers.length === 0) problems.push({ code: 'no-chargers', text: 'There is no charger to rehearse. Add one on System.', place: 'chargers' });
  const programs = new Map<string, ChargerProgram>();
  for (const charger of chargers) {
    const made = programFor(input, charger, values[charger.id] ?? {});
    if (made.ok) programs.set(charger.id, made.value);
    else problems.push(...made.problems);
  }
  return problems.length > 0 ? { ok: false, problems } : good(programs);
}
