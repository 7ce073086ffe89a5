import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { Units } from '../data/units';
import { setUp } from '../testing';
import { NumberField } from './number-field';

describe('a number field', () => {
  let fixture: ComponentFixture<NumberField>;
  let emitted: (number | undefined)[];

  beforeEach(() => {
    setUp();
    TestBed.inject(Units).scale.set('C');
    fixture = TestBed.createComponent(NumberField);
    fixture.componentRef.setInput('label', 'Absorb');
    fixture.componentRef.setInput('value', 28.1);
    emitted = [];
    fixture.componentInstance.changed.subscribe((value) => emitted.push(value));
    fixture.detectChanges();
  });

  const input = (): HTMLInputElement => (fixture.nativeElement as HTMLElement).querySelector('input')!;
  const type = (text: string): void => {
    input().focus();
    input().value = text;
    input().dispatchEvent(new Event('input'));
    fixture.detectChanges();
  };
  const problem = (): string => (fixture.nativeElement as HTMLElement).querySelector('.wrong')?.textContent.trim() ?? '';

  it('takes a comma and reports the number', () => {
    type('28,25');
    expect(emitted).toEqual([28.25]);
    expect(problem()).toBe('');
  });

  it('keeps what was typed while it is wrong, and reports nothing', () => {
    fixture.componentRef.setInput('unit', 'V');
    type('28 A');
    expect(emitted).toEqual([]);
    expect(input().value).toBe('28 A');
    expect(problem()).toContain('“A” does not fit here. This is in V.');
    fixture.componentRef.setInput('value', 27);
    input().blur();
    fixture.detectChanges();
    expect(input().value).toBe('28 A');
    type('28 3');
    expect(problem()).toContain('not a number');
  });

  it('takes any unit that fits, and keeps it as typed', () => {
    fixture.componentRef.setInput('unit', 'min');
    fixture.componentRef.setInput('scale', 60);
    type('2 h');
    expect(emitted).toEqual([7200]);
    fixture.componentRef.setInput('value', 7200);
    fixture.detectChanges();
    expect(input().value).toBe('2 h');
    fixture.componentRef.setInput('kind', 'temperature');
    fixture.componentRef.setInput('scale', 1);
    type('39 °F');
    expect(emitted[1]).toBeCloseTo(3.888889, 6);
  });

  it('names the limit of an out-of-range entry', () => {
    fixture.componentRef.setInput('max', 30);
    fixture.componentRef.setInput('unit', 'V');
    type('31');
    expect(problem()).toBe('At most 30 V.');
    expect(emitted).toEqual([]);
  });

  it('means "not known" by an empty field only where it may', () => {
    type('');
    expect(problem()).toContain('Nothing is entered');
    fixture.componentRef.setInput('optional', true);
    type('');
    expect(emitted).toEqual([undefined]);
  });

  it('shows and takes temperatures on the person’s scale, readings and differences apart', () => {
    TestBed.inject(Units).scale.set('F');
    fixture.componentRef.setInput('kind', 'temperature');
    fixture.componentRef.setInput('value', 4);
    fixture.detectChanges();
    expect(input().value).toBe('39.2');
    type('32');
    expect(emitted).toEqual([0]);
    fixture.componentRef.setInput('kind', 'difference');
    type('7.2');
    expect(emitted[1]).toBeCloseTo(4, 9);
  });

  it('steps with the arrow keys', () => {
    fixture.componentRef.setInput('step', 0.1);
    fixture.detectChanges();
    input().dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowUp' }));
    expect(emitted).toEqual([28.2]);
  });
});
