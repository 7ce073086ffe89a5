import { TestBed } from '@angular/core/testing';
import type { Card, Telemetry } from '@calm-keel/core/card';
import { DeviceLink, LinkProblem } from '../data/device-link';
import { sampleCard, setUp, until, voltParameter } from '../testing';
import { RegistersPanel } from './registers-panel';

const bare = sampleCard({
  id: 'p1',
  kind: 'solarMppt',
  ratings: { outputA: 30, arrayVoltsMax: 100, systemVolts: [24], chemistries: ['lfp'] },
  parameters: [voltParameter('absorbVoltage'), voltParameter('floatVoltage')],
});
const known: Card = { ...bare, telemetry: { protocol: 'modbus', identity: { register: 1, value: 4501 }, live: [], values: [] } };

describe('registers found by reading', () => {
  function shown(card: Card, reads: readonly (readonly (readonly [number, number])[])[]) {
    setUp();
    const link = TestBed.inject(DeviceLink);
    spyOn(link, 'look').and.resolveTo();
    link.devices.set([
      { name: 'solo', kind: 'registers' },
      { name: 'gate', kind: 'talks' },
    ]);
    let n = 0;
    const range = spyOn(link, 'range').and.callFake(() => Promise.resolve({ words: new Map(reads[n++] ?? []), problem: null }));
    const fixture = TestBed.createComponent(RegistersPanel);
    fixture.componentRef.setInput('card', card);
    fixture.componentRef.setInput('editable', true);
    const out: Telemetry[] = [];
    fixture.componentInstance.changed.subscribe((t) => out.push(t));
    fixture.detectChanges();
    const host = fixture.nativeElement as HTMLElement;
    const field = (label: string): HTMLInputElement =>
      [...host.querySelectorAll('label')].find((l) => l.textContent.trim().startsWith(label))!.querySelector<HTMLInputElement>('input, select')!;
    const type = (label: string, value: string): void => {
      const input = field(label);
      input.value = value;
      input.dispatchEvent(new Event('input'));
      input.dispatchEvent(new Event('change'));
      fixture.detectChanges();
    };
    const press = async (words: string): Promise<void> => {
      const before = range.calls.count();
      [...host.querySelectorAll('button')].find((b) => b.textContent.includes(words))!.click();
      await until(() => {
        fixture.detectChanges();
        return !host.textContent.includes('Reading, slowly') && (range.calls.count() > before || host.querySelector('[role=alert]') !== null || out.length > 0);
      }, words);
    };
    return { host, field, type, press, range, out, text: () => host.textContent.replace(/\s+/g, ' ') };
  }

  it('a number of two words goes on the card with its form; a setting in two is said to be set by hand', async () => {
    const { type, press, out, text } = shown(known, [
      [
        [20, 4464],
        [21, 1],
      ],
    ]);
    type('Its display shows', '70000');
    await press('Read the range');
    expect(text()).toContain('Registers 20 and 21 hold 70000, in counts of 1 V, 32 bits with a sign, low word first');
    expect(text()).toContain('A setting in two registers is read over the wire, and set by hand.');
    await press('Put it on the card');
    expect(out[0]?.values).toEqual([{ role: 'absorbVoltage', register: 20, scale: 1, form: 'int32', order: 'lowFirst' }]);
  });

  it('a second reading after a change leaves one, and only one goes on the card', async () => {
    const { type, press, range, out, text, field } = shown(known, [
      [
        [10, 284],
        [11, 284],
        [12, 2840],
      ],
      [
        [10, 284],
        [11, 280],
        [12, 2840],
      ],
    ]);
    // Those that only talk have no registers.
    expect([...field('Device on the wire').querySelectorAll('option')].map((o) => o.textContent)).toEqual(['solo']);
    type('From register', '5');
    type('How many', '20');
    type('Its display shows', '28.4');
    await press('Read the range');
    expect(range.calls.mostRecent().args).toEqual(['solo', { from: 5, count: 20, table: 'holding' }]);
    expect(text()).toContain('3 fit.');
    expect(text()).not.toContain('Put it on the card');
    type('Its display shows', '28.0');
    await press('Read again');
    expect(text()).toContain('One register fits.');
    await press('Put it on the card');
    expect(out).toEqual([{ ...known.telemetry!, values: [{ role: 'absorbVoltage', register: 11, scale: 0.1 }] }]);
  });

  it('a live value can stand in the other table, a setting cannot', async () => {
    const live = shown(known, [[[7, 2655]]]);
    live.type('Table', 'input');
    live.type('Look for', 'live volts');
    live.type('Its display shows', '26.55');
    await live.press('Read the range');
    await live.press('Put it on the card');
    expect(live.out[0]?.live).toEqual([{ what: 'volts', register: 7, scale: 0.01, table: 'input' }]);
    TestBed.resetTestingModule();
    const setting = shown(known, [[[7, 284]]]);
    setting.type('Table', 'input');
    setting.type('Its display shows', '28.4');
    await setting.press('Read the range');
    await setting.press('Put it on the card');
    expect(setting.out).toEqual([]);
    expect(setting.text()).toContain('is set in the table that can be written');
  });

  it('the first is what tells the device from another; nought tells none', async () => {
    const { type, press, out, text } = shown(bare, [[[3, 0]], [[4, 4501]]]);
    type('Its register', '3');
    await press('Read it');
    expect(text()).toContain('It holds 0, which tells no device from another');
    type('Its register', '4');
    await press('Read it');
    expect(text()).toContain('It holds 4501');
    await press('Use it as its name');
    expect(out).toEqual([{ protocol: 'modbus', identity: { register: 4, value: 4501 }, live: [], values: [] }]);
  });

  it('says what is wrong with a range or an answer, and reads nothing for nought', async () => {
    const { type, press, range, text, host } = shown(known, []);
    type('Its display shows', '0');
    expect([...host.querySelectorAll('button')].find((b) => b.textContent.includes('Read the range'))?.disabled).toBeTrue();
    type('Its display shows', '28.4');
    type('How many', '251');
    await press('Read the range');
    expect([text().includes('How many is a whole number from 1 to 250'), range.calls.count()]).toEqual([true, 0]);
    type('How many', '250');
    await press('Read the range');
    expect([range.calls.count(), range.calls.mostRecent().args[1]]).toEqual([8, { from: 224, count: 26, table: 'holding' }]);
    expect(text()).toContain('The device has no register in this range.');
    range.and.rejectWith(new LinkProblem('A page is writing to the devices. Finish there first.'));
    await press('Read the range');
    expect(text()).toContain('Finish there first.');
  });
});
