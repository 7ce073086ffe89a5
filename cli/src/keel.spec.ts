import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { quickCard } from '@calm-keel/core/card';
import { jobVersion, readJob, writeBundle, writeJob } from '@calm-keel/core/job';
import { readFileSync } from 'node:fs';
import { strToU8, zipSync } from 'fflate';
import { madeWorkbook, serialOf, type MadeCell } from '../../core/src/testing/workbook.js';
import { keel } from './keel.js';

const at = (path: string): string => new URL(`../../${path}`, import.meta.url).pathname;
const job = at('demo/teasel.job.json');

async function run(...args: string[]) {
  const printed: string[] = [];
  const said: string[] = [];
  const code = await keel(args, { print: (t) => printed.push(t), say: (t) => said.push(t), today: '2026-06-09' });
  return { code, json: printed.length ? (JSON.parse(printed.join('')) as Record<string, never>) : null, said: said.join('\n') };
}

/** A file in a folder of its own. */
function file(name: string, content: string | Uint8Array): string {
  const path = join(mkdtempSync(join(tmpdir(), 'keel-')), name);
  writeFileSync(path, content);
  return path;
}

describe('keel settings', () => {
  it('prints the settings with their derivation, and exits with 1 while a stop stands', async () => {
    const { code, json } = await run('settings', job);
    expect(code).toBe(1);
    const settings = json?.['settings'] as unknown as { charger: string; role: string; value: number; unit: string; within: string; derivation: unknown[] }[];
    const absorb = settings.find((s) => s.charger === 'fore' && s.role === 'absorbVoltage');
    expect(absorb).toEqual(jasmine.objectContaining({ value: 28.3, unit: 'V', within: 'inside' }));
    expect(absorb?.derivation.length).toBe(7);
    const findings = json?.['findings'] as unknown as { code: string; severity: string }[];
    expect(findings.some((f) => f.code === 'deratingExceeded' && f.severity === 'stop')).toBeTrue();
  });

  it('exits with 0 on a job without stops', async () => {
    expect((await run('settings', at('demo/rook-moss.job.json'))).code).toBe(0);
  });

  it('reads a bundle like a plain job', async () => {
    const read = readJob(readFileSync(job, 'utf8'));
    if (!read.ok) throw new Error('demo');
    const bundled = await run('settings', file('x.keel.zip', writeBundle({ job: read.value, logs: {}, files: {} })));
    expect(bundled.json).toEqual((await run('settings', job)).json);
  });
});

describe('keel look', () => {
  interface Looked {
    chargers: string[];
    rows: number;
    shows: { code: string; title: string; value: string; from?: string; at?: string }[];
  }

  it('tells what a log shows without a job, with its moments on the log’s own clock', async () => {
    const { code, json, said } = await run('look', at('demo/logs/teasel-clean-day.csv'));
    const told = json as unknown as Looked;
    expect([code, said]).toEqual([0, '']);
    expect([told.chargers, told.rows]).toEqual([['fore', 'aft'], 5580]);
    const of = (wanted: string) => told.shows.find((s) => s.code === wanted);
    expect(of('highestVolts')?.value).toMatch(/^28\.11\sV$/);
    expect(of('highestVolts')?.at).toMatch(/^2026-06-21T1[01]:\d\d:\d\d\+01:00$/);
    expect(of('stayedHigh')?.value).toMatch(/^28\.09\sV$/);
    expect(of('chargedCold')?.value).toMatch(/°C$/);
  });

  it('tells several at once, in °F where that is asked, and says in a sentence what is no log', async () => {
    const two = await run('look', at('demo/logs/teasel-clean-day.csv'), at('demo/logs/rook-moss-nine-days.csv'), '--fahrenheit');
    const logs = (two.json as unknown as { logs: Looked[] }).logs;
    expect(logs.map((l) => l.chargers)).toEqual([['fore', 'aft'], ['mast']]);
    expect(logs[1]?.shows.find((s) => s.code === 'chargedCold')?.value).toMatch(/^28\.6\s°F$/);
    const none = await run('look', file('notes.txt', 'call Ana about the lid'));
    expect([none.code, none.said.includes('No columns were found')]).toEqual([2, true]);
    expect((await run('look')).said).toBe('Name at least one log: keel look LOG.csv');
    expect((await run('look', 'x.csv', '--loud')).said).toContain('There is no option “--loud”');
  });
});

describe('keel edits', () => {
  interface Edits {
    steps: { parameter: string; from: unknown; to: unknown; readBack: string }[];
    blocked?: { why: string; ways: string[] };
  }

  it('prints the order for one device, from the factory or from values read off it', async () => {
    const { code, json } = await run('edits', job, '--charger', 'dcdc');
    expect(code).toBe(0);
    const { steps } = json as unknown as Edits;
    expect(steps.find((s) => s.parameter === 'equaliseVoltage')).toEqual(jasmine.objectContaining({ from: 30, to: 28.3, readBack: '28.3\u00a0V' }));
    const read = await run('edits', job, '--charger', 'dcdc', '--from', file('v.json', JSON.stringify({ equaliseVoltage: 28.3, absorbVoltage: 27.9 })));
    const after = (read.json as unknown as Edits).steps.map((s) => s.parameter);
    expect(after).toContain('absorbVoltage');
    expect(after).not.toContain('equaliseVoltage');
  });

  it('goes back to what was found', async () => {
    const { json } = await run('edits', job, '--charger', 'aft', '--as-found');
    expect((json as unknown as Edits).steps.find((s) => s.parameter === 'floatVoltage')?.to).toBe(27.6);
  });

  it('exits with 1 and says why when no order exists', async () => {
    const { code, json, said } = await run('edits', job, '--charger', 'dcdc', '--live', '--from', file('v.json', '{"batteryType":"wet"}'));
    expect(code).toBe(1);
    expect((json as unknown as Edits).blocked?.why).toContain('while a source is live');
    expect(said).toContain('array breaker');
  });

  it('says what is missing or wrong in a sentence', async () => {
    expect((await run('edits', job)).said).toContain('fore, aft, dcdc, alternator, monitor');
    expect((await run('edits', job, '--charger', 'nobody')).code).toBe(2);
    expect((await run('edits', job, '--charger', 'aft', '--from', file('v.json', '{"absorbVoltage": [1]}'))).said).toContain('absorbVoltage');
    expect((await run('edits', job, '--charger', 'aft', '--from', file('v.json', 'not json'))).said).toContain('not readable JSON');
    expect((await run('edits', job, '--fast')).said).toContain('no option “--fast”');
    expect((await run('edits')).code).toBe(2);
  });
});

describe('keel rehearse', () => {
  interface Rehearsed {
    scenario: { name: string; seed: number; days: number };
    totals: Record<string, number | string | null>;
    chargers: { charger: string; stages: { stage: string; cause: string }[] }[];
    events: { at: string; text: string }[];
    requirements: { code: string; charger?: string; outcome: string; value: number | null; why: string }[];
    study?: { runs: number; varied: unknown[]; requirements: { requirement: string; breaks: number; influences: { words: string; rank: number }[] }[] };
  }
  const rehearsed = async (...args: string[]) => {
    const { code, json, said } = await run('rehearse', ...args);
    return { code, said, json: json as unknown as Rehearsed };
  };

  it('exits with 1 and says where the sheet is broken: the engine in the cold', async () => {
    const { code, json } = await rehearsed(job, '--scenario', 'motoring');
    expect(code).toBe(1);
    const current = json.requirements.find((r) => r.code === 'currentForTemperature');
    expect(current?.outcome).toBe('breaks');
    expect(current?.why).toMatch(/the sheet allows 92.A/);
    expect(json.events.some((e) => e.text.startsWith('Alternator begins'))).toBeTrue();
    expect(Math.abs(Number(json.totals['chargeImbalanceAh']))).toBeLessThan(1e-7);
  });

  it('exits with 3 when nothing breaks but something cannot be told, and takes seed, days and step', async () => {
    const { code, json } = await rehearsed(job, '--scenario', 'clear-day', '--seed', '9', '--days', '2', '--step', '2');
    expect(code).toBe(3);
    expect(json.scenario).toEqual(jasmine.objectContaining({ name: 'clear-day', seed: 9, days: 2 }));
    expect((await rehearsed(job, '--scenario', 'clear-day', '--seed', '9', '--days', '2', '--step', '2')).json).toEqual(json);
  });

  it('writes a log that keel prove reads, with the stages it rehearsed', async () => {
    const csv = join(mkdtempSync(join(tmpdir(), 'keel-')), 'day.csv');
    const { json } = await rehearsed(job, '--scenario', 'clear-day', '--csv', csv);
    const proof = await run('prove', job, csv);
    expect([0, 3]).toContain(proof.code);
    const proved = (proof.json?.['requirements'] as unknown as { code: string; charger?: string; verdict: string; measured: number }[]).find(
      (r) => r.code === 'floatLevel' && r.charger === 'fore',
    );
    const held = json.requirements.find((r) => r.code === 'floatLevel' && r.charger === 'fore');
    expect(proved?.verdict).toBe('pass');
    expect(proved?.measured).toBeCloseTo(held?.value ?? NaN, 1);
    // And played back, it comes to the same charge.
    const again = await rehearsed(job, '--scenario', 'clear-day', '--replay', csv);
    expect(Number(again.json.totals['ahIn'])).toBeCloseTo(Number(json.totals['ahIn']), -1);
  });

  it('rehearses what was found instead, and varies a day', async () => {
    const found = await rehearsed(job, '--scenario', 'freezing-dawn', '--values', 'asFound');
    expect(found.json.requirements.find((r) => r.code === 'noChargeBelowMinimum' && r.charger === 'aft')?.outcome).toBe('breaks');
    const { json } = await rehearsed(at('demo/rook-moss.job.json'), '--study', '6');
    expect(json.study?.runs).toBe(6);
    expect(json.study?.varied.length).toBeGreaterThan(5);
    expect(json.study?.requirements.every((r) => r.breaks <= 6)).toBeTrue();
  });

  it('lists its days', async () => {
    const { code, json } = await run('rehearse', '--list');
    expect(code).toBe(0);
    expect((json?.['scenarios'] as unknown as { name: string }[]).map((s) => s.name)).toContain('freezing-dawn');
  });

  it('says in a sentence what is wrong', async () => {
    for (const [args, words] of [
      [[job, '--scenario', 'doomsday'], 'no scenario “doomsday”'],
      [[job, '--step', '0'], '--step takes'],
      [[job, '--days', '1.5'], 'a whole number'],
      [[job, '--seed', 'x'], '--seed takes'],
      [[job, '--fast'], 'no option “--fast”'],
      [[job, '--days'], 'needs a value'],
      [[job, '--values', 'guess'], '--values takes'],
      [[job, '--csv', '/no/such/folder/x.csv'], 'cannot be written'],
      [[job, '--replay', '/no/such.csv'], 'cannot be read'],
      [[], 'Name a job file'],
    ] as const) {
      const { code, said } = await rehearsed(...args);
      expect(code).withContext(words).toBe(2);
      expect(said).toContain(words);
    }
  });
});

describe('keel prove', () => {
  it('fails the freezing dawn with time, temperature and uncertainty', async () => {
    const { code, json } = await run('prove', job, at('demo/logs/teasel-freezing-dawn.csv'));
    expect(code).toBe(1);
    const cold = (
      json?.['requirements'] as unknown as {
        code: string;
        charger: string;
        verdict: string;
        measured: number;
        uncertainty: number;
        evidence: { from: string };
      }[]
    ).find((r) => r.code === 'noChargeBelowMinimum' && r.charger === 'aft');
    expect(cold?.verdict).toBe('fail');
    expect(cold?.measured).toBeCloseTo(-1.6, 1);
    expect(cold?.uncertainty).toBeGreaterThan(0.5);
    expect(cold?.evidence.from).toMatch(/^2026-02-17T07:37:\d0Z$/);
  });

  it('exits with 3 when nothing failed but something could not be told', async () => {
    expect((await run('prove', job, at('demo/logs/teasel-clean-day.csv'))).code).toBe(3);
  });

  it('reads a spreadsheet, and a zip of parts, to the same verdicts as the text they were made of', async () => {
    const text = readFileSync(at('demo/logs/teasel-freezing-dawn.csv'), 'utf8');
    const lines = text.trimEnd().split(/\r?\n/);
    const [head = '', ...rows] = lines;
    const cells = rows.map((row) =>
      row
        .split(',')
        .map((field, i): MadeCell => (i === 0 ? { serial: serialOf(field), as: 'both' } : field === '' || Number.isNaN(Number(field)) ? field : Number(field))),
    );
    const book = madeWorkbook({ 'Dawn log': [['Weather station of the shed'], head.split(','), ...cells], Notes: [['call back'], ['on Monday']] });
    const half = rows.length >> 1;
    const parts = zipSync({
      'b.csv': strToU8([head, ...rows.slice(half)].join('\n')),
      'a.csv': strToU8([head, ...rows.slice(0, half)].join('\n')),
      'read me.txt': strToU8('nothing to see'),
    });
    const verdicts = (json: unknown): unknown =>
      (json as { requirements: { code: string; charger?: string; verdict: string; measured: number | null }[] }).requirements.map((r) => [
        r.code,
        r.charger,
        r.verdict,
        r.measured,
      ]);
    const plain = await run('prove', job, at('demo/logs/teasel-freezing-dawn.csv'));
    for (const [path, leftOut] of [
      [file('dawn.xlsx', book), 'Notes'],
      [file('dawn.zip', parts), 'read me.txt'],
    ] as const) {
      const packed = await run('prove', job, path);
      expect(packed.code).toBe(1);
      expect(verdicts(packed.json)).withContext(path).toEqual(verdicts(plain.json));
      expect((packed.json?.['notes'] as unknown as string[]).join(' ')).toContain(leftOut);
    }
    const guessed = await run('prove', job, file('dawn.xlsx', book), '--guess');
    expect((guessed.json?.['columns'] as unknown as { meaning: string }[])[0]?.meaning).toBe('time');
    const locked = await run('prove', job, file('old.xls', new Uint8Array([0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1, 0x1a, 0xe1])));
    expect([locked.code, locked.said.includes('save it without a password')]).toEqual([2, true]);
  });

  it('judges several logs each by itself', async () => {
    const { json, code } = await run('prove', job, at('demo/logs/teasel-clean-day.csv'), at('demo/logs/teasel-freezing-dawn.csv'));
    expect((json?.['logs'] as unknown as unknown[]).length).toBe(2);
    expect(code).toBe(1);
  });

  it('says what is wrong with a log and exits with 2', async () => {
    for (const [content, words] of [
      ['', 'empty'],
      ['time;x\n1781400000;2\n', 'battery voltage'],
      ['hello\nworld\n', 'No columns were found'],
      [new Uint8Array(5000).map((_, i) => i % 7), 'not a text file'],
    ] as const) {
      const { code, said } = await run('prove', job, file('log.csv', content));
      expect(code).withContext(words).toBe(2);
      expect(said).toContain(words);
    }
    expect((await run('prove', job, 'no-such-file.csv')).code).toBe(2);
    expect((await run('prove', job)).said).toContain('Name at least one log');
    expect((await run('prove', job, '--fast', 'x.csv')).said).toContain('There is no option “--fast”');
    expect((await run('prove', job, 'x.csv', '--mapping')).said).toContain('needs a value');
  });

  it('reads a log of any make by a mapping that was guessed, printed, and corrected', async () => {
    const rows = readFileSync(at('demo/logs/teasel-clean-day.csv'), 'utf8').split('\n').slice(1, 4000);
    const strange = file(
      'day.csv',
      `when;Bus (mV);amps A;amps B\n${rows
        .map((r) => r.split(','))
        .map((f) => `${f[0]};${Math.round(Number(f[1]) * 1000)};${f[4]?.replace('.', ',')};${f[7]?.replace('.', ',')}`)
        .join('\n')}\n`,
    );
    const guessed = (await run('prove', job, strange, '--guess')).json as unknown as {
      columns: { header: string; meaning: string; charger?: string; unit?: string }[];
    };
    expect(guessed.columns.map((c) => c.meaning).slice(0, 2)).toEqual(['time', 'bankVolts']);
    const told = {
      ...guessed,
      columns: guessed.columns.map((c) =>
        c.header === 'amps A'
          ? { header: c.header, meaning: 'amps', charger: 'fore', unit: 'A' }
          : c.header === 'amps B'
            ? { header: c.header, meaning: 'amps', charger: 'aft', unit: 'A' }
            : c,
      ),
    };
    const { json } = await run('prove', job, strange, '--mapping', file('m.json', JSON.stringify(told)));
    const absorb = (json?.['requirements'] as unknown as { code: string; charger?: string; verdict: string; measured: number }[]).find(
      (r) => r.code === 'absorbLevel' && r.charger === 'aft',
    );
    // Without array volts nothing shows which of the two held it.
    expect(absorb?.verdict).toBe('inconclusive');
    expect(absorb?.measured).toBeCloseTo(28.09, 1);
    expect((await run('prove', job, strange, '--mapping', file('m.json', '{}'))).code).toBe(2);
  });

  it('puts files together as one log', async () => {
    const text = readFileSync(at('demo/logs/teasel-clean-day.csv'), 'utf8').split('\n');
    const [header = '', ...rows] = text;
    const half = Math.floor(rows.length / 2);
    const a = file('a.csv', `${header}\n${rows.slice(0, half).join('\n')}\n`);
    const b = file('b.csv', `${header}\n${rows.slice(half).join('\n')}`);
    const verdicts = (json: Record<string, never> | null) =>
      (json?.['requirements'] as unknown as { code: string; charger?: string; verdict: string }[]).map((r) => `${r.code} ${r.charger ?? ''} ${r.verdict}`);
    const whole = await run('prove', job, at('demo/logs/teasel-clean-day.csv'));
    const joined = await run('prove', job, b, a, '--together');
    expect(verdicts(joined.json)).toEqual(verdicts(whole.json));
    expect((joined.json?.['explained'] as unknown as { title: string }[]).map((t) => t.title)).toContain('Absorb began');
  });

  it('judges a folder of jobs, one line each, and goes on where an earlier run stopped', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'keel-'));
    const copy = (name: string, ...logs: string[]): void => {
      mkdirSync(join(folder, name));
      writeFileSync(join(folder, name, `${name}.job.json`), readFileSync(at(`demo/${name}.job.json`)));
      for (const log of logs) writeFileSync(join(folder, name, log), readFileSync(at(`demo/logs/${log}`)));
    };
    copy('teasel', 'teasel-freezing-dawn.csv');
    copy('rook-moss', 'rook-moss-nine-days.csv');
    writeFileSync(join(folder, 'broken.job.json'), '{"format":"calm-keel/job"');
    const results = join(folder, 'results.txt');
    const lines = async (): Promise<{ printed: { job: string; worst: string; fails: string[] }[]; said: string; code: number }> => {
      const printed: string[] = [];
      const said: string[] = [];
      const code = await keel(['prove', '--folder', folder, '--results', results], {
        print: (t) => printed.push(t),
        say: (t) => said.push(t),
        today: '2026-06-09',
      });
      return { printed: printed.map((p) => JSON.parse(p) as { job: string; worst: string; fails: string[] }), said: said.join('\n'), code };
    };
    const first = await lines();
    expect(first.code).toBe(1);
    expect(first.printed.map((l) => `${l.job} ${l.worst}`).sort()).toEqual([
      'broken.job.json bad',
      'rook-moss/rook-moss.job.json inconclusive',
      'teasel/teasel.job.json fail',
    ]);
    expect(first.printed.find((l) => l.worst === 'fail')?.fails).toContain('noChargeBelowMinimum/aft');
    expect(first.said).toContain('3 jobs: 1 fail');
    // A run that was cut off leaves half a line.
    writeFileSync(results, readFileSync(results, 'utf8').split('\n').slice(0, 2).join('\n') + '\n{"job":"te');
    const again = await lines();
    expect(again.said).toContain('2 of 3 were judged before');
    expect(again.printed.length).toBe(3);
    expect((await run('prove', '--folder', join(folder, 'nothing'))).code).toBe(2);
  });
});

describe('keel check', () => {
  it('accepts every file that ships', async () => {
    const { code, json } = await run(
      'check',
      job,
      at('demo/rook-moss.job.json'),
      at('library/cards/varrow-s45.json'),
      at('library/cards/varrow-p15.json'),
      at('library/sheets/pellow-lb-25-rev-d.json'),
      at('library/sheets/dunmere-t6-210-rev-5.json'),
    );
    expect(code).toBe(0);
    expect((json?.['files'] as unknown as { ok: boolean }[]).every((f) => f.ok)).toBeTrue();
  });

  it('tells what nobody knows of a card, which is no fault', async () => {
    const quick = quickCard({ id: 'mine', maker: 'Ostmark', model: 'Q40', kind: 'dcdc', outputA: 40, systemVolts: [24] });
    const { code, said, json } = await run('check', file('mine.json', JSON.stringify({ ...quick, notKnown: ['saveWay', 'passcode'] })));
    expect(code).toBe(0);
    expect(said).toContain('not known: its ranges and steps; which way of leaving the menu saves; whether it has a passcode.');
    expect((json?.['files'] as unknown as { notKnown: string[] }[])[0]?.notKnown.length).toBe(3);
    expect((await run('check', at('library/cards/varrow-p15.json'))).said).not.toContain('not known');
  });

  it('names the place of a fault', async () => {
    const broken = JSON.parse(readFileSync(at('library/cards/varrow-s45.json'), 'utf8')) as { parameters: { step: number }[] };
    broken.parameters[3]!.step = 0;
    const { code, said } = await run('check', file('card.json', JSON.stringify(broken)));
    expect(code).toBe(2);
    expect(said).toContain('parameters › 4');
  });

  it('refuses a newer job and a folder', async () => {
    const read = readJob(readFileSync(job, 'utf8'));
    if (!read.ok) throw new Error('demo');
    const { said } = await run('check', file('new.json', writeJob(read.value).replace(`"version": ${jobVersion}`, `"version": ${jobVersion + 1}`)));
    expect(said).toContain('Update the program');
    expect((await run('check', tmpdir())).said).toContain('is a folder');
  });
});

describe('keel schema', () => {
  it('prints a JSON Schema that names the format, and knows only its own names', async () => {
    const { code, json } = await run('schema', 'job');
    expect(code).toBe(0);
    expect(JSON.stringify(json)).toContain('calm-keel/job');
    expect((await run('schema', 'toString')).code).toBe(2);
  });

  it('is what stands in docs/schemas: `npm run make-schemas` writes them', async () => {
    for (const name of ['job', 'card', 'sheet', 'mapping', 'settings', 'backup', 'copy']) {
      const kept = JSON.parse(readFileSync(new URL(`../../docs/schemas/${name}.json`, import.meta.url), 'utf8')) as unknown;
      expect<unknown>((await run('schema', name)).json)
        .withContext(name)
        .toEqual(kept);
    }
  });
});

describe('keel report', () => {
  it('gives the hand-over of a job as JSON, with its sums when asked', async () => {
    const { code, json } = await run('report', job);
    expect(code).toBe(0);
    const sections = (json as unknown as { sections: { id: string; blocks: { kind: string }[] }[] }).sections;
    expect(sections.map((s) => s.id)).toEqual(['glance', 'system', 'figures', 'settings', 'decisions', 'readBacks', 'proof', 'open', 'care']);
    expect(sections.some((s) => s.blocks.some((b) => b.kind === 'sum'))).toBeFalse();
    const summed = (await run('report', job, '--sums')).json as unknown as { sections: { blocks: { kind: string }[] }[] };
    expect(summed.sections.some((s) => s.blocks.some((b) => b.kind === 'sum'))).toBeTrue();
    expect((await run('report')).code).toBe(2);
    expect((await run('report', job, '--sumz')).said).toContain('There is no option “--sumz”');
    const degrees = (printed: unknown): readonly boolean[] =>
      ['°C', '°F'].map((unit) => JSON.stringify(printed).includes(`bank −4\u00a0${unit}`) || JSON.stringify(printed).includes(`bank 25\u00a0${unit}`));
    expect([degrees(json), degrees((await run('report', job, '--fahrenheit')).json)]).toEqual([
      [true, false],
      [false, true],
    ]);
  });
});

describe('keel without sense', () => {
  it('explains itself', async () => {
    expect((await run()).code).toBe(2);
    expect((await run('fly')).said).toContain('no command “fly”');
    expect((await run('--help')).code).toBe(0);
    expect((await run('settings')).said).toContain('Name a job file');
  });
});

describe('keel read', () => {
  it('prints what a paper says as candidates with their places, doubts and what was left out', async () => {
    const text = ['LiFePO4 battery, 25.6 V 150 Ah', 'Charge voltage\t28.2 V', 'Float voltage\t27.0 V', 'Float\t27.2 V', 'High voltage disconnect\t29.0 V'].join(
      '\n',
    );
    const { code, json, said } = await run('read', file('sheet.txt', text));
    expect([code, said]).toEqual([0, '']);
    const read = json as unknown as {
      readAs: object;
      candidates: { figure: string; value: string; sure: boolean; page: number; boxes: object[] }[];
      leftOut: object[];
    };
    expect(read.readAs).toEqual({ chemistry: 'lfp', cells: 8 });
    expect(read.candidates.map((c) => [c.figure, c.value.replaceAll('\u00a0', ' '), c.sure])).toEqual([
      ['absorbVoltage', '28.2 V per battery', true],
      ['floatVoltage', '27.0 V per battery', false],
      ['floatVoltage', '27.2 V per battery', false],
    ]);
    expect(read.candidates[0]).toEqual(jasmine.objectContaining({ page: 1, boxes: [jasmine.objectContaining({ y: jasmine.any(Number) })] }));
    expect(read.leftOut).toEqual([{ page: 1, quote: 'High voltage disconnect  29.0 V', why: 'foreign' }]);
  });

  it('says what it lacks: chemistry, which battery, a figure', async () => {
    expect((await run('read', file('a.txt', 'Float voltage\t13.5 V'))).said).toContain('does not say its chemistry');
    const two = await run('read', file('b.txt', '\tLX-50\tLX-100\nCharge voltage\t14.2 V\t28.4 V\nMax charge current\t25 A\t50 A'), '--chemistry', 'lfp');
    expect([two.code, two.said]).toEqual([3, 'This paper tells LX-50, LX-100 apart. Name yours with --battery.']);
    expect((await run('read', file('c.txt', 'Weight\t12 kg'), '--chemistry', 'agm')).code).toBe(3);
  });

  it('refuses in a sentence what is no paper, and options that are none', async () => {
    const refused = async (...args: string[]) => {
      const { code, json, said } = await run('read', ...args);
      expect([code, json]).toEqual([2, null]);
      return said;
    };
    expect(await refused(file('x.pdf', '%PDF-1.7 and nothing behind it'))).toContain('cannot be read. Download it again');
    expect(await refused(file('x.png', new Uint8Array([0x89, 0x50, 0, 0, 1])))).toContain('cannot be read');
    expect(await refused(file('x.txt', ''))).toContain('has no pages');
    expect(await refused(file('x.txt', 'a'), '--chemistry', 'air')).toContain('lfp, nmc, flooded, agm, gel');
    expect(await refused(file('x.txt', 'a'), '--cells', '0')).toContain('from 1 to 400');
    expect(await refused(file('x.txt', 'a'), '--colour')).toContain('--colour');
    expect(await refused()).toContain('Name one paper');
    expect(await refused('/nowhere.pdf')).toContain('There is no file');
  });
});
