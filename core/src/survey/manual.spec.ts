import { parameterFor, quickCard } from '../card';
import { surveyEnglish as texts } from '../words';
import { cardOfSurvey, manualPages, readManual, startSurvey, type ManualItem } from './index';

const read = (text: string, systemVolts: readonly number[] = [12]) => readManual(text, { kind: 'solarMppt', systemVolts, terms: texts.roleTerms });
const brief = ({ label, role, least, most, step, unit, factory, options }: ManualItem) => [label, role, least, most, step, unit, factory, options.join('/')];

describe('a manual’s table of settings', () => {
  it('with heads is read column by column, in any order', () => {
    const { items, leftOut } = read(
      [
        'No.\tParameter\tRange\tStep\tDefault\tUnit',
        '01\tBattery type\tGEL / AGM / USER\t\tAGM\t',
        '02\tAbsorption voltage\t12.0–16.0\t0.1\t14.4\tV',
        '03\tAbsorption time\t0 to 480\t10\t120\tmin',
        '04\tLow temp cutoff\t-20 ... 10\t1\t0\t°C',
        '05\tAux mode\t\t\t3\t',
      ].join('\n'),
    );
    expect(items.map(brief)).toEqual([
      ['01 Battery type', 'batteryType', undefined, undefined, undefined, 'choice', 'AGM', 'GEL/AGM/USER'],
      ['02 Absorption voltage', 'absorbVoltage', 12, 16, 0.1, 'V', '14.4', ''],
      ['03 Absorption time', 'absorbTime', 0, 480, 10, 'min', '120', ''],
      ['04 Low temp cutoff', 'lowTempCutoff', -20, 10, 1, '°C', '0', ''],
      ['05 Aux mode', undefined, undefined, undefined, undefined, undefined, '3', ''],
    ] as never);
    expect(leftOut).toEqual([]);
  });

  it('with least and most in columns of their own', () => {
    const [float] = read('Setting | Min | Max | Default\nFloat voltage | 13,0 V | 15,0 V | 13,6 V').items;
    expect(brief(float!)).toEqual(['Float voltage', 'floatVoltage', 13, 15, undefined, 'V', '13,6 V', '']);
  });

  it('without heads is read line by line: value, range and step in any order', () => {
    const { items, leftOut } = read(
      [
        'Settings of the charger',
        'Float voltage: 13.6 V (13.0–15.0 V, step 0.1 V)',
        'P05  Restart voltage  12.6 V',
        'High voltage disconnect\t15.5 V\t14.0-17.0 V',
        'Load mode\ton, off, dusk',
      ].join('\n'),
    );
    expect(items.map(brief)).toEqual([
      ['Float voltage', 'floatVoltage', 13, 15, 0.1, 'V', '13.6 V', ''],
      ['P05 Restart voltage', 'rechargeVoltage', undefined, undefined, undefined, 'V', '12.6 V', ''],
      ['High voltage disconnect', 'highVoltageAlarm', 14, 17, undefined, 'V', '15.5 V', ''],
      ['Load mode', 'loadMode', undefined, undefined, undefined, 'choice', undefined, 'on/off/dusk'],
    ] as never);
    expect(leftOut).toEqual([{ line: 1, text: 'Settings of the charger' }]);
  });

  it('says in which unit it counts by the size of its factory value', () => {
    expect(read('Absorption voltage\t14.4 V\t12.0–16.0 V', [48]).items[0]?.unit).toBe('V/12V');
    expect(read('Absorption voltage\t57.6 V\t48.0–64.0 V', [48]).items[0]?.unit).toBe('V');
  });

  it('takes no meaning that only its size speaks for, and never one twice', () => {
    expect(read('Aux 3\t13.7 V\t12–15 V').items[0]?.role).toBeUndefined();
    expect(read('Float voltage\t13.6 V\nFloat voltage\t13.5 V').items.map((i) => i.role)).toEqual(['floatVoltage', undefined]);
  });

  it('of anything else is left out line by line, and a flood is cut', () => {
    expect(read('\u0000\u0001 %% \n----\nNothing here').items).toEqual([]);
    expect(read('Nothing here').leftOut.length).toBe(1);
    expect(read(Array.from({ length: 400 }, (_, i) => `Setting ${i}\t1–2`).join('\n')).items.length).toBe(300);
  });

  it('gives a card its ranges, steps and factory values, and nothing as found', () => {
    const start = startSurvey(
      quickCard({ id: 'mine', maker: 'O', model: 'Q', kind: 'solarMppt', outputA: 40, systemVolts: [12], inputVoltsMax: 100 }),
      '2026-06-09',
    );
    const { items } = read('Float voltage: 13.6 V (13.0–15.0 V, step 0.1 V)\nBattery type\tGEL, AGM\tAGM');
    const card = cardOfSurvey({ ...start, items: items.map((item, i) => ({ ...item, id: `i${i + 1}` })) }, texts);
    expect(parameterFor(card, 'floatVoltage')).toEqual(jasmine.objectContaining({ min: 13, max: 15, step: 0.1, factory: 13.6, label: 'Float voltage' }));
    expect(parameterFor(card, 'floatVoltage')).not.toEqual(jasmine.objectContaining({ notKnown: jasmine.anything() }));
    expect(parameterFor(card, 'batteryType')).toEqual(jasmine.objectContaining({ factory: 'AGM' }));
    // A factory value that the range has not is none.
    const odd = cardOfSurvey({ ...start, items: [{ ...items[0]!, id: 'i1', factory: '17 V' }] }, texts);
    expect(parameterFor(odd, 'floatVoltage')?.factory).toBeUndefined();
  });
});

describe('the pages of a manual', () => {
  const at = { kind: 'solarMppt' as const, systemVolts: [12], terms: texts.roleTerms };
  const table = 'Parameter\tRange\tStep\nFloat voltage\t13.0–15.0 V\t0.1 V\nAbsorption voltage\t13.0–15.5 V\t0.1 V\nRestart voltage\t12.0–13.5 V\t0.1 V';
  const prose = 'Mount the charger upright. Leave 100 mm of air around it.\nTorque: 2.5 Nm\nWeight  1.4 kg';

  it('are those with a table of settings; which they are is said', () => {
    expect(manualPages([prose, table, prose, table], at)).toEqual({ text: `${table}\n${table}`, pages: [2, 4] });
    expect(manualPages([prose, prose], at)).toEqual({ text: '', pages: [] });
  });

  it('need three settings with more than a name and a value, unless there is only the one page', () => {
    const two = table.split('\n').slice(0, 3).join('\n');
    expect(manualPages([two, prose], at).pages).toEqual([]);
    expect(manualPages([table, prose], at).pages).toEqual([1]);
    expect(manualPages([prose], at).pages).toEqual([1]);
  });

  it('with an empty cell keep what stands behind it in its column', () => {
    const [item] = readManual('Parameter\tMin\tMax\tStep\tDefault\nFloat voltage\t\t15.0 V\t\t13.6 V', at).items;
    expect([item?.least, item?.most, item?.step, item?.factory]).toEqual([undefined, 15, undefined, '13.6 V']);
    const [barred] = readManual('| Parameter | Min | Max | Default |\n|---|---|---|---|\n| Float voltage | | 15.0 V | 13.6 V |', at).items;
    expect([barred?.label, barred?.least, barred?.most, barred?.factory]).toEqual(['Float voltage', undefined, 15, '13.6 V']);
  });
});
