import { TestBed } from '@angular/core/testing';
import { setUp } from '../testing';
import { Announcer, AnnouncerPlace } from './announcer';

describe('the voice of the page', () => {
  it('says each thing in a place that is heard, and the same words again as something new', () => {
    setUp();
    const fixture = TestBed.createComponent(AnnouncerPlace);
    const host = fixture.nativeElement as HTMLElement;
    fixture.detectChanges();
    expect([host.getAttribute('role'), host.getAttribute('aria-live'), host.textContent.trim()]).toEqual(['status', 'polite', '']);
    const voice = TestBed.inject(Announcer);
    voice.say('Undid: absorb');
    fixture.detectChanges();
    const first = host.querySelector('span');
    expect(host.textContent.trim()).toBe('Undid: absorb');
    voice.say('Undid: absorb');
    fixture.detectChanges();
    expect(host.textContent.trim()).toBe('Undid: absorb');
    expect(host.querySelector('span')).not.toBe(first);
    const second = host.querySelector('span');
    voice.say('');
    fixture.detectChanges();
    expect(host.querySelector('span')).toBe(second);
  });
});
