import type { Plan } from '../settings';
import { withoutEchoes } from './echoes';
import type { Finding, FindingPlace, Severity } from './finding';
import { findingRules } from './list';

const order: readonly Severity[] = ['stop', 'attention', 'note'];

/**
 * Everything worth saying about a plan, stops first, in the order of the catalogue. What only repeats a doubt that is told is held back.
 *
 * @param today year-month-day, for calibration dates
 */
export function findFindings(plan: Plan, today: string): readonly Finding[] {
  const every = (of: Plan): readonly Finding[] =>
    findingRules.flatMap(({ code, check }) => check({ plan: of, today }).map((draft): Finding => ({ remedies: [], ...draft, code })));
  return [...withoutEchoes(plan, every(plan), every)].sort((a, b) => order.indexOf(a.severity) - order.indexOf(b.severity));
}

const places: ReadonlyMap<string, FindingPlace> = new Map(findingRules.map((rule) => [rule.code, rule]));

/** Where findings of a code are dealt with; nothing of a code that no rule has. */
export const findingPlace = (code: string): FindingPlace => places.get(code) ?? {};
