import type { Role } from '../../card';
import { presentOrFactory, devicesOf } from '../../settings';
import type { FindingRule } from '../finding';

/** Settings that nobody has read off the device, whose factory value is not what is worked out. */
export const defaultUnexamined: FindingRule<{ roles: readonly Role[] }> = {
  check: ({ plan }) =>
    devicesOf(plan.input).flatMap((device) => {
      const open = plan.settings.filter((s) => {
        if (s.charger !== device.id || s.inherited || s.value === null || s.present !== undefined) return false;
        return presentOrFactory(plan.input, device, s.role) !== s.value;
      });
      return open.length === 0 ? [] : [{ severity: 'note' as const, charger: device.id, facts: { roles: open.map((s) => s.role) } }];
    }),
};
