import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { cardSchema, isUnknown, quickCard, type Card } from '@calm-keel/core/card';
import { sheetSchema } from '@calm-keel/core/sheet';
import { setUp } from '../testing';
import { CardPage } from './card-page';

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
  sensor: { reads: 'wired', usedFor: ['cutoff'], withoutSensor: 'stopsCharging' },
  display: { calibratable: false, stepV: 0.1 },
  regulationPercent: 0.5,
  survivesBatteryLoss: true,
  defaultPasscode: false,
  programming: { powered: 'House side.', disconnected: [] },
  keys: [{ key: 'Set', does: 'Opens a value.' }],
});

const sheet = sheetSchema.parse({
  format: 'calm-keel/sheet',
  version: 1,
  id: 'sheet',
  maker: 'Other',
  battery: 'B12',
  chemistry: 'lfp',
  document: '',
  revision: '',
  date: '',
  unit: { nominalVolts: 12.8, cellsInSeries: 4, capacityAh: 100 },
  figures: { absorbVoltage: { state: 'stated', basis: 'unit', unit: 'V', target: 14.26, rank: 'makerForThisCharger' } },
  derating: [],
});

describe('the page of a card', () => {
  let fixture: ComponentFixture<CardPage>;
  let host: HTMLElement;
  let saved: Card[];

  beforeEach(() => {
    setUp(undefined, [provideRouter([])]);
    fixture = TestBed.createComponent(CardPage);
    show(plain);
    saved = [];
    // As the library does: what is saved is shown.
    fixture.componentInstance.changed.subscribe((card) => {
      saved.push(card);
      fixture.componentRef.setInput('card', card);
    });
    host = fixture.nativeElement as HTMLElement;
  });

  function show(card: Card, editable = true): void {
    fixture.componentRef.setInput('card', card);
    fixture.componentRef.setInput('cards', [plain]);
    fixture.componentRef.setInput('sheets', [sheet]);
    fixture.componentRef.setInput('editable', editable);
    fixture.detectChanges();
  }
  /** A field by its label; of several the one that is shown last. */
  function field(label: string): HTMLInputElement | HTMLSelectElement {
    const named = host.querySelector<HTMLSelectElement>(`[aria-label="${CSS.escape(label)}"]`);
    if (named) return named;
    const of = [...host.querySelectorAll('label')].filter((l) => l.textContent.trim() === label).at(-1);
    const found = of?.querySelector('input') ?? (of?.htmlFor ? host.querySelector<HTMLInputElement>(`#${CSS.escape(of.htmlFor)}`) : null);
    if (!found) throw new Error(`no field “${label}”`);
    return found;
  }
  function change(label: string, value: string, by = 'change'): void {
    const at = field(label);
    at.value = value;
    at.dispatchEvent(new Event(by));
    fixture.detectChanges();
  }
  /** Types into a field that finds one of many, and takes the line that says just this. */
  function pick(label: string, words: string): void {
    change(label, words, 'input');
    const line = [...host.querySelectorAll<HTMLButtonElement>('[role=option]')].find((o) => o.textContent.trim() === words);
    if (!line) throw new Error(`nothing called “${words}” is found`);
    line.click();
    fixture.detectChanges();
  }
  /** What is shown in a part of the page, with a space between its parts. */
  function shown(part: Node): string {
    const walk = document.createTreeWalker(part, NodeFilter.SHOW_TEXT);
    const texts: string[] = [];
    while (walk.nextNode()) texts.push(walk.currentNode.textContent ?? '');
    return texts.join(' ').replace(/\s+/g, ' ').trim();
  }
  const button = (words: string): HTMLButtonElement => {
    const found = [...host.querySelectorAll<HTMLButtonElement>('button')].find((b) => shown(b).startsWith(words) || b.getAttribute('aria-label') === words);
    if (!found) throw new Error(`no button “${words}”`);
    return found;
  };
  const press = (words: string): void => {
    button(words).click();
    fixture.detectChanges();
  };
  const alert = (): string => host.querySelector('[role=alert]')?.textContent ?? '';
  const text = (): string => shown(host);
  const last = (): Card => saved.at(-1)!;
  const setting = (role: string) => last().parameters.find((p) => p.role === role)!;

  it('shows a shipped card without fields, and says why; what is known of a setting opens all the same', () => {
    show(plain, false);
    expect(text()).toContain('A made-up sample, read-only.');
    expect(host.querySelectorAll('input').length).toBe(0);
    expect(text()).toMatch(/Float stays below absorb by at least 0\.2\sV/);
    press('Absorb time');
    expect(text()).toContain('Stepped below its end it jumps from 10 to 480.');
    expect([...host.querySelectorAll('label')].map((l) => l.textContent)).not.toContain('Lower end');
  });

  it('saves ranges, menus, keys and levels as they are typed, with point or comma', () => {
    press('Absorb Out');
    change('Lower end', '12,4');
    expect(setting('absorbVoltage')).toEqual(jasmine.objectContaining({ min: 12.4 }));
    change('Menu, outermost first', 'Output › Volts');
    expect(setting('absorbVoltage').menu).toEqual(['Output', 'Volts']);
    change('Keys from the home screen, with commas between', 'Set, Down: 2 times, [Out], Set');
    expect(setting('absorbVoltage').keys).toEqual(['Set', 'Down: 2 times', '[Out]', 'Set']);
    change('Shown to', 'expert');
    expect(setting('absorbVoltage').access).toBe('expert');
    change('Factory value', '');
    expect(setting('absorbVoltage').factory).toBeUndefined();
    change('Unit', 'V/cell');
    expect(setting('absorbVoltage').unit).toBe('V/cell');
  });

  it('keeps what does not hold together with its reason, and hands on nothing until it is mended or taken back', () => {
    press('Absorb Out');
    change('Lower end', '99');
    expect(alert()).toContain('Not saved yet');
    expect(saved.length).toBe(0);
    expect(field('Lower end').value).toBe('99');
    change('One press', 'much');
    change('Numbers with a meaning', '0 = perhaps');
    expect(saved.length).toBe(0);
    expect(field('One press').value).toBe('much');
    expect(field('Numbers with a meaning').value).toBe('0 = perhaps');
    // The rest of the page is of the card as it is saved.
    expect(text()).toContain('12.0');
    press('Undo: what was typed last');
    expect(alert()).toBe('');
    expect(saved.length).toBe(0);
    expect(field('Lower end').value).toBe('12');
    expect(field('One press').value).toBe('0.1');
  });

  it('takes an empty end as one that nobody knows, and what is typed as known from then on', () => {
    press('Absorb Out');
    const missing = (): unknown => (setting('absorbVoltage') as { notKnown?: unknown }).notKnown;
    change('Upper end', '');
    expect(missing()).toEqual(['most']);
    expect(field('Upper end').value).toBe('');
    expect(text()).toContain('at least 12.0');
    change('One press', '');
    expect(missing()).toEqual(['most', 'step']);
    // What stands in its place moves no value.
    expect((setting('absorbVoltage') as { step: number }).step).toBe(0.01);
    expect(text()).toContain('step not known');
    change('Upper end', '15');
    expect(missing()).toEqual(['step']);
    change('One press', '0.1');
    expect(missing()).toBeUndefined();
  });

  it('says of every setting what the sheet wants and what it holds', () => {
    const row = (name: string): string => shown(button(name));
    const far = (name: string): boolean => button(name).querySelector('.bad') !== null;
    expect(far('Absorb Out')).toBeFalse();
    expect(row('Absorb Out')).toMatch(/14\.26\sV/);
    expect(row('Absorb Out')).toMatch(/holds 14\.3\sV/);
    expect(row('Absorb Out')).toMatch(/\+0\.040\sV/);
    change('Bank of', '24');
    expect(row('Absorb Out')).toMatch(/holds 28\.5\sV/);
    expect(row('Absorb Out')).toMatch(/24\.0\sV to 30\.0\sV/);
    // A range that the wish lies beyond.
    press('Remove preset 1');
    press('Absorb Out');
    change('Factory value', '');
    change('Upper end', '14');
    expect(alert()).toBe('');
    expect(row('Absorb Out')).toMatch(/holds 28\.0\sV/);
    expect(far('Absorb Out')).toBeTrue();
  });

  it('tries a wish of one’s own, rule and wrap included', () => {
    const held = (): string => shown(host.querySelector('.held') ?? host);
    press('Absorb Out');
    change('Wanted at the bank', '14.13', 'input');
    expect(held()).toContain('14.1');
    expect(held()).toContain('Its steps are 0.1 V');
    press('Absorb time');
    change('Wanted at the bank', '5', 'input');
    expect(held()).toContain('jumps to 480');
    press('Float');
    change('Wanted at the bank', '14.1', 'input');
    change('With absorb at', '14.2', 'input');
    expect(held()).toContain('refused');
    change('With absorb at', '14.3', 'input');
    expect(held()).toContain('14.10 V at the bank');
  });

  it('refuses rules that no values can meet', () => {
    press('Add a rule');
    expect(last().constraints.length).toBe(2);
    change('Rule 2', 'floatVoltage');
    change('Rule 2, of', 'absorbVoltage');
    expect(alert()).toBe('');
    change('Rule 2, by', '0');
    expect(alert()).toContain('cannot be met together');
    press('Remove rule 2');
    expect(last().constraints).toEqual(plain.constraints);
    change('Rule 1, how', 'atLeast');
    expect(last().constraints[0]?.relation).toBe('atLeast');
  });

  it('reads numbers with a meaning, and refuses what it cannot read', () => {
    press('Absorb time');
    change('Numbers with a meaning', '0 = all day, 480 = off');
    expect((setting('absorbTime') as { special: unknown[] }).special).toEqual([
      { value: 0, means: 'allDay' },
      { value: 480, means: 'off' },
    ]);
    const before = saved.length;
    change('Numbers with a meaning', '0 = perhaps');
    expect(alert()).toContain('special');
    expect(saved.length).toBe(before);
    change('Numbers with a meaning', '');
    expect((setting('absorbTime') as { special: unknown[] }).special).toEqual([]);
  });

  it('changes what a choice can be', () => {
    press('Equalise');
    press('Add a choice');
    change('Choice 3', 'by hand');
    change('Choice 3 means', 'on');
    expect((setting('equaliseEnabled') as { options: unknown[] }).options).toEqual([
      { value: 'on', means: 'on' },
      { value: 'off', means: 'off' },
      { value: 'by hand', means: 'on' },
    ]);
    press('Remove choice 1');
    expect((setting('equaliseEnabled') as { options: { value: string }[] }).options.map((o) => o.value)).toEqual(['off', 'by hand']);
    expect(() => button('Remove choice 1')).toThrowError();
  });

  it('adds a setting of which nothing but its meaning is known, and removes one', () => {
    pick('Add a setting', 'recharge');
    expect(setting('rechargeVoltage')).toEqual(jasmine.objectContaining({ unit: 'V', notKnown: ['range', 'step'], per12V: false }));
    expect((setting('rechargeVoltage') as { factory?: number }).factory).toBeUndefined();
    expect(text()).toContain('range not known');
    pick('Add a setting', 'battery type');
    expect(setting('batteryType').unit).toBe('choice');
    press('Recharge');
    press('Remove recharge from this card');
    expect(setting('rechargeVoltage')).toBeUndefined();
  });

  it('puts presets together from the settings it has', () => {
    change('Preset 1 also sets', 'floatVoltage');
    expect(last().presets[0]?.sets).toEqual({ absorbVoltage: 14.2, floatVoltage: 13.5 });
    change('Float', '13,4');
    expect(last().presets[0]?.sets.floatVoltage).toBe(13.4);
    const before = saved.length;
    change('Float', '20');
    expect(alert()).toContain('lies outside');
    expect(saved.length).toBe(before);
    change('Float', '13.4');
    // Nobody has said what it sets its time to: nothing is saved before somebody does.
    change('Preset 1 also sets', 'absorbTime');
    expect(alert()).toContain('absorbTime needs a number');
    expect(last().presets[0]?.sets.absorbTime).toBeUndefined();
    change('Absorb time', '60');
    expect(last().presets[0]?.sets.absorbTime).toBe(60);
    press('Take Absorb time out of lithium');
    press('Take Float out of lithium');
    expect(last().presets[0]?.sets).toEqual({ absorbVoltage: 14.2 });
    press('Add a preset');
    expect(last().presets.length).toBe(2);
    press('Remove preset 2');
    change('Preset 1, name', 'LFP');
    expect(last().presets.map((p) => p.name)).toEqual(['LFP']);
  });

  it('answers what it does by itself where it is, counts seconds, and takes “not known” back', () => {
    press('Absorb begins');
    press('After some seconds at its voltage');
    expect(saved.length).toBe(0);
    change('Seconds at its voltage', '20', 'input');
    expect(last().absorb.start).toEqual({ kind: 'held', seconds: 20 });
    expect(text()).toContain('After some seconds at its voltage: 20 s');
    press('Without the sensor');
    press('Not known');
    expect(isUnknown(last(), 'sensorLoss')).toBeTrue();
    // The careful guess is counted with, and what it costs is said.
    expect(last().sensor.withoutSensor).toBe('ignoresCutoff');
    press('Without the sensor');
    expect(text()).toContain('It counts as one that goes on charging.');
    press('Lost at a power cut');
    press('Some values');
    const float = [...host.querySelectorAll('label.tick')].find((l) => l.textContent.trim() === 'float')!;
    float.querySelector('input')!.click();
    fixture.detectChanges();
    expect(last().forgets).toEqual(['floatVoltage']);
    float.querySelector('input')!.click();
    fixture.detectChanges();
    expect(last().forgets).toEqual([]);
  });

  it('changes the plate: kind, ratings, voltages, chemistries; a solar input without volts is not known', () => {
    press('Change the plate');
    change('Output', '40', 'input');
    expect(last().ratings.outputA).toBe(40);
    [...host.querySelectorAll('label.tick')]
      .find((l) => l.textContent.trim() === '48 V')!
      .querySelector('input')!
      .click();
    fixture.detectChanges();
    expect(last().ratings.systemVolts).toEqual([12, 24, 48]);
    [...host.querySelectorAll('label.tick')]
      .find((l) => l.textContent.includes('AGM'))!
      .querySelector('input')!
      .click();
    fixture.detectChanges();
    expect(last().ratings.chemistries).toEqual(['lfp', 'agm']);
    change('What it is', 'solarMppt');
    expect(last().kind).toBe('solarMppt');
    expect(isUnknown(last(), 'input')).toBeTrue();
    expect(text()).toContain('Whether the array is too high cannot be checked.');
    change('Most volts from the array', '100', 'input');
    expect(last().ratings.arrayVoltsMax).toBe(100);
    expect(isUnknown(last(), 'input')).toBeFalse();
  });

  it('changes keys and what saves', () => {
    change('To save', 'Hold Set.');
    expect(last().commit.how).toBe('Hold Set.');
    change('Powered while it is set', 'Battery only.');
    expect(last().programming.powered).toBe('Battery only.');
    press('Add a key');
    change('Key 2', 'Up');
    change('Key 2 does', 'Raises the value.');
    change('Key 2, second meaning', 'Held, it runs.');
    expect(last().keys[1]).toEqual({ key: 'Up', does: 'Raises the value.', alsoDoes: 'Held, it runs.' });
    press('Remove key 1');
    expect(last().keys.map((k) => k.key)).toEqual(['Up']);
  });

  it('takes changes back one by one, each by its name', () => {
    press('Absorb Out');
    change('Its label', 'Top');
    change('Upper end', '15.2');
    press('Undo: Absorb: upper end');
    expect((setting('absorbVoltage') as { max: number }).max).toBe(15);
    expect(setting('absorbVoltage').label).toBe('Top');
    press('Undo: Absorb: label');
    expect(last()).toEqual(plain);
    expect(() => button('Undo')).toThrowError();
  });

  it('sets beside each other what two revisions of one model differ in', () => {
    const other: Card = {
      ...plain,
      id: 'plain-b',
      describes: { firmware: '2', menuRevision: 'b' },
      parameters: [
        ...plain.parameters.filter((p) => p.role !== 'absorbTime').map((p) => (p.role === 'floatVoltage' ? { ...p, max: 14.2 } : p)),
      ] as Card['parameters'],
      sensor: { ...plain.sensor, withoutSensor: 'ignoresCutoff' },
    };
    fixture.componentRef.setInput('cards', [plain, other, { ...other, id: 'no-relation', model: 'P2' }]);
    fixture.detectChanges();
    const lines = [...host.querySelectorAll('ck-card-siblings li')].map((li) => shown(li));
    expect(host.querySelectorAll('ck-card-siblings details').length).toBe(1);
    expect(text()).toContain('Also here with menus b, firmware 2: 3 differences');
    expect(lines).toEqual([
      jasmine.stringMatching(/Float, upper end here 14\.6\sV, there 14\.2\sV/),
      jasmine.stringContaining('here It stops, there It goes on charging'),
      jasmine.stringContaining('absorb time here a setting, there none'),
    ]);
  });

  it('says of a card made from its plate alone what is not known, and what that costs', () => {
    show(quickCard({ id: 'mine', maker: 'A', model: 'B', kind: 'solarPwm', outputA: 10, systemVolts: [12] }));
    expect(text()).toContain('Its ranges and steps: not known.');
    expect(text()).toContain('Which settings it has: not known.');
    expect(text()).toContain('Array, at most not known');
    expect(text()).toContain('Rehearse takes the usual charger of its kind.');
  });

  /** A part of the page, and what is in it. */
  const part = (selector: string): HTMLElement => host.querySelector<HTMLElement>(selector)!;
  const tick = (selector: string, label: string): void => {
    const found = [...part(selector).querySelectorAll('label')].find((l) => l.textContent.trim() === label)?.querySelector('input');
    if (!found) throw new Error(`nothing to tick called “${label}”`);
    found.click();
    fixture.detectChanges();
  };

  it('has ways back, one step a line; what a reset leaves and what becomes of settings is not known until it is said', () => {
    expect(text()).not.toContain('A reset leaves these as they are');
    const [reset, passcode] = [...host.querySelectorAll<HTMLTextAreaElement>('ck-card-lines textarea')];
    reset!.value = 'Hold Set\n\n  Let go ';
    reset!.dispatchEvent(new Event('change'));
    fixture.detectChanges();
    expect(last().procedures).toEqual({ factoryReset: { steps: ['Hold Set', 'Let go'] } });
    tick('ck-card-lines', 'not known');
    expect(last().procedures?.factoryReset?.spares).toEqual([]);
    tick('ck-card-lines', 'Keep');
    expect(last().procedures?.factoryReset?.spares).toEqual(['floatVoltage']);
    tick('ck-card-lines', 'Keep');
    expect(last().procedures?.factoryReset?.spares).toEqual([]);
    tick('ck-card-lines', 'not known');
    expect(last().procedures?.factoryReset).toEqual({ steps: ['Hold Set', 'Let go'] });
    passcode!.value = 'Ask the maker';
    passcode!.dispatchEvent(new Event('change'));
    fixture.detectChanges();
    change('After a forgotten passcode its settings', 'yes');
    expect(last().procedures?.forgottenPasscode).toEqual({ steps: ['Ask the maker'], resets: true });
    change('After a forgotten passcode its settings', '');
    expect(last().procedures?.forgottenPasscode).toEqual({ steps: ['Ask the maker'] });
    for (const area of host.querySelectorAll<HTMLTextAreaElement>('ck-card-lines textarea')) {
      area.value = '';
      area.dispatchEvent(new Event('change'));
      fixture.detectChanges();
    }
    expect('procedures' in last()).toBeFalse();
  });

  it('has lines for its run sheet, each at a place; read-only they are told', () => {
    press('Add a line to its run sheet');
    change('Line 1', 'Loosen the strap');
    change('Line 1 comes before', 'floatVoltage');
    expect(last().lines).toEqual([{ before: 'floatVoltage', says: 'Loosen the strap' }]);
    const made = last();
    press('Remove line 1');
    expect('lines' in last()).toBeFalse();
    show({ ...made, procedures: { factoryReset: { steps: ['Hold Set'] } } }, false);
    expect(shown(part('ck-card-lines'))).toBe('Ways back, and lines of its own To factory values Hold Set Before float is set Loosen the strap');
    show(plain, false);
    expect(shown(part('ck-card-lines'))).toBe('');
  });

  it('says which of its settings come over a data line, and what counts when that is lost', () => {
    tick('ck-card-dictated', 'High');
    expect(last().dictated).toEqual({ roles: ['absorbVoltage'] });
    tick('ck-card-dictated', 'Keep');
    change('When the line is lost', 'lastFigures');
    expect(last().dictated).toEqual({ roles: ['absorbVoltage', 'floatVoltage'], whenLost: 'lastFigures' });
    show(last(), false);
    expect(shown(part('ck-card-dictated'))).toContain('Another device may say its absorb, float. When the line is lost, the last figures go on.');
    show(plain);
    tick('ck-card-dictated', 'High');
    tick('ck-card-dictated', 'High');
    expect('dictated' in last()).toBeFalse();
  });

  it('says of a setting who looked it up, until it is changed by hand', () => {
    const said = { by: 'KM', on: '2026-06-09', from: 'document' as const, document: 'Manual, p. 4' };
    show({ ...plain, parameters: plain.parameters.map((p) => ({ ...p, said })) });
    press('Absorb Out');
    expect(text()).toContain('Looked up by KM on 2026-06-09, in Manual, p. 4.');
    change('Lower end', '12.4');
    expect(setting('absorbVoltage').said).toBeUndefined();
    expect(setting('floatVoltage').said).toEqual(said);
  });
});
