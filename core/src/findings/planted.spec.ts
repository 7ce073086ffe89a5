import { parameterFor, type Role } from '../card';
import type { Job } from '../job';
import { cardOf, chargersWithCards, nearestHeld } from '../settings';
import { isLithium } from '../sheet';
import { skarrow, tumbler, withoutCapacity } from '../testing/findingCases';
import { plan, rookMoss, said, seeded, wholeTeasel, withCharger, withFigure, withSystem } from '../testing/fixtures';
import { rounds } from '../testing/rounds';

const today = '2026-06-09';
const inSeries = (job: Job, times: number): Job => withSystem(job, { bank: { ...job.system.bank, unitsInSeries: job.system.bank.unitsInSeries * times } });
/** 12 to 48 V, five chemistries. */
const jobs: readonly (readonly [string, Job])[] = [
  ['24 V LFP', wholeTeasel()],
  ['48 V LFP', inSeries(wholeTeasel(), 2)],
  ['12 V vented', rookMoss()],
  ['24 V vented', inSeries(rookMoss(), 2)],
  ['48 V AGM', skarrow()],
  ['48 V gel', { ...skarrow(), sheet: { ...skarrow().sheet, chemistry: 'gel' } }],
  ['48 V NMC', tumbler()],
];

/** A mistake that somebody makes on a job: what it comes to, and which finding has to tell it. Null where this job gives no room for it. */
type Mistake = (job: Job, random: () => number) => { readonly job: Job; readonly code: string; readonly charger?: string } | null;

const pick = <T>(list: readonly T[], random: () => number): T | undefined => list[Math.floor(random() * list.length)];
const chargerOf = (job: Job, random: () => number, having?: Role) =>
  pick(
    chargersWithCards(job).filter(({ charger, card }) => charger.follows === undefined && (having === undefined || parameterFor(card, having) !== undefined)),
    random,
  );
/** What stands on a charger: the value its display can show that comes nearest to one at the bank. */
function standing(job: Job, id: string, role: Role, real: number): Job | null {
  const held = nearestHeld(plan(job), id, role, real);
  const charger = job.system.chargers.find((c) => c.id === id);
  return held && charger ? withCharger(job, id, { present: { ...charger.present, [role]: held.device } }) : null;
}
/** A voltage found past its band, above or below it. */
const foundPast =
  (role: 'absorbVoltage' | 'floatVoltage', side: 1 | -1): Mistake =>
  (job, random) => {
    const at = chargerOf(job, random, role);
    const band = at && plan(job).setting(at.charger.id, role)?.band;
    const end = side > 0 ? band?.max : band?.min;
    if (!at || end === undefined) return null;
    const past = standing(job, at.charger.id, role, end + side * (0.3 + random()) * (plan(job).facts.nominalVolts / 12));
    const made = past && plan(past).setting(at.charger.id, role)?.presentTrue;
    // A range that ends before it gives no room for the mistake.
    return past && made != null && side * (made - end) > 0.02 ? { job: past, code: 'presentOutsideBand', charger: at.charger.id } : null;
  };
const drop = <T extends object, K extends keyof T>(value: T, key: K): Omit<T, K> => {
  const { [key]: _gone, ...rest } = value;
  return rest;
};

const mistakes: Readonly<Record<string, Mistake>> = {
  'absorb found high': foundPast('absorbVoltage', 1),
  'absorb found low': foundPast('absorbVoltage', -1),
  'float found high': foundPast('floatVoltage', 1),
  'absorb overridden past the band': (job, random) => {
    const at = chargerOf(job, random, 'absorbVoltage');
    const most = at && plan(job).setting(at.charger.id, 'absorbVoltage')?.band?.max;
    const held = at && most !== undefined ? nearestHeld(plan(job), at.charger.id, 'absorbVoltage', most + 0.5 + random()) : null;
    if (!at || most === undefined || !held || held.real < most + 0.02) return null;
    const override = { charger: at.charger.id, role: 'absorbVoltage' as const, value: held.real, reason: 'asked', by: 'owner', date: today };
    return { job: { ...job, overrides: [override] }, code: 'absorbOutsideBand', charger: at.charger.id };
  },
  'absorb on the wrong basis': (job, random) => {
    const figure = job.sheet.figures.absorbVoltage;
    const basis = pick(
      (['cell', 'unit'] as const).filter((b) => b !== figure?.basis),
      random,
    );
    return figure && basis && job.sheet.unit.cellsInSeries > 1 ? { job: withFigure(job, 'absorbVoltage', { basis }), code: 'basisSuspicious' } : null;
  },
  'no fuse at a charger': (job, random) => {
    const at = chargerOf(job, random);
    if (at?.charger.fuseA === undefined) return null;
    const chargers = job.system.chargers.map((c) => (c.id === at.charger.id ? (drop(c, 'fuseA') as typeof c) : c));
    return { job: withSystem(job, { chargers }), code: 'fuseMissing', charger: at.charger.id };
  },
  'a limit found past its fuse': (job, random) => {
    const at = chargerOf(job, random, 'chargeCurrentLimit');
    const full = at && standing(job, at.charger.id, 'chargeCurrentLimit', at.card.ratings.outputA);
    return full
      ? { job: withCharger(full, at.charger.id, { fuseA: at.card.ratings.outputA * (0.4 + random() * 0.6) }), code: 'pastOwnFuse', charger: at.charger.id }
      : null;
  },
  'a cable thinner than its fuse': (job, random) => {
    const at = chargerOf(job, random);
    const { cableA: _rated, ...charger } = at?.charger ?? { id: '' };
    if (!at) return null;
    const chargers = job.system.chargers.map((c) =>
      c.id === charger.id ? { ...(charger as typeof c), fuseA: 100 + random() * 100, wire: { areaMm2: 2.5 } } : c,
    );
    return { job: withSystem(job, { chargers }), code: 'fusePastCable', charger: at.charger.id };
  },
  'a main switch too small': (job, random) => ({ job: withSystem(job, { bank: { ...job.system.bank, mainSwitchA: 1 + random() } }), code: 'mainPathTooSmall' }),
  'a bank of another cell count': (job, random) => ({
    job: withSystem(job, { bank: { ...job.system.bank, restingV: plan(job).facts.nominalVolts * pick([0.5, 0.75, 1.5, 2], random)! } }),
    code: 'bankReadsOther',
  }),
  'a sensor nobody has seen': (job, random) => {
    const at = chargerOf(job, random);
    if (!at || !at.card.sensor.usedFor.includes('cutoff') || !parameterFor(at.card, 'lowTempCutoff') || at.card.sensor.reads === 'ownCase') return null;
    const code = at.card.sensor.usedFor.includes('compensation') && isLithium(job.sheet.chemistry) ? 'sensorUnplugged' : 'batteryReadingMissing';
    if (code === 'batteryReadingMissing' && at.card.sensor.reads !== 'network') return null;
    return { job: withCharger(job, at.charger.id, { sensor: drop(at.charger.sensor, 'fitted') }), code, charger: at.charger.id };
  },
  'no capacity': (job) => ({ job: withoutCapacity(job), code: 'capacityNotSaid' }),
  'no card': (job, random) => {
    const at = chargerOf(job, random);
    return at ? { job: withCharger(job, at.charger.id, { card: 'nobody-has-it' }), code: 'cardMissing', charger: at.charger.id } : null;
  },
  'a meter past its calibration': (job) => ({
    job: withSystem(job, { instruments: job.system.instruments.map((i) => ({ ...i, calibrationDue: '2025-01' })) }),
    code: 'meterPastCalibration',
  }),
  'a display far off': (job, random) => {
    const at = chargerOf(job, random);
    const meterV = plan(job).facts.nominalVolts * 1.1;
    const displayV = meterV * (1 + (random() < 0.5 ? -1 : 1) * (0.015 + random() * 0.02));
    return at ? { job: withCharger(job, at.charger.id, { displayReadings: [{ meterV, displayV }] }), code: 'displayErrorLarge', charger: at.charger.id } : null;
  },
  'a bank colder than the air ever was': (job, random) => ({
    job: withSystem(job, { site: { ...job.system.site, bankLowC: job.system.site.recordLowC - 3 - random() * 10 } }),
    code: 'siteSuspicious',
  }),
  'a lithium bank without a BMS': (job) =>
    isLithium(job.sheet.chemistry) ? { job: withSystem(job, { bank: { ...job.system.bank, hasBms: false } }), code: 'bmsUnknown' } : null,
  'a capacity that nobody explained': (job, random) => ({
    job: withSystem(job, { bank: { ...job.system.bank, capacityFactor: 0.3 + random() * 0.5, capacityReason: '' } }),
    code: 'capacityWithoutReason',
  }),
};

describe('a mistake planted at random in any of the jobs', () => {
  it('is told, of the device it was made at', () => {
    const random = seeded(77);
    const made = new Map<string, number>();
    const chemistries = new Set<string>();
    for (let i = 0; i < rounds(2000); i++) {
      const [where, job] = pick(jobs, random)!;
      const [what, mistake] = pick(Object.entries(mistakes), random)!;
      const planted = mistake(job, random);
      if (!planted) continue;
      made.set(what, (made.get(what) ?? 0) + 1);
      chemistries.add(job.sheet.chemistry);
      const told = said(planted.job, today).filter((f) => f.code === planted.code && (planted.charger === undefined || f.charger === planted.charger));
      expect(told.length)
        .withContext(`${what} on ${where}${planted.charger === undefined ? '' : `, ${planted.charger}`}: ${planted.code}`)
        .toBeGreaterThan(0);
      for (const { text } of told) expect(text).not.toMatch(/NaN|undefined|Infinity/);
    }
    // Every kind of mistake was made, on every chemistry.
    expect([...made.keys()].sort()).toEqual(Object.keys(mistakes).sort());
    expect(chemistries.size).toBe(5);
    expect([...made.values()].reduce((a, b) => a + b, 0)).toBeGreaterThan(100);
  });

  it('is made at devices that have cards', () => {
    for (const [where, job] of jobs)
      expect(job.system.chargers.every((c) => cardOf(job, c) !== undefined))
        .withContext(where)
        .toBeTrue();
  });
});
