import { setpointAt } from '../../settings';
import type { Draft, FindingRule } from '../finding';
import { chargersWithCards, judged } from '../places';

type PastDiversion = Readonly<{ bankLowC: number; device: string; coldV: number; diversionV: number | null; brakeV: number | null }>;

/** One charger’s absorb in the cold above another one’s diversion or brake: the one feeds what the other throws away, or stops it. */
export const coldPastDiversion: FindingRule<PastDiversion> = {
  check: ({ plan }) => {
    const { bankLowC } = plan.input.system.site;
    const all = chargersWithCards(plan).flatMap(({ charger }) => {
      const absorb = plan.setting(charger.id, 'absorbVoltage');
      const coldV = absorb ? setpointAt(plan, absorb, bankLowC) : null;
      return coldV === null ? [] : [{ id: charger.id, coldV }];
    });
    return chargersWithCards(plan).flatMap(({ charger }): Draft<PastDiversion>[] => {
      const at = (role: 'diversionVoltage' | 'brakeVoltage'): number | null => {
        const setting = plan.setting(charger.id, role);
        const now = judged(setting);
        // What moves with the temperature moves by as much here.
        return setting && now ? now.value + ((setpointAt(plan, setting, bankLowC) ?? 0) - (setting.trueValue ?? 0)) : null;
      };
      const [diversionV, brakeV] = [at('diversionVoltage'), at('brakeVoltage')];
      const lowest = Math.min(diversionV ?? Infinity, brakeV ?? Infinity);
      const worst = all.filter((a) => a.id !== charger.id).sort((a, b) => b.coldV - a.coldV)[0];
      if (!worst || worst.coldV <= lowest + 1e-9) return [];
      return [
        {
          severity: 'attention',
          charger: charger.id,
          role: diversionV === null ? 'brakeVoltage' : 'diversionVoltage',
          facts: {
            bankLowC,
            device: worst.id,
            coldV: worst.coldV,
            diversionV: diversionV !== null && worst.coldV > diversionV ? diversionV : null,
            brakeV: brakeV !== null && worst.coldV > brakeV ? brakeV : null,
          },
        },
      ];
    });
  },
};
