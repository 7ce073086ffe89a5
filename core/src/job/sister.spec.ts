import { plan, wholeTeasel } from '../testing/fixtures';
import { asTemplate, beginVisit, choiceChanges, jobSchema, settingShifts, sisterDifferences, withChoicesOf, type Job } from './index';

const gentle: Job = {
  ...wholeTeasel(),
  id: 'sister',
  name: 'Sister launch',
  schools: { ...wholeTeasel().schools, lithiumFloat: 'floatEqualsAbsorb', fullEveryDays: 7 },
  recheckMonths: 6,
};

describe('sister sites', () => {
  it('take each other’s choices, signed, and nothing else', () => {
    const job = withChoicesOf(wholeTeasel(), gentle, 'technician', '2026-06-10');
    expect(job.schools).toEqual(gentle.schools);
    expect(job.choices.map((c) => [c.school, c.to, c.reason])).toEqual([
      ['lithiumFloat', 'floatEqualsAbsorb', 'As on “Sister launch”.'],
      ['fullEveryDays', '7', 'As on “Sister launch”.'],
    ]);
    expect({ ...job, schools: 0, choices: 0, recheckMonths: 0 } as unknown).toEqual({ ...wholeTeasel(), schools: 0, choices: 0, recheckMonths: 0 });
    expect(jobSchema.safeParse(job).success).toBeTrue();
  });

  it('see beforehand which choices change and what that makes of the settings', () => {
    expect(choiceChanges(wholeTeasel(), gentle)).toEqual([
      { question: 'Lithium float', from: 'Hold at the sheet’s float', to: 'Float equals absorb' },
      { question: 'A full charge at least every, days', from: '14', to: '7' },
      { question: 'Evidence is taken again after, months', from: '12', to: '6' },
    ]);
    const shifts = settingShifts(plan(wholeTeasel()), plan(withChoicesOf(wholeTeasel(), gentle, 't', '2026-06-10')));
    expect(shifts.some((s) => s.device === 'aft' && s.role === 'floatVoltage' && s.from.startsWith('26.9') && s.to.startsWith('28.1'))).toBeTrue();
    expect(shifts.some((s) => s.role === 'lowTempCutoff')).toBeFalse();
    expect(settingShifts(plan(gentle), plan(gentle))).toEqual([]);
    expect(choiceChanges(gentle, gentle)).toEqual([]);
  });

  it('are compared charger by charger; the same site differs in nothing', () => {
    expect(sisterDifferences(plan(gentle), plan(gentle))).toEqual([]);
    const lines = sisterDifferences(plan(wholeTeasel()), plan(gentle));
    expect(lines.some((l) => l.device === 'Solar aft and Solar aft' && l.name === 'float')).toBeTrue();
  });
});

describe('a job made like another', () => {
  it('keeps site, chargers and sheets, and nothing of what was found, done or decided there', () => {
    const busy = beginVisit({ ...wholeTeasel(), note: 'n' }, { id: 'v', date: '2026-06-10', by: 'KM', purpose: '' });
    const job = asTemplate(busy, 'copy', 'Copy', '2026-06-10T08:00:00.000Z');
    expect(jobSchema.safeParse(job).success).toBeTrue();
    expect([job.sheet, job.schools, job.system.bank, job.cards]).toEqual([busy.sheet, busy.schools, busy.system.bank, busy.cards]);
    expect(job.system.chargers.map((c) => [c.id, c.present, c.displayReadings, c.passcodeChanged])).toEqual(
      busy.system.chargers.map((c) => [c.id, {}, [], false]),
    );
    expect([job.visits, job.snapshots, job.logs, job.accepted, job.note, job.programming]).toEqual([[], [], [], [], '', null]);
  });
});
