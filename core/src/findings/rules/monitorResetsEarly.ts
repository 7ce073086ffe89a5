import { judged } from '../places';
import { companionRule, puttingRight } from '../rule';

/** Full-charge detection that has to hold for less than this may come with a gap in the clouds, s. */
const leastHeldS = 60;

type ResetsEarly =
  | { readonly by: 'voltage'; readonly fullV: number; readonly floatV: number }
  | { readonly by: 'current'; readonly fullA: number; readonly endsA: number }
  | { readonly by: 'time'; readonly heldS: number };

/** A monitor that calls the bank full on the way up, or at a passing cloud. */
export const monitorResetsEarly = companionRule<ResetsEarly>('monitor', (monitor, plan) => {
  const floats = plan.settings.flatMap((s) => (s.role === 'floatVoltage' && s.trueValue !== null ? [s.trueValue] : []));
  const floatV = floats.length > 0 ? Math.max(...floats) : null;
  const voltage = plan.setting(monitor.id, 'fullDetectVoltage');
  const current = plan.setting(monitor.id, 'fullDetectCurrent');
  const time = plan.setting(monitor.id, 'fullDetectTime');
  const fullV = judged(voltage)?.value;
  const fullA = judged(current)?.value;
  const heldS = judged(time)?.value;
  if (floatV !== null && fullV != null && fullV <= floatV + 1e-9)
    return { severity: 'attention', role: 'fullDetectVoltage', facts: { by: 'voltage', fullV, floatV }, remedies: puttingRight(voltage) };
  if (fullA != null && current?.band?.max !== undefined && fullA > current.band.max + 1e-9)
    return {
      severity: 'attention',
      role: 'fullDetectCurrent',
      facts: { by: 'current', fullA, endsA: current.band.min ?? 0 },
      remedies: puttingRight(current),
    };
  if (heldS != null && heldS < leastHeldS) return { severity: 'attention', role: 'fullDetectTime', facts: { by: 'time', heldS }, remedies: puttingRight(time) };
  return null;
});
