import type { Finding } from './finding';

/**
 * Findings that say the same of several devices, numbers and ways out included, put together in the order of their first; every other stands alone.
 *
 * @param apart what else has to be the same, such as whether it was accepted
 */
export function alike(findings: readonly Finding[], apart: (finding: Finding) => string = () => ''): readonly (readonly [Finding, ...Finding[]])[] {
  const groups = new Map<string, [Finding, ...Finding[]]>();
  findings.forEach((finding, i) => {
    const { code, severity, charger, role, figure, facts, remedies } = finding;
    const ways = remedies.map((r) => [r.does, r.facts]);
    const key = charger === undefined ? String(i) : JSON.stringify([code, severity, role, figure, facts, ways, apart(finding)]);
    const group = groups.get(key);
    if (group) group.push(finding);
    else groups.set(key, [finding]);
  });
  return [...groups.values()];
}
