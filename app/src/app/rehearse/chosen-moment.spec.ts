import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { ActivatedRoute, convertToParamMap, Router } from '@angular/router';
import { RehearseWork } from '../data/rehearse-work';
import { until } from '../testing';
import { ChosenMoment, momentText, secondsOfMoment } from './chosen-moment';

interface Run {
  readonly a: { readonly from: number; readonly to: number; readonly events: readonly { readonly at: number; readonly beginsAbsorb: boolean }[] };
}
const day: Run = { a: { from: 1000, to: 1000 + 86_400, events: [{ at: 1000 + 9 * 3600, beginsAbsorb: true }] } };

describe('the chosen moment of a rehearsal', () => {
  const shown = signal<Run | null>(null);
  let addresses: unknown[];
  function moment(at: string | null): ChosenMoment {
    shown.set(null);
    addresses = [];
    TestBed.configureTestingModule({
      providers: [
        ChosenMoment,
        { provide: RehearseWork, useValue: { shown } },
        { provide: Router, useValue: { navigate: (_: unknown, how: { queryParams: unknown }) => addresses.push(how.queryParams) } },
        { provide: ActivatedRoute, useValue: { snapshot: { queryParamMap: convertToParamMap(at === null ? {} : { at }) } } },
      ],
    });
    return TestBed.inject(ChosenMoment);
  }

  it('is written in hours, minutes and the seconds where there are some, and read back', () => {
    expect(momentText(0)).toBe('0:00');
    expect(momentText(14 * 3600 + 20 * 60 + 5.4)).toBe('14:20:05');
    expect(momentText(14 * 3600 + 20 * 60 + 59.6)).toBe('14:21');
    expect(momentText(38 * 3600 + 300)).toBe('38:05');
    for (const text of ['0:00', '14:20', '14:20:01', '38:05', '119:59:59']) expect(momentText(secondsOfMoment(text)!)).toBe(text);
    for (const text of [null, '', '14', '14:60', '-1:00', 'noon', '14:2', '14:20:60']) expect(secondsOfMoment(text)).withContext(String(text)).toBeNull();
  });

  it('begins where the first absorb does, or where the address says; not past the end of the day', () => {
    for (const [at, hour] of [
      [null, 9],
      ['14:30', 14.5],
      ['24:00', 24],
      ['24:01', 9],
      ['noon', 9],
    ] as const) {
      const chosen = moment(at);
      shown.set(day);
      expect((chosen.at() - 1000) / 3600)
        .withContext(String(at))
        .toBe(hour);
      TestBed.resetTestingModule();
    }
  });

  it('stays in place while the day changes, and not when it is another length of time', () => {
    const chosen = moment(null);
    shown.set(day);
    chosen.go(1000 + 15 * 3600);
    shown.set({ a: { ...day.a, events: [{ at: 1000 + 7 * 3600, beginsAbsorb: true }] } });
    expect((chosen.at() - 1000) / 3600).toBe(15);
    // Nothing is shown while it is worked out anew.
    shown.set(null);
    expect((chosen.at() - 1000) / 3600).toBe(15);
    shown.set(day);
    expect((chosen.at() - 1000) / 3600).toBe(15);
    shown.set({ a: { from: 1000, to: 1000 + 3 * 86_400, events: [{ at: 1000 + 8 * 3600, beginsAbsorb: true }] } });
    expect((chosen.at() - 1000) / 3600).toBe(8);
  });

  it('goes into the address where it rests, and nowhere else', async () => {
    const chosen = moment(null);
    shown.set(day);
    expect(chosen.at()).toBe(1000 + 9 * 3600);
    for (const hour of [10, 11, 12]) chosen.go(1000 + hour * 3600);
    await until(() => addresses.length > 0, 'it rests');
    expect(addresses).toEqual([{ at: '12:00' }]);
  });
});
