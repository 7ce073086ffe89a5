import { alike, type Finding } from '../../findings';
import { type Covered, type Job, acceptedBy, openStops } from '../../job';
import { speak, type TemperatureScale } from '../../quantity';
import { deviceName } from '../../settings';
import { english, sayFor, speakAlike } from '../../words';
import type { Cell, Section } from '../paper';
import { cell } from './words';

/** What is left open, in words, the gravest first. */
export function openPoints(job: Job, findings: readonly Finding[], covered: readonly Covered[], scale: TemperatureScale = 'C'): readonly Cell[] {
  const name = (id: string | undefined): string => (id === undefined ? 'Bank' : deviceName(job, id));
  const say = sayFor(job, scale);
  const why = (c: Covered): string => speak(c.by?.why ?? '', scale);
  const said = (findings: readonly Finding[], tone: 'stop' | 'caution'): readonly Cell[] =>
    alike(findings).map((group) => {
      const { text, hurts } = speakAlike(english, group, say);
      return cell(text, tone, hurts);
    });
  const stops = said(openStops(findings, job), 'stop');
  const fails = covered
    .filter((c) => c.verdict === 'fail')
    .map((c) => cell(`${name(c.requirement.charger)}: ${c.requirement.name} fails. ${why(c)}`.trim(), 'stop'));
  const attention = said(
    findings.filter((f) => f.severity === 'attention' && !acceptedBy(job, f)),
    'caution',
  );
  const unsure = covered
    .filter((c) => c.verdict === 'inconclusive')
    .map((c) =>
      cell(
        `${name(c.requirement.charger)}: ${c.requirement.name}, inconclusive. ${why(c)}`.trim(),
        undefined,
        c.by?.next === undefined ? undefined : speak(c.by.next, scale),
      ),
    );
  const untold = covered.filter((c) => c.verdict === 'notTested' && c.requirement.seenBy.some((k) => k !== 'rehearsal')).length;
  const untested =
    untold === 0 ? [] : [cell(`${untold === 1 ? 'One requirement is' : `${untold} requirements are`} not tested, or no longer count as tested.`)];
  return [...stops, ...fails, ...attention, ...unsure, ...untested];
}

/** What is left open. */
export function open(job: Job, findings: readonly Finding[], covered: readonly Covered[], scale: TemperatureScale): Section {
  return { id: 'open', title: 'What is still open', blocks: [{ kind: 'list', items: openPoints(job, findings, covered, scale), empty: 'Nothing is open.' }] };
}
