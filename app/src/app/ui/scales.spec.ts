import { ChangeDetectionStrategy, Component } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Axis } from './axis';
import { axis, pointsPath, rounds, ticksOf, tracePath, type Tick } from './scales';

describe('a drawing’s axis', () => {
  it('lays a domain onto its reach to a tenth of a pixel, and finds the value again', () => {
    const y = axis([10, 15], [100, 0]);
    expect([y(10), y(12.5), y(15)]).toEqual([100, 50, 0]);
    expect(y(11.111)).toBe(77.8);
    expect(y(16)).toBe(-20);
    expect(y.invert(50)).toBeCloseTo(12.5, 9);
    expect(axis([0, 10], [0, 50]).clamp(true)(12)).toBe(50);
  });

  it('of one value alone still has a place for it', () => {
    expect(axis([26, 26], [52, 712])(26)).toBe(52);
  });

  it('counts the round values, both ends of the domain too', () => {
    expect(rounds([-7, 21], 10)).toEqual([0, 10, 20]);
    expect(rounds([10, 30], 10)).toEqual([10, 20, 30]);
    expect(rounds([26.4, 27.2], 0.4).map((v) => Math.round(v * 10) / 10)).toEqual([26.4, 26.8, 27.2]);
    expect(rounds([1, 9], 10)).toEqual([]);
    // Random domains, against counting by hand in whole hundredths.
    for (let i = 0; i < 200; i++) {
      const from = Math.round(Math.random() * 4000 - 2000);
      const to = from + Math.round(Math.random() * 3000);
      const step = 1 + Math.round(Math.random() * 400);
      let count = 0;
      for (let v = from; v <= to; v++) if (v % step === 0) count++;
      expect(rounds([from / 100, to / 100], step / 100).length)
        .withContext(`${from} to ${to} by ${step} hundredths`)
        .toBe(count);
    }
  });

  it('puts words at its ticks, also where the domain falls', () => {
    expect(ticksOf(axis([0, 20], [0, 200]), 10, (v) => `${v} °C`)).toEqual([
      { at: 0, words: '0 °C' },
      { at: 100, words: '10 °C' },
      { at: 200, words: '20 °C' },
    ]);
    expect(ticksOf(axis([20, 0], [0, 200]), 10, String).map((t) => t.at)).toEqual([200, 100, 0]);
  });

  it('breaks a trace where a value is missing, and nowhere else', () => {
    const path = tracePath(
      { time: [0, 1, 2, 3, 4], value: [1, 2, NaN, 4, 5] },
      (t) => t * 10,
      (v) => v + 0.04,
    );
    expect(path).toBe('M0,1L10,2M30,4L40,5');
    expect(tracePath({ time: [], value: [] }, Number, Number)).toBe('');
    expect(
      pointsPath([
        [0, 1],
        [2.26, 3],
      ]),
    ).toBe('M0,1L2.3,3');
  });
});

@Component({
  imports: [Axis],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<svg><g ckAxis [side]="side" [ticks]="ticks" [at]="50" [line]="[10, 90]" [grid]="grid" [nib]="4" [tuck]="true"></g></svg>`,
})
class Drawing {
  side: 'left' | 'foot' = 'left';
  grid: number | null = 90;
  ticks: readonly Tick[] = [
    { at: 10, words: '26' },
    { at: 50, words: '27' },
    { at: 90, words: '28' },
  ];
}

describe('the axis of a drawing', () => {
  const drawn = (change: Partial<Drawing>) => {
    const fixture = TestBed.createComponent(Drawing);
    Object.assign(fixture.componentInstance, change);
    fixture.detectChanges();
    const svg = (fixture.nativeElement as HTMLElement).querySelector('svg')!;
    return {
      paths: [...svg.querySelectorAll('path')].map((p) => p.getAttribute('d')),
      texts: [...svg.querySelectorAll('text')].map((t) => [t.textContent.trim(), t.getAttribute('x'), t.getAttribute('y'), t.getAttribute('text-anchor')]),
    };
  };

  it('on the left has its line upright, hairlines across and its figures before it', () => {
    const { paths, texts } = drawn({});
    expect(paths).toEqual(['M50 10V90', 'M50 10H90', 'M50 50H90', 'M50 90H90']);
    expect(texts).toEqual([
      ['26', '44', '14', 'end'],
      ['27', '44', '54', 'end'],
      ['28', '44', '94', 'end'],
    ]);
  });

  it('at the foot has marks below and its outer figures tucked in', () => {
    const { paths, texts } = drawn({ side: 'foot', grid: null });
    expect(paths).toEqual(['M10 50H90', 'M10 50v4', 'M50 50v4', 'M90 50v4']);
    expect(texts).toEqual([
      ['26', '10', '68', 'start'],
      ['27', '50', '68', 'middle'],
      ['28', '90', '68', 'end'],
    ]);
  });
});
