import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { roleInfo, type Card } from '@calm-keel/core/card';
import type { Problem } from '@calm-keel/core/quantity';
import type { Charger } from '@calm-keel/core/system';
import { Library } from '../data/library';
import { Selection } from '../data/selection';
import { draw, openStore, plain, sampleCard, sampleJob, soloJob, voltParameter } from '../testing';
import { ArrayFields, type ArrayEdit } from './array-fields';
import { ChargerPanel } from './charger-panel';
import { ChoosePanel } from './choose-panel';
import { FoundFields } from './found-fields';
import { ShelfPanel } from './shelf-panel';
const label = [
  ['Power', '300'],
  ['Open circuit', '40'],
  ['Working volts', '33'],
  ['Short circuit', '10'],
  ['Working amps', '9'],
  ['Bypass diodes', '3'],
  ['In series', '2'],
  ['Strings side by side', '1'],
  ['Tilt', '10'],
  ['Looks to', '180'],
] as const;

describe('an array by the label of its panels', () => {
  function shown(array: unknown, answer: readonly Problem[] = []) {
    const held: ArrayEdit[] = [];
    const drawn = draw(ArrayFields, {
      array,
      owner: 'roof',
      hold: (edit: ArrayEdit) => {
        held.push(edit);
        return answer;
      },
    });
    return { ...drawn, held };
  }

  it('is one when everything is there, and not before; of shade nobody has spoken', async () => {
    await openStore(sampleJob());
    const { fill, held, host, press } = shown(null);
    press('Enter the array');
    const save = (): HTMLButtonElement => [...host.querySelectorAll<HTMLButtonElement>('button')].find((b) => !b.classList.contains('do'))!;
    for (const [name, value] of label.slice(0, -1)) fill(name, value);
    expect(save().disabled).toBeTrue();
    fill('Looks to', '180');
    expect(save().disabled).toBeFalse();
    // One taken out again is one that is missing.
    fill('Tilt', '');
    expect(save().disabled).toBeTrue();
    fill('Tilt', '10');
    save().click();
    expect(held).toHaveSize(1);
    expect(held[0]).toEqual({
      field: 'all',
      array: {
        panel: { name: '', watts: 300, vocV: 40, vmpV: 33, iscA: 10, impA: 9, bypassDiodes: 3 },
        inSeries: 2,
        inParallel: 1,
        tilt: 10,
        azimuth: 180,
        shaded: 0,
        shadeLight: 0.1,
      },
    });
  });

  it('is changed field by field, of the panel or of the roof, and says at the field why it is not held', async () => {
    await openStore(sampleJob());
    const array = {
      panel: { name: '', watts: 300, vocV: 40, vmpV: 33, iscA: 10, impA: 9, bypassDiodes: 3 },
      inSeries: 2,
      inParallel: 1,
      tilt: 10,
      azimuth: 180,
      shaded: 0,
      shadeLight: 0,
    };
    const { fill, held, text } = shown(array, [{ text: 'array › vocV: below the working volts.' } as Problem]);
    fill('In series', '3');
    expect(held.at(-1)).toEqual({ field: 'inSeries', array: { ...array, inSeries: 3 } });
    fill('Open circuit', '30');
    expect(held.at(-1)).toEqual({ field: 'vocV', array: { ...array, panel: { ...array.panel, vocV: 30 } } });
    expect(text()).toContain('Not like this: below the working volts.');
  });
});

describe('a charger', () => {
  async function shown(change: (charger: Charger) => Charger = (c) => c) {
    const job = soloJob();
    const store = await openStore({ ...job, system: { ...job.system, chargers: job.system.chargers.map(change) } }, [provideRouter([])]);
    const drawn = draw(ChargerPanel, { charger: store.job()!.system.chargers[0] });
    const inner = drawn.fixture.componentInstance as unknown as Record<'displayWords' | 'bears' | 'margin', () => string>;
    return { ...drawn, store, says: (what: 'displayWords' | 'bears' | 'margin') => plain(inner[what]()) };
  }

  it('says what comparisons of its display come to: an offset from one, a gain from two, and right where it is right', async () => {
    const of = async (...displayReadings: Charger['displayReadings']): Promise<string> =>
      (await shown((c) => ({ ...c, displayReadings }))).says('displayWords');
    expect(await of()).toBe('');
    expect(await of({ meterV: 26, displayV: 26.13 })).toBe('The display reads 0.13 V high at 26.0 V: an offset, taken to hold everywhere.');
    expect(await of({ meterV: 26, displayV: 26 })).toBe('The display reads right at 26.0 V: an offset, taken to hold everywhere.');
    // Entered in any order: 2.1 V shown over 2.0 V measured.
    expect(await of({ meterV: 28, displayV: 28.05 }, { meterV: 26, displayV: 25.95 })).toBe(
      'The display reads 0.05 V low at 26.0 V and 0.05 V high at 28.0 V: gain 1.050, used between the readings only.',
    );
    expect(await of({ meterV: 28, displayV: 28.1 }, { meterV: 28, displayV: 28.1 })).toContain('an offset');
  });

  it('says what its cable carries only where its area is known', async () => {
    expect((await shown()).says('bears')).toBe('');
    const { says } = await shown((c) => ({ ...c, wire: { areaMm2: 25, lengthM: 3 } }));
    expect(says('bears')).toMatch(/^\d+ A, about \S+ AWG|^\d+ A, about/);
    expect(says('bears')).not.toContain('in air');
  });

  it('gets a twin with a name and id of its own, which is then the one in view, and with nothing read on it', async () => {
    const { press, store } = await shown();
    press('Add another like it');
    const [one, twin] = store.job()!.system.chargers;
    expect([twin!.name, twin!.card, twin!.present]).toEqual(['Solo 2', one!.card, {}]);
    expect(twin!.id).not.toBe(one!.id);
    expect(TestBed.inject(Selection).charger()).toBe(twin!.id);
  });
});

describe('what was found on a device', () => {
  it('is every setting of its card, empty where it was not read, and counted', async () => {
    await openStore(soloJob());
    const card = soloJob().cards[0]!;
    const drawn = draw(FoundFields, { device: 'solo', card, values: { absorbVoltage: 28.1 } });
    const changes: unknown[] = [];
    drawn.fixture.componentInstance.changed.subscribe((c) => changes.push(c));
    expect(drawn.text('summary small')).toBe('1 of 2 read');
    expect(drawn.host.querySelector('details')!.open).toBeTrue();
    const float = `floatVoltage (${roleInfo.floatVoltage.name})`;
    drawn.fill(float, '27.4');
    drawn.fill(float, '');
    expect(changes).toEqual([
      { role: 'floatVoltage', value: 27.4 },
      { role: 'floatVoltage', value: undefined },
    ]);
    // Folded while nothing is read; it does not unfold under somebody’s hands.
    const folded = draw(FoundFields, { device: 'solo', card, values: {} });
    expect(folded.host.querySelector('details')!.open).toBeFalse();
    folded.fixture.componentRef.setInput('values', { absorbVoltage: 28 });
    folded.fixture.detectChanges();
    expect([folded.text('summary small'), folded.host.querySelector('details')!.open]).toEqual(['1 of 2 read', false]);
  });
});

describe('the shelf', () => {
  const cards: Card[] = [
    sampleCard({
      id: 'a',
      maker: 'Ostmark',
      model: 'Q40',
      kind: 'solarMppt',
      ratings: { outputA: 40, systemVolts: [24], arrayVoltsMax: 100, chemistries: ['lfp'] },
      parameters: [voltParameter('absorbVoltage')],
    }),
    sampleCard({
      id: 'b',
      maker: 'Ostmark',
      model: 'Q20',
      kind: 'solarPwm',
      ratings: { outputA: 20, systemVolts: [24], arrayVoltsMax: 50, chemistries: ['lfp'] },
      parameters: [voltParameter('absorbVoltage')],
    }),
    sampleCard({ id: 'm', maker: 'Wend', model: 'S1', kind: 'monitor', ratings: { outputA: 0, systemVolts: [24], chemistries: ['lfp'] }, parameters: [] }),
  ];
  async function shown() {
    await openStore(sampleJob());
    spyOn(TestBed.inject(Library), 'cards').and.returnValue(cards);
    const drawn = draw(ShelfPanel);
    const chosen: string[] = [];
    drawn.fixture.componentInstance.chosen.subscribe((c) => chosen.push(c.id));
    const models = (shelf: string): string[] =>
      [...drawn.host.querySelectorAll(`[aria-label="${shelf}"] button`)].map((b) => (b.firstChild?.textContent ?? '').trim());
    const enter = (): void => {
      drawn.host.querySelector('#shelf-search')!.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    };
    return { ...drawn, chosen, models, take: enter };
  }

  it('has sources and companions apart, is searched by any words in any order, and Enter takes the first', async () => {
    const { models, enter, take, chosen } = await shown();
    expect(models('Chargers')).toEqual(['Ostmark Q40', 'Ostmark Q20']);
    expect(models('Companions')).toEqual(['Wend S1']);
    take();
    expect(chosen).toEqual([]);
    enter('#shelf-search', ' 20 A  ostmark ');
    expect(models('Chargers')).toEqual(['Ostmark Q20']);
    expect(models('Companions')).toEqual([]);
    take();
    expect(chosen).toEqual(['b']);
  });

  it('shows the way on where nothing matches, and comes back from it', async () => {
    const { enter, text, press, host, button } = await shown();
    enter('#shelf-search', 'zebra');
    expect(text('[role=status]')).toContain('No card matches “zebra”.');
    press('Mine is not listed');
    expect(host.querySelector('ck-quick-card')).not.toBeNull();
    expect(() => button('Ostmark Q40')).toThrow();
  });

  it('says how each would do only when asked', async () => {
    const { host, press } = await shown();
    expect(host.querySelectorAll('.mark')).toHaveSize(0);
    press('Choose before you buy');
    expect(host.querySelectorAll('.mark')).toHaveSize(3);
    press('Choose before you buy');
    expect(host.querySelectorAll('.mark')).toHaveSize(0);
  });
});

describe('what is worked out before a charger is bought', () => {
  it('is the battery alone while no panels are said, and rates input and output by them', async () => {
    const job = sampleJob();
    const store = await openStore({ ...job, system: { ...job.system, site: { ...job.system.site, recordLowC: -10, recordHighC: 35 } } });
    const rows = (drawn: ReturnType<typeof draw>): string[] =>
      (drawn.fixture.componentInstance as { rows: () => { name: string; value: string }[] }).rows().map((r) => plain(`${r.name}: ${r.value}`));
    expect(rows(draw(ChoosePanel)).filter((r) => r.startsWith('Input'))).toEqual([]);
    const array = {
      panel: { name: '', watts: 300, vocV: 40, vmpV: 33, iscA: 10, impA: 9, bypassDiodes: 3 },
      inSeries: 2,
      inParallel: 1,
      tilt: 10,
      azimuth: 180,
      shaded: 0,
      shadeLight: 0,
    };
    store.edit('Panels', (now) => ({ ...now, system: { ...now.system, plannedArray: array } }));
    const drawn = draw(ChoosePanel);
    // 1.25 × 10 A; two open panels are 80 V at 25 °C and more in the cold.
    expect(rows(drawn)).toContain('Input, most amps: at least 12.5 A');
    const volts = Number(/at least (\d+) V/.exec(rows(drawn).find((r) => r.startsWith('Input, most volts'))!)![1]);
    expect(volts).toBeGreaterThan(85);
    expect(volts).toBeLessThan(110);
    const pwm = (drawn.fixture.componentInstance as unknown as { rows: () => { name: string; how: string }[] }).rows().find((r) => r.name === 'Output, PWM')!;
    expect(plain(pwm.how)).toContain('of 600 W');
  });
});
