import { TestBed } from '@angular/core/testing';
import { NgbActiveOffcanvas } from '@ng-bootstrap/ng-bootstrap/offcanvas';
import { GlossaryPanel } from './glossary-panel';

describe('what the words mean', () => {
  function open() {
    let closed = 0;
    TestBed.configureTestingModule({ providers: [{ provide: NgbActiveOffcanvas, useValue: { dismiss: () => closed++ } }] });
    const fixture = TestBed.createComponent(GlossaryPanel);
    fixture.detectChanges();
    const host = fixture.nativeElement as HTMLElement;
    return {
      host,
      closed: () => closed,
      words: () => [...host.querySelectorAll('dt')].map((e) => e.textContent),
      seek: (text: string) => {
        const field = host.querySelector('input')!;
        field.value = text;
        field.dispatchEvent(new Event('input'));
        fixture.detectChanges();
      },
    };
  }

  it('are all there, in the order of the work, and go with a press', () => {
    const { host, words, closed } = open();
    expect([...host.querySelectorAll('h3')].map((e) => e.textContent)).toEqual([
      'Bank and paper',
      'Stages of a charge',
      'Devices',
      'Settings and limits',
      'Proof',
      'What each setting does',
    ]);
    expect(words()).toContain('Absorb');
    expect(words()).toContain('Taper current');
    host.querySelector('button')!.click();
    expect(closed()).toBe(1);
  });

  it('are found by all words typed, whatever their case, those that are called so first', () => {
    const { host, words, seek } = open();
    seek('TAPER');
    expect(words()[0]).toBe('Taper current');
    seek('lithium frozen');
    expect(words()).toEqual(['Low-temperature cutoff']);
    expect(host.querySelector('[role=status]')!.textContent).toBe('1 word');
    seek('  ');
    expect(words().length).toBeGreaterThan(80);
  });

  it('that are not there are said to be not there', () => {
    const { host, words, seek } = open();
    seek('flux');
    expect(words()).toEqual([]);
    expect(host.textContent).toContain('No word here has “flux” in it.');
  });
});
