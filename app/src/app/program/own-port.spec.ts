import { TestBed } from '@angular/core/testing';
import type { DeviceValues } from '@calm-keel/core/card';
import type { Job } from '@calm-keel/core/job';
import type { Frame, Master } from '@calm-keel/core/wire';
import { BrowserSerial, type BrowserPort, type LineSettings } from '../data/browser-serial';
import { DeviceLink } from '../data/device-link';
import { JobStore } from '../data/job-store';
import { RunWork } from '../data/run-work';
import { sampleCard, setUp, until, voltParameter } from '../testing';
import { OwnPort } from './own-port';

const card = {
  ...sampleCard({
    id: 'p1',
    kind: 'solarMppt',
    ratings: { outputA: 30, arrayVoltsMax: 100, systemVolts: [24], chemistries: ['lfp'] },
    parameters: [voltParameter('absorbVoltage'), voltParameter('floatVoltage')],
  }),
  telemetry: {
    protocol: 'modbus' as const,
    identity: { register: 1, value: 4501 },
    live: [],
    values: [
      { role: 'absorbVoltage' as const, register: 10, scale: 0.1 },
      { role: 'floatVoltage' as const, register: 11, scale: 0.1 },
    ],
  },
};

describe('a device read through a port of this machine', () => {
  function shown(words: ReadonlyMap<number, number> | null, port: object | null = {}, known: typeof card | null = card, own = {}) {
    setUp();
    const asked: { unit: number; how: LineSettings }[] = [];
    let closed = 0;
    const master = (unit: number, how: LineSettings): Master => ({
      read: (from, count): Promise<Frame<readonly number[]>> => {
        asked.push({ unit, how });
        return Promise.resolve(
          words
            ? { ok: true, value: Array.from({ length: count }, (_, i) => words.get(from + i) ?? 0) }
            : { ok: false, failure: { kind: 'silent', text: 'no answer in time' } },
        );
      },
      write: () => Promise.reject(new Error('never')),
      close: () => undefined,
    });
    TestBed.overrideProvider(BrowserSerial, {
      useValue: {
        there: true,
        choose: () => Promise.resolve(port as BrowserPort | null),
        listen: (_port: BrowserPort, how: LineSettings) => ({ how }),
        bus: (_port: BrowserPort, how: LineSettings) => ({ unit: (unit: number) => master(unit, how), close: () => closed++ }),
      },
    });
    const noted: DeviceValues[] = [];
    spyOn(TestBed.inject(RunWork), 'noteFound').and.callFake((_id, values) => void noted.push(values));
    const fixture = TestBed.createComponent(OwnPort);
    fixture.componentRef.setInput('device', { id: 'roof', name: 'Roof', ...own });
    fixture.componentRef.setInput('card', known);
    fixture.detectChanges();
    const host = fixture.nativeElement as HTMLElement;
    const press = async (until_: () => boolean, way = 'read it'): Promise<void> => {
      [...host.querySelectorAll('button')].find((b) => b.textContent.includes(`Choose the port and ${way}`))!.click();
      await until(() => {
        fixture.detectChanges();
        return until_();
      }, 'it came to something');
    };
    const set = (selector: string, value: string): void => {
      const field = host.querySelector<HTMLInputElement>(selector)!;
      field.value = value;
      field.dispatchEvent(new Event('change'));
      fixture.detectChanges();
    };
    return { host, press, set, asked, noted, closed: () => closed, text: () => host.textContent.replace(/\s+/g, ' ') };
  }

  it('notes what stands on it, asked by its number and with the line as said', async () => {
    const { press, set, asked, noted, closed, text } = shown(
      new Map([
        [1, 4501],
        [10, 284],
        [11, 270],
      ]),
    );
    set('input', '7');
    set('select', '19200');
    await press(() => text().includes('settings were read'));
    expect(noted).toEqual([{ absorbVoltage: 28.4, floatVoltage: 27 }]);
    expect(asked[0]).toEqual({ unit: 7, how: { baud: 19_200, parity: 'none', stopBits: 1 } });
    expect([text().includes('2 settings were read.'), closed()]).toEqual([true, 1]);
  });

  it('says what is wrong, notes nothing, and closes the port', async () => {
    const other = shown(new Map([[1, 9]]));
    await other.press(() => other.text().includes('Another device answers here'));
    expect([other.noted, other.closed()]).toEqual([[], 1]);
    TestBed.resetTestingModule();
    const silent = shown(null);
    await silent.press(() => silent.text().includes('no answer in time'));
    expect([silent.noted, silent.closed()]).toEqual([[], 1]);
    TestBed.resetTestingModule();
    const wrong = shown(new Map());
    wrong.set('input', '248');
    await wrong.press(() => wrong.text().includes('a whole one from 1 to 247'));
    expect(wrong.asked).toEqual([]);
  });

  it('does nothing where no port was chosen', async () => {
    const { press, asked, text } = shown(new Map(), null);
    await press(() => true);
    expect([asked.length, text().includes('Choose the port')]).toEqual([0, true]);
  });

  it('is listened to under its address, and under its own name where it has none', async () => {
    for (const [own, name] of [
      [{ link: 'shunt' }, 'shunt'],
      [{}, 'Roof'],
    ] as const) {
      const { press, set, text, host } = shown(null, {}, null, own);
      const listened = spyOn(TestBed.inject(DeviceLink), 'listen');
      const edited = spyOn(TestBed.inject(JobStore), 'edit');
      // Of a device without registers nothing can be read, and it needs no number.
      expect([text().includes('read it'), host.querySelector('input')]).toEqual([false, null]);
      set('select', '19200');
      await press(() => listened.calls.count() > 0, 'listen');
      expect(listened.calls.mostRecent().args).toEqual([name, { how: { baud: 19_200, parity: 'none', stopBits: 1 } } as never]);
      expect(edited.calls.count()).toBe('link' in own ? 0 : 1);
      TestBed.resetTestingModule();
    }
  });

  it('an address that it did not have is written into the job', async () => {
    const { press } = shown(null, {}, null);
    spyOn(TestBed.inject(DeviceLink), 'listen');
    const edited = spyOn(TestBed.inject(JobStore), 'edit');
    await press(() => edited.calls.count() > 0, 'listen');
    const [says, change] = edited.calls.mostRecent().args;
    const job = { system: { chargers: [{ id: 'roof' }, { id: 'rack' }], companions: [] } } as unknown as Job;
    expect(says).toBe('Address of Roof');
    expect(change(job).system.chargers.map((c) => c.link)).toEqual(['Roof', undefined]);
  });
});
