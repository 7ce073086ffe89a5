import { stages } from '../../charger';
import { guessFields, logOfMoments, mappingProblems, valuesOfDevice, valuesOfFields, type Mapping, type Moment } from './index';

const context = {
  chargers: [
    { id: 'fore', name: 'Solar fore' },
    { id: 'aft', name: 'Solar aft' },
  ],
  nominalVolts: 25.6,
};
const guessed = (sample: Readonly<Record<string, string>>, fileName?: string): Mapping => {
  const guess = guessFields([sample], { ...context, ...(fileName === undefined ? {} : { fileName }) });
  if (!guess.ok) throw new Error(guess.problems[0]?.text);
  return guess.value.mapping;
};
const meanings = (m: Mapping): unknown => Object.fromEntries(m.columns.map((c) => [c.header, [c.meaning, c.charger, c.unit].filter(Boolean).join(' ')]));
const rounded = (data: ArrayLike<number> | undefined): number[] => Array.from(data ?? [], (v) => Number(v.toFixed(3)));

describe('the fields of a device that only talks', () => {
  it('are guessed like the columns of a file, without needing a time', () => {
    const gateway = guessed({
      time: '1781400000',
      'bank.volts': '26.5',
      'bank.amps': '-3.2',
      'bank.celsius': '18',
      'fore.amps': '4',
      'fore.stage': 'absorb',
      'aft.amps': '5',
    });
    expect(meanings(gateway)).toEqual({
      time: 'ignore',
      'bank.volts': 'bankVolts V',
      'bank.amps': 'bankAmps A',
      'bank.celsius': 'batteryC degC',
      'fore.amps': 'amps fore A',
      'fore.stage': 'stage fore',
      'aft.amps': 'amps aft A',
    });
    expect([mappingProblems(gateway, true), mappingProblems(gateway).length]).toEqual([[], 1]);
    // Under the address of a charger its volts and amps are that charger’s own.
    expect(meanings(guessed({ volts: '26.5', amps: '3' }, 'Solar aft'))).toEqual({ volts: 'volts aft V', amps: 'amps aft A' });
    expect(meanings(guessed({ volts: '26.5', amps: '3', charge: '81 %', 'battery temp': '18.4 C' }))).toEqual({
      volts: 'bankVolts V',
      amps: 'bankAmps A',
      charge: 'stateOfCharge percent',
      'battery temp': 'batteryC degC',
    });
    expect(guessFields([], context).ok).toBeFalse();
  });

  it('say what they mean in units of the core, and nothing where they are no number', () => {
    const mapping: Mapping = {
      ...guessed({ a: '1' }),
      decimal: ',',
      columns: [
        { header: 'a', meaning: 'bankVolts', unit: 'mV' },
        { header: 'b', meaning: 'bankAmps', unit: 'A', negated: true },
        { header: 'c', meaning: 'batteryC', unit: 'degF', sensor: 'fore' },
        { header: 'd', meaning: 'stage', charger: 'fore' },
        { header: 'e', meaning: 'ignore' },
      ],
      stages: { Boost: 'absorb' },
    };
    expect([...valuesOfFields(mapping, { a: '26510,5', b: '3,5', c: '50', d: 'boost', e: '7' })].map(([k, v]) => [k, Number(v.toFixed(4))])).toEqual([
      ['bankVolts', 26.5105],
      ['bankAmps', -3.5],
      ['batteryC fore', 10],
      ['stage fore', stages.indexOf('absorb')],
    ]);
    expect([...valuesOfFields(mapping, { a: 'fault', b: '', d: 'dreaming' })]).toEqual([]);
    expect([...valuesOfFields(mapping, { d: 'float' })]).toEqual([['stage fore', stages.indexOf('float')]]);
  });
});

describe('moments as a log', () => {
  const moments = (...values: Readonly<Record<string, number>>[]): Moment[] => values.map((v, i) => ({ at: 1000 + i, values: new Map(Object.entries(v)) }));

  it('take the bank from the monitor and each charger from itself', () => {
    const monitor = valuesOfDevice('monitor', false, { volts: 26.5, bankAmps: 9, celsius: 12, charge: 80, loadAmps: 4 });
    expect(Object.fromEntries(monitor)).toEqual({ bankVolts: 26.5, bankAmps: 9, batteryC: 12, stateOfCharge: 80, loadAmps: 4 });
    const fore = valuesOfDevice('fore', true, { volts: 26.6, amps: 10, inputVolts: 60, inputWatts: 270, machineC: 90, stage: 2, celsius: null });
    expect(Object.fromEntries(fore)).toEqual({
      'volts fore': 26.6,
      'amps fore': 10,
      'arrayVolts fore': 60,
      'inputWatts fore': 270,
      'machineC fore': 90,
      'stage fore': 2,
    });
    const log = logOfMoments(
      [
        { at: 1000, values: new Map([...monitor, ...fore]) },
        { at: 1001, values: monitor },
      ],
      60,
    );
    expect(log && [[...log.time], log.offsetMinutes, log.bankVoltsBy]).toEqual([[1000, 1001], 60, undefined]);
    expect(rounded(log?.bankVolts)).toEqual([26.5, 26.5]);
    expect(rounded(log?.loadAmps)).toEqual([4, 4]);
    const own = log?.chargers['fore'];
    expect([rounded(own?.amps), [...(own?.stage ?? [])], rounded(own?.machineC)]).toEqual([
      [10, NaN],
      [2, 255],
      [90, NaN],
    ]);
  });

  it('say that the volts are the chargers’ own where nobody read the bank’s', () => {
    const log = logOfMoments(moments({ 'volts fore': 26.4, 'volts aft': 26.6 }, { 'volts fore': 26.4 }), null);
    expect([rounded(log?.bankVolts), log?.bankVoltsBy]).toEqual([[26.5, 26.4], 'chargers']);
    expect(logOfMoments(moments({ 'amps fore': 3 }), null)).toBeNull();
  });

  it('one sensor writes the temperature all through: the bank’s own, else the first charger’s that has one', () => {
    const own = logOfMoments(moments({ bankVolts: 26, 'batteryC fore': 5 }, { bankVolts: 26, batteryC: 7 }), null);
    expect([rounded(own?.batteryC), own?.batterySensor]).toEqual([[NaN, 7], undefined]);
    const chargers = logOfMoments(moments({ bankVolts: 26, 'batteryC fore': 5 }, { bankVolts: 26, 'batteryC aft': 9 }), null);
    expect([rounded(chargers?.batteryC), chargers?.batterySensor]).toEqual([[5, NaN], 'fore']);
    // A column that nobody ever read is none.
    expect(logOfMoments(moments({ bankVolts: 26 }), null)?.bankAmps).toBeUndefined();
  });
});
