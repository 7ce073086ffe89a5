import {
  measure,
  readingBudget,
  rectangular,
  said,
  saidBand,
  saidBy,
  saidQuantity,
  thermometerLine,
  type Band,
  type BudgetLine,
  type Measured,
  type Sentence,
} from '../quantity';
import { judge, settle, type ProofRow, type Verdict, type Witness } from '../proof';
import { requirementsOf, type Requirement, type RequirementCode } from '../requirements';
import { isLithium } from '../sheet';
import type { Plan } from '../settings';
import type { Instrument } from '../system';
import type { Subject, TestStep } from './definition';
import { gradeWords, readBetween, type TestRecord } from './record';

/** The requirement of a plan that a test speaks to. */
export const requirement = (plan: Plan, code: RequirementCode, device?: string): Requirement | undefined =>
  requirementsOf(plan).find((r) => r.code === code && r.charger === device);

/** A number that was read at a step; undefined while nobody has. */
export function number(record: TestRecord, step: string, field: string): number | undefined {
  const value = record.answers.findLast((a) => a.step === step)?.values[field];
  return typeof value === 'number' ? value : undefined;
}

/** A word that was chosen at a step. */
export function word(record: TestRecord, step: string, field: string): string | undefined {
  const value = record.answers.findLast((a) => a.step === step)?.values[field];
  return typeof value === 'string' ? value : undefined;
}

/** What weaker evidence than a meter adds: a history shows tenths, lamps show bands. */
const gradeLine = (record: TestRecord, unit: string): BudgetLine[] =>
  record.grade === 'measured'
    ? []
    : [
        {
          name: record.grade === 'history' ? 'A daily history rounds and does not say for how long' : 'Lamps show a range, not a value',
          halfWidth: unit === 'V' ? (record.grade === 'history' ? 0.1 : 0.3) : 1,
          divisor: rectangular,
          kind: 'systematic',
        },
      ];

/** Budget of one reading with the meter. */
export const reading = (instrument: Instrument, value: number, unit: 'V' | 'A' | '°C'): BudgetLine[] =>
  unit === '°C'
    ? [thermometerLine(instrument.name, instrument.temperatureErrorC)]
    : readingBudget(instrument.name, value, unit === 'V' ? instrument.volts : instrument.amps);

/**
 * A row judged by the guard-band rule on a measured value. A reading at the step is its own witness where no more is given; one that is missing leaves
 * the row Inconclusive; what the device itself tells of
 * the past, or shows by lamps, is Stated at best.
 */
export function measuredRow(
  plan: Plan,
  record: TestRecord,
  req: Requirement | undefined,
  value: number,
  budget: readonly BudgetLine[],
  why: Sentence,
  band?: Band,
  witness?: Witness,
): readonly ProofRow[] {
  if (!req) return [];
  const measured: Measured = measure(value, [...budget, ...gradeLine(record, req.unit)], plan.input.coverage);
  const against = band ?? req.band;
  const verdict = judge(measured, against);
  const missing = witness && 'missing' in witness ? witness : null;
  const judged =
    verdict === 'pass'
      ? missing
        ? { verdict: 'inconclusive' as const, next: missing.next }
        : record.grade === 'measured'
          ? { verdict, witness: witness && 'words' in witness ? witness.words : `Read at the step itself, with ${instrumentName(plan, record)}.` }
          : { verdict: 'stated' as const }
      : { verdict, ...(verdict === 'inconclusive' ? { next: settle(measured, against, req.unit, req.digits) } : {}) };
  return [
    {
      requirement: req,
      ...judged,
      measured: value,
      uncertainty: measured.uncertainty,
      unit: req.unit,
      digits: req.digits,
      budget: measured.budget,
      band: against,
      evidence: readBetween(record),
      why: said`${why} ${saidQuantity(value, req.unit, req.digits)} ± ${saidBy(measured.uncertainty, req.unit, req.digits)}; ${saidBand(against, req.unit, req.digits)} is asked.${verdict === 'pass' && missing ? said` ${missing.missing}` : ''}${judged.verdict === 'stated' ? ` That is ${gradeWords[record.grade]}; nobody measured it.` : ''}`,
    },
  ];
}

const instrumentName = (plan: Plan, record: TestRecord): string =>
  plan.input.system.instruments.find((i) => i.id === record.instrument)?.name ?? 'the instrument chosen';

/** A row of something seen rather than measured: it may fail or stay open, and what speaks for it is a statement, never a proof. */
export function seenRow(
  record: TestRecord,
  req: Requirement | undefined,
  verdict: Exclude<Verdict, 'pass'>,
  why: Sentence,
  next?: Sentence,
): readonly ProofRow[] {
  if (!req) return [];
  return [
    {
      requirement: req,
      verdict,
      measured: null,
      uncertainty: null,
      unit: req.unit,
      digits: req.digits,
      budget: [],
      band: req.band,
      evidence: readBetween(record),
      why,
      ...(next ? { next } : {}),
    },
  ];
}

/** Names of the other sources, as they are to be switched off. */
export const others = (plan: Plan, subject: Subject): readonly string[] =>
  plan.input.system.chargers.filter((c) => c.id !== subject.device.id).map((c) => c.name);

/** Every test begins so: what would blur the reading is off. */
export function isolate(plan: Plan, subject: Subject, loads: 'off' | 'keep' = 'off'): TestStep {
  const names = others(plan, subject);
  return {
    id: 'isolate',
    kind: 'isolate',
    title: 'Switch off what would blur the reading',
    says: [
      ...(names.length > 0
        ? [`Other sources off, and tagged: ${names.join(', ')}. Arrays at their isolators, engines at the key, turbines at the brake.`]
        : ['There is no other source.']),
      ...(loads === 'off' ? ['Loads off as far as they may be; note what must stay on.'] : ['Loads stay as they are.']),
    ],
    caution: isLithium(plan.input.sheet.chemistry)
      ? 'Never open the output of a turning alternator or turbine: stop it at its field or brake.'
      : 'Lead-acid gases while it charges: air the place, no sparks. Never open the output of a turning alternator or turbine.',
  };
}

/** And ends so: what was changed is as it was. */
export const putBack = (plan: Plan, subject: Subject, ...more: readonly Sentence[]): TestStep => ({
  id: 'putBack',
  kind: 'putBack',
  title: 'Put back what was taken off',
  says: [...more, ...others(plan, subject).map((name) => `${name}: on again, tag off.`), 'Loads as they were.'],
});

/** The level a charger was told, at a battery temperature, V. */
export function expectedVolts(plan: Plan, device: string, role: 'absorbVoltage' | 'floatVoltage', celsius: number): number | null {
  const told = plan.setting(device, role)?.trueValue ?? null;
  if (told === null) return null;
  const slope = (plan.setting(device, 'compensationSlope')?.trueValue ?? 0) * plan.facts.cells;
  const reference = plan.input.sheet.figures.compensationReference?.target ?? 25;
  return told + slope * (celsius - reference);
}
