import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { cardSchema, type Card } from '@calm-keel/core';
import { setUp } from '../testing';
import { CardEditor } from './card-editor';

const plain: Card = cardSchema.parse({
  format: 'calm-keel/card',
  version: 1,
  id: 'plain',
  maker: 'Plain',
  model: 'P1',
  kind: 'dcdc',
  describes: { firmware: '1', menuRevision: 'a' },
  ratings: { outputA: 30, systemVolts: [12, 24], chemistries: ['lfp'] },
  parameters: [
    { role: 'absorbVoltage', label: 'High', menu: ['Out'], unit: 'V', min: 12, max: 15, step: 0.1, per12V: true, factory: 14.4 },
    { role: 'floatVoltage', label: 'Keep', menu: ['Out'], unit: 'V', min: 12, max: 14.6, step: 0.1, per12V: true, factory: 13.5 },
    { role: 'absorbTime', label: 'For', menu: ['Out'], unit: 'min', min: 10, max: 480, step: 10, wraps: true },
    {
      role: 'equaliseEnabled',
      label: 'Boost',
      menu: [],
      unit: 'choice',
      options: [
        { value: 'on', means: 'on' },
        { value: 'off', means: 'off' },
      ],
    },
  ],
  constraints: [{ parameter: 'floatVoltage', relation: 'atMost', other: 'absorbVoltage', gap: 0.2 }],
  presets: [{ name: 'lithium', sets: { absorbVoltage: 14.2 } }],
  commit: { kind: 'keyPress', how: 'Press Set.', proof: 'Output page.' },
  absorb: { start: { kind: 'touch' }, end: 'time', timerCounts: 'atVoltage', currentSeen: 'ownOutput' },
  sensor: { reads: 'none', usedFor: [], withoutSensor: 'ignoresCutoff' },
  display: { calibratable: false, stepV: 0.1 },
  regulationPercent: 0.5,
  survivesBatteryLoss: true,
  defaultPasscode: false,
  programming: { powered: 'House side.', disconnected: [] },
  keys: [],
});

describe('the card editor', () => {
  let fixture: ComponentFixture<CardEditor>;
  let host: HTMLElement;
  let kept: Card[];

  beforeEach(() => {
    setUp();
    fixture = TestBed.createComponent(CardEditor);
    fixture.componentRef.setInput('card', plain);
    fixture.componentRef.setInput('editable', true);
    kept = [];
    fixture.componentInstance.changed.subscribe((card) => kept.push(card));
    fixture.detectChanges();
    host = fixture.nativeElement as HTMLElement;
  });

  const labelled = <T extends HTMLElement>(label: string): T => {
    const found = host.querySelector<T>(`[aria-label^="${label}"]`);
    if (!found) throw new Error(`no field “${label}”`);
    return found;
  };
  function change(label: string, value: string): void {
    const field = labelled<HTMLInputElement | HTMLSelectElement>(label);
    field.value = value;
    field.dispatchEvent(new Event('change'));
    fixture.detectChanges();
  }
  const press = (words: string): void => {
    [...host.querySelectorAll<HTMLButtonElement>('button')].find((b) => b.textContent.trim() === words)?.click();
    fixture.detectChanges();
  };
  const alert = (): string => host.querySelector('[role=alert]')?.textContent ?? '';
  const last = (): Card => kept.at(-1)!;

  it('shows a shipped card without fields, and says why', () => {
    fixture.componentRef.setInput('editable', false);
    fixture.detectChanges();
    expect(host.textContent).toContain('A shipped card is read-only');
    expect(host.querySelectorAll('table input').length).toBe(0);
    expect(host.textContent).toContain('float stays below absorb by at least');
  });

  it('keeps ranges, menus, keys and levels as they are typed, with point or comma', () => {
    change('absorb, least', '12,4');
    expect(last().parameters[0]).toEqual(jasmine.objectContaining({ min: 12.4 }));
    change('absorb, menu', 'Output › Volts');
    expect(last().parameters[0]?.menu).toEqual(['Output', 'Volts']);
    change('absorb, keys', 'Set Up Up Set');
    expect(last().parameters[0]?.keys).toEqual(['Set', 'Up', 'Up', 'Set']);
    change('absorb, level', 'expert');
    expect(last().parameters[0]?.access).toBe('expert');
    change('absorb, factory', '');
    expect((last().parameters[0] as { factory?: number }).factory).toBeUndefined();
  });

  it('keeps what cannot stand in the table with its reason, and hands on nothing until it is mended', () => {
    change('absorb, least', '99');
    expect(alert()).toContain('Not kept yet');
    expect(kept.length).toBe(0);
    expect(labelled<HTMLInputElement>('absorb, least').value).toBe('99');
    change('absorb, step', 'much');
    expect(kept.length).toBe(0);
    change('absorb, step', '0.1');
    change('absorb, least', '12');
    expect(alert()).toBe('');
    expect(last()).toEqual(plain);
  });

  it('takes what is typed of a range or a step as known from then on, and nothing else', () => {
    const [first, ...others] = plain.parameters;
    fixture.componentRef.setInput('card', { ...plain, parameters: [{ ...first, notKnown: ['range', 'step'] }, ...others] });
    fixture.detectChanges();
    const missing = (): unknown => (last().parameters[0] as { notKnown?: unknown }).notKnown;
    change('absorb, label', 'Hoch');
    expect(missing()).toEqual(['least', 'most', 'step']);
    change('absorb, most', '15');
    expect(missing()).toEqual(['least', 'step']);
    change('absorb, least', '12');
    change('absorb, step', '0.1');
    expect(missing()).toBeUndefined();
  });

  it('refuses rules that no values can meet', () => {
    press('Add a rule');
    expect(last().constraints.length).toBe(2);
    change('Rule 2, setting', 'floatVoltage');
    change('Rule 2, other setting', 'absorbVoltage');
    change('Rule 2, relation', 'atLeast');
    expect(alert()).toBe('');
    const gap = [...host.querySelectorAll<HTMLInputElement>('.rule ck-number-field input')].at(-1)!;
    gap.value = '0';
    gap.dispatchEvent(new Event('input'));
    fixture.detectChanges();
    expect(alert()).toContain('cannot be met together');
  });

  it('reads special values and presets by the names of settings', () => {
    change('absorb time, special values', '0 = all day, 480 = off');
    expect((last().parameters[2] as { special: unknown[] }).special).toEqual([
      { value: 0, means: 'allDay' },
      { value: 480, means: 'off' },
    ]);
    const before = kept.length;
    change('absorb time, special values', '0 = perhaps');
    expect(alert()).toContain('special');
    expect(kept.length).toBe(before);
    change('absorb time, special values', '');
    change('Preset 1, values', 'absorb 14,6, float 13.4');
    expect(last().presets[0]?.sets).toEqual({ absorbVoltage: 14.6, floatVoltage: 13.4 });
    change('Preset 1, values', 'absorb 20');
    expect(alert()).toContain('lies outside');
  });

  it('adds and removes settings and presets', () => {
    const add = host.querySelector<HTMLSelectElement>('#add-role')!;
    add.value = 'rechargeVoltage';
    add.dispatchEvent(new Event('change'));
    fixture.detectChanges();
    expect(last().parameters.at(-1)).toEqual(jasmine.objectContaining({ role: 'rechargeVoltage', unit: 'V', per12V: true }));
    press('Add a preset');
    expect(last().presets.length).toBe(2);
    host.querySelector<HTMLButtonElement>('[aria-label="Remove recharge"]')?.click();
    fixture.detectChanges();
    expect(last().parameters.some((p) => p.role === 'rechargeVoltage')).toBeFalse();
  });

  it('tries a value on the card as it stands in the table, constraint and wrap included', () => {
    const held = (): string => (host.querySelector('.held')?.textContent ?? '').replace(/\u00a0/g, ' ');
    const wanted = (text: string): void => {
      const field = [...host.querySelectorAll('ck-number-field')]
        .find((f) => f.querySelector('label')?.textContent === 'Wanted at the bank')!
        .querySelector('input')!;
      field.value = text;
      field.dispatchEvent(new Event('input'));
      fixture.detectChanges();
    };
    wanted('28.13');
    expect(held()).toContain('28.1');
    expect(held()).toContain('Its steps are 0.1 V');
    const role = host.querySelector<HTMLSelectElement>('#try-role')!;
    role.value = 'absorbTime';
    role.dispatchEvent(new Event('change'));
    fixture.detectChanges();
    wanted('5');
    expect(held()).toContain('jumps to 480');
    role.value = 'equaliseEnabled';
    role.dispatchEvent(new Event('change'));
    fixture.detectChanges();
    expect(held()).toContain('is a choice');
  });
});
