import { keyedText, stepFigure } from '../settings';
import { testsFor } from '../fieldtest';
import { coverage } from '../job';
import { proveLog, speakRow } from '../proof';
import { speak, type Sentence } from '../quantity';
import { eventWords, evaluateRun, scenarioKinds } from '../rehearsal';
import { handover, ownersCard } from '../report';
import { plan } from '../testing/fixtures';
import { demoLog } from '../testing/logs';
import { demoJob, ran } from '../testing/rehearsals';

/** A temperature in °C; slopes are in mV/°C as sheets and menus print them. */
const celsius = /(?<!\/)\s?°C/;
const jobs = ['teasel', 'rook-moss', 'skarrow', 'tumbler'] as const;

/** What is still said in °C to a reader of °F. */
const left = (sentences: readonly Sentence[]): readonly string[] => sentences.map((s) => speak(s, 'F')).filter((s) => celsius.test(s));
/** How many of them are said in °F. */
const said = (sentences: readonly Sentence[]): number => sentences.filter((s) => speak(s, 'F').includes('°F')).length;

describe('a reader of °F', () => {
  it('reads °F in verdicts, their uncertainties and what happened', () => {
    let count = 0;
    for (const [name, log, chargers] of [
      ['teasel', 'teasel-freezing-dawn', ['fore', 'aft']],
      ['rook-moss', 'rook-moss-wrong-slope', ['mast']],
    ] as const) {
      const job = demoJob(name);
      const read = demoLog(log, chargers);
      const { rows, told } = proveLog(plan(job), read.log, read.report, job.system.instruments[0]!);
      const sentences = [
        ...rows.map((r) => speakRow(r, 'F')).flatMap((r) => [r.why, r.witness ?? '', r.next ?? '', ...r.budget.map((b) => b.name)]),
        ...told.map((t) => t.cause),
      ];
      expect(left(sentences)).withContext(log).toEqual([]);
      count += said(sentences);
    }
    expect(count).toBeGreaterThan(20);
  });

  for (const name of jobs)
    it(`reads °F in the days of ${name}, its tests, its sums and its papers`, () => {
      const job = demoJob(name);
      const p = plan(job);
      const kind = scenarioKinds.filter((k) => k.suits(p)).find((k) => k.name === 'freezing-dawn') ?? scenarioKinds.find((k) => k.suits(p))!;
      const { run } = ran(job, kind.name);
      const day = [...run.events.map((e) => eventWords(p, e)), ...evaluateRun(p, run).map((o) => o.why)];
      const tests = testsFor(p).flatMap(({ test, subject }) => {
        const { refused, expected, steps } = test.prepare(p, subject);
        return [...(refused === null ? [] : [refused]), ...expected.flatMap((e) => [e.name, e.why]), ...steps.flatMap((s) => s.says)];
      });
      const sums = p.settings.flatMap((s) => s.derivation.filter((step) => !step.onDevice)).flatMap((step) => [step.words, stepFigure(step, 'F').unit]);
      const paper = { today: '2026-06-09', sums: false, scale: 'F' as const };
      const printed = [handover(job, coverage(job, p, []), paper), ownersCard(job, p, paper.today, 'F')].flatMap(({ sections }) =>
        // The maker’s figures and what a device shows stay as they are printed and shown.
        sections.filter((s) => s.id !== 'figures' && s.id !== 'readBacks').flatMap((s) => textsIn(s.blocks)),
      );
      const shown = new Set(p.settings.filter((s) => s.unit === '°C').map(keyedText));
      expect(left(day)).toEqual([]);
      expect(left(tests)).toEqual([]);
      expect(left(sums)).toEqual([]);
      expect(left(printed).filter((text) => !shown.has(text))).toEqual([]);
      expect(said([...day, ...tests, ...sums])).toBeGreaterThan(3);
      expect(said(printed)).toBeGreaterThan(0);
    });
});

/** Every text of a paper’s blocks. */
function textsIn(value: unknown): readonly string[] {
  if (typeof value === 'string') return [value];
  return typeof value === 'object' && value !== null ? Object.values(value).flatMap(textsIn) : [];
}
