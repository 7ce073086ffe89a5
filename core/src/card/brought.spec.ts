import { readdirSync, readFileSync } from 'node:fs';
import { seeded } from '../testing/fixtures';
import { splitRows } from '../testing/logs';
import { cardSchema, deviceGrid, factoryOf, readSettingsText, settingsOn, settingsSaid, type WrittenSetting } from './index';

const folder = new URL('../../../library/cards/', import.meta.url);
const cards = readdirSync(folder).map((name) => cardSchema.parse(JSON.parse(readFileSync(new URL(name, folder), 'utf8'))));
const s45 = cards.find((c) => c.id === 'varrow-s45')!;
const label = (role: string): string => s45.parameters.find((p) => p.role === role)?.label ?? '';
const read = (text: string): readonly WrittenSetting[] => {
  const written = readSettingsText(text, splitRows);
  if (!written.ok) throw new Error(written.problems[0]?.text);
  return written.value;
};
const on = (text: string, volts = 24) => settingsOn(s45, read(text), volts);

describe('a settings file', () => {
  const float = label('floatVoltage');
  it('is a table, lines, or JSON, with names and values in it', () => {
    const one = [{ name: 'Float', value: '26.9' }];
    for (const text of [
      'Float = 26.9',
      'Float: 26.9\n',
      '# export\n[Charge]\nFloat=26.9\n',
      '{"Float":26.9}',
      '{"charge":{"Float":26.9}}',
      '"Float"\t"26.9"\n',
      'Float;26.9\n',
    ])
      expect(read(text)).withContext(text).toEqual(one);
    expect(read('menu,setting,role,set,set_unit\nCharge,Float,floatVoltage,26.9,V\n')).toEqual([{ name: 'Float', value: '26.9', unit: 'V' }]);
    expect(read('[{"name":"Float","value":26.9,"unit":"V"},{"name":"Load","value":true}]')).toEqual([
      { name: 'Float', value: '26.9', unit: 'V' },
      { name: 'Load', value: 'true' },
    ]);
    for (const text of ['', 'nothing here\n', '{"a":', '[1,2]', 'x='.repeat(1)]) expect(readSettingsText(text, splitRows).ok).withContext(text).toBeFalse();
    expect(readSettingsText(Array.from({ length: 601 }, (_, i) => `a${i}=1`).join('\n'), splitRows).ok).toBeFalse();
    expect(readSettingsText(Array.from({ length: 600 }, (_, i) => `a${i}=1`).join('\n'), splitRows).ok).toBeTrue();
  });

  it('goes by the menu’s own labels, the path to them, or the names of roles', () => {
    const p = s45.parameters.find((x) => x.role === 'floatVoltage')!;
    for (const name of [float, float.toUpperCase(), [...p.menu, p.label].join(' / '), 'floatVoltage', 'float voltage'])
      expect(on(`${name} = 27`).values)
        .withContext(name)
        .toEqual({ floatVoltage: 27 });
    expect(on(`${float}y = 27`).leftOut.map((l) => l.why)).toEqual(['No setting of this card is called so.']);
  });

  it('takes what this menu can show and says of the rest why not', () => {
    const why = (text: string): string => on(text).leftOut[0]?.why ?? 'taken';
    expect(why(`${float} = 26.9`)).toBe('taken');
    expect(why(`${float} = 26.9 V`)).toBe('taken');
    expect(on(`${float} = 26900 mV`).values).toEqual({ floatVoltage: 26.9 });
    expect(why(`${float} = 26.95`)).toContain('goes in steps of 0.1');
    expect(why(`${float} = 90`)).toContain('This menu takes');
    expect(why(`${float} = 26.9 A`)).toContain('“A” does not fit here');
    expect(why(`${float} = high`)).toContain('is not a number');
    expect(on(`${float} = 27\n${float} = 26`).leftOut.map((l) => l.why)).toEqual(['It comes twice; the first was taken.']);
    // What a file tells of itself is nothing that was left out.
    expect(on(`serial number = 12\nfirmware = 3.1\n${float} = 27`).leftOut).toEqual([]);
  });

  it('of another model gives nothing, of this one or of an unnamed one it does', () => {
    const other = on(`model = Tessick D30\n${float} = 27`);
    expect([other.values, other.leftOut.map((l) => l.why), other.model]).toEqual([{}, ['The file is of another model.'], 'Tessick D30']);
    for (const name of ['S45', 'Varrow S45', 'varrow s45 rev b', 'VARROW'])
      expect(on(`model = ${name}\n${float} = 27`).values)
        .withContext(name)
        .toEqual({ floatVoltage: 27 });
    expect(on(`model = S4\n${float} = 27`).values).toEqual({});
    expect(on(`${float} = 27`).model).toBeNull();
  });

  it('of every shipped card comes back as it was written, factory values and any value of its grid', () => {
    const random = seeded(12);
    for (const card of cards) {
      const volts = card.ratings.systemVolts.at(-1) ?? 24;
      const wanted = Object.fromEntries(
        card.parameters.flatMap((p) => {
          const grid = p.unit === 'choice' ? p.options.map((o) => o.value) : deviceGrid(p, volts);
          const value = random() < 0.5 ? factoryOf(p, volts) : grid[Math.floor(random() * grid.length)];
          return value === undefined ? [] : [[p.role, value] as const];
        }),
      );
      const text = card.parameters.flatMap((p) => {
        const value = wanted[p.role];
        return value === undefined ? [] : [`${[...p.menu, p.label].join(' › ')}\t${value}`];
      });
      const { values, leftOut } = settingsOn(card, read(['Setting\tValue', ...text].join('\n')), volts);
      expect(leftOut).withContext(card.id).toEqual([]);
      expect(values).withContext(card.id).toEqual(wanted);
    }
  });
});

describe('what a device that only talks says of its settings', () => {
  const said = (fields: Readonly<Record<string, string>>) => settingsSaid(s45, fields, 24);
  const [float, absorb] = (['floatVoltage', 'absorbVoltage'] as const).map((role) => s45.parameters.find((p) => p.role === role)!.label) as [string, string];

  it('is taken by the names of its card; its readings are no settings and nothing left out', () => {
    const { fits, values, leftOut } = said({ volts: '26.4', [float]: '27.0 V', stage: 'Float', [absorb]: '28.2' });
    expect(values).toEqual({ floatVoltage: 27, absorbVoltage: 28.2 });
    expect(fits.map((f) => f.role)).toEqual(['floatVoltage', 'absorbVoltage']);
    expect(leftOut).toEqual([]);
  });

  it('is left out with its reason where this menu cannot show it', () => {
    const { values, leftOut } = said({ [float]: '270', model: 'Tessick D30' });
    expect(values).toEqual({});
    expect(leftOut.map((l) => l.name)).toEqual([float]);
    expect(leftOut[0]?.why).toContain('This menu takes');
  });
});
