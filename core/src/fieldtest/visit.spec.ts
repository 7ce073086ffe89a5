import type { Job } from '../job';
import { requirementKey, requirementsOf } from '../requirements';
import type { Plan } from '../settings';
import { plan, seeded, wholeTeasel } from '../testing/fixtures';
import { demoJob } from '../testing/rehearsals';
import { drivesOnSite, planVisit, testsFor, visitConditionsSchema, visitParts, type VisitConditions, type VisitPlan } from './index';

const launch = plan(wholeTeasel());
/** Everything that is asked, as if nothing were settled yet. */
const everything = (p: Plan): ReadonlySet<string> => new Set(requirementsOf(p).map((requirement) => requirementKey({ requirement })));
const visit = (conditions: VisitConditions, p = launch, open = everything(p)): VisitPlan => planVisit(p, open, conditions);
const good: VisitConditions = { sun: 'full', engine: true, mains: true, turbine: true, bank: 'between', batteryC: 18 };
const names = (v: VisitPlan): readonly string[] => v.tests.map((t) => `${t.test.code} ${t.subject.device.id}`);
const reasons = (v: VisitPlan, code: string, device = 'aft'): readonly string[] | undefined =>
  v.later.find((l) => l.test.code === code && l.subject.device.id === device)?.reasons.map((r) => r.code);

describe('a plan for a visit', () => {
  it('plans without a word only what needs neither sun nor bank, and asks for the rest', () => {
    const { tests, later, asks } = visit({});
    expect([...new Set(tests.map((t): string => t.test.code))]).toEqual(['passcode', 'history', 'powerCycle']);
    expect(later).toEqual([]);
    expect(asks.map((a) => a.question).sort()).toEqual(['bank', 'batteryC', 'engine', 'sun']);
    expect(asks.every((a) => a.tests > 0)).toBeTrue();
  });

  it('goes by how the bank fills, and cuts the power last', () => {
    const { tests, later, asks } = visit(good);
    expect([later.map((l) => `${l.test.code} ${l.reasons[0]?.code}`), asks]).toEqual([['loadCutoff bankTooFull'], []]);
    const parts = tests.map((t) => visitParts.indexOf(t.part));
    expect(parts).toEqual([...parts].sort((a, b) => a - b));
    expect(tests.at(-1)?.test.code).toBe('powerCycle');
    const at = (code: string): number => tests.findIndex((t) => t.test.code === code && t.subject.device.id === 'aft');
    expect(at('currentCeiling')).toBeLessThan(at('absorbHold'));
    expect(at('absorbHold')).toBeLessThan(at('absorbToFloat'));
  });

  it('says how long and with what: every tool once', () => {
    const { tests, tools, minutes } = visit(good);
    expect(minutes).toBe(tests.reduce((sum, t) => sum + t.minutes, 0));
    expect(tools.length).toBe(new Set(tools).size);
    expect([...tools].sort()).toEqual(['clampMeter', 'coldBath', 'coldPack', 'load', 'multimeter', 'settingsSheet', 'thermometer', 'watch']);
    expect(visit(good, launch, new Set(['floatLevel/aft'])).tools).toEqual(['multimeter', 'watch']);
    // Fifteen minutes about the forty of absorb.
    expect(tests.find((t) => t.test.code === 'absorbHold' && t.subject.device.id === 'aft')?.minutes).toBe(55);
  });

  it('leaves for another day what sun, engine, bank or cold do not allow, and says why', () => {
    expect(reasons(visit({ ...good, sun: 'some' }), 'currentCeiling')).toEqual(['fullSun']);
    expect(reasons(visit({ ...good, sun: 'none' }), 'currentCeiling')).toEqual(['noSource']);
    expect(reasons(visit({ ...good, engine: false }), 'alternatorStart', 'alternator')).toEqual(['noSource']);
    expect(reasons(visit({ ...good, bank: 'full' }), 'currentCeiling')).toEqual(['bankTooFull']);
    expect(reasons(visit({ ...good, bank: 'full' }), 'absorbHold')).toBeUndefined();
    // Under cloud and without an engine it does not come to absorb; by the engine it does.
    expect(reasons(visit({ ...good, sun: 'some', engine: false }), 'absorbHold')).toEqual(['bankStaysLow']);
    expect(reasons(visit({ ...good, sun: 'some' }), 'absorbHold')).toBeUndefined();
    expect(reasons(visit({ ...good, bank: 'low' }), 'loadCutoff', 'monitor')).toBeUndefined();
    const warmC = testsFor(launch)
      .find((t) => t.test.code === 'lowTemperature' && t.subject.device.id === 'aft')!
      .test.needs(launch, testsFor(launch).find((t) => t.test.code === 'lowTemperature' && t.subject.device.id === 'aft')!.subject).warmC!;
    expect(warmC).toBe(launch.setting('aft', 'lowTempResume')!.trueValue! + 3);
    expect(reasons(visit({ ...good, batteryC: warmC }), 'lowTemperature')).toBeUndefined();
    expect(reasons(visit({ ...good, batteryC: warmC - 0.1 }), 'lowTemperature')).toEqual(['batteryCold']);
  });

  it('plans nothing that would settle nothing new: the lighter evidence only where no test can be done', () => {
    expect(names(visit(good)).filter((n) => n.startsWith('history aft'))).toEqual([]);
    expect(names(visit({ ...good, sun: 'none', engine: false }))).toContain('history aft');
    // Chargers are compared once, not from each of them.
    expect(visit(good).tests.filter((t) => t.test.code === 'sisters').length).toBe(1);
    expect(visit(good, launch, new Set()).tests).toEqual([]);
    expect(names(visit(good, launch, new Set(['floatLevel/aft'])))).toEqual(['absorbToFloat aft']);
  });

  it('keeps to the hours: what is stored and what protects the bank before what fills it, and records last', () => {
    const short = visit({ ...good, hours: 2 });
    // Five power cuts of five minutes, three cold baths of thirty, and five minutes that nothing fits into but a passcode.
    expect(names(short).filter((n) => !n.startsWith('passcode'))).toEqual([
      'lowTemperature fore',
      'lowTemperature aft',
      'lowTemperature alternator',
      ...['fore', 'aft', 'dcdc', 'alternator', 'monitor'].map((d) => `powerCycle ${d}`),
    ]);
    expect([short.minutes, short.tests.length]).toEqual([120, 9]);
    expect(short.later.find((l) => l.test.code === 'absorbHold')?.reasons.map((r) => r.code)).toEqual(['noTime']);
    const enough = visit(good).minutes / 60;
    expect(visit({ ...good, hours: enough }).later.some((l) => l.reasons[0]?.code === 'noTime')).toBeFalse();
    expect(visit({ ...good, hours: enough - 0.05 }).later.some((l) => l.reasons[0]?.code === 'noTime')).toBeTrue();
  });

  it('knows what the chargers of a job draw on, whatever kind they are', () => {
    const of = (job: Job): readonly string[] => drivesOnSite(plan(job));
    expect(['teasel', 'skarrow', 'tumbler'].map((name) => of(demoJob(name as 'teasel')))).toEqual([
      ['sun', 'engine'],
      ['sun', 'turbine'],
      ['sun', 'mains'],
    ]);
    const as = (kind: 'solarPwm' | 'dcdc'): Job => {
      const job = demoJob('rook-moss');
      return { ...job, cards: job.cards.map((c) => ({ ...c, kind: c.kind === 'solarMppt' || c.kind === 'solarPwm' ? kind : c.kind })) };
    };
    expect([of(as('solarPwm')), of(as('dcdc'))]).toEqual([['sun'], ['engine']]);
  });

  it('takes up to two days on site and temperatures of a battery, and nothing beyond', () => {
    const takes = (said: object): boolean => visitConditionsSchema.safeParse(said).success;
    expect([{ hours: 48 }, { hours: 0.1 }, { batteryC: -60 }, { batteryC: 90 }, {}].every(takes)).toBeTrue();
    expect([{ hours: 48.1 }, { hours: 0 }, { batteryC: -60.1 }, { batteryC: 90.1 }, { sun: 'much' }].some(takes)).toBeFalse();
  });

  it('does a step once that two tests of one device begin with, and never across devices', () => {
    const { tests } = visit(good);
    const shared = tests.filter((t) => t.isolated);
    expect(shared.length).toBeGreaterThan(0);
    for (const t of shared) expect(tests[tests.indexOf(t) - 1]?.subject.device.id).toBe(t.subject.device.id);
    expect(tests[0]?.isolated).toBeFalse();
  });

  it('loses nothing: what is open and can be tested is planned, waits, or hangs on an answer, on every job and any visit', () => {
    for (const name of ['teasel', 'rook-moss', 'skarrow', 'tumbler'] as const) {
      const p = plan(demoJob(name));
      for (let seed = 1; seed <= 40; seed++) {
        const random = seeded(seed);
        const pick = <T>(...of: T[]): T => of[Math.floor(random() * of.length)]!;
        const said = <K extends keyof VisitConditions>(key: K, value: VisitConditions[K]) => (random() < 0.7 ? { [key]: value } : {});
        const conditions: VisitConditions = {
          ...said('sun', pick('full', 'some', 'none')),
          ...said('engine', pick(true, false)),
          ...said('turbine', pick(true, false)),
          ...said('bank', pick('low', 'between', 'full')),
          ...said('batteryC', pick(-5, 8, 20)),
        };
        const open = new Set([...everything(p)].filter(() => random() < 0.6));
        const found = planVisit(p, open, conditions);
        const keys = ({ test, subject }: (typeof found.tests)[number] | (typeof found.later)[number]): readonly string[] =>
          test.proves
            .flatMap((code) => [...(test.speaksFor?.(p, subject) ?? [subject.device.id]).map((id) => `${code}/${id}`), `${code}/`])
            .filter((k) => open.has(k));
        const told = new Set([...found.tests, ...found.later].flatMap(keys));
        const testable = testsFor(p).filter(({ test, subject }) => test.prepare(p, subject).refused === null);
        const unsaid = found.asks.length > 0;
        for (const t of testable)
          for (const key of t.test.proves.map((code) => `${code}/${t.subject.device.id}`))
            if (open.has(key) && !unsaid) expect(told.has(key)).withContext(`${name} ${seed} ${key}`).toBeTrue();
        // And nothing twice: each test has something of its own.
        const seen = new Set<string>();
        for (const t of found.tests.filter((v) => v.test.code !== 'history')) {
          expect(keys(t).some((k) => !seen.has(k)))
            .withContext(`${name} ${seed} ${t.test.code}`)
            .toBeTrue();
          keys(t).forEach((k) => seen.add(k));
        }
      }
    }
  });
});
