import { readFileSync } from 'node:fs';
import { strToU8, zipSync } from 'fflate';
import { defaultSchools, deriveSettings } from '../settings';
import { randomFrom } from '../physics';
import { guessMapping } from '../proof';
import { rounds } from '../testing/rounds';
import { teasel, wholeTeasel } from '../testing/fixtures';
import {
  admitAttachment,
  applyChange,
  isZip,
  jobSchema,
  jobVersion,
  mostAttachmentBytes,
  newJob,
  readBundle,
  readJob,
  toCard,
  toJob,
  toMapping,
  toSheet,
  writeBundle,
  writeJob,
  type Attachment,
  type Job,
} from './index';

const refusal = (text: string): string => {
  const job = readJob(text);
  return job.ok ? '' : job.problems.map((p) => p.text).join(' ');
};

describe('the job file', () => {
  it('comes back as it was written', () => {
    const job = teasel();
    expect(readJob(writeJob(job))).toEqual({ ok: true, value: job });
  });

  it('carries documents with it, each what its bytes say and no larger than allowed', () => {
    const pdf = strToU8('%PDF-1.7 charging sheet');
    const attachment = { id: 'sheet-d', name: 'Sheet D.pdf', type: 'application/pdf' as const, bytes: pdf.length, sheet: 'pellow-lb-25-rev-d' };
    const job = { ...teasel(), attachments: [attachment] };
    const read = readBundle(writeBundle({ job, logs: {}, files: { 'sheet-d': pdf } }));
    expect(read.ok && [read.value.files['sheet-d'], read.value.job.attachments, read.value.missing]).toEqual([pdf, [attachment], []]);
    const lying = readBundle(writeBundle({ job, logs: {}, files: { 'sheet-d': strToU8('<svg onload=alert(1)>') } }));
    expect(lying.ok && [lying.value.job.attachments, lying.value.files, lying.value.missing]).toEqual([[], {}, ['Sheet D.pdf']]);
    expect(readBundle(writeBundle({ job, logs: {}, files: { 'sheet-d': new Uint8Array(mostAttachmentBytes + 1) } })).ok).toBeFalse();
  });

  it('admits documents by what they are, in a sentence when it does not', () => {
    const png = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 1, 2);
    const why = (bytes: Uint8Array, kept: readonly Attachment[] = []): string => {
      const result = admitAttachment('page.pdf', bytes, kept);
      return result.ok ? result.value : (result.problems[0]?.text ?? '');
    };
    expect(why(png)).toBe('image/png');
    expect(why(strToU8('RIFF....WEBP'))).toBe('image/webp');
    expect(why(new Uint8Array())).toContain('is empty');
    expect(why(strToU8('PK\u0003\u0004'))).toContain('no PDF, PNG, JPEG or WebP');
    const large = new Uint8Array(mostAttachmentBytes + 1);
    large.set(png);
    expect(why(large)).toContain('at most 8.0 MB');
    expect(why(png, [{ id: 'a', name: 'a', type: 'image/png', bytes: 40_000_000 }])).toContain('Take one out first');
  });

  it('of a new job is valid', () => {
    expect(jobSchema.safeParse(newJob('a', 'A', '2026-01-02T03:04:05Z')).success).toBeTrue();
  });

  it('of version 1 is brought up: one pair of temperatures becomes two, tolerance and coverage get their defaults', () => {
    const { tolerance: _t, coverage: _c, ...job } = teasel();
    const { recordLowC: _a, recordHighC: _b, bankLowC: _d, bankHighC: _e, coolingCPerHour: _f, ...site } = job.system.site;
    const old = { ...job, version: 1, system: { ...job.system, site: { ...site, coldestC: -14, hottestC: 36 } } };
    const read = toJob(JSON.parse(JSON.stringify(old)));
    expect(read.ok).toBeTrue();
    if (!read.ok) return;
    expect(read.value.version).toBe(jobVersion);
    expect(read.value.system.site).toEqual({ ...site, recordLowC: -14, recordHighC: 36, bankLowC: -14, bankHighC: 36, coolingCPerHour: 5 });
    expect(read.value.coverage).toBe(2);
    expect(read.value.name).toBe(job.name);
  });

  it('of version 2 keeps what counted then: one sheet, no documents, every rank', () => {
    const { otherSheets: _o, attachments: _a, ...job } = teasel();
    const { reference: _r, ...schools } = job.schools;
    const { companions: _c, ...system } = job.system;
    const read = toJob(JSON.parse(JSON.stringify({ ...job, version: 2, schools, system })));
    expect(read.ok && [read.value.otherSheets, read.value.attachments, read.value.schools.reference]).toEqual([[], [], 'bestAvailable']);
  });

  it('of version 4, as it was written then, opens unchanged and has rehearsed nothing', () => {
    const text = readFileSync(new URL('../testing/job-version-4.json', import.meta.url), 'utf8');
    const read = readJob(text);
    if (!read.ok) throw new Error(read.problems[0]?.text);
    expect(read.value).toEqual({
      ...(JSON.parse(text) as Job),
      version: jobVersion,
      rehearsal: null,
      programming: null,
      pastSheets: [],
      snapshots: [],
      tests: [],
      visits: [],
      recheckMonths: 12,
    });
  });

  it('of version 3, as it was written then, keeps what it says and gets the later schools’ defaults', () => {
    const text = readFileSync(new URL('../testing/job-version-3.json', import.meta.url), 'utf8');
    const old = JSON.parse(text) as Job;
    const read = readJob(text);
    if (!read.ok) throw new Error(read.problems[0]?.text);
    expect(read.value.version).toBe(jobVersion);
    expect([read.value.choices, read.value.accepted]).toEqual([[], []]);
    expect(read.value.schools).toEqual({ ...defaultSchools, ...old.schools });
    expect(read.value.system.chargers.map((c) => c.present)).toEqual(old.system.chargers.map((c) => c.present));
    // A card of that time names no own-figures entry: the battery type is left, and says so.
    expect(deriveSettings(read.value).setting('fore', 'batteryType')?.noValue).toBe('left');
  });

  it('of every earlier version opens, is valid, and is the same job', () => {
    for (let version = 1; version < jobVersion; version++) {
      const text = readFileSync(new URL(`../testing/job-version-${version}.json`, import.meta.url), 'utf8');
      const old = JSON.parse(text) as Job;
      expect(old.version as number).toBe(version);
      const read = readJob(text);
      if (!read.ok) throw new Error(`version ${version}: ${read.problems.map((p) => p.text).join(' ')}`);
      expect([read.value.version, read.value.id, read.value.name, read.value.sheet, read.value.system.chargers.map((c) => c.present)]).toEqual([
        jobVersion,
        old.id,
        old.name,
        old.sheet,
        old.system.chargers.map((c) => c.present),
      ]);
      // Written again it is a job of today, and stays as it is.
      expect(readJob(writeJob(read.value))).toEqual(read);
    }
  });

  it('refuses a follower of nobody or of itself', () => {
    const following = (follows: string) => {
      const job = teasel();
      const chargers = job.system.chargers.map((c) => (c.id === 'fore' ? { ...c, follows } : c));
      return refusal(JSON.stringify({ ...job, system: { ...job.system, chargers } }));
    };
    expect(following('nobody')).toContain('follows nobody itself');
    expect(following('fore')).toContain('follows nobody itself');
  });

  it('refuses two sheets of one id', () => {
    expect(refusal(JSON.stringify({ ...teasel(), otherSheets: [teasel().sheet] }))).toContain('is there twice');
  });

  it('says in a sentence what is wrong, where, and what to do', () => {
    expect(refusal('')).toContain('empty');
    expect(refusal('{"format": "calm-keel/job", ')).toContain('not readable JSON');
    expect(refusal('[1, 2]')).toContain('not a Calm Keel job file');
    expect(refusal('{"format":"calm-keel/card","version":1}')).toContain('calm-keel/card');
    expect(refusal(JSON.stringify({ ...teasel(), version: 99 }))).toContain('Update the program');
    expect(refusal(JSON.stringify({ ...teasel(), version: 'two' }))).toContain('which version');
    expect(refusal(JSON.stringify({ ...teasel(), name: '' }))).toContain('name: give the job a name');
    expect(refusal(JSON.stringify({ ...teasel(), coverage: 'much' }))).toContain('coverage');
    expect(refusal('x'.repeat(20_000_001))).toContain('larger than');
  });

  it('does not open one that reaches into prototypes, and leaves Object alone', () => {
    const hostile = writeJob(teasel()).replace('"note":', '"__proto__": {"polluted": true}, "note":');
    expect(refusal(hostile)).toContain('__proto__');
    expect(({} as { polluted?: boolean }).polluted).toBeUndefined();
    expect(refusal(writeJob(teasel()).replace('"place":', '"constructor": {"prototype": {}}, "place":'))).toContain('constructor');
  });

  it('keeps markup in names as the text it is, and refuses control characters', () => {
    const name = '<script>alert(1)</script> & "Teasel"';
    const job = readJob(writeJob({ ...teasel(), name }));
    expect(job.ok && job.value.name).toBe(name);
    expect(refusal(JSON.stringify({ ...teasel(), name: 'a\u0000b' }))).toContain('control characters');
  });

  it('never throws, whatever is cut out of it', () => {
    const text = writeJob(teasel());
    for (let cut = 0; cut < text.length; cut += 211) expect(() => readJob(text.slice(0, cut))).not.toThrow();
    const document = JSON.parse(text) as Record<string, unknown>;
    for (const key of Object.keys(document)) for (const bad of [null, 7, 'x', [], {}, true]) expect(() => toJob({ ...document, [key]: bad })).not.toThrow();
  });
});

describe('a slip of one letter in a name', () => {
  /** Every place of a document where a name could be misspelt: the path of the object and the name. */
  function names(value: unknown, path: readonly (string | number)[] = []): readonly (readonly [readonly (string | number)[], string])[] {
    if (Array.isArray(value)) return value.flatMap((item, i) => names(item, [...path, i]));
    if (typeof value !== 'object' || value === null) return [];
    return Object.entries(value).flatMap(([key, inner]) => [[path, key] as const, ...names(inner, [...path, key])]);
  }
  function misspelt(document: object, [path, key]: readonly [readonly (string | number)[], string], at: number): object {
    const copy = JSON.parse(JSON.stringify(document)) as object;
    const inner = path.reduce<Record<string | number, unknown>>((o, k) => o[k] as Record<string | number, unknown>, copy as Record<string, unknown>);
    const slip = `${key.slice(0, at)}${key.slice(at + 1)}`;
    if (slip !== '' && !Object.hasOwn(inner, slip)) inner[slip] = inner[key];
    delete inner[key];
    return copy;
  }

  it('is refused, or named and held aside with its value: nothing of a job, a sheet, a card or a mapping is dropped without a word', () => {
    const random = randomFrom(9);
    const mapping = guessMapping('time,bank_V\n2026-06-14T05:00:00Z,26.5\n2026-06-14T05:00:10Z,26.6\n', (text, s) => text.split('\n').map((l) => l.split(s)), {
      chargers: [],
      cells: 8,
    } as never);
    if (!mapping.ok) throw new Error(mapping.problems[0]?.text);
    const kinds: readonly (readonly [string, object, (d: unknown) => { ok: boolean; value?: unknown }])[] = [
      ['job', wholeTeasel(), toJob],
      ['card', wholeTeasel().cards[0]!, toCard],
      ['sheet', wholeTeasel().sheet, toSheet],
      ['mapping', mapping.value.mapping, toMapping],
    ];
    for (const [kind, document, read] of kinds) {
      const places = names(document);
      let held = 0;
      for (let n = 0; n < rounds(400); n++) {
        const place = places[Math.floor(random() * places.length)]!;
        const given = misspelt(document, place, Math.floor(random() * place[1].length));
        const result = read(JSON.parse(JSON.stringify(given)));
        if (!result.ok) continue;
        const back = result.value as { aside?: { place: string; json: string }[] };
        const before = JSON.stringify(document).length;
        // What was read together with what is held aside says no less than was given.
        expect(JSON.stringify(back).length)
          .withContext(`${kind} ${place.join('/')}`)
          .toBeGreaterThanOrEqual(before - 3);
        if (back.aside) held++;
      }
      if (kind !== 'mapping') expect(held).withContext(kind).toBeGreaterThan(0);
    }
  });

  it('in the most of a figure is told with its place', () => {
    const job = teasel();
    const { absorbVoltage } = job.sheet.figures;
    const { max, ...rest } = absorbVoltage as { max: number };
    const read = toJob({ ...job, sheet: { ...job.sheet, figures: { ...job.sheet.figures, absorbVoltage: { ...rest, maks: max } } } });
    expect(read.ok && read.value.aside).toEqual([{ place: 'sheet › figures › absorbVoltage › maks', json: String(max) }]);
    expect(read.ok && toJob(JSON.parse(writeJob(read.value)))).toEqual(read);
  });
});

describe('the bundle', () => {
  const entry = { id: 'day', name: 'Day', instrument: 'monitor', from: 0, to: 10, rows: 2 };
  const csv = 'time,bank_V\n2026-06-14T05:00:00Z,26.5\n2026-06-14T05:00:10Z,26.6\n';

  it('carries job and logs, and equal content gives equal bytes', () => {
    const bundle = { job: { ...teasel(), logs: [entry] }, logs: { day: csv }, files: {} };
    const bytes = writeBundle(bundle);
    expect(isZip(bytes)).toBeTrue();
    expect(writeBundle(bundle)).toEqual(bytes);
    const read = readBundle(bytes);
    expect(read.ok && read.value).toEqual({ ...bundle, missing: [] });
  });

  it('reads a plain job file too, and names the logs that are not in it', () => {
    const read = readBundle(strToU8(writeJob({ ...teasel(), logs: [entry] })));
    expect(read.ok && read.value.missing).toEqual(['Day']);
    expect(read.ok && read.value.job.logs).toEqual([]);
  });

  it('refuses other zips, broken ones and paths that lead elsewhere', () => {
    const other = readBundle(zipSync({ 'letter.txt': strToU8('hello') }));
    expect(!other.ok && other.problems[0]?.text).toContain('job.json');
    const cut = readBundle(writeBundle({ job: teasel(), logs: {}, files: {} }).slice(0, 200));
    expect(!cut.ok && cut.problems[0]?.code).toBe('bundle-broken');
    const sneaky = readBundle(zipSync({ 'job.json': strToU8(writeJob(teasel())), 'logs/../../x.csv': strToU8('a') }));
    expect(sneaky.ok && Object.keys(sneaky.value.logs)).toEqual([]);
  });
});

describe('changes', () => {
  it('that name something the job has not leave it as it is', () => {
    const job = teasel();
    for (const change of [
      { kind: 'clearOverride', charger: 'nobody', role: 'absorbVoltage' },
      { kind: 'recordPresent', charger: 'nobody', role: 'absorbVoltage', value: 1 },
      { kind: 'setBasis', figure: 'nothing', basis: 'cell' },
      { kind: 'setSchool', school: 'lithiumFloat', to: 'sideways' },
    ] as const)
      expect(applyChange(job, change)).toEqual(job);
  });
});
