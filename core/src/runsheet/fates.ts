import { displayText } from '../card';
import type { Sentence } from '../quantity';
import type { Plan, Setting } from '../settings';
import type { Place } from './place';
import { keptAnswers } from './progress';
import type { Programming } from './record';
import type { Fate } from './step';

/** How every parameter of every card ends. */
export function fatesOf(plan: Plan, record: Programming | null, places: readonly Place[]): readonly Fate[] {
  return places.flatMap(({ charger, card }) => {
    const kept = record ? keptAnswers(record) : null;
    const found = record?.found[charger.id] ?? charger.present;
    return card.parameters.map((p): Fate => {
      const s = plan.setting(charger.id, p.role);
      const base = { device: charger.id, role: p.role, label: p.label };
      if (s?.value == null) return { ...base, ends: s?.noValue === 'notUsed' ? 'notUsed' : 'left', text: '', because: because(s) };
      const text = displayText(p, s.value);
      if (s.inherited) return { ...base, ends: 'inherited', text, because: 'taken from its leader' };
      const answer = kept?.get(`${charger.id}/edit/${p.role}`);
      if (answer?.state === 'done' && answer.reading !== undefined)
        return {
          ...base,
          ends: 'set',
          text: displayText(p, answer.reading),
          because: answer.reading === s.value ? 'read back' : `wanted ${text}: ${answer.reason ?? 'another value was accepted'}`,
        };
      if (answer?.state === 'skipped') return { ...base, ends: 'open', text, because: `skipped: ${answer.reason ?? ''}` };
      if (found[p.role] === s.value) return { ...base, ends: 'stands', text, because: 'right already' };
      return { ...base, ends: 'open', text, because: 'not entered yet' };
    });
  });
}

const because = (s: Setting | undefined): Sentence => s?.derivation.findLast((d) => d.kind === 'note')?.words ?? 'no rule speaks of it';
