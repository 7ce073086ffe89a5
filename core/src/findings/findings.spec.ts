import { readFileSync } from 'node:fs';
import { roleInfo } from '../card';
import { schoolsSchema } from '../settings';
import { applyChanges } from '../job';
import { asAlternator, findingCases, quiet } from '../testing/findingCases';
import { findingSaid } from '../testing/findingSaid';
import { codes, find, plan, said, teasel, withFigure, withSystem } from '../testing/fixtures';
import { findFindings, findingRules } from './index';

describe('every finding', () => {
  it('has a case here', () => {
    expect(findingRules.map((r): string => r.code).sort()).toEqual(Object.keys(findingCases).sort());
  });

  for (const [code, { fires, silent, today }] of Object.entries(findingCases)) {
    it(`${code} fires: how grave, of what, with its numbers, what it hurts and the ways out`, () => {
      const finding = find(fires(), code, today);
      const plain = (text: string | undefined): string => (text ?? '').replace(/\u00a0/g, ' ');
      expect({
        severity: finding?.severity,
        ...(finding?.charger === undefined ? {} : { device: finding.charger }),
        ...(finding?.role === undefined ? {} : { role: finding.role }),
        ...(finding?.figure === undefined ? {} : { figure: finding.figure }),
        text: plain(finding?.text),
        hurts: plain(finding?.hurts),
        remedies: (finding?.remedies ?? []).map(({ label }) => plain(label)),
      } as unknown).toEqual(findingSaid[code]);
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
    expect(finding?.text).toBe('Solar aft: float was found at 27.6\u00a0V, 0.5\u00a0V above the sheet’s 26.7–27.1\u00a0V.');
  });

  it('show the stair, the sum and three computed ways out of the derating table', () => {
    const finding = find(teasel(), 'deratingExceeded');
    expect(finding?.text).toContain('23\u00a0A below 5\u00a0°C');
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
    for (const [code, { fires }] of Object.entries(findingCases)) {
      const job = fires();
      const finding = find(job, code);
      // Letting a figure count leaves it marked as not the maker’s.
      if (code === 'lowRank') continue;
      for (const remedy of finding?.remedies ?? []) {
        const mended = applyChanges(job, remedy.changes);
        const same = said(mended).filter((f) => f.code === code && f.charger === finding?.charger && f.role === finding?.role && f.figure === finding?.figure);
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
    // Nothing is found that the page does not tell of.
    expect(findingRules.map((r): string => r.code).filter((code) => !named.includes(code))).toEqual([]);
    // One row for every mistake and every school of the trade that the product knows of.
    expect(text.split('\n').filter((line) => line.startsWith('| ') && !line.includes('---')).length).toBe(2 + 40 + 18);
  });
});
