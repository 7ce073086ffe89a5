import type { Covered, Job } from '../../job';
import { verdictRank, verdictWords } from '../../proof';
import { formatTemperature, speak, type TemperatureScale } from '../../quantity';
import { allowedWords } from '../../requirements';
import { deviceName } from '../../settings';
import type { Block, Cell, Section } from '../paper';
import { cell, day } from './words';

/** Verdicts with what was seen, what was not tested, and the logs they rest on. */
export function proof(job: Job, covered: readonly Covered[], scale: TemperatureScale): Section {
  const name = (id: string | undefined): string => (id === undefined ? 'Bank' : deviceName(job, id));
  const seen = covered.filter((c) => c.requirement.seenBy.some((kind) => kind !== 'rehearsal'));
  const told = seen.filter((c) => c.verdict !== 'notTested').sort((a, b) => verdictRank(a.verdict) - verdictRank(b.verdict));
  const logs = job.logs.filter((log) => seen.some((c) => c.by?.kind === 'log' && c.by.id === log.id));
  return {
    id: 'proof',
    title: 'What was proved',
    blocks: [
      {
        kind: 'table',
        columns: [
          { head: 'Verdict', share: 2 },
          { head: 'Of', share: 2 },
          { head: 'What must hold', share: 4 },
          { head: 'What was seen', share: 6 },
        ],
        rows: told.map((c): readonly Cell[] => [
          cell(verdictWords[c.verdict], c.verdict === 'fail' ? 'stop' : c.verdict === 'pass' ? undefined : 'caution'),
          cell(name(c.requirement.charger)),
          cell(c.requirement.name, undefined, allowed(c, scale)),
          cell(
            c.by
              ? [c.by.why, c.by.witness ?? '']
                  .map((s) => speak(s, scale))
                  .join(' ')
                  .trim()
              : '',
            undefined,
            c.by ? `${c.by.name}, ${day(c.by.at)}` : undefined,
          ),
        ]),
        empty: 'Nothing was proved yet.',
      },
      { kind: 'heading', text: 'Not tested, or no longer counting' },
      {
        kind: 'list',
        items: grouped(
          job,
          seen.filter((c) => c.verdict === 'notTested'),
        ),
        empty: 'None: everything the sheet specifies was tested.',
      },
      ...logs.map((log): Block => ({ kind: 'log', log: log.id, caption: `${log.name}: bank volts over the maker’s bands, charge current of each charger` })),
    ],
  };
}

/** Requirements of one kind as one line, with whom they are about; what was seen and no longer counts stands below. */
function grouped(job: Job, list: readonly Covered[]): readonly Cell[] {
  const name = (id: string | undefined): string => (id === undefined ? 'bank' : deviceName(job, id));
  const kinds = [...new Set(list.map((c) => c.requirement.name))];
  return kinds.map((kind) => {
    const of = list.filter((c) => c.requirement.name === kind);
    const old = of.flatMap((c) => expiredWords(c) ?? []);
    return cell(`${kind}: ${of.map((c) => name(c.requirement.charger)).join(', ')}`, undefined, old.length > 0 ? [...new Set(old)].join('; ') : undefined);
  });
}

const expiredWords = (c: Covered): string | undefined => {
  const old = c.pieces.find((p) => p.expired);
  return old ? `${old.name}, ${day(old.at)}: ${old.expired ?? ''}` : undefined;
};

function allowed({ requirement }: Covered, scale: TemperatureScale): string | undefined {
  const words = allowedWords({ ...requirement, requirement }, (c) => formatTemperature(c, scale, requirement.digits));
  return words === '' ? undefined : words;
}
