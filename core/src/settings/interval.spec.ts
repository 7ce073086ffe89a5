import type { Job } from '../job';
import { skarrow } from '../testing/findingCases';
import { codes, numberParameter, plan } from '../testing/fixtures';

/** The hut, its leader’s card with a setting for an absorb every so many days. */
const hut = (unattended: 'absorbEvery' | 'askMaker', figure?: Job['sheet']['figures']['unattendedAbsorb'] | null): Job => {
  const job = skarrow();
  const { unattendedAbsorb: printed, ...figures } = job.sheet.figures;
  const kept = figure === undefined ? printed : (figure ?? undefined);
  return {
    ...job,
    schools: { ...job.schools, unattended },
    sheet: { ...job.sheet, figures: kept ? { ...figures, unattendedAbsorb: kept } : figures },
    cards: job.cards.map((c) =>
      c.id === job.system.chargers[0]!.card
        ? { ...c, parameters: [...c.parameters, numberParameter({ role: 'absorbIntervalDays', unit: 'd', min: 1, max: 30 })] }
        : c,
    ),
  };
};
const leader = skarrow().system.chargers[0]!.id;

describe('an absorb every so many days', () => {
  it('is the sheet’s interval where that is the plan, and never longer', () => {
    expect(plan(hut('absorbEvery')).setting(leader, 'absorbIntervalDays')?.value).toBe(14);
    const half = hut('absorbEvery', { state: 'stated', target: 10.6, unit: 'd', basis: 'bank', rank: 'makerForThisCharger' });
    expect(plan(half).setting(leader, 'absorbIntervalDays')?.value).toBe(10);
    expect(codes(hut('absorbEvery'))).not.toContain('absorbEveryNowhere');
  });

  it('is left under another plan, and asked of the maker where the sheet is silent', () => {
    expect(plan(hut('askMaker')).setting(leader, 'absorbIntervalDays')?.noValue).toBe('left');
    expect(plan(hut('absorbEvery', null)).setting(leader, 'absorbIntervalDays')?.noValue).toBe('missingFigure');
    expect(codes(hut('absorbEvery', null))).toContain('absorbEveryNowhere');
  });
});
