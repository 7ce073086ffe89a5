import { sampleCard, draw, setUp, voltParameter } from '../testing';
import { MergePanel } from './merge-panel';

describe('two cards of one charger', () => {
  const card = (float: object, more: object[] = []) =>
    sampleCard({
      id: 'mine',
      maker: 'Ostmark',
      model: 'Q40',
      kind: 'dcdc',
      ratings: { outputA: 30, systemVolts: [24], chemistries: ['lfp'] },
      parameters: [voltParameter('absorbVoltage'), { ...voltParameter('floatVoltage'), ...float }, ...more],
    });
  const of = (theirs: ReturnType<typeof card>) => {
    setUp();
    const drawn = draw(MergePanel, { mine: card({ max: 30 }), theirs });
    const merged: ReturnType<typeof card>[] = [];
    drawn.fixture.componentInstance.merged.subscribe((c) => merged.push(c));
    return { ...drawn, merged };
  };

  it('takes what the other knows besides, and asks what both know differently', () => {
    const { text, all, press, merged, host } = of(card({ max: 29 }, [voltParameter('rechargeVoltage')]));
    expect(text()).toContain('Nobody says who looked the other up.');
    expect(text()).toContain('It adds recharge.');
    expect(text()).toContain('They differ in one point.');
    expect(all('li button').map((b) => b.slice(0, 5))).toEqual(['Mine:', 'Their']);
    expect(host.querySelector('li button')!.getAttribute('aria-pressed')).toBe('true');
    press('Merge them');
    press('Theirs:');
    press('Merge them');
    press('Mine:');
    press('Merge them');
    const most = merged.map((c) => (c.parameters.find((p) => p.role === 'floatVoltage') as { max: number }).max);
    expect(most).toEqual([30, 29, 30]);
    expect(merged.every((c) => c.parameters.some((p) => p.role === 'rechargeVoltage'))).toBeTrue();
  });

  it('says where the other knows nothing that yours does not', () => {
    const { text, fixture, press } = of(card({ max: 30 }));
    expect(text()).toContain('It knows nothing that yours does not.');
    expect(text()).not.toContain('They differ');
    const ways: string[] = [];
    fixture.componentInstance.beside.subscribe(() => ways.push('beside'));
    fixture.componentInstance.left.subscribe(() => ways.push('left'));
    press('Bring it in beside mine');
    press('Leave it');
    expect(ways).toEqual(['beside', 'left']);
  });
});
