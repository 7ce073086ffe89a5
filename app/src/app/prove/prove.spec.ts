import { TestBed } from '@angular/core/testing';
import type { StageSpan } from '@calm-keel/core/proof';
import { setUp } from '../testing';
import { plainForPlot } from './plot';
import { StageRibbon } from './stage-ribbon';

describe('names in a plot', () => {
  it('are text: nothing the plot library would read as markup is left', () => {
    expect(plainForPlot('<b>Aft</b> & <a href="x">fore</a>')).toBe('&lt;b&gt;Aft&lt;/b&gt; &amp; &lt;a href="x"&gt;fore&lt;/a&gt;');
    expect(plainForPlot('Solar fore')).toBe('Solar fore');
  });
});

describe('the stage ribbon', () => {
  const span = (stage: StageSpan['stage'], from: number, to: number): StageSpan => ({
    charger: 'a',
    stage,
    from,
    to,
    first: 0,
    last: 0,
    confidence: 1,
    atVoltageSeconds: stage === 'absorb' ? 600 : 0,
  });

  it('draws texture, letter and words, leaves the dark as a bare line, and drops letters that do not fit', () => {
    setUp();
    const fixture = TestBed.createComponent(StageRibbon);
    const inputs = {
      name: 'Aft',
      spans: [span('off', 0, 3600), span('bulk', 3600, 7200), span('absorb', 7200, 7260), span('float', 7260, 14400)],
      from: 0,
      to: 14400,
      offsetMinutes: 0,
      width: 400,
    };
    for (const [key, value] of Object.entries(inputs)) fixture.componentRef.setInput(key, value);
    fixture.detectChanges();
    const groups = [...(fixture.nativeElement as HTMLElement).querySelectorAll('g')];
    expect(groups.map((g) => g.querySelector('text')?.textContent.trim() ?? '')).toEqual(['', 'B', '', 'F']);
    expect(groups[0]?.querySelector('rect')?.getAttribute('fill')).toBe('transparent');
    expect(groups[2]?.getAttribute('aria-label')).toBe('Aft: absorb from 02:00 to 02:01, 10\u00a0min of it at voltage');
  });

  it('is one stop for Tab; arrows go from stage to stage, Enter and Space choose', () => {
    setUp();
    const fixture = TestBed.createComponent(StageRibbon);
    document.body.append(fixture.nativeElement as HTMLElement);
    const inputs = { name: 'Aft', spans: [span('bulk', 0, 3600), span('absorb', 3600, 7200)], from: 0, to: 7200, offsetMinutes: 0, width: 400 };
    for (const [key, value] of Object.entries(inputs)) fixture.componentRef.setInput(key, value);
    const chosen: string[] = [];
    fixture.componentInstance.chosen.subscribe((s) => chosen.push(s.stage));
    fixture.detectChanges();
    const groups = [...(fixture.nativeElement as HTMLElement).querySelectorAll<SVGGElement>('g')];
    const stops = (): (string | null)[] => {
      fixture.detectChanges();
      return groups.map((g) => g.getAttribute('tabindex'));
    };
    const press = (key: string): KeyboardEvent => {
      const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true });
      document.activeElement?.dispatchEvent(event);
      return event;
    };
    expect(stops()).toEqual(['0', '-1']);
    groups[0]?.focus();
    press('ArrowRight');
    expect([document.activeElement, ...stops()]).toEqual([groups[1] ?? null, '-1', '0']);
    press('ArrowRight');
    expect(document.activeElement).toBe(groups[1] ?? null);
    expect(press(' ').defaultPrevented).toBeTrue();
    press('ArrowLeft');
    press('Enter');
    expect(chosen).toEqual(['absorb', 'bulk']);
    (fixture.nativeElement as HTMLElement).remove();
  });
});
