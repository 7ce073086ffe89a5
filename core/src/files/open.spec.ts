import { gzipSync, strFromU8, strToU8, zipSync } from 'fflate';
import { madeWorkbook, serialOf, type MadeCell } from '../testing/workbook';
import { readCsv } from '../testing/logs';
import { seeded } from '../testing/fixtures';
import { openFile, type Opened } from './index';

const bytesOf = (content: Uint8Array | string): Uint8Array => (typeof content === 'string' ? strToU8(content) : content);
async function opened(name: string, bytes: Uint8Array | string): Promise<Opened> {
  const result = await openFile(name, bytesOf(bytes));
  if (!result.ok) throw new Error(result.problems[0]?.text);
  return result.value;
}
async function refusal(name: string, bytes: Uint8Array | string): Promise<{ code: string; text: string }> {
  const result = await openFile(name, bytesOf(bytes));
  const problem = result.ok ? undefined : result.problems[0];
  return { code: problem?.code ?? 'opened', text: problem?.text ?? '' };
}
const textsOf = ({ inside }: Opened): string[] => inside.map((i) => strFromU8(i.content));
const first = async (bytes: Uint8Array): Promise<string> => textsOf(await opened('log.xlsx', bytes))[0] ?? '';

describe('a spreadsheet', () => {
  it('is the same log as its text, with dates of either epoch, to the second', async () => {
    const minutes = Array.from({ length: 90 }, (_, i) => new Date(Date.UTC(2026, 5, 14, 23, 30) + i * 61_000).toISOString());
    const volts = minutes.map((_, i) => Number((26 + i * 0.01).toFixed(2)));
    const asText = readCsv(`time,bank_V\n${minutes.map((m, i) => `${m.slice(0, 19)},${volts[i]}`).join('\n')}\n`, []);
    if (!asText.ok) throw new Error('text');
    for (const from1904 of [false, true])
      for (const dated of [true, false]) {
        const rows = minutes.map((m, i): MadeCell[] => {
          const serial = serialOf(m, from1904);
          return [dated ? { serial, as: 'both' } : serial, volts[i] ?? 0];
        });
        const read = readCsv(await first(madeWorkbook({ Log: [['time', 'bank_V'], ...rows] }, { from1904 })), []);
        if (!read.ok) throw new Error(read.problems[0]?.text);
        expect([...read.value.log.time])
          .withContext(`${from1904} ${dated}`)
          .toEqual([...asText.value.log.time]);
        expect([...read.value.log.bankVolts]).toEqual([...asText.value.log.bankVolts]);
      }
  });

  it('writes days, times of day and both as what they are, midnight included', async () => {
    const day = serialOf('2026-06-14T00:00:00Z');
    const text = await first(
      madeWorkbook({
        Log: [
          ['date', 'clock', 'stamp', 'V'],
          [{ serial: day, as: 'date' }, { serial: 0, as: 'time' }, { serial: day, as: 'both' }, 26.4],
          [{ serial: day, as: 'date' }, { serial: 0.25, as: 'time' }, { serial: day + 0.25 + 1.5 / 86_400, as: 'both' }, 0.1 + 0.2],
        ],
      }),
    );
    expect(text).toBe('date\tclock\tstamp\tV\n2026-06-14\t00:00:00\t2026-06-14 00:00:00\t26.4\n2026-06-14\t06:00:00\t2026-06-14 06:00:01.500\t0.3\n');
  });

  it('takes numbers for dates under a head that names a time only', async () => {
    const serial = serialOf('2026-06-14T12:00:00Z');
    const text = await first(
      madeWorkbook({
        Log: [
          ['Time', 'energy'],
          [serial, serial],
          [serial + 0.5, 45_000],
        ],
      }),
    );
    expect(text.split('\n')[1]).toBe(`2026-06-14 12:00:00\t${serial}`);
    // Seconds since 1970 under the same head are none of its days.
    expect(
      (
        await first(
          madeWorkbook({
            Log: [
              ['Time', 'V'],
              [1_781_400_000, 26],
              [1_781_400_010, 26],
            ],
          }),
        )
      ).split('\n')[1],
    ).toBe('1781400000\t26');
  });

  it('reads what a formula came to, and nothing where it failed or was never worked out', async () => {
    const text = await first(
      madeWorkbook(
        {
          Log: [
            ['Calm log', null, null, null],
            ['time', 'V', 'A', 'W'],
            ['2026-06-14 05:00:00', { formula: 'B1*2', value: 26.5 }, { error: '#DIV/0!' }, { formula: 'B1&A1', value: null }],
            ['tab\there', { formula: 'A1', value: 'bulk' }, null, 3],
          ],
        },
        { merged: ['A1:D1'] },
      ),
    );
    expect(text).toBe('Calm log\t\t\t\ntime\tV\tA\tW\n2026-06-14 05:00:00\t26.5\t\t\ntab here\tbulk\t\t3\n');
  });

  it('says of cells merged over rows that only the first holds the value; a title across columns is none of that', async () => {
    const rows: MadeCell[][] = [
      ['a', 'b'],
      [1, 2],
      [3, null],
    ];
    expect((await opened('m.xlsx', madeWorkbook({ Log: rows }, { merged: ['B2:B3'] }))).leftOut).toEqual([
      '“m.xlsx” has cells that were merged over several rows: their value is in the first row only.',
    ]);
    expect((await opened('m.xlsx', madeWorkbook({ Log: rows }, { merged: ['A1:B1'] }))).leftOut).toEqual([]);
  });

  it('is one table a sheet; empty ones and programs are named', async () => {
    const two = await opened('book.xlsx', madeWorkbook({ Fore: [['a'], [1]], Aft: [['b'], [2]], Notes: [['kind regards']], Blank: [] }, { macros: true }));
    expect(two.inside.map((i) => i.name)).toEqual(['book.xlsx › Fore', 'book.xlsx › Aft']);
    expect(two.inside.map((i) => i.own)).toEqual(['Fore', 'Aft']);
    expect(two.leftOut).toEqual([
      '“book.xlsx” carries a program (macros). It was not run; only cells were read.',
      '“book.xlsx › Notes” has one row only. It was left out.',
      '“book.xlsx › Blank” has no rows. It was left out.',
    ]);
    expect((await opened('one.xlsx', madeWorkbook({ Log: [['a'], [1]] }))).inside.map((i) => i.name)).toEqual(['one.xlsx']);
    expect((await refusal('none.xlsx', madeWorkbook({ Log: [['a']] }))).code).toBe('file-empty');
  });

  it('that does not hold together is refused in a sentence, wherever it is broken', async () => {
    const whole = madeWorkbook({
      Log: [
        ['time', 'V'],
        ['2026-06-14 05:00:00', 26],
      ],
    });
    const random = seeded(5);
    let refused = 0;
    for (let k = 0; k < 300; k++) {
      const broken = whole.slice();
      for (let n = 0; n < 4; n++) broken[8 + Math.floor(random() * (broken.length - 8))] = Math.floor(random() * 256);
      const result = await openFile('log.xlsx', bytesOf(k % 3 === 0 ? whole.slice(0, 8 + Math.floor(random() * (whole.length - 9))) : broken));
      if (!result.ok) {
        refused++;
        expect(result.problems[0]?.text).toContain('“log.xlsx”');
      }
    }
    // What is not read (the list of types) may be altered; everything else is seen.
    expect(refused).toBeGreaterThan(200);
  });
});

describe('a file that holds others', () => {
  const day = (n: number): string => `time,bank_V\n2026-06-${n}T05:00:00Z,26.${n}\n2026-06-${n}T05:00:10Z,26.${n}\n`;

  it('a text is given back as it is', async () => {
    const { inside, leftOut } = await opened('day.csv', day(14));
    expect([inside[0]?.name, textsOf({ inside, leftOut })[0], leftOut.length]).toEqual(['day.csv', day(14), 0]);
  });

  it('a zip gives its files, spreadsheets opened; what is no log of anybody is passed over', async () => {
    const zip = zipSync({
      'june/14.csv': strToU8(day(14)),
      'june/15.xlsx': madeWorkbook({
        Log: [
          ['time', 'V'],
          ['2026-06-15 05:00:00', 26],
        ],
      }),
      '__MACOSX/june/._14.csv': strToU8('x'),
      'june/': new Uint8Array(),
      'inner.zip': zipSync({ 'a.csv': strToU8(day(16)) }),
    });
    const { inside, leftOut } = await opened('june.zip', zip);
    expect(inside.map((i) => i.name)).toEqual(['june.zip › june/14.csv', 'june.zip › june/15.xlsx']);
    expect(inside.map((i) => i.own)).toEqual(['june/14.csv', 'june/15.xlsx']);
    expect(textsOf({ inside, leftOut })[0]).toBe(day(14));
    expect(leftOut).toEqual(['“june.zip › inner.zip” is a zip within a zip. It was left out; bring it in by itself.']);
  });

  it('more files than are opened are said, not dropped', async () => {
    const many = zipSync(Object.fromEntries(Array.from({ length: 803 }, (_, i) => [`${i}.csv`, strToU8('a,b\n')])), { level: 0 });
    const { inside, leftOut } = await opened('many.zip', many);
    expect([inside.length, leftOut.length]).toEqual([800, 1]);
    expect(leftOut[0]).toContain('holds 803 files; the first 800 were read');
  });

  it('one with a password is named: the whole zip, or the file in it', async () => {
    const locked = (only: readonly string[]): Uint8Array => {
      const zip = zipSync({ 'a.csv': strToU8(day(14)), 'b.csv': strToU8(day(15)) }, { level: 0 });
      const view = new DataView(zip.buffer);
      // The mark of a password stands in the directory and before the file itself (APPNOTE 6.3.10, 4.4.4).
      for (let at = 0; at + 46 < zip.length; at++) {
        const directory = view.getUint32(at, true) === 0x02014b50;
        if (directory && only.includes(new TextDecoder().decode(zip.subarray(at + 46, at + 51))))
          view.setUint16(at + 8, view.getUint16(at + 8, true) | 1, true);
      }
      return zip;
    };
    expect((await refusal('safe.zip', locked(['a.csv', 'b.csv']))).text).toContain('only be opened with a password');
    const half = await opened('safe.zip', locked(['b.csv']));
    expect(half.inside.map((i) => i.name)).toEqual(['safe.zip › a.csv']);
    expect(half.leftOut[0]).toContain('“safe.zip › b.csv” can only be opened with a password');
  });

  it('an altered member is left out by name, the others are read', async () => {
    const zip = zipSync({ 'a.csv': strToU8(day(14)), 'b.csv': strToU8(day(15)) }, { level: 0 });
    const at = zip.findIndex((_, i) => new TextDecoder().decode(zip.subarray(i, i + 5)) === '26.15');
    zip[at] = 0x33;
    const { inside, leftOut } = await opened('june.zip', zip);
    expect(inside.map((i) => i.name)).toEqual(['june.zip › a.csv']);
    expect(leftOut).toEqual(['“june.zip › b.csv” is not what was packed: it was cut short or altered. It was left out.']);
  });

  it('one that would swell is not unpacked', async () => {
    const zip = zipSync({ 'a.csv': strToU8(day(14)) });
    const view = new DataView(zip.buffer);
    const at = zip.findIndex((_, i) => i + 4 < zip.length && view.getUint32(i, true) === 0x02014b50);
    view.setUint32(at + 24, 600_000_001, true);
    expect((await refusal('bomb.zip', zip)).code).toBe('file-too-large');
    view.setUint32(at + 24, 600_000_000, true);
    expect((await refusal('bomb.zip', zip)).code).toBe('file-nothing-inside');
  });

  it('a spreadsheet with more cells than can be read is not opened either', async () => {
    const book = madeWorkbook({ Log: [['a'], [1]] });
    const view = new DataView(book.buffer);
    const sheet = book.findIndex(
      (_, i) => i + 60 < book.length && view.getUint32(i, true) === 0x02014b50 && new TextDecoder().decode(book.subarray(i + 46, i + 60)) === 'xl/worksheets/',
    );
    view.setUint32(sheet + 24, 200_000_001, true);
    expect((await refusal('big.xlsx', book)).text).toContain('too many cells');
    view.setUint32(sheet + 24, 199_000_000, true);
    expect((await refusal('big.xlsx', book)).code).toBe('file-broken');
  });

  it('gzip and texts of two bytes a letter are unpacked and recoded', async () => {
    expect(textsOf(await opened('day.csv.gz', gzipSync(strToU8(day(14)))))).toEqual([day(14)]);
    expect((await opened('day.csv.gz', gzipSync(strToU8(day(14))))).inside[0]?.name).toBe('day.csv');
    expect((await refusal('day.csv.gz', gzipSync(strToU8(day(14))).slice(0, 40))).code).toBe('file-broken');
    // Two in one file, as rotating logs are joined; and one whose text was altered while its shape held.
    const two = Uint8Array.of(...gzipSync(strToU8('a,b\n1,2\n')), ...gzipSync(strToU8('3,4\n')));
    expect(textsOf(await opened('two.csv.gz', two))).toEqual(['a,b\n1,2\n3,4\n']);
    const stored = gzipSync(strToU8(day(14)), { level: 0 });
    stored[stored.length - 20] = (stored[stored.length - 20] ?? 0) ^ 1;
    expect((await refusal('day.csv.gz', stored)).code).toBe('file-broken');
    // Letters beyond sixteen bits, and more of them than are recoded at once.
    const long = `time,bank_V,note 💧\n${'2026-06-14T05:00:00Z,26.4,°\n'.repeat(700)}`;
    expect(textsOf(await opened('long.txt', Buffer.from(`\ufeff${long}`, 'utf16le')))).toEqual([long]);
    const little = Buffer.from(`\ufeff${day(14)}`, 'utf16le');
    expect(textsOf(await opened('day.txt', little))).toEqual([day(14)]);
    expect(textsOf(await opened('day.txt', Buffer.from(little).swap16()))).toEqual([day(14)]);
  });

  it('the first bytes of a packed file alone are refused like any that was cut short', async () => {
    const whole = gzipSync(strToU8(day(14)));
    for (const length of [2, 3, 7, 8, 9, 17])
      expect((await refusal('day.csv.gz', whole.slice(0, length))).code)
        .withContext(`${length}`)
        .toBe('file-broken');
  });

  it('what cannot be read says what to do', async () => {
    expect((await refusal('old.xls', new Uint8Array([0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1, 0x1a, 0xe1]))).text).toContain(
      'save it without a password as .xlsx or CSV',
    );
    expect((await refusal('x.ods', zipSync({ mimetype: strToU8('x'), 'content.xml': strToU8('<x/>') }))).text).toContain('OpenDocument');
    expect((await refusal('x.zip', zipSync({}))).code).toBe('file-empty');
    expect((await refusal('x.zip', zipSync({ 'a.csv': strToU8('a') }).slice(0, 60))).code).toBe('file-broken');
  });
});
