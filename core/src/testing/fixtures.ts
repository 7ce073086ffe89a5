import { readFileSync } from 'node:fs';
import type { NumberParameter } from '../card';
import { readJob, type Job } from '../job';
import { deriveSettings, type Plan, type SettingsInput } from '../settings';
import { findFindings } from '../findings';
import { english, sayFor, speakFinding, type SpokenFinding } from '../words';
import { keyed } from './keyed';
import type { Charger, System } from '../system';
import type { Figure, FigureKey } from '../sheet';

const demo = (name: string): Job => {
  const job = readJob(readFileSync(new URL(`../../../demo/${name}.job.json`, import.meta.url), 'utf8'));
  if (!job.ok) throw new Error(job.problems.map((p) => p.text).join(' '));
  return job.value;
};

/** The whole launch: 24 V LFP, two solar chargers, a DC-DC charger, an alternator, a monitor. */
export const wholeTeasel = (): Job => demo('teasel');
/** The launch with its two solar chargers only, on bare wires. */
export const teasel = (): Job => {
  const job = demo('teasel');
  const chargers = job.system.chargers.flatMap(({ array: _a, wire: _w, ...c }) => (c.card === 'varrow-s45' ? [c] : []));
  const { wire: _wire, shortCircuitA: _s, fuseBreaksA: _f, ...bank } = job.system.bank;
  return { ...job, cards: job.cards.filter((c) => c.id === 'varrow-s45'), system: { ...job.system, bank, chargers, companions: [] } };
};
/** The mast: 12 V vented lead-acid, one PWM charger. */
export const rookMoss = (): Job => demo('rook-moss');

export const plan = (input: SettingsInput): Plan => deriveSettings(input);
export const codes = (input: SettingsInput, today = '2026-06-09'): string[] => findFindings(plan(input), today).map((f) => f.code);
/** Every finding in English, in °C where nothing else is said. */
export const said = (input: SettingsInput, today = '2026-06-09', scale: 'C' | 'F' = 'C'): readonly SpokenFinding[] =>
  findFindings(plan(input), today).map((finding) => speakFinding(english, finding, sayFor(input, scale)));
export const find = (input: SettingsInput, code: string, today = '2026-06-09'): SpokenFinding | undefined => said(input, today).find((f) => f.code === code);

/** A job with one charger changed. */
export const withCharger = (job: Job, id: string, change: Partial<Charger>): Job => ({
  ...job,
  system: { ...job.system, chargers: job.system.chargers.map((c) => (c.id === id ? { ...c, ...change } : c)) },
});
/** A job with the system changed. */
export const withSystem = (job: Job, change: Partial<System>): Job => ({ ...job, system: { ...job.system, ...change } });
/** A job with one figure changed, or taken away. */
export function withFigure(job: Job, key: FigureKey, change: Partial<Figure> | null): Job {
  const { [key]: before, ...others } = job.sheet.figures;
  const base: Figure = before ?? { state: 'stated', unit: 'V', basis: 'unit', rank: 'makerForThisCharger' };
  return { ...job, sheet: { ...job.sheet, figures: change === null ? others : { ...others, [key]: { ...base, ...change } } } };
}
/** A job whose chargers stand as derived: nothing found on them that differs. */
export const asDerived = (job: Job): Job => {
  const read = keyed(job);
  return { ...read, system: { ...read.system, chargers: read.system.chargers.map((c) => ({ ...c, passcodeChanged: true })) } };
};

/** Deterministic random numbers in [0, 1), for property specs. */
export function seeded(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a * 1664525 + 1013904223) >>> 0;
    return a / 4294967296;
  };
}

/** A number on a card with nothing peculiar about it, but for what a spec says: 0 to 100 V in steps of 1. */
export const numberParameter = (change: Partial<NumberParameter>): NumberParameter => ({
  role: 'absorbVoltage',
  label: '',
  menu: [],
  unit: 'V',
  min: 0,
  max: 100,
  step: 1,
  per12V: false,
  special: [],
  wraps: false,
  access: 'basic',
  keys: [],
  ...change,
});

/** A run sheet begun at this moment, with nothing answered. */
export const begunSheet = (begunAt: string): NonNullable<Job['programming']> => ({
  begunAt,
  endedAt: null,
  by: 'KM',
  instrument: 'meter',
  aim: 'set',
  found: {},
  answers: [],
  at: null,
  trouble: [],
});
