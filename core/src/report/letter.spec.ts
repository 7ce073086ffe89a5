import { applyChange } from '../job';
import { plan, rookMoss, teasel, withFigure } from '../testing/fixtures';
import { neededFigures, requestLetter } from './index';

describe('the figures the chosen chargers need', () => {
  it('of the launch: what its BMS does after a trip, and how fast it cools', () => {
    expect(neededFigures(plan(teasel())).map((n) => n.key)).toEqual(['bmsRelease', 'coolingRate']);
  });

  it('grow by what is taken from the sheet, and by what the policy withholds', () => {
    expect(neededFigures(plan(withFigure(teasel(), 'rechargeVoltage', null))).map((n) => n.key)).toContain('rechargeVoltage');
    const ranked = withFigure(teasel(), 'floatVoltage', { rank: 'assumed' });
    expect(neededFigures(plan(ranked)).map((n) => n.key)).toContain('floatVoltage');
    expect(neededFigures(plan(applyChange(ranked, { kind: 'setSchool', school: 'reference', to: 'bestAvailable' }))).map((n) => n.key)).not.toContain(
      'floatVoltage',
    );
  });

  it('name who needs them, and ask nothing of a job without chargers', () => {
    expect(neededFigures(plan(withFigure(teasel(), 'rechargeVoltage', null))).find((n) => n.key === 'rechargeVoltage')?.neededFor).toBe(
      'Solar fore, Solar aft',
    );
    expect(neededFigures(plan({ ...teasel(), system: { ...teasel().system, chargers: [] } }))).toEqual([]);
  });

  it('do not ask for details of what is not permitted', () => {
    const job = withFigure(rookMoss(), 'equaliseVoltage', { state: 'notPermitted' });
    const keys = neededFigures(plan(withFigure(withFigure(job, 'equaliseTime', null), 'equaliseInterval', null))).map((n) => n.key);
    expect(keys.filter((k) => k.startsWith('equalise'))).toEqual([]);
    const open = neededFigures(plan(withFigure(rookMoss(), 'equaliseTime', null))).map((n) => n.key);
    expect(open).toContain('equaliseTime');
  });
});

describe('the request letter', () => {
  it('names battery, bank, document and every figure with its unit, numbered', () => {
    const letter = requestLetter(withFigure(teasel(), 'rechargeVoltage', null));
    expect(letter.subject).toBe('Charging figures for Pellow LB-25/230, LB-25 charging sheet, rev D, 2026-02');
    expect(letter.body.replace(/\u00a0/g, ' ')).toContain('2 × Pellow LB-25/230 (LFP): 1 in series, 2 strings in parallel, 25.6 V, 460 Ah');
    expect(letter.body).toContain('1. Recharge voltage, in V, and whether it counts per cell, per battery or for the bank. Needed for: Solar fore, Solar aft.');
    expect(letter.body).toContain('- Solar aft: Varrow S45, 45 A');
    expect(letter.lines.length).toBe(3);
  });
});
