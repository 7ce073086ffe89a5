import { readFileSync } from 'node:fs';
import { cardSchema } from '../card';
import { roleInfo } from '../card';
import type { Job } from '../job';
import { schoolsSchema } from '../settings';
import { applyChanges } from '../job';
import { findingCases, override, quiet, type FindingCase } from '../testing/findingCases';
import { codes, find, plan, rookMoss, teasel, withCharger, withFigure, withSystem } from '../testing/fixtures';
import { findFindings, findingRules } from './index';

const fore = teasel().system.chargers[0]!;
/** Three panels in series, as they stand on the launch. */
const panels = {
  panel: { name: '', watts: 310, vocV: 40, vmpV: 33, iscA: 10, impA: 9.4, vocPercentPerC: -0.3, bypassDiodes: 3 },
  inSeries: 3,
  inParallel: 1,
  tilt: 0,
  azimuth: 180,
  shaded: 0,
  shadeLight: 0.1,
};

/** The quiet launch with an alternator regulator in the place of the aft charger. */
const asAlternator = (loadDumpProtected: boolean): Job => {
  const card = cardSchema.parse(JSON.parse(readFileSync(new URL('../../../library/cards/murrel-ar-2.json', import.meta.url), 'utf8')));
  return withCharger({ ...quiet(), cards: [...quiet().cards, card] }, 'aft', {
    card: card.id,
    present: {},
    machine: { name: 'Alternator', ratedA: 100, loadDumpProtected },
  });
};

/** For each code: a job on which it must fire. It must stay silent on the quiet launch, or on the job named as silent. */
const cases: Readonly<Record<string, FindingCase>> = {
  ...findingCases,
  cardMissing: { fires: () => ({ ...teasel(), cards: [] }) },
  basisSuspicious: { fires: () => withFigure(teasel(), 'absorbVoltage', { basis: 'cell' }) },
  arrayTooHigh: {
    fires: () => withCharger(quiet(), 'aft', { array: { ...panels, inSeries: 4 } }),
    silent: () => withCharger(quiet(), 'aft', { array: panels }),
  },
  arrayTooMuchCurrent: {
    fires: () => withCharger(quiet(), 'aft', { array: { ...panels, inParallel: 5 } }),
    silent: () => withCharger(quiet(), 'aft', { array: { ...panels, inParallel: 4 } }),
  },
  arrayTooLow: {
    fires: () => withCharger(quiet(), 'aft', { array: { ...panels, inSeries: 1 } }),
    silent: () => withCharger(quiet(), 'aft', { array: panels }),
  },
  arrayStringFuses: {
    fires: () => withCharger(quiet(), 'aft', { array: { ...panels, inSeries: 2, inParallel: 3 } }),
    silent: () => withCharger(quiet(), 'aft', { array: { ...panels, inSeries: 2, inParallel: 3, stringFuseA: 15 } }),
  },
  arrayClipped: {
    fires: () => withCharger(quiet(), 'aft', { array: { ...panels, inParallel: 2 } }),
    silent: () => withCharger(quiet(), 'aft', { array: panels }),
  },
  fusePastCable: {
    fires: () => withCharger(quiet(), 'aft', { fuseA: 100, wire: { lengthM: 1, areaMm2: 16 } }),
    silent: () => withCharger(withSystem(quiet(), { bank: { ...quiet().system.bank, fuseA: 240 } }), 'aft', { fuseA: 80, wire: { lengthM: 1, areaMm2: 16 } }),
  },
  cableDrop: {
    fires: () => withCharger(quiet(), 'aft', { wire: { lengthM: 4, areaMm2: 10 } }),
    silent: () => withCharger(quiet(), 'aft', { wire: { lengthM: 1, areaMm2: 16 } }),
  },
  fuseCannotBreak: {
    fires: () => withSystem(quiet(), { bank: { ...quiet().system.bank, shortCircuitA: 8000, fuseBreaksA: 5000 } }),
    silent: () => withSystem(quiet(), { bank: { ...quiet().system.bank, shortCircuitA: 8000, fuseBreaksA: 10000 } }),
  },
  loadDump: {
    fires: () => asAlternator(false),
    silent: () => asAlternator(true),
  },
  meterOutOfRange: {
    fires: () => withSystem(quiet(), { instruments: quiet().system.instruments.map((i) => ({ ...i, rangeV: 20 })) }),
    silent: () => withSystem(quiet(), { instruments: quiet().system.instruments.map((i) => ({ ...i, rangeV: 60 })) }),
  },
  cellCountMismatch: { fires: () => ({ ...quiet(), sheet: { ...quiet().sheet, unit: { ...quiet().sheet.unit, cellsInSeries: 7 } } }) },
  bankPastLimits: { fires: () => withSystem(quiet(), { bank: { ...quiet().system.bank, stringsInParallel: 5 } }) },
  newerRevision: {
    fires: () => applyChanges(quiet(), [{ kind: 'pinSheet', sheet: 'pellow-lb-25-rev-c' }]),
    silent: () => ({ ...quiet(), otherSheets: quiet().otherSheets.map((s) => ({ ...s, battery: 'LB-12', date: '2030-01' })) }),
  },
  figureMissing: { fires: () => withFigure(teasel(), 'rechargeVoltage', null) },
  lowRank: { fires: () => withFigure(teasel(), 'floatVoltage', { rank: 'assumed' }) },
  systemVoltageMismatch: { fires: () => withSystem(rookMoss(), { bank: { ...rookMoss().system.bank, unitsInSeries: 4 } }) },
  chemistryNotSupported: {
    fires: () => ({ ...teasel(), cards: teasel().cards.map((c) => ({ ...c, ratings: { ...c.ratings, chemistries: ['flooded' as const] } })) }),
  },
  absorbOutsideBand: { fires: () => ({ ...quiet(), overrides: [override('absorbVoltage', 28.7)] }) },
  floatOutsideBand: { fires: () => ({ ...quiet(), overrides: [override('floatVoltage', 27.6)] }) },
  presentOutsideBand: { fires: () => withCharger(quiet(), 'aft', { present: { floatVoltage: 27.6 } }) },
  rechargeNearFloat: { fires: () => ({ ...quiet(), overrides: [override('rechargeVoltage', 26.8)] }) },
  compensationOnLithium: { fires: () => withCharger(quiet(), 'aft', { present: {} }) },
  compensationMissingLead: { fires: () => withCharger(rookMoss(), 'mast', { sensor: { ...fore.sensor, fitted: false } }), silent: rookMoss },
  compensatedVoltage: { fires: rookMoss, silent: () => withSystem(rookMoss(), { loads: { ...rookMoss().system.loads, maxVolts: 16 } }) },
  cutoffBelowSheet: { fires: () => withCharger(quiet(), 'aft', { present: { lowTempCutoff: 0 } }) },
  coldProtection: { fires: () => withCharger(quiet(), 'aft', { sensor: { ...fore.sensor, fitted: false } }) },
  sensorReadsWarm: { fires: () => withCharger(quiet(), 'aft', { sensor: { ...fore.sensor, offsetC: 2.5 } }) },
  resumeTooClose: { fires: () => ({ ...quiet(), overrides: [override('lowTempResume', 7)] }) },
  equaliseReachable: { fires: () => withCharger(quiet(), 'aft', { present: { equaliseEnabled: 'on request' } }) },
  equaliseStored: { fires: () => withCharger(quiet(), 'aft', { present: { equaliseVoltage: 30.4, equaliseEnabled: 'off' } }) },
  absorbNearTrip: { fires: () => withFigure(quiet(), 'bmsOverVoltage', { max: 28.4 }) },
  cellSpread: { fires: () => withSystem(quiet(), { bank: { ...quiet().system.bank, cellSpreadV: 0.2 } }) },
  limitsPastCeiling: {
    fires: () => withSystem({ ...quiet(), overrides: [override('chargeCurrentLimit', 45)] }, { bank: { ...quiet().system.bank, fuseA: 60 } }),
  },
  pastOwnFuse: { fires: () => withCharger({ ...quiet(), overrides: [override('chargeCurrentLimit', 45)] }, 'aft', { fuseA: 40 }) },
  taperBelowLoads: { fires: quiet, silent: () => withSystem(quiet(), { loads: { minA: 2, maxA: 6 } }) },
  chargersDisagree: { fires: () => ({ ...quiet(), overrides: [override('absorbVoltage', 28.4)] }) },
  rangeCannotReach: { fires: rookMoss, silent: () => withFigure(rookMoss(), 'disconnectVoltage', { target: 1.9 }) },
  displayErrorLarge: { fires: () => withCharger(quiet(), 'fore', { displayReadings: [{ meterV: 26.6, displayV: 27 }] }) },
  displayNotCompared: { fires: () => withCharger(quiet(), 'fore', { displayReadings: [] }) },
  displayCorrected: { fires: quiet, silent: () => withCharger(quiet(), 'fore', { displayReadings: [{ meterV: 26.6, displayV: 26.6 }] }) },
  deratingExceeded: { fires: teasel },
  leadTooWeak: { fires: rookMoss, silent: () => withFigure(rookMoss(), 'chargeCurrentRecommended', { min: 0.02 }) },
  bmsUnknown: { fires: () => withFigure(withFigure(quiet(), 'bmsOverVoltage', null), 'bmsCellOverVoltage', null) },
  overrideOutsideSheet: { fires: () => ({ ...quiet(), overrides: [override('floatVoltage', 27.6)] }) },
  overrideNotReviewed: {
    fires: () => ({ ...quiet(), overrides: [override('absorbVoltage', 28.2)] }),
    silent: () => ({ ...quiet(), overrides: [{ ...override('absorbVoltage', 28.2), reviewedBy: 'installer' }] }),
  },
  defaultPasscode: { fires: () => withCharger(quiet(), 'aft', { passcodeChanged: false }) },
  meterPastCalibration: {
    fires: () => withSystem(quiet(), { instruments: quiet().system.instruments.map((i) => ({ ...i, calibrationDue: '2026-05' })) }),
    silent: () => withSystem(quiet(), { instruments: quiet().system.instruments.map((i) => ({ ...i, calibrationDue: '2026-06' })) }),
  },
  stringFuses: {
    fires: () => {
      const { stringFuseA: _none, ...bank } = quiet().system.bank;
      return withSystem(quiet(), { bank: { ...bank, stringsInParallel: 3 } });
    },
  },
};

describe('every finding', () => {
  it('has a case here', () => {
    expect(findingRules.map((r) => r.code).sort()).toEqual(Object.keys(cases).sort());
  });

  for (const [code, { fires, silent, today }] of Object.entries(cases)) {
    it(`${code} fires, with the numbers or names in the sentence`, () => {
      const finding = find(fires(), code, today);
      expect(finding).withContext(code).toBeDefined();
      expect(finding?.text).toMatch(/\.$/);
      expect(finding?.text.length).toBeGreaterThan(20);
      expect(finding?.hurts.length).toBeGreaterThan(20);
      expect(finding?.text).not.toMatch(/undefined|NaN|\[object/);
    });

    it(`${code} stays silent where it should`, () => {
      expect(codes((silent ?? quiet)(), today)).not.toContain(code);
    });
  }
});

describe('findings of the launch as found', () => {
  it('name the float half a volt above its band', () => {
    const finding = find(teasel(), 'presentOutsideBand');
    expect(finding?.severity).toBe('stop');
    expect(finding?.text).toBe('Solar aft float stands at 27.6\u00a0V as found, 0.5\u00a0V above the band 26.7–27.1\u00a0V.');
  });

  it('show the stair, the sum and three computed ways out of the derating table', () => {
    const finding = find(teasel(), 'deratingExceeded');
    expect(finding?.text).toContain('23\u00a0A up to 5\u00a0°C');
    expect(finding?.text).toContain('90\u00a0A');
    expect(finding?.remedies.length).toBe(3);
  });

  it('come stops first', () => {
    const order = findFindings(plan(teasel()), '2026-06-09').map((f) => f.severity);
    expect(order).toEqual([...order].sort((a, b) => ['stop', 'attention', 'note'].indexOf(a) - ['stop', 'attention', 'note'].indexOf(b)));
  });
});

describe('a source without a current limit', () => {
  it('counts with its machine’s full rating, and the others share what is left', () => {
    const p = plan(asAlternator(true));
    expect(p.setting('aft', 'chargeCurrentLimit')).toBeUndefined();
    // 184 A ceiling − 100 A alternator = 84 A for the forward charger, cut at its rating of 45 A.
    expect(p.setting('fore', 'chargeCurrentLimit')?.value).toBe(45);
    const tight = plan(withSystem(asAlternator(true), { bank: { ...asAlternator(true).system.bank, fuseA: 150 } }));
    // 150 A × 0.8 = 120 A, less 100 A: 20 A.
    expect(tight.setting('fore', 'chargeCurrentLimit')?.value).toBe(20);
  });
});

describe('figures that are not the maker’s', () => {
  it('do not count under maker only; the remedy lets them, still marked', () => {
    const strict = withFigure(quiet(), 'floatVoltage', { rank: 'sameChemistry' });
    expect(find(strict, 'lowRank')?.text).toContain('does not count under “maker only”');
    expect(plan(strict).setting('aft', 'floatVoltage')?.derivation[0]?.words).toContain('gives no float, so rest');
    const open = applyChanges(strict, find(strict, 'lowRank')?.remedies[0]?.changes ?? []);
    expect(plan(open).setting('aft', 'floatVoltage')?.value).toBe(26.9);
    expect(find(open, 'lowRank')?.text).toContain('is not the maker’s figure: same chemistry');
  });
});

describe('the older of two revisions', () => {
  it('pinned raises a finding with the differences, and pinning the newer one takes it away', () => {
    const older = applyChanges(teasel(), [{ kind: 'pinSheet', sheet: 'pellow-lb-25-rev-c' }]);
    expect(older.sheet.revision).toBe('C');
    expect(older.otherSheets.map((s) => s.revision)).toEqual(['D']);
    const finding = find(older, 'newerRevision');
    expect(finding?.text).toContain('3 figures differ');
    expect(applyChanges(older, finding?.remedies[0]?.changes ?? [])).toEqual(teasel());
  });
});

describe('remedies', () => {
  it('each take away the finding they belong to', () => {
    for (const [code, { fires }] of Object.entries(cases)) {
      const job = fires();
      const finding = find(job, code);
      // Letting a figure count leaves it marked as not the maker’s.
      if (code === 'lowRank') continue;
      for (const remedy of finding?.remedies ?? []) {
        const mended = applyChanges(job, remedy.changes);
        const same = findFindings(plan(mended), '2026-06-09').filter(
          (f) => f.code === code && f.charger === finding?.charger && f.role === finding?.role && f.figure === finding?.figure,
        );
        expect(same.map((f) => f.text))
          .withContext(`${code}: ${remedy.label}`)
          .toEqual([]);
      }
    }
  });
});

describe('the table of what is caught, in the docs', () => {
  it('names only findings, settings, schools, requirements and parts of the core that there are', () => {
    const text = readFileSync(new URL('../../../docs/what-is-caught.md', import.meta.url), 'utf8');
    const parts = ['coldGuards', 'coldPlan', 'absorbCompleted', 'CODE'];
    const known = new Set<string>([...findingRules.map((r) => r.code), ...Object.keys(roleInfo), ...Object.keys(schoolsSchema.shape), ...parts]);
    const named = [...text.matchAll(/`([a-zA-Z]+)`/g)].map((m) => m[1] ?? '');
    expect(named.length).toBeGreaterThan(80);
    expect(named.filter((name) => !known.has(name))).toEqual([]);
    // One row for every mistake and every school of the trade that the product knows of.
    expect(text.split('\n').filter((line) => line.startsWith('| ') && !line.includes('---')).length).toBe(2 + 33 + 18);
  });
});
