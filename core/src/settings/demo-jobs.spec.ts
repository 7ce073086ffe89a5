import { readFileSync } from 'node:fs';
import { deviceGrid, fromDevice, parameterFor, roleInfo } from '../card';
import { findFindings } from '../findings';
import { readJob, type Job } from '../job';
import { neededFigures, requestLetter } from '../report';
import { requirementsOf } from '../requirements';
import { plan, said, withCharger, withFigure, withSystem } from '../testing/fixtures';
import { cardOf, deviceSetting, devicesOf, mostAmps } from './index';

const demo = (name: string): Job => {
  const job = readJob(readFileSync(new URL(`../../../demo/${name}.job.json`, import.meta.url), 'utf8'));
  if (!job.ok) throw new Error(job.problems[0]?.text);
  return job.value;
};
const jobs = ['teasel', 'rook-moss', 'skarrow', 'tumbler'].map(demo);
const today = '2026-06-09';
const codesOf = (job: Job): string[] => findFindings(plan(job), today).map((f) => f.code);

describe('whatever the job', () => {
  for (const job of jobs) {
    const p = plan(job);

    it(`${job.name}: every number to key is one the charger can hold`, () => {
      for (const s of p.settings) {
        const charger = devicesOf(job).find((c) => c.id === s.charger)!;
        const parameter = parameterFor(cardOf(job, charger)!, s.role)!;
        if (parameter.unit === 'choice' || typeof s.value !== 'number') continue;
        const held = [...deviceGrid(parameter, p.facts.systemVolts!), ...parameter.special.map((x) => x.value)];
        expect(held.some((v) => Math.abs(v - (s.value as number)) < 1e-9))
          .withContext(`${s.charger} ${s.role} ${String(s.value)}`)
          .toBeTrue();
      }
    });

    it(`${job.name}: every choice that was found is one that the device has`, () => {
      for (const device of devicesOf(job))
        for (const p of cardOf(job, device)!.parameters) {
          const found = device.present[p.role];
          if (p.unit !== 'choice' || found === undefined) continue;
          expect(p.options.map((o) => o.value))
            .withContext(`${device.id} ${p.role}`)
            .toContain(String(found));
        }
    });

    it(`${job.name}: what a keyed number makes is what its own unit says, display error apart`, () => {
      for (const s of p.settings) {
        const charger = devicesOf(job).find((c) => c.id === s.charger)!;
        const card = cardOf(job, charger)!;
        const parameter = parameterFor(card, s.role)!;
        if (parameter.unit === 'choice' || typeof s.value !== 'number' || s.trueValue === null || s.off || charger.id === 'fore') continue;
        const at = deviceSetting(p.facts, card, p.setting(s.charger, 'floatVoltage')?.trueValue ?? undefined);
        expect(s.trueValue)
          .withContext(`${s.charger} ${s.role}`)
          .toBeCloseTo(fromDevice(parameter, s.value, at), 6);
      }
    });

    it(`${job.name}: all chargers together stay under the ceiling, each under its fuse`, () => {
      const sum = job.system.chargers.reduce((total, c) => total + mostAmps(p, c, cardOf(job, c)!), 0);
      expect(sum).toBeLessThanOrEqual((p.ceiling.binding?.amps ?? Infinity) + 1e-9);
      for (const c of job.system.chargers) if (c.fuseA !== undefined) expect(mostAmps(p, c, cardOf(job, c)!)).toBeLessThanOrEqual(c.fuseA * 0.8 + 1e-9);
    });

    it(`${job.name}: no voltage above the sheet’s maximum, and every derivation ends in the value`, () => {
      for (const s of p.settings) {
        if (roleInfo[s.role].unit !== 'V' || s.band?.max === undefined || s.trueValue === null) continue;
        expect(s.trueValue)
          .withContext(`${s.charger} ${s.role}`)
          .toBeLessThanOrEqual(s.band.max + 1e-9);
        expect(s.derivation.some((step) => step.kind === 'set' && step.value === s.value))
          .withContext(`${s.charger} ${s.role}`)
          .toBeTrue();
      }
    });

    it(`${job.name}: findings and requirements read as sentences`, () => {
      for (const f of said(job, today)) {
        expect(f.text).toMatch(/^[A-Z0-9].*[.]$/s);
        expect(`${f.text} ${f.hurts}`)
          .withContext(f.code)
          .not.toMatch(/undefined|NaN|null|Infinity|\[object/);
        expect(f.text)
          .withContext('a true minus')
          .not.toMatch(/[\s(]-\d/);
      }
      for (const r of requirementsOf(p)) expect(r.why.length).toBeGreaterThan(20);
      expect(requestLetter(job).body).not.toMatch(/undefined|NaN/);
    });
  }
});

describe('the relay hut', () => {
  const hut = demo('skarrow');

  it('takes its slope per 12 V block to each charger’s own basis: −24 mV a block is −4 a cell, and −48 for the bank', () => {
    const p = plan(hut);
    expect(p.setting('leader', 'compensationSlope')?.value).toBe(-4);
    expect(p.setting('turbine', 'compensationSlope')?.value).toBe(-48);
  });

  it('scales its absorb time with capacity: 60 min per 100 Ah of a 110 Ah battery is 66 min', () => {
    expect(plan(hut).setting('leader', 'absorbTime')?.exact).toBeCloseTo(66 * 60, 6);
    // The turbine counts in steps of 15 min: up for lead.
    expect(plan(hut).setting('turbine', 'absorbTime')?.value).toBe(75);
  });

  it('keys volts of a 12 V block into the turbine charger', () => {
    expect(plan(hut).setting('turbine', 'absorbVoltage')?.value).toBe(14.4);
    expect(plan(hut).setting('turbine', 'absorbVoltage')?.trueValue).toBeCloseTo(28.8, 9);
  });

  it('counts the turbine, which has no limit, before it shares the rest', () => {
    // 0.2 C × 440 Ah = 88 A, less 30 A of the turbine, halved: 29 A, down to 35 % of 80 A.
    expect(plan(hut).setting('leader', 'chargeCurrentLimit')?.trueValue).toBe(28);
  });

  it('with a fifth string passes the sheet’s limit', () => {
    expect(codesOf(hut)).not.toContain('bankPastLimits');
    expect(codesOf(withSystem(hut, { bank: { ...hut.system.bank, stringsInParallel: 5 } }))).toContain('bankPastLimits');
  });
});

describe('the mobile stage', () => {
  const stage = demo('tumbler');

  it('rests instead of floating, between recharge and the resting voltage of NMC', () => {
    const float = plan(stage).setting('roof', 'floatVoltage');
    expect(float?.within).toBe('inside');
    expect(float?.trueValue ?? 0).toBeGreaterThan(3.95 * 14);
    expect(float?.trueValue ?? 99).toBeLessThan(4.05 * 14);
  });

  it('has two sources without cold protection in a trailer that freezes', () => {
    const stops = findFindings(plan(stage), today).filter((f) => f.code === 'coldProtection');
    expect(stops.map((f) => f.charger)).toEqual(['roof', 'yard']);
    expect(
      findFindings(plan(withCharger(stage, 'roof', { sensor: { ...stage.system.chargers[0]!.sensor, fitted: true } })), today)
        .filter((f) => f.code === 'coldProtection')
        .map((f) => f.charger),
    ).toEqual(['yard']);
  });

  it('asks the maker for nothing but the cooling once the BMS is known', () => {
    expect(neededFigures(plan(stage)).map((n) => n.key)).toEqual(['coolingRate']);
    expect(neededFigures(plan(withFigure(stage, 'bmsRelease', null))).map((n) => n.key)).toEqual(['bmsRelease', 'coolingRate']);
  });
});

describe('the same sheet told on other bases', () => {
  it('leads to the same settings for every job', () => {
    for (const job of jobs) {
      const { cellsPerUnit, cellsPerBlock } = plan(job).facts.shape;
      const factor = cellsPerUnit / cellsPerBlock;
      const figures = Object.fromEntries(
        Object.entries(job.sheet.figures).map(([key, f]) => {
          if (f?.state !== 'stated' || f.basis !== 'unit' || (f.unit !== 'V' && f.unit !== 'V/°C')) return [key, f];
          const ends = (['min', 'target', 'max'] as const).flatMap((end) => (f[end] === undefined ? [] : [[end, f[end] / factor] as const]));
          return [key, { ...f, ...Object.fromEntries(ends), basis: 'block' as const }];
        }),
      );
      const told = plan({ ...job, sheet: { ...job.sheet, figures } });
      for (const s of plan(job).settings)
        expect(told.setting(s.charger, s.role)?.value)
          .withContext(`${job.name} ${s.charger} ${s.role}`)
          .toEqual(s.value as never);
    }
  });
});
