import type { Plan } from '../settings';
import type { Rule } from './context';
import type { EvidenceKind, Requirement } from './requirement';
import { compensation } from './rules/compensation';
import { ceiling } from './rules/current';
import { cycle } from './rules/cycle';
import { devices } from './rules/devices';
import { programmed } from './rules/programmed';
import { temperature } from './rules/temperature';
import { together } from './rules/together';
import { levels, maximum } from './rules/voltage';

/** Every kind of requirement, in the order in which they are told. */
const rules: readonly Rule[] = [maximum, levels, temperature, ceiling, cycle, compensation, together, devices, programmed];

/** Generates what must hold from the pinned sheet, the bank and the settings. Figures the sheet lacks make no requirement. */
export const requirementsOf = (plan: Plan): readonly Requirement[] => rules.flatMap((rule) => rule(plan));

/** Those that a kind of evidence can show. */
export const seenBy = (plan: Plan, kind: EvidenceKind): readonly Requirement[] => requirementsOf(plan).filter((r) => r.seenBy.includes(kind));
