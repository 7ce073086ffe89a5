import { setpointAt } from '../../settings';
import { judged } from '../places';
import { chargerRule } from '../rule';

/** A diversion that stays fixed while the charging setpoint moves past it in the cold. */
export const diversionFixed = chargerRule(({ charger, card }, plan) => {
  const absorb = plan.setting(charger.id, 'absorbVoltage');
  const diversion = judged(plan.setting(charger.id, 'diversionVoltage'))?.value;
  if (diversion == null || !absorb || card.compensated.includes('diversionVoltage')) return null;
  const { bankLowC, bankHighC } = plan.input.system.site;
  const coldV = setpointAt(plan, absorb, bankLowC);
  const hotV = setpointAt(plan, absorb, bankHighC);
  if (coldV === null || hotV === null || diversion > coldV) return null;
  return { severity: 'attention', role: 'diversionVoltage', facts: { diversion, bankLowC, coldV, bankHighC, hotV } };
});
