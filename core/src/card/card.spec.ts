import { readdirSync, readFileSync } from 'node:fs';
import { numberParameter as parameter, seeded } from '../testing/fixtures';
import { cardSchema, deviceGrid, deviceUnits, fromDevice, parameterFor, toDevice } from './index';

const folder = new URL('../../../library/cards/', import.meta.url);
const cards = readdirSync(folder).map((name) => cardSchema.parse(JSON.parse(readFileSync(new URL(name, folder), 'utf8'))));
const at = { systemVolts: 24, cellsInSeries: 12, ratingA: 45, floatVolts: 27 };

describe('shipped cards', () => {
  it('hold every factory value on their own grid', () => {
    for (const card of cards)
      for (const p of card.parameters)
        if (p.unit === 'choice')
          expect(p.options.some((o) => o.value === p.factory))
            .withContext(`${card.id} ${p.role}`)
            .toBeTrue();
        else {
          const volts = card.ratings.systemVolts[0] ?? 12;
          expect(deviceGrid(p, 12))
            .withContext(`${card.id} ${p.role} at ${volts} V`)
            .toContain(p.factory ?? NaN);
        }
  });

  it('name roles that exist in every constraint', () => {
    for (const card of cards) for (const c of card.constraints) expect([parameterFor(card, c.parameter), parameterFor(card, c.other)]).not.toContain(undefined);
  });
});

describe('a charger’s own units', () => {
  it('undo themselves for every convention', () => {
    const random = seeded(9);
    for (const unit of deviceUnits)
      for (let i = 0; i < 100; i++) {
        const p = parameter({ unit, slopeSign: random() < 0.5 ? 'positive' : 'negative' });
        const value = random() * 80 - 20;
        expect(toDevice(p, fromDevice(p, value, at), at))
          .withContext(unit)
          .toBeCloseTo(value, 8);
      }
  });

  it('turn a positive 24 mV for six cells into the maker’s −4 mV per cell, at any system voltage', () => {
    const p = parameter({ unit: 'mV/°C/12V', slopeSign: 'positive' });
    expect(fromDevice(p, 24, { ...at, systemVolts: 12, cellsInSeries: 6 })).toBeCloseTo(-0.004, 12);
    expect(fromDevice(p, 24, { ...at, systemVolts: 48, cellsInSeries: 24 })).toBeCloseTo(-0.004, 12);
  });

  it('refuse an offset below a float nobody knows', () => {
    const { floatVolts: _none, ...without } = at;
    expect(() => fromDevice(parameter({ unit: 'V below float' }), 0.6, without)).toThrowError(RangeError);
    expect(fromDevice(parameter({ unit: 'V below float' }), 0.6, at)).toBeCloseTo(26.4, 9);
  });

  it('multiply a 12 V range with the system voltage and leave the step alone', () => {
    const grid = deviceGrid(parameter({ min: 12, max: 16, step: 0.1, per12V: true }), 24);
    expect([grid[0], grid[1], grid.at(-1)]).toEqual([24, 24.1, 32]);
  });
});

describe('the card schema', () => {
  it('refuses a role that is there twice and a range that does not rise', () => {
    const card = cards[0];
    expect(card).toBeDefined();
    if (!card) return;
    expect(cardSchema.safeParse({ ...card, parameters: [...card.parameters, card.parameters[0]] }).success).toBeFalse();
    expect(cardSchema.safeParse({ ...card, parameters: [parameter({ min: 5, max: 5 })] }).success).toBeFalse();
  });
});
