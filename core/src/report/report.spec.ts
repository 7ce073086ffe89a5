import { readFileSync } from 'node:fs';
import Papa from 'papaparse';
import { findFindings } from '../findings';
import { accept, coverage, openStops, readJob, type Job } from '../job';
import { randomFrom } from '../physics';
import { devicesOf } from '../settings';
import { plan, rookMoss, wholeTeasel } from '../testing/fixtures';
import {
  handover,
  labelAgrees,
  labelOf,
  openPoints,
  ownersCard,
  paperText,
  readLabel,
  settingsCsv,
  settingsFile,
  settingsFileSchema,
  writeCsv,
  writeLabel,
  type Paper,
  withoutEmptyColumns,
} from './index';

const today = '2026-06-10';
const paper = (job: Job, sums = false): Paper => handover(job, coverage(job, plan(job), []), { today, sums });
const section = (p: Paper, id: string): string => paperText({ ...p, lines: [], sections: p.sections.filter((s) => s.id === id) });
const accepted = (job: Job): Job => {
  const stop = openStops(findFindings(plan(job), today), job)[0];
  if (!stop) throw new Error('no stop to accept');
  return accept(job, stop, { reason: 'Bank is heated.', by: 'owner', date: today });
};

describe('the hand-over', () => {
  it('says what was set and what that makes, from which paper, and which other revision is kept', () => {
    const text = section(paper(wholeTeasel()), 'settings').replaceAll('\u00a0', ' ');
    expect(text).toContain('Set-up › Levels › Top level / absorb | 28.3 V | 28.09 ± 0.07 V | 28.00–28.40 V');
    const figures = section(paper(wholeTeasel()), 'figures').replaceAll('\u00a0', ' ');
    expect(figures).toContain('rev D, 2026-02');
    expect(figures).toContain('Also in this job, not used: Pellow LB-25/230, LB-25 charging sheet, rev C, 2024-09');
    expect(figures).toContain('Absorb voltage | 28.1 V (28.0–28.4) per battery | 28.10 V, 28.00–28.40 V | p. 3, t. 3 / maker, for this charger');
  });

  it('writes every sum out when asked, and none when not', () => {
    const sums = (p: Paper): number => p.sections.flatMap((s) => s.blocks).filter((b) => b.kind === 'sum').length;
    expect(sums(paper(wholeTeasel()))).toBe(0);
    expect(sums(paper(wholeTeasel(), true))).toBeGreaterThan(20);
    expect(section(paper(wholeTeasel(), true), 'settings')).toContain('LB-25 charging sheet, rev D');
  });

  it('marks an override everywhere, with its reason and who looked at it', () => {
    const job: Job = {
      ...wholeTeasel(),
      overrides: [{ charger: 'aft', role: 'floatVoltage', value: 27.3, reason: 'Old hand says so.', by: 'installer', date: today }],
    };
    expect(section(paper(job), 'decisions')).toContain('Old hand says so. / By installer, 2026-06-10; nobody else has looked at it.');
    expect(section(paper(job), 'settings')).toContain('outside the sheet, by choice');
    expect(section(paper(wholeTeasel()), 'decisions')).toContain('None: every figure is the sheet’s.');
  });

  it('tells each choice that somebody made by itself, and those that nobody made in one sentence', () => {
    const job = wholeTeasel();
    const text = section(paper(job), 'decisions');
    expect(text.match(/careful default/g)?.length).toBe(1);
    expect(text).toContain('Nobody chose otherwise than the careful default in: whose figures count, top charge, ');
    const chosen: Job = {
      ...job,
      schools: { ...job.schools, topCharge: 'gentle' },
      choices: [{ school: 'topCharge', to: 'gentle', by: 'owner', reason: 'Long life.', date: today }],
    };
    const told = section(paper(chosen), 'decisions');
    expect(told).toContain('Top charge | Gentle, low end of the band');
    expect(told).toContain('Long life. By owner, 2026-06-10.');
    expect(told).not.toMatch(/careful default in:[^.]*top charge/);
    expect(section(paper({ ...job, schools: { ...job.schools, reference: 'bestAvailable' } }), 'decisions')).toContain(
      'Whose figures count | The best that can be had, each marked | nobody said why',
    );
    expect(told).toMatch(/careful default in: whose figures count, /);
  });

  it('tells an accepted stop with its reason, and no longer as open', () => {
    const before = section(paper(wholeTeasel()), 'open');
    const after = accepted(wholeTeasel());
    const text = after.accepted[0]?.text ?? '';
    expect(before).toContain(text);
    expect(section(paper(after), 'open')).not.toContain(text);
    expect(section(paper(after), 'decisions')).toContain('Bank is heated. By owner, 2026-06-10.');
  });

  it('tells a value read back otherwise than set', () => {
    const shot = { device: 'aft', at: `${today}T08:00:00.000Z`, date: today, by: 'KM', way: 'wire' as const, verified: 'readBack' as const };
    const job: Job = { ...wholeTeasel(), snapshots: [{ ...shot, values: { floatVoltage: 27.6, absorbVoltage: 28.1 } }] };
    const rows = paper(job)
      .sections.flatMap((s) => s.blocks)
      .flatMap((b) => (b.kind === 'table' ? b.rows : []))
      .filter((r) => r[0]?.text.includes('Levels'));
    const read = (level: string) =>
      rows.filter((r) => r[0]?.text.endsWith(level)).flatMap((r) => (r[4]?.text ? [[r[4].text.replace('\u00a0', ' '), r[4].tone]] : []));
    expect(read('Hold level')).toEqual([['27.6 V', 'stop']]);
    expect(read('Top level')).toEqual([['28.1 V', undefined]]);
    expect(section(paper(job), 'readBacks')).toContain('2026-06-10 08:00 UTC, by KM, over the wire');
  });

  it('tells the visits with their notes, and what somebody changed since the one before', () => {
    expect(paper(wholeTeasel()).sections.some((s) => s.id === 'visits')).toBeFalse();
    const job = readJob(readFileSync(new URL('../../../demo/teasel-year.job.json', import.meta.url), 'utf8'));
    if (!job.ok) throw new Error(job.problems[0]?.text);
    const text = section(paper(job.value), 'visits').replaceAll('\u00a0', ' ');
    expect(text).toContain('2025-12-05, RT, Cold protection / Closed with 11 proved, 4 stated, 67 not tested, 1 inconclusive, on the sheet, rev D, 2026-02.');
    expect(text).toContain('its hold level stands higher than it was left. Not closed yet.');
    expect(text).toContain('Since the visit of 2025-12-05');
    expect(text).toContain('Solar fore: Hold level 27.1 V became 27.4 V, not by this book');
  });

  it('leaves out columns in which nothing stands, and no other', () => {
    const heads = (job: Job): readonly string[] =>
      paper(job)
        .sections.find((s) => s.id === 'settings')!
        .blocks.flatMap((b) => (b.kind === 'table' ? [b.columns.map((c) => c.head).join(' | ')] : []));
    const [fore] = heads(wholeTeasel());
    expect(fore).not.toContain('Read back');
    expect(fore).toContain('Menu | Set | At the battery | The sheet allows');
    const read = readJob(readFileSync(new URL('../../../demo/teasel-year.job.json', import.meta.url), 'utf8'));
    if (!read.ok) throw new Error(read.problems[0]?.text);
    expect(heads(read.value)[0]).toContain('The sheet allows | Read back');
    const table = {
      kind: 'table',
      empty: '',
      columns: ['a', 'b', 'c'].map((head) => ({ head, share: 1 })),
      rows: [[{ text: '1' }, { text: '' }, { text: '', below: 'x' }]],
    } as const;
    expect(withoutEmptyColumns(table)).toEqual({
      ...table,
      columns: [table.columns[0]!, table.columns[2]!],
      rows: [[{ text: '1' }, { text: '', below: 'x' }]],
    });
    expect(withoutEmptyColumns({ ...table, rows: [] })).toEqual({ ...table, rows: [] });
  });

  it('of an empty job says what is missing instead of falling over', () => {
    const bare: Job = {
      ...wholeTeasel(),
      system: { ...wholeTeasel().system, chargers: [], companions: [] },
      cards: [],
      sheet: { ...wholeTeasel().sheet, figures: {}, derating: [] },
    };
    const text = paperText(paper(bare));
    expect(text).toContain('No charger is entered yet.');
    expect(text).toContain('No figure is entered yet.');
    expect(paperText(ownersCard(bare, plan(bare), today))).toContain('No charger is entered yet.');
  });

  it('orders what is open: stops, failures, attention, then what cannot be told', () => {
    const job = wholeTeasel();
    const findings = findFindings(plan(job), today);
    const tones = openPoints(job, findings, coverage(job, plan(job), [])).map((p) => p.tone ?? 'plain');
    expect(tones.lastIndexOf('stop')).toBeLessThan(tones.indexOf('caution'));
    expect(tones.lastIndexOf('caution')).toBeLessThan(tones.indexOf('plain'));
  });
});

describe('the owner’s card', () => {
  it('says what the displays show, not what is true behind them, and warns of what this system has', () => {
    const text = paperText(ownersCard(wholeTeasel(), plan(wholeTeasel()), today)).replaceAll('\u00a0', ' ');
    expect(text).toContain('Solar fore | 28.3 V');
    expect(text).toContain('It drives this battery past its limit');
    expect(text).toContain('while the engine runs');
    expect(text).not.toContain('distilled');
    // No sensor, no stop: the card does not promise one.
    expect(text).toContain('DC-DC | 28.1 V, for about 40 min | 26.9 V | does not stop: no sensor');
  });

  it('says of no value that it is on a device before somebody read it back there', () => {
    const [job, card] = [wholeTeasel(), (of: Job): string => paperText(ownersCard(of, plan(of), today)).replaceAll('\u00a0', ' ')];
    expect(card(job)).toContain(`Worked out on ${today}, and not read back on any charger yet: a display may show other values.`);
    const shot = (device: string, date: string): Job['snapshots'][number] => {
      const values = Object.fromEntries(
        plan(job)
          .settings.filter((s) => s.charger === device && s.value !== null && !s.inherited)
          .map((s) => [s.role, s.value]),
      ) as Job['snapshots'][number]['values'];
      return { device, at: `${date}T08:00:00.000Z`, date, by: 'KM', way: 'display', verified: 'readBack', values };
    };
    expect(card({ ...job, snapshots: [shot('fore', '2026-06-01')] })).toContain(
      `Read back on Solar fore, last on 2026-06-01. Worked out on ${today} for Solar aft, DC-DC, Alternator: a display there may show other values.`,
    );
    // One value that the device showed otherwise, and none of it counts as read back.
    const odd = shot('fore', '2026-06-01');
    expect(card({ ...job, snapshots: [{ ...odd, values: { ...odd.values, floatVoltage: 27.6 } }] })).toContain('not read back on any charger yet');
    const all = card({ ...job, snapshots: job.system.chargers.map((c, i) => shot(c.id, `2026-06-0${4 - i}`)) });
    expect(all).toContain('Settings as they were read back on each charger, last on 2026-06-04.');
    expect(all).not.toContain('orked out');
  });

  it('of a vented bank speaks of water and of attended equalising, and lets the cold raise its voltage', () => {
    const text = paperText(ownersCard(rookMoss(), plan(rookMoss()), today));
    expect(text).toContain('Distilled water');
    expect(text).toContain('somebody there until it ends');
    expect(text).not.toContain('engine runs');
    // 15.6 V at 25 °C, 24 mV/°C over 43 °C down to −18 °C, and 0.2 V for the display.
    expect(text).toContain(`more than ${(15.6 + 0.024 * 43 + 0.2).toFixed(1)} V`);
  });
});

describe('a label', () => {
  const label = labelOf(wholeTeasel(), plan(wholeTeasel()), 'fore', today);
  if (!label) throw new Error('no label');

  it('comes back from its text, line by line, and carries what the display is to show', () => {
    expect(readLabel(writeLabel(label))).toEqual({ ok: true, value: label });
    expect(label.lines.find((l) => l.label === 'Top level')?.value).toBe('28.3 V');
    expect(readLabel(`\n${writeLabel(label).replaceAll('\n', '\r\n')}  \n`)).toEqual({ ok: true, value: label });
    for (const device of devicesOf(wholeTeasel())) {
      const one = labelOf(wholeTeasel(), plan(wholeTeasel()), device.id, today);
      expect(one && readLabel(writeLabel(one))).toEqual({ ok: true, value: one! });
      // It has to fit a code that a phone reads off a lid.
      expect(one ? writeLabel(one).length : 0).toBeLessThan(1200);
    }
  });

  it('any one letter changed is noticed', () => {
    const text = writeLabel(label);
    const random = randomFrom(7);
    for (let i = 0; i < 300; i++) {
      const at = Math.floor(random() * text.length);
      const other = text[at] === '7' ? '8' : '7';
      expect(readLabel(text.slice(0, at) + other + text.slice(at + 1)).ok).toBeFalse();
    }
    const none = readLabel('https://example.test');
    expect(!none.ok && none.problems[0]?.text).toContain('CALM KEEL LABEL 1');
    const newer = readLabel(text.replace('LABEL 1', 'LABEL 2'));
    expect(!newer.ok && newer.problems[0]?.text).toContain('Update the program');
  });

  it('agrees with a display by value, comma or point, with or without the unit', () => {
    const line = { label: 'Top level', value: '28.3 V' };
    for (const seen of ['28.3', '28,3', '28.30 V', ' 28.3v ']) expect(labelAgrees(line, seen)).withContext(seen).toBeTrue();
    for (const seen of ['28.4', '2.83', '28.3 A', '', 'off']) expect(labelAgrees(line, seen)).withContext(seen).toBeFalse();
    expect(labelAgrees({ label: 'Overcharge', value: 'off' }, 'OFF')).toBeTrue();
    expect(labelAgrees({ label: 'Overcharge', value: 'off' }, 'on')).toBeFalse();
  });

  it('says whether these very values were read back, and when', () => {
    const values = Object.fromEntries(plan(wholeTeasel()).settings.flatMap((s) => (s.charger === 'fore' && s.value !== null ? [[s.role, s.value]] : [])));
    const shot = { device: 'fore', at: '2026-05-01T08:00:00.000Z', date: '2026-05-01', by: 'KM', way: 'display' as const, verified: 'powerCycle' as const };
    const made = (v: Job['snapshots'][number]['values']) => {
      const job: Job = { ...wholeTeasel(), snapshots: [{ ...shot, values: v }] };
      const one = labelOf(job, plan(job), 'fore', today);
      return [one?.date, one?.state];
    };
    expect(made(values)).toEqual(['2026-05-01', 'read back after a power cut']);
    expect(made({ ...values, floatVoltage: 27.4 })).toEqual([today, 'worked out, not read back yet']);
  });

  it('of a device the job has not, or has no card for, is none', () => {
    expect(labelOf(wholeTeasel(), plan(wholeTeasel()), 'nobody', today)).toBeNull();
    const bare: Job = { ...wholeTeasel(), cards: [] };
    expect(labelOf(bare, plan(bare), 'fore', today)).toBeNull();
  });
});

describe('settings as files', () => {
  it('a table that a spreadsheet takes for data, whatever is in it', () => {
    const random = randomFrom(3);
    const alphabet = ['=', '+', '-', '@', '"', ',', ';', '\n', '\r', '\t', 'a', '1', ' ', "'", '＝'];
    for (let i = 0; i < 400; i++) {
      const text = Array.from({ length: 1 + Math.floor(random() * 6) }, () => alphabet[Math.floor(random() * alphabet.length)]).join('');
      const csv = writeCsv([[text, 'next']]);
      const [row] = Papa.parse<string[]>(csv.slice(1), { newline: '\r\n', delimiter: ',' }).data;
      expect(row?.[1]).toBe('next');
      const back = row?.[0] ?? '';
      expect(/^[=+\-@\t\r＝]/.test(back))
        .withContext(JSON.stringify(text))
        .toBeFalse();
      expect(back === text || back === `'${text}`).toBeTrue();
    }
    // Behind what is trimmed or not seen a formula is one all the same; a text with such a sign further on is none.
    for (const before of ['', ' ', '\u00a0', '\u3000', '\u200b', '\ufeff', '\u2066', '\u00ad', '\u0000', ' \u200d '])
      for (const sign of ['=', '+', '-', '@', '\uff1d', '\uff0b', '\uff0d', '\uff20'])
        expect(writeCsv([[`${before}${sign}1`]])).toBe(`\ufeff'${before}${sign}1\r\n`);
    expect(writeCsv([['a =1', '1-2', '\u22121']])).toBe('\ufeffa =1,1-2,\u22121\r\n');
    expect(writeCsv([[-0.5, 28.3, null, NaN]])).toBe('\ufeff-0.5,28.3,,\r\n');
  });

  it('one row a setting, with what is keyed and what it makes', () => {
    const rows = Papa.parse<Record<string, string>>(settingsCsv(plan(wholeTeasel()), 'fore').slice(1), { header: true }).data;
    const absorb = rows.find((r) => r['role'] === 'absorb');
    expect([absorb?.['set'], absorb?.['set_unit'], absorb?.['at_battery'], absorb?.['at_battery_unit']]).toEqual(['28.3', 'V', '28.09', 'V']);
  });

  it('by role in units of the bank, for a charger of another make', () => {
    const file = settingsFile(wholeTeasel(), plan(wholeTeasel()), 'fore', today);
    expect(settingsFileSchema.safeParse(file).success).toBeTrue();
    expect(file?.settings.find((s) => s.role === 'absorbVoltage')).toEqual(
      jasmine.objectContaining({ wanted: 28.1, unit: 'V', band: { min: 28, max: 28.4 }, outsideSheet: false }),
    );
    expect(JSON.stringify(file)).not.toContain('28.3');
    expect(settingsFile(wholeTeasel(), plan(wholeTeasel()), 'nobody', today)).toBeNull();
  });
});
