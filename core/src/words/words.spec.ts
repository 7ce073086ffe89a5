import { readFileSync, readdirSync } from 'node:fs';
import type { Role } from '../card';
import { findingRules } from '../findings';
import { findingCases } from '../testing/findingCases';
import { plan, rookMoss, said, teasel, wholeTeasel, withCharger, withSystem } from '../testing/fixtures';
import { skarrow, tumbler } from '../testing/findingCases';
import { puzzlingWords } from '../testing/plainWords';
import { findFindings } from '../findings';
import type { Job } from '../job';
import { english, sayFor, shortOf, speakFinding, type Language } from './index';
import { bankFindings } from './en/findings/bank';
import { coldFindings } from './en/findings/cold';
import { currentFindings } from './en/findings/current';
import { deviceFindings } from './en/findings/devices';
import { loadFindings } from './en/findings/loads';
import { voltageFindings } from './en/findings/voltages';
import { wiringFindings } from './en/findings/wiring';

const today = '2026-06-09';
const jobs: readonly (readonly [string, Job, string])[] = [
  ...Object.entries(findingCases).map(([code, { fires, today: on }]) => [code, fires(), on ?? today] as const),
  ...[wholeTeasel(), rookMoss(), skarrow(), tumbler()].map((job) => [job.name, job, today] as const),
];

/** Every string in facts. */
const stringsIn = (value: unknown): readonly string[] =>
  typeof value === 'string' ? [value] : typeof value === 'object' && value !== null ? Object.values(value).flatMap(stringsIn) : [];

describe('no sentence is made outside the words folder', () => {
  it('a language of nothing but its own marks is all that a finding and its buttons say', () => {
    const mark = (what: string): string => `⟦${what}⟧`;
    const pseudo: Language = {
      findings: Object.fromEntries(
        findingRules.map(({ code }) => [code, () => ({ text: mark(code), hurts: mark('hurts') })]),
      ) as unknown as Language['findings'],
      shortFindings: {},
      lookAtFindings: mark('look'),
      remedies: Object.fromEntries(Object.keys(english.remedies).map((code) => [code, () => mark(code)])) as unknown as Language['remedies'],
      alsoOn: () => mark('alsoOn'),
      changed: () => mark('changed'),
    };
    let buttons = 0;
    for (const [name, job, on] of jobs)
      for (const finding of findFindings(plan(job), on)) {
        const spoken = speakFinding(pseudo, finding, sayFor(job, 'C'));
        for (const said of [spoken.text, spoken.hurts, ...spoken.remedies.map((r) => r.label)])
          expect(said)
            .withContext(name)
            .toMatch(/^⟦.*⟧$/);
        buttons += spoken.remedies.length;
        expect(shortOf(pseudo, finding.code)).toBe('⟦look⟧');
      }
    expect(buttons).toBeGreaterThan(50);
  });

  it('facts are numbers, ids and codes, and what labels and papers say: anything with a space in it stands in the job', () => {
    const prose = new Set<string>();
    for (const [, job, on] of jobs) {
      const stored = JSON.stringify(job);
      for (const { code, facts, remedies } of findFindings(plan(job), on))
        for (const text of [facts, ...remedies.map((r) => r.facts ?? {})].flatMap(stringsIn)) if (/\s/.test(text) && !stored.includes(text)) prose.add(code);
    }
    // A limit’s name and sum, a difference between two papers and units of displays are still put together by the parts that know them.
    expect([...prose].filter((code) => !['limitsPastCeiling', 'newerRevision'].includes(code) && !unitsOnly(code))).toEqual([]);
  });

  const unitsOnly = (code: string): boolean =>
    jobs.every(([, job, on]) =>
      findFindings(plan(job), on)
        .filter((f) => f.code === code)
        .flatMap((f) => [f.facts, ...f.remedies.map((r) => r.facts ?? {})])
        .flatMap(stringsIn)
        .every((text) => !/\s/.test(text) || JSON.stringify(job).includes(text) || /^m?V(\/°C)? per/.test(text)),
    );
});

describe('English', () => {
  it('has every finding in one topic', () => {
    const topics = [bankFindings, coldFindings, currentFindings, deviceFindings, loadFindings, voltageFindings, wiringFindings].flatMap((t) => Object.keys(t));
    expect([...topics].sort()).toEqual(findingRules.map((r): string => r.code).sort());
  });

  it('calls a device with a finding by its short word, and by a general one where there is none', () => {
    expect(shortOf(english, 'coldProtection')).toBe('No cold protection');
    expect(shortOf(english, 'noMonitor')).toBe('See findings');
  });

  it('speaks as a service manual does: none of the words that puzzled its readers', () => {
    const folder = new URL('./en/', import.meta.url);
    const files = readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter((f) => f.endsWith('.ts'));
    expect(files.length).toBeGreaterThan(8);
    for (const file of files) {
      const source = readFileSync(new URL(file, folder), 'utf8').replace(/\/\*\*[\s\S]*?\*\//g, '');
      const sentences = [...source.matchAll(/'([^'\n]*)'|`([^`]*)`/g)].map((m) => m[1] ?? m[2] ?? '').map((s) => s.replace(/\$\{[^}]*\}/g, ''));
      for (const sentence of sentences) expect(sentence).withContext(file).not.toMatch(puzzlingWords);
    }
  });

  it('begins every sentence with a capital or a number and ends it with a full stop, and every button with a verb', () => {
    const verbs = /^(Go|Record|Read|Set|Use|Rest|Hold|Add|Raise|Stagger|Lower|Absorb|Store|Let)\b/;
    for (const [name, job, on] of jobs)
      for (const f of said(job, on)) {
        expect(f.text)
          .withContext(name)
          .toMatch(/^[A-Z0-9“].*\.$/s);
        expect(f.hurts)
          .withContext(name)
          .toMatch(/^[A-Z0-9].*\.$/s);
        for (const { label } of f.remedies) expect(label).withContext(f.code).toMatch(verbs);
      }
  });

  it('puts a reader’s °F into every sentence but what a display or a paper counts in °C', () => {
    let fahrenheit = 0;
    for (const [name, job, on] of jobs)
      for (const f of said(job, on, 'F')) {
        const units = stringsIn([f.facts, ...f.finding.remedies.map((r): object => r.facts ?? {})]);
        const printed =
          units.some((u) => u.includes('°C')) || /compensationOnLithium|newerRevision|slope|stepPastTolerance|panelCoefficient|basisSuspicious/.test(f.code);
        const spoken = [f.text, f.hurts, ...f.remedies.map((r) => r.label)].join(' ');
        if (!printed) expect(spoken).withContext(name).not.toContain('°C');
        if (spoken.includes('°F')) fahrenheit++;
      }
    expect(fahrenheit).toBeGreaterThan(100);
  });

  it('writes bands as numbers of the reader’s scale, a difference as a difference, and one end by itself', () => {
    const [c, f] = [sayFor(wholeTeasel(), 'C'), sayFor(wholeTeasel(), 'F')];
    const both = (role: Role, min: number | null, max: number | null): string[] => [c, f].map((say) => say.bandOf(role, { min, max }).replace(/\u00a0/g, ' '));
    expect(both('lowTempCutoff', 0, 45)).toEqual(['0.0–45.0 °C', '32.0–113.0 °F']);
    expect(both('thermostatDifferential', 2, null)).toEqual(['2.0 °C', '3.6 °F']);
    expect(both('absorbTime', null, 3600)).toEqual(['60 min', '60 min']);
    expect(both('floatVoltage', 26.7, 27.1)).toEqual(['26.70–27.10 V', '26.70–27.10 V']);
    expect([c.degrees(2.5), f.degrees(2.5), f.degrees(5)].map((s) => s.replace(/\u00a0/g, ' '))).toEqual(['2.5 °C', '4.5 °F', '9 °F']);
  });

  it('turns 0, 5 and 12 °C of the derating table into 32, 41 and 53.6 °F, and a margin of 3.75 °C into 6.8 °F', () => {
    const inF = (code: string): string =>
      said(wholeTeasel(), today, 'F')
        .find((f) => f.code === code)!
        .text.replace(/\u00a0/g, ' ');
    expect(inF('deratingExceeded')).toBe('The chargers can deliver 182 A. The sheet allows 23 A below 41 °F and 92 A below 53.6 °F.');
    expect(inF('cutoffBelowSheet')).toBe(
      'Solar aft: low-temperature cutoff was found at 32 °F. It must be at least 38.8 °F (sheet 32 °F + sensor margin 6.8 °F).',
    );
    const labels = said(wholeTeasel(), today, 'F')
      .find((f) => f.code === 'deratingExceeded')!
      .remedies.map((r) => r.label.replace(/\u00a0/g, ' '));
    expect(labels).toEqual([
      'Raise every cutoff past 53.6 °F',
      'Stagger: DC-DC from 32 °F, Solar fore and Solar aft from 41 °F, Alternator from 53.6 °F',
      'Lower the limits to 23 A together, Alternator from 53.6 °F',
    ]);
  });
});

describe('sentences that depend on what is known', () => {
  const text = (job: Job, code: string): string => (said(job).find((f) => f.code === code)?.text ?? '').replace(/\u00a0/g, ' ');
  const hurts = (job: Job, code: string): string => said(job).find((f) => f.code === code)?.hurts ?? '';

  it('say that a figure is there and does not count, and that it is not there at all', () => {
    const strict: Job = { ...teasel(), schools: { ...teasel().schools, reference: 'makerOnly' } };
    const low = {
      ...strict,
      sheet: { ...strict.sheet, figures: { ...strict.sheet.figures, absorbVoltage: { ...strict.sheet.figures.absorbVoltage!, rank: 'assumed' as const } } },
    };
    expect(text(low, 'figureMissing')).toBe('No absorb for Solar fore and Solar aft: the figure on the sheet is not the maker’s and does not count.');
    const { absorbVoltage: _gone, ...figures } = teasel().sheet.figures;
    expect(text({ ...teasel(), sheet: { ...teasel().sheet, figures } }, 'figureMissing')).toBe(
      'The sheet gives no figure for absorb of Solar fore and Solar aft.',
    );
  });

  it('name the harm that fits: a charger that charges nothing harms no cell', () => {
    const sensor = teasel().system.chargers[1]!.sensor;
    const unplugged = withCharger(teasel(), 'aft', { sensor: { ...sensor, fitted: false } });
    expect(hurts(unplugged, 'coldProtection')).toBe('The bank runs flat with the source running. Fit the sensor, or protect it another way.');
    expect(hurts(withCharger(teasel(), 'aft', { sensor: { ...sensor, place: 'air' } }), 'coldProtection')).toBe(
      'Charging frozen cells damages them for good and can make them dangerous.',
    );
  });

  it('name a BMS only where there is one', () => {
    const tight = withSystem(wholeTeasel(), { bank: { ...wholeTeasel().system.bank, fuseA: 60 } });
    const over: Job = { ...tight, overrides: [{ charger: 'aft', role: 'chargeCurrentLimit', value: 45, reason: '', by: 'owner', date: today }] };
    expect(hurts(over, 'limitsPastCeiling')).toBe('Cables overheat and fuses blow, or the BMS trips on over-current.');
    const bare = withSystem(over, { bank: { ...over.system.bank, hasBms: false } });
    expect(hurts(bare, 'limitsPastCeiling')).toBe('Cables overheat and fuses blow.');
  });
});
