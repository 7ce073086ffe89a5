import { figureInfo, figureKeys, figureNamed, readTable, type EntryContext } from './index';

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

  it('fills the figures it names, on their own basis', () => {
    expect(at(2)).toEqual(
      jasmine.objectContaining({ key: 'absorbVoltage', entry: jasmine.objectContaining({ basis: 'cell', min: 2.38, target: 2.4, max: 2.42 }) }),
    );
    expect(at(4)?.entry).toEqual(jasmine.objectContaining({ basis: 'block', target: -0.024 }));
    expect([at(5)?.key, at(6)?.key, at(7)?.key]).toEqual(['compensationReference', 'chargeCurrentMax', 'taperCurrent']);
    expect(at(10)?.entry?.state).toBe('notPermitted');
  });

  it('says of every other line why it fills nothing, by its number', () => {
    expect(at(1)?.problem?.code).toBe('paste-unknown');
    expect(at(8)?.problem?.code).toBe('paste-unknown');
    expect(at(11)?.problem?.code).toBe('paste-no-value');
    expect(at(12)?.problem?.text).toContain('already stands on line 3');
    expect(at(13)?.problem?.text).toContain('“kv”');
    expect(rows.every((r) => (r.problem === null) === (r.entry !== null))).toBeTrue();
  });

  it('knows every figure by its own name', () => {
    for (const key of figureKeys)
      for (const chemistry of figureInfo[key].chemistries) expect(figureNamed(figureInfo[key].name, chemistry)).withContext(key).toBe(key);
  });

  it('knows a figure under the names documents use', () => {
    expect(figureNamed('Discharge cut-off voltage', 'lfp')).toBe('disconnectVoltage');
    expect(figureNamed('Over-voltage protection (BMS)', 'lfp')).toBe('bmsOverVoltage');
    expect(figureNamed('Recommended charge current', 'lfp')).toBe('chargeCurrentRecommended');
    expect(figureNamed('Standby use', 'agm')).toBe('floatVoltage');
    expect(figureNamed('Weight', 'agm')).toBeNull();
  });
});
