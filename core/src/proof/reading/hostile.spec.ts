import { readFileSync } from 'node:fs';
import { plan, seeded, teasel } from '../../testing/fixtures';
import Papa from 'papaparse';
import { readByText, readCsv, splitRows } from '../../testing/logs';
import { createLogReader, guessMapping, proveLog } from '../index';
import { rounds } from '../../testing/rounds';

const p = plan(teasel());
const monitor = teasel().system.instruments[1]!;
const source = readFileSync(new URL('../../../../demo/logs/teasel-freezing-dawn.csv', import.meta.url), 'utf8')
  .split('\n')
  .slice(0, 26);
const pieces = [
  '',
  ',',
  ';',
  '\t',
  '"',
  '""',
  "'",
  '\u0000',
  '\ufffd',
  'NaN',
  '1e999',
  '-',
  '−3',
  '9'.repeat(40),
  '{',
  '}',
  '[1,2]',
  '<b>',
  '=1+1',
  '2026-13-45',
  '00:00',
  '\r',
  '\n\n',
  '\ufeff',
  '💧',
  'null',
];

/** A log with some of its characters, fields and lines changed, moved, doubled or lost. */
function mutated(seed: number): string {
  const random = seeded(seed);
  const pick = <T>(from: readonly T[]): T => from[Math.floor(random() * from.length)]!;
  const lines = [...source];
  for (let k = 1 + Math.floor(random() * 6); k > 0; k--) {
    const at = Math.floor(random() * lines.length);
    const line = lines[at] ?? '';
    const fields = line.split(',');
    const f = Math.floor(random() * fields.length);
    switch (Math.floor(random() * 9)) {
      case 0:
        fields[f] = pick(pieces);
        lines[at] = fields.join(',');
        break;
      case 1:
        lines[at] = fields.filter((_, i) => i !== f).join(',');
        break;
      case 2:
        lines.splice(at, 1);
        break;
      case 3:
        lines.splice(at, 0, pick(lines));
        break;
      case 4:
        lines[at] = line.slice(0, Math.floor(random() * line.length));
        break;
      case 5:
        lines[at] = line + pick(pieces) + line;
        break;
      case 6:
        lines[at] = line.replaceAll(',', pick([';', '\t', '|', ' ']));
        break;
      case 7:
        [lines[at], lines[0]] = [lines[0] ?? '', line];
        break;
      default:
        lines[at] = [...line].map((c) => (random() < 0.08 ? pick(pieces) : c)).join('');
    }
  }
  return lines.join(pick(['\n', '\r\n', '\n']));
}

describe('hostile files', () => {
  it('mutated logs by the thousand: never a crash, what cannot be read is listed or refused in a sentence', () => {
    const count = rounds(10_000);
    let read = 0;
    let listed = 0;
    for (let seed = 0; seed < count; seed++) {
      const result = readCsv(mutated(seed), ['fore', 'aft']);
      if (!result.ok) {
        if ((result.problems[0]?.text.length ?? 0) < 20) fail(`seed ${seed}: ${JSON.stringify(result.problems)}`);
        continue;
      }
      read++;
      const { log, report } = result.value;
      listed += report.skipped > 0 ? 1 : 0;
      if (report.firstSkipped.length !== Math.min(50, report.skipped)) fail(`seed ${seed}: ${report.skipped} skipped, ${report.firstSkipped.length} listed`);
      for (let i = 1; i < log.time.length; i++) if (!((log.time[i] ?? 0) > (log.time[i - 1] ?? 0))) fail(`seed ${seed}: time does not rise`);
      if (log.bankVolts.some((v) => v === Infinity)) fail(`seed ${seed}: endless volts`);
      // Every fiftieth goes all the way to verdicts.
      if (seed % 50 === 0)
        for (const row of proveLog(p, log, report, monitor).rows)
          if (row.measured !== null && !Number.isFinite(row.measured)) fail(`seed ${seed}: ${row.requirement.code}`);
    }
    expect(read).toBeGreaterThan(count / 2);
    expect(listed).toBeGreaterThan(0.3 * count);
  });

  it('read where its lines stand, in pieces of any size, a log comes to what its fields come to', () => {
    let compared = 0;
    let left = 0;
    for (let seed = 0; seed < rounds(2000); seed++) {
      const text = mutated(seed);
      const guess = guessMapping(text, splitRows, { chargers: ['fore', 'aft'].map((id) => ({ id, name: id })), nominalVolts: 25.6 });
      if (!guess.ok || guess.value.mapping.kind !== 'table' || text.includes('"')) continue;
      const { mapping } = guess.value;
      // Lines end in a line feed here, whatever else the file holds.
      const fields = Papa.parse<string[]>(text, { delimiter: mapping.separator, newline: '\n' }).data;
      const byFields = createLogReader(mapping);
      const stopped = byFields.take(fields);
      const wanted = stopped ? { ok: false, problems: [stopped] } : byFields.finish();
      const came = readByText(text, mapping, 1 + (seed % 97));
      if (/\r(?!\n)/.test(text)) continue;
      if (JSON.stringify(came, typed) !== JSON.stringify(wanted, typed)) fail(`seed ${seed}`);
      if (came.ok) {
        compared++;
        left += came.value.report.skipped;
      }
    }
    expect(compared).toBeGreaterThan(rounds(2000) / 4);
    expect(left).toBeGreaterThan(0);
  });
});

/** Typed arrays as what they hold, with what is no number told apart from nought. */
const typed = (_key: string, value: unknown): unknown => (ArrayBuffer.isView(value) ? Array.from(value as Float64Array, String) : value);
