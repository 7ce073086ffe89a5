import { roleRules } from '../settings/roles';
import { allRoles, roleInfo } from './index';

describe('the record of roles', () => {
  it('has a rule of the same name for every role, or says that there is none', () => {
    expect(Object.keys(roleRules).sort()).toEqual([...allRoles].sort());
    for (const [role, rule] of Object.entries(roleRules)) expect(rule?.role ?? role).toBe(role as never);
  });

  it('names every role differently, and puts voltages alone on the ladder', () => {
    expect(new Set(allRoles.map((role) => roleInfo[role].name)).size).toBe(allRoles.length);
    for (const role of allRoles) if (roleInfo[role].ladder !== undefined) expect(roleInfo[role].unit).withContext(role).toBe('V');
  });
});
