import { jobSchema, type Job } from '../job';
import { skarrow, tumbler } from '../testing/findingCases';
import { rookMoss, said, seeded, wholeTeasel } from '../testing/fixtures';
import { deriveSettings, devicesOf, relayPlan, setpointAt } from '../settings';
import { editPlan } from './index';
import { rounds } from '../testing/rounds';

/** Takes a number somewhere in a document to another of its kind, or a part away; gives null when that is no valid job any more. */
function disturbed(job: Job, random: () => number): Job | null {
  const copy = structuredClone(job) as unknown as Record<string, unknown>;
  for (let n = 1 + Math.floor(random() * 4); n > 0; n--) {
    let at: Record<string, unknown> = ((random() < 0.6 ? copy['system'] : random() < 0.5 ? copy['sheet'] : copy) ?? copy) as Record<string, unknown>;
    for (let depth = 0; depth < 7; depth++) {
      const keys = Object.keys(at);
      const key = keys[Math.floor(random() * keys.length)];
      if (key === undefined) break;
      const value = at[key];
      if (typeof value === 'object' && value !== null && random() < 0.85) {
        at = value as Record<string, unknown>;
        continue;
      }
      if (typeof value === 'number') at[key] = [0, 1, value * 10, value / 10, -value, value + 1, 9e4][Math.floor(random() * 7)];
      else if (typeof value === 'boolean') at[key] = !value;
      else if (!Array.isArray(at)) Reflect.deleteProperty(at, key);
      break;
    }
  }
  const read = jobSchema.safeParse(copy);
  return read.success ? read.data : null;
}

describe('any valid job, however odd', () => {
  it('gives settings, findings, relay plans and an order of edits without a broken number in any sentence', () => {
    const random = seeded(2026);
    const jobs = [wholeTeasel(), rookMoss(), skarrow(), tumbler()];
    let valid = 0;
    const count = rounds(1000);
    for (let i = 0; i < count; i++) {
      const job = disturbed(jobs[i % jobs.length]!, random);
      if (!job) continue;
      valid++;
      const plan = deriveSettings(job);
      for (const s of plan.settings) {
        expect(s.trueValue === null || Number.isFinite(s.trueValue))
          .withContext(`${i} ${s.charger} ${s.role}`)
          .toBeTrue();
        expect(s.value !== null || s.noValue !== undefined)
          .withContext(`${i} ${s.charger} ${s.role}`)
          .toBeTrue();
        expect(setpointAt(plan, s, -20)).not.toBeNaN();
      }
      const findings = said(job);
      // Nothing is entered outside the sheet in silence: a finding names the setting, with the value and a limit.
      // While the sheet itself is in doubt only the doubt is told, and it is a stop.
      const doubted = findings.some((f) => f.severity === 'stop' && ['basisSuspicious', 'cellCountMismatch'].includes(f.code));
      for (const s of plan.settings) {
        if (doubted || s.within !== 'outside' || s.inherited || s.trueValue === null) continue;
        const about = findings.filter((f) => f.charger === s.charger && f.role === s.role);
        expect(about.some((f) => (f.text.match(/\d+(\.\d+)?/g) ?? []).length >= 2))
          .withContext(`${i} ${s.charger} ${s.role} ${s.trueValue} ${JSON.stringify(s.band)}`)
          .toBeTrue();
      }
      for (const f of findings)
        expect(`${f.text} ${f.hurts} ${f.remedies.map((r) => r.label).join(' ')}`)
          .withContext(`${i} ${f.code}`)
          .not.toMatch(/undefined|NaN|null|Infinity|\[object/);
      for (const d of devicesOf(job)) {
        relayPlan(plan, d.id);
        const edits = editPlan(plan, d.id);
        const text = [
          ...(edits?.steps ?? []).flatMap((s) => [s.readBack, s.stands, ...s.notes]),
          edits?.blocked?.why ?? '',
          ...(edits?.blocked?.ways ?? []),
        ].join(' ');
        expect(text)
          .withContext(`${i} ${d.id}`)
          .not.toMatch(/undefined|NaN|Infinity|\[object/);
      }
    }
    expect(valid).toBeGreaterThan(count / 10);
  });
});
