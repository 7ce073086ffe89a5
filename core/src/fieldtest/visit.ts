import * as z from 'zod';
import { cardOf, devicesOf, type Plan } from '../settings';
import { driveOf, type Drive } from '../card';
import { keyOfRequirement } from '../requirements';
import type { Charger } from '../system';
import type { FieldTest, Subject, TestNeeds, VisitTool } from './definition';
import { testsFor } from './list';
import type { TestCode } from './record';

/** What somebody on site says of this visit. What is not said is not known. */
export const visitConditionsSchema = z.object({
  sun: z.enum(['full', 'some', 'none']).optional(),
  engine: z.boolean().optional(),
  turbine: z.boolean().optional(),
  mains: z.boolean().optional(),
  bank: z.enum(['low', 'between', 'full']).optional(),
  /** The battery itself, °C. */
  batteryC: z.number().min(-60).max(90).optional(),
  hours: z.number().positive().max(48).optional(),
});
export type VisitConditions = z.infer<typeof visitConditionsSchema>;

/** What a visit needs to know before a test can be planned. */
export type VisitQuestion = Drive | 'bank' | 'batteryC';

/** Why a test waits for another day. */
export type LaterReason =
  | { readonly code: 'noSource'; readonly drive: Drive }
  /** It needs all that the sun can give. */
  | { readonly code: 'fullSun' }
  | { readonly code: 'bankTooFull' }
  /** With what is there today the bank does not come to absorb. */
  | { readonly code: 'bankStaysLow' }
  | { readonly code: 'batteryCold'; readonly warmC: number }
  | { readonly code: 'noTime' };

/** A part of a visit, in the order in which the bank fills. */
export const visitParts = ['arrive', 'fill', 'absorb', 'full', 'leave'] as const;
export type VisitPart = (typeof visitParts)[number];

interface Visited {
  readonly test: FieldTest;
  readonly subject: Subject;
}

/** One test of a plan. */
export interface PlannedTest extends Visited {
  readonly part: VisitPart;
  readonly minutes: number;
  /** Its first step is already done: the same sources are off for the test before it on the same device. */
  readonly isolated: boolean;
}

/** What to do on one visit, in which order, and what is left for another. */
export interface VisitPlan {
  readonly tests: readonly PlannedTest[];
  /** Tools of all of them, each once. */
  readonly tools: readonly VisitTool[];
  readonly minutes: number;
  readonly later: readonly (Visited & { readonly reasons: readonly LaterReason[] })[];
  /** What nobody has said yet, and how many tests hang on it. */
  readonly asks: readonly { readonly question: VisitQuestion; readonly tests: number }[];
}

/** What chargers draw on, each once. */
const drivesOf = (plan: Plan, chargers: readonly Charger[]): readonly Drive[] => [
  ...new Set(
    chargers.flatMap((c) => {
      const card = cardOf(plan.input, c);
      return (card && driveOf(card.kind)) ?? [];
    }),
  ),
];

/** What the chargers of a job draw on, each once. */
export const drivesOnSite = (plan: Plan): readonly Drive[] => drivesOf(plan, plan.input.system.chargers);

/** Whether something is so, is not, or nobody has said. */
type Answer = { readonly can: true } | { readonly why: readonly LaterReason[] } | { readonly asks: readonly VisitQuestion[] };

const yes: Answer = { can: true };

/** Whether a source gives what a test needs. */
function given(drive: Drive, needs: TestNeeds, c: VisitConditions): Answer {
  const stated = c[drive];
  if (stated === undefined) return { asks: [drive] };
  if (stated === false || stated === 'none') return { why: [{ code: 'noSource', drive }] };
  return needs.source === 'most' && stated === 'some' ? { why: [{ code: 'fullSun' }] } : yes;
}

/** The best of several answers: one that can, else one that is open, else why not. */
const any = (answers: readonly Answer[]): Answer => answers.find((a) => 'can' in a) ?? answers.find((a) => 'asks' in a) ?? answers[0] ?? yes;

/** All of several answers: every reason, else every question. */
function all(answers: readonly Answer[]): Answer {
  const why = answers.flatMap((a) => ('why' in a ? a.why : []));
  if (why.length > 0) return { why };
  const asks = answers.flatMap((a) => ('asks' in a ? a.asks : []));
  return asks.length > 0 ? { asks } : yes;
}

/** What feeds a test: the device's own source, those that a thermostat switches, or any on the bank. */
function feeds(plan: Plan, { device, card }: Subject): readonly Drive[] {
  const own = driveOf(card.kind);
  if (own) return [own];
  const switches = plan.input.system.companions.find((c) => c.id === device.id)?.switches ?? [];
  return drivesOf(
    plan,
    plan.input.system.chargers.filter((c) => card.kind !== 'thermostat' || switches.includes(c.id)),
  );
}

/** Whether the bank stands, or comes to stand, as a test needs it. */
function stands(plan: Plan, needs: TestNeeds, c: VisitConditions): Answer {
  if (needs.bank === 'any') return yes;
  if (c.bank === undefined) return { asks: ['bank'] };
  if (needs.bank === 'low') return c.bank === 'low' ? yes : { why: [{ code: 'bankTooFull' }] };
  if (needs.bank === 'taking') return c.bank === 'full' ? { why: [{ code: 'bankTooFull' }] } : yes;
  if (c.bank === 'full') return yes;
  // A bank that is not there yet fills by a source that gives its most.
  const answer = any(drivesOnSite(plan).map((drive) => given(drive, { ...needs, source: 'most' }, c)));
  return 'why' in answer ? { why: [{ code: 'bankStaysLow' }] } : answer;
}

function answerFor(plan: Plan, subject: Subject, needs: TestNeeds, c: VisitConditions): Answer {
  const source = needs.source === 'none' ? yes : any(feeds(plan, subject).map((drive) => given(drive, needs, c)));
  const { warmC } = needs;
  const warm: Answer =
    warmC === undefined ? yes : c.batteryC === undefined ? { asks: ['batteryC'] } : c.batteryC >= warmC ? yes : { why: [{ code: 'batteryCold', warmC }] };
  return all([source, stands(plan, needs, c), warm]);
}

const partOf = ({ test }: Visited, { source, bank }: TestNeeds): VisitPart =>
  test.code === 'powerCycle'
    ? 'leave'
    : bank === 'low' || bank === 'taking'
      ? 'fill'
      : bank === 'absorb' || bank === 'full'
        ? bank
        : source === 'none'
          ? 'arrive'
          : 'fill';

/** Keys of the requirements a test speaks to: of its devices, and of the bank. */
const keysOf = (plan: Plan, { test, subject }: Visited): readonly string[] =>
  test.proves.flatMap((code) => [...(test.speaksFor?.(plan, subject) ?? [subject.device.id]).map((id) => keyOfRequirement(code, id)), keyOfRequirement(code)]);

/** When time is short: what is stored first, then what protects the bank, what fills it, what counts, and records last. */
const whenShort: Readonly<Record<TestCode, number>> = {
  powerCycle: 0,
  lowTemperature: 1,
  thermostat: 2,
  turbine: 3,
  currentCeiling: 4,
  alternatorStart: 5,
  absorbHold: 6,
  loadCutoff: 7,
  display: 8,
  absorbToFloat: 9,
  chill: 10,
  recharge: 11,
  sisters: 12,
  regulatorTerminals: 13,
  monitorFull: 14,
  history: 15,
  passcode: 16,
};

/** A history weighs less than any reading: it is for what no test can show today. */
const lightest = ({ test }: Visited): boolean => test.code === 'history';

/**
 * A plan for one visit: what today allows of the tests that would settle what is open, in the order in which a bank fills, those of one device side by
 * side. What settles nothing new is left out.
 *
 * @param open requirements that are open, by `requirementKey`
 */
export function planVisit(plan: Plan, open: ReadonlySet<string>, conditions: VisitConditions): VisitPlan {
  const candidates = testsFor(plan).flatMap((v) => {
    const { refused, steps } = v.test.prepare(plan, v.subject);
    if (refused !== null) return [];
    const needs = v.test.needs(plan, v.subject);
    return [
      {
        ...v,
        needs,
        part: partOf(v, needs),
        keys: keysOf(plan, v).filter((key) => open.has(key)),
        answer: answerFor(plan, v.subject, needs, conditions),
        isolates: JSON.stringify(steps.filter((s) => s.kind === 'isolate').map((s) => s.says)),
      },
    ];
  });
  const settled = new Set<string>();
  const take = (which: (answer: Answer) => boolean, light: boolean): readonly (typeof candidates)[number][] =>
    candidates.filter((v) => {
      if (lightest(v) !== light || !which(v.answer) || v.keys.every((key) => settled.has(key))) return false;
      v.keys.forEach((key) => settled.add(key));
      return true;
    });
  const now = [...take((a) => 'can' in a, false)];
  const unsaid = take((a) => 'asks' in a, false);
  // What a test waits for is settled another day: a history may still tell of it.
  const waits = take((a) => 'why' in a, false);
  waits.forEach((v) => {
    v.keys.forEach((key) => settled.delete(key));
  });
  now.push(...take((a) => 'can' in a, true));
  const place = new Map(devicesOf(plan.input).map((d, i) => [d.id, i]));
  const ordered = now.sort(
    (a, b) => visitParts.indexOf(a.part) - visitParts.indexOf(b.part) || (place.get(a.subject.device.id) ?? 0) - (place.get(b.subject.device.id) ?? 0),
  );
  let left = conditions.hours === undefined ? Infinity : conditions.hours * 60;
  const fits = new Set(
    [...ordered]
      .sort((a, b) => whenShort[a.test.code] - whenShort[b.test.code])
      .filter((v) => {
        if (v.needs.minutes > left) return false;
        left -= v.needs.minutes;
        return true;
      }),
  );
  const doing = ordered.filter((v) => fits.has(v));
  const tests = doing.map((v, i): PlannedTest => {
    const before = doing[i - 1];
    return {
      test: v.test,
      subject: v.subject,
      part: v.part,
      minutes: Math.round(v.needs.minutes),
      isolated: v.isolates !== '[]' && before?.subject.device.id === v.subject.device.id && before.isolates === v.isolates,
    };
  });
  const questions = [...new Set(unsaid.flatMap((v) => ('asks' in v.answer ? v.answer.asks : [])))];
  return {
    tests,
    tools: [...new Set(doing.flatMap((v) => v.needs.bring))],
    minutes: tests.reduce((sum, t) => sum + t.minutes, 0),
    later: [
      ...ordered.filter((v) => !fits.has(v)).map(({ test, subject }) => ({ test, subject, reasons: [{ code: 'noTime' } as const] })),
      ...waits.map(({ test, subject, answer }) => ({ test, subject, reasons: 'why' in answer ? answer.why : [] })),
    ],
    asks: questions.map((question) => ({ question, tests: unsaid.filter((v) => 'asks' in v.answer && v.answer.asks.includes(question)).length })),
  };
}
