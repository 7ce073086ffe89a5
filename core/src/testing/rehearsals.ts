import { readFileSync } from 'node:fs';
import { cardSchema, type DeviceValues } from '../card';
import { readJob, type Job } from '../job';
import { rehearse, scenarioNamed, variantValues, type AllValues, type Run, type RunInput, type RunOptions, type Scenario } from '../rehearsal';
import { deriveSettings, type Plan } from '../settings';

/** A demo job as it ships. */
export function demoJob(name: 'teasel' | 'rook-moss' | 'skarrow' | 'tumbler'): Job {
  const read = readJob(readFileSync(new URL(`../../../demo/${name}.job.json`, import.meta.url), 'utf8'));
  if (!read.ok) throw new Error(read.problems[0]?.text);
  return read.value;
}

/** A demo job with only some of its chargers, each edited. */
export function only(job: Job, chargers: Readonly<Record<string, Partial<Job['system']['chargers'][number]>>>): Job {
  return { ...job, system: { ...job.system, chargers: job.system.chargers.flatMap((c) => (chargers[c.id] ? [{ ...c, ...chargers[c.id] }] : [])) } };
}

/** The job with another card that ships, in place of one it has. */
export function withCard(job: Job, from: string, to: string): Job {
  const card = cardSchema.parse(JSON.parse(readFileSync(new URL(`../../../library/cards/${to}.json`, import.meta.url), 'utf8')));
  return {
    ...job,
    cards: [...job.cards.filter((c) => c.id !== from), card],
    system: { ...job.system, chargers: job.system.chargers.map((c) => (c.card === from ? { ...c, card: to } : c)) },
  };
}

/** Changes what stands on one device. */
export const on = (values: AllValues, device: string, change: DeviceValues): AllValues => ({ ...values, [device]: { ...values[device], ...change } });

/** A day on a job. */
export function dayOn(plan: Plan, name: string, change: Partial<Scenario> = {}): Scenario {
  const scenario = scenarioNamed(plan, name);
  if (!scenario) throw new Error(`no scenario ${name}`);
  return { ...scenario, ...change };
}

/** Rehearses a job; throws with the sentence when it cannot be. */
export function ran(
  job: Job,
  name: string,
  more: { scenario?: Partial<Scenario>; values?: (values: AllValues, plan: Plan) => AllValues; options?: RunOptions } & Pick<
    RunInput,
    'unknowns' | 'replay'
  > = {},
): { plan: Plan; run: Run } {
  const plan = deriveSettings(job);
  const values = variantValues(plan, 'asSet');
  const made = rehearse(
    {
      plan,
      scenario: dayOn(plan, name, more.scenario),
      values: more.values?.(values, plan) ?? values,
      stored: variantValues(plan, 'asFound'),
      ...(more.unknowns ? { unknowns: more.unknowns } : {}),
      ...(more.replay ? { replay: more.replay } : {}),
    },
    more.options,
  );
  if (!made.ok) throw new Error(made.problems.map((p) => p.text).join(' '));
  return { plan, run: made.value };
}

/** The stages a charger went through, with their causes. */
export const trail = (run: Run, id: string): string[] =>
  (run.chargers.find((c) => c.id === id)?.spans ?? []).filter((s) => s.to > s.from).map((s) => `${s.stage} ${s.cause}`);

/** First event of a device with a cause, or of a kind. */
export const eventOf = (run: Run, device: string | undefined, what: string) =>
  run.events.find((e) => (device === undefined || e.device === device) && (e.cause === what || e.kind === what));
