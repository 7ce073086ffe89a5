import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { quickCard, type Card } from '@calm-keel/core/card';
import type { SheetStep } from '@calm-keel/core/runsheet';
import { RunWork } from '../data/run-work';
import { setUp } from '../testing';
import { SeenPanel } from './seen-panel';

const quick = quickCard({ id: 'mine', maker: 'Ostmark', model: 'Q40', kind: 'solarMppt', outputA: 40, systemVolts: [24], inputVoltsMax: 100 });
const step = (id: string, from: number | null): SheetStep => ({ id, device: 'one', value: { role: 'floatVoltage', from, to: 26.9 } }) as unknown as SheetStep;

describe('what a setting takes, noted while it is set', () => {
  let fixture: ComponentFixture<SeenPanel>;
  let host: HTMLElement;
  let learnt: unknown[][];

  function show(card: Card, at: SheetStep): void {
    fixture.componentRef.setInput('card', card);
    fixture.componentRef.setInput('step', at);
    fixture.detectChanges();
  }
  beforeEach(() => {
    learnt = [];
    setUp(undefined, [{ provide: RunWork, useValue: { learn: (...given: unknown[]) => learnt.push(given) } }]);
    fixture = TestBed.createComponent(SeenPanel);
    host = fixture.nativeElement as HTMLElement;
    show(quick, step('a', 26.4));
  });
  const button = (words: string): HTMLButtonElement | undefined => [...host.querySelectorAll('button')].find((b) => b.textContent.trim().startsWith(words));
  const press = (words: string): void => {
    button(words)!.click();
    fixture.detectChanges();
  };
  function type(label: string, text: string): void {
    const of = [...host.querySelectorAll('label')].find((l) => l.textContent.trim() === label)!;
    const field = host.querySelector<HTMLInputElement>(`#${CSS.escape(of.htmlFor)}`)!;
    field.value = text;
    field.dispatchEvent(new Event('input'));
    fixture.detectChanges();
  }

  it('asks only for what is not known, and hands on what was seen with what the display showed', () => {
    expect(getComputedStyle(host).display).toBe('block');
    press('Note what it takes: its lower end, its upper end, its steps');
    expect(button('Put it on the card')!.disabled).toBeTrue();
    type('One press moves it by', '0,2');
    press('Put it on the card');
    expect(learnt).toEqual([[step('a', 26.4), 'floatVoltage', { step: 0.2 }, '26.4']]);
    // Closed again, for what is still open.
    expect(button('Put it on the card')).toBeUndefined();
    const known = quick.parameters.map((p) => (p.role === 'floatVoltage' && p.unit !== 'choice' ? { ...p, notKnown: ['least' as const, 'step' as const] } : p));
    show({ ...quick, parameters: known }, step('a', 26.4));
    expect(button('Note what it takes: its lower end, its steps')).toBeDefined();
  });

  it('asks back what does not fit with what the display shows, and hands on nothing of it', () => {
    press('Note what it takes');
    type('Highest it goes', '26');
    expect(host.textContent).toContain('It shows 26.4, and then 26.');
    expect(button('Put it on the card')!.disabled).toBeTrue();
    type('Highest it goes', '27');
    expect(button('Put it on the card')!.disabled).toBeFalse();
  });

  it('leaves what was typed with its step, and is not there where all is known', () => {
    press('Note what it takes');
    type('Lowest it goes', '24');
    show(quick, step('b', null));
    expect(button('Put it on the card')).toBeUndefined();
    press('Note what it takes');
    expect(button('Put it on the card')!.disabled).toBeTrue();
    const known = quick.parameters.map((p) => {
      if (p.unit === 'choice') return p;
      const { notKnown: _open, ...rest } = p;
      return rest;
    });
    show({ ...quick, parameters: known }, step('c', null));
    expect(host.querySelectorAll('button').length).toBe(0);
    expect(getComputedStyle(host).display).toBe('none');
  });
});
