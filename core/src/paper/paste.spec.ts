import { figureInfo, figureKeys, type EntryContext } from '../sheet';
import { meaningOf, readTable } from './index';

const agm: EntryContext = {
  chemistry: 'agm',
  shape: { cellsPerUnit: 6, cellsPerBlock: 6, unitsInSeries: 4, stringsInParallel: 1, unitCapacityAh: 110 },
  basis: 'unit',
};

describe('a table pasted from a document', () => {
  const table = [
    'Parameter\tValue',
    'Bulk / absorption voltage\t2.40 V/cell (2.38–2.42)',
    'Float voltage\t2.27 V/cell',
    'Temperature compensation\t-24 mV/°C per 12 V',
    'Reference temperature: 25 °C',
    'Max. charging current  27 A',
    'Taper current | 0.02 C',
    'Colour\tblue',
    '',
    'Equalise\tnot permitted',
    'Operating hint without a value',
    'Float voltage\t2.30 V/cell',
    'Absorption time\t90 kV',
  ].join('\r\n');
  const rows = readTable(table, agm);
  const at = (line: number) => rows.find((r) => r.line === line);

  it('leaves an empty cell empty: what stands behind it stays under its head', () => {
    const [float, charge] = readTable('Parameter\tMin.\tTyp.\tMax.\nFloat voltage\t\t13.6 V\t\nCharge voltage\t\t\t14.4 V', agm).filter((r) => r.entry);
    expect([float?.entry?.min, float?.entry?.target, float?.entry?.max]).toEqual([undefined, 13.6, undefined]);
    expect([charge?.entry?.min, charge?.entry?.target, charge?.entry?.max]).toEqual([undefined, undefined, 14.4]);
  });

  it('fills the figures it names, on their own basis', () => {
    expect(at(2)).toEqual(
      jasmine.objectContaining({ key: 'absorbVoltage', entry: jasmine.objectContaining({ basis: 'cell', min: 2.38, target: 2.4, max: 2.42 }) }),
    );
    expect(at(4)?.entry).toEqual(jasmine.objectContaining({ basis: 'block', target: -0.024 }));
    expect([at(5)?.key, at(6)?.key, at(7)?.key]).toEqual(['compensationReference', 'chargeCurrentMax', 'taperCurrent']);
    expect(at(10)?.entry?.state).toBe('notPermitted');
  });

  it('says of every other line why it fills nothing, by its number', () => {
    expect(at(1)?.problem).toEqual({ code: 'silent' });
    expect(at(8)?.problem).toEqual({ code: 'unknown' });
    expect(at(11)?.problem).toEqual({ code: 'silent' });
    expect(at(12)?.problem).toEqual({ code: 'twice', line: 3 });
    expect(at(13)).toEqual(jasmine.objectContaining({ key: 'absorbTime', problem: { code: 'unreadable', value: '90 kV' } }));
    expect(rows.every((r) => (r.problem === null) === (r.entry !== null))).toBeTrue();
  });

  it('knows every figure by its own name', () => {
    for (const key of figureKeys)
      for (const chemistry of figureInfo[key].chemistries)
        expect(meaningOf(figureInfo[key].name, chemistry)).withContext(key).toEqual({ kind: 'figure', key, weak: false });
  });

  it('takes no setting of a charge controller for a figure that sounds like it', () => {
    const lfp: EntryContext = {
      chemistry: 'lfp',
      shape: { cellsPerUnit: 4, cellsPerBlock: 4, unitsInSeries: 1, stringsInParallel: 1, unitCapacityAh: 100 },
      basis: 'unit',
    };
    const mail = [
      'High voltage disconnect 14.6 V',
      'Absorption 14.2 V',
      'Absorption extension 12.5 V',
      'Float 13.5 V',
      'Float cancel 11.5 V',
      'Boost reconnect 13.2 V',
      'Equalization: Disabled',
      'Low voltage disconnect 11.6 V',
      'Low voltage reconnect 12.6 V',
    ];
    const read = readTable(mail.join('\n'), lfp);
    const filled = Object.fromEntries(read.flatMap((r) => (r.entry && r.key ? [[r.key, r.entry.target ?? r.entry.max ?? r.entry.state]] : [])));
    expect(filled).toEqual({
      absorbVoltage: 14.2,
      floatVoltage: 13.5,
      rechargeVoltage: 13.2,
      equaliseVoltage: 'notNeeded',
      disconnectVoltage: 11.6,
      reconnectVoltage: 12.6,
    });
    expect(read.filter((r) => r.problem?.code === 'foreign').map((r) => r.line)).toEqual([1, 3, 5]);
  });
});
