import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { DeviceValues } from '@calm-keel/core/card';
import { DeviceLink } from '../data/device-link';
import { JobStore } from '../data/job-store';
import { RunWork } from '../data/run-work';
import { sampleCard, setUp, voltParameter } from '../testing';
import { SaidSettings } from './said-settings';

const card = sampleCard({
  id: 'p1',
  kind: 'solarMppt',
  ratings: { outputA: 30, arrayVoltsMax: 100, systemVolts: [24], chemistries: ['lfp'] },
  parameters: [
    { ...voltParameter('absorbVoltage'), label: 'Absorb' },
    { ...voltParameter('floatVoltage'), label: 'Float' },
  ],
});

describe('what a device that only talks says of its settings', () => {
  function shown(fields: Readonly<Record<string, string>>, present: DeviceValues = {}, running = false) {
    setUp();
    const now = signal(1000);
    const state = { at: 1000, fields, problem: null, live: {} };
    TestBed.overrideProvider(DeviceLink, { useValue: { live: signal(new Map([['shunt', state]])), now } });
    TestBed.overrideProvider(JobStore, { useValue: { plan: signal({ facts: { systemVolts: 24, nominalVolts: 25.6 } }) } });
    const noted: [string, DeviceValues, string | undefined][] = [];
    TestBed.overrideProvider(RunWork, {
      useValue: { running: () => running, noteFound: (device: string, values: DeviceValues, way?: string) => void noted.push([device, values, way]) },
    });
    const fixture = TestBed.createComponent(SaidSettings);
    fixture.componentRef.setInput('device', { id: 'roof', name: 'Roof', link: 'shunt', present });
    fixture.componentRef.setInput('card', card);
    fixture.detectChanges();
    const host = fixture.nativeElement as HTMLElement;
    const button = () => host.querySelector('button');
    return {
      host,
      noted,
      button,
      now,
      look: () => {
        fixture.detectChanges();
      },
      tell: (changed: DeviceValues) => {
        fixture.componentRef.setInput('device', { id: 'roof', name: 'Roof', link: 'shunt', present: changed });
        fixture.detectChanges();
      },
      rows: () => [...host.querySelectorAll('li')].map((li) => li.innerText.replace(/\s+/g, ' ').trim()),
    };
  }

  it('is shown beside what is noted, and taken as found without what somebody cleared', () => {
    const { rows, button, host, noted, look, tell } = shown({ volts: '26.4', Absorb: '28.2', Float: '27 V' }, { floatVoltage: 26.8 });
    expect(rows()).toEqual(['Absorb 28.2 V not noted yet', 'Float 27.0 V noted: 26.8 V']);
    expect(button()?.textContent).toBe('Take 2 as found on it');
    host.querySelector<HTMLInputElement>('input')!.click();
    look();
    expect(button()?.textContent).toBe('Take 1 as found on it');
    button()!.click();
    expect(noted).toEqual([['roof', { floatVoltage: 27 }, 'wire']]);
    tell({ floatVoltage: 27 });
    expect(rows()[1]).toBe('Float 27.0 V as noted');
    expect(button()).toBeNull();
    expect(host.querySelector('[role=status]')?.textContent).toContain('Noted as found on it.');
  });

  it('that this menu cannot show is named with its reason; readings alone show nothing', () => {
    const { rows, button } = shown({ Float: '270' });
    expect(rows()[0]).toContain('Float = 270');
    expect(button()).toBeNull();
    expect(shown({ volts: '26.4' }).host.textContent.trim()).toBe('');
  });

  it('is not taken when it is old, nor while a run sheet is open', () => {
    const old = shown({ Float: '27' });
    old.now.set(1000 + 3_600_000);
    old.look();
    expect(old.button()?.disabled).toBeTrue();
    const open = shown({ Float: '27' }, {}, true);
    expect(open.button()).toBeNull();
    expect(open.host.textContent).toContain('at its own step');
  });
});
