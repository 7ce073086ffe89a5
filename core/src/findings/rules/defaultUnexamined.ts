import { roleInfo } from '../../card';
import { presentOrFactory, devicesOf } from '../../settings';
import type { FindingRule, Finding } from '../finding';
import { listed } from '../words';

/** Settings that nobody has read off the device, whose factory value is not what is wanted. */
export const defaultUnexamined: FindingRule = {
  code: 'defaultUnexamined',
  check: ({ plan }) =>
    devicesOf(plan.input).flatMap((device): Finding[] => {
      const open = plan.settings.filter((s) => {
        if (s.charger !== device.id || s.inherited || s.value === null || s.present !== undefined) return false;
        return presentOrFactory(plan.input, device, s.role) !== s.value;
      });
      if (open.length === 0) return [];
      const names = open.slice(0, 4).map((s) => roleInfo[s.role].name);
      return [
        {
          code: 'defaultUnexamined',
          severity: 'note',
          charger: device.id,
          text: `${device.name}: ${open.length} ${open.length === 1 ? 'setting has' : 'settings have'} not been read off, and the factory value is another: ${open.length > 4 ? `${names.join(', ')} and ${open.length - 4} more` : listed(names)}.`,
          hurts: 'A default that nobody has looked at acts like a setting that nobody chose.',
          remedies: [],
        },
      ];
    }),
};
