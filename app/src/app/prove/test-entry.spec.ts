import { TestBed } from '@angular/core/testing';
import type { ReadingField, TestRecord, TestStep } from '@calm-keel/core/fieldtest';
import { Units } from '../data/units';
import { TestEntry } from './test-entry';

const volts: ReadingField = { id: 'volts', name: 'Bank', unit: 'V', expected: { min: 28.2, max: 28.6 } };
const celsius: ReadingField = { id: 'celsius', name: 'Battery', unit: '°C', optional: true };
const read: TestStep = { id: 'read', kind: 'read', title: 'Read', says: [], fields: [volts, celsius] } as unknown as TestStep;
const other: TestStep = { ...read, id: 'other' };
const record = (answers: object[] = []): TestRecord => ({ id: 't1', code: 'absorbHold', answers, series: [] }) as unknown as TestRecord;

describe('what is entered at a step of a test', () => {
  let entry: TestEntry;
  let scale: 'C' | 'F';

  beforeEach(() => {
    scale = 'C';
    const units = {
      label: () => `°${scale}`,
      scale: () => scale,
      number: (c: number) => (scale === 'F' ? (c * 9) / 5 + 32 : c),
    };
    TestBed.configureTestingModule({ providers: [TestEntry, { provide: Units, useValue: units }] });
    entry = TestBed.inject(TestEntry);
    entry.be(record(), read);
  });

  it('reads what was typed in the unit of its field, and lets optional fields be empty', () => {
    entry.type('volts', '28500 mV');
    expect(entry.values(read)).toEqual({ volts: 28.5 });
    entry.type('celsius', '25');
    expect(entry.values(read)).toEqual({ volts: 28.5, celsius: 25 });
  });

  it('takes a bare number for the person’s own scale, and a unit that was typed for itself', () => {
    scale = 'F';
    entry.type('volts', '28.4');
    entry.type('celsius', '77');
    expect(entry.values(read)?.['celsius']).toBeCloseTo(25, 9);
    entry.type('celsius', '25 °C');
    expect(entry.values(read)?.['celsius']).toBeCloseTo(25, 9);
    expect(entry.unitOf(celsius)).toBe('°F');
    expect(entry.unitOf(volts)).toBe('V');
  });

  it('says which field is empty or no number, until it is typed anew or another step comes', () => {
    expect(entry.values(read)).toBeNull();
    expect(entry.problem()).toContain('Bank: nothing entered yet.');
    entry.type('volts', 'abc');
    expect(entry.problem()).toBeNull();
    expect(entry.values(read)).toBeNull();
    expect(entry.problem()).toContain('Bank: ');
    entry.be(record(), other);
    expect(entry.problem()).toBeNull();
  });

  it('lies inside a band up to its edge, and outside past it', () => {
    for (const [text, lies] of [
      ['28.6', 'inside'],
      ['28.61', 'outside'],
      ['28.2', 'inside'],
      ['28.19', 'outside'],
      ['', null],
    ] as const) {
      entry.type('volts', text);
      expect(entry.fit(volts)).withContext(text).toBe(lies);
    }
    entry.type('celsius', '25');
    expect(entry.fit(celsius)).toBeNull();
  });

  it('keeps what was typed through a save, and shows an answered step as it was answered', () => {
    entry.type('volts', '28.4');
    entry.be(record([{ step: 'other', values: { volts: 27.15, celsius: 25 } }]), read);
    expect(entry.typed()).toEqual({ volts: '28.4' });
    scale = 'F';
    entry.be(record([{ step: 'other', values: { volts: 27.15, celsius: 25 } }]), other);
    expect(entry.typed()).toEqual({ volts: '27.15', celsius: '77' });
  });

  it('takes a moment that has been, and none that is still to come or none at all', () => {
    expect(entry.moment()).toBeUndefined();
    entry.setTaken('2024-05-03T10:20');
    expect(entry.moment()).toBe(new Date(2024, 4, 3, 10, 20).toISOString());
    entry.setTaken('soon');
    expect(entry.moment()).toBeNull();
    expect(entry.problem()).toContain('not a date and time');
    entry.setTaken('2999-01-01T00:00');
    expect(entry.moment()).toBeNull();
    expect(entry.problem()).toContain('still to come');
  });

  it('asks when a reading was taken where somebody says that it was earlier, and always for a history', () => {
    expect(entry.when()).toBeFalse();
    entry.askWhen();
    expect(entry.when()).toBeTrue();
    entry.be({ ...record(), id: 't2' }, read);
    expect(entry.when()).toBeFalse();
    entry.be({ ...record(), id: 't3', code: 'history' }, read);
    expect(entry.when()).toBeTrue();
  });

  it('puts readings beside what was typed, and is empty for the next one', () => {
    entry.type('celsius', '20');
    entry.fill({ volts: '28.41' });
    expect(entry.typed()).toEqual({ celsius: '20', volts: '28.41' });
    expect(entry.valuesOf({ volts: 28.41, celsius: 20 })).toBe('28.41 V, 20.0 °C');
    entry.clear();
    expect(entry.typed()).toEqual({});
  });
});
