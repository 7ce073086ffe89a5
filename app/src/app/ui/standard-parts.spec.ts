import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { PickField, type PickOption } from './pick-field';
import { Tabs } from './tabs';
import { Tip } from './tip';

@Component({
  imports: [Tabs],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<ck-tabs label="Views" [tabs]="tabs" [active]="active()" (chosen)="chosen.push($event); active.set(follows ? $event : active())"
    >shows {{ active() }}</ck-tabs
  >`,
})
class Views {
  readonly tabs = [
    { id: 'ladder', words: 'Ladder' },
    { id: 'table', words: 'Table', key: 'T' },
    { id: 'relay', words: 'Relay' },
  ] as const;
  readonly active = signal<string>('ladder');
  readonly chosen: string[] = [];
  follows = true;
}

describe('tabs', () => {
  function open() {
    const fixture = TestBed.createComponent(Views);
    document.body.append(fixture.nativeElement as HTMLElement);
    fixture.detectChanges();
    const host = fixture.nativeElement as HTMLElement;
    const tabs = [...host.querySelectorAll<HTMLElement>('[role=tab]')];
    return {
      host,
      tabs,
      page: fixture.componentInstance,
      settle: () => {
        fixture.detectChanges();
      },
    };
  }

  it('say which one is chosen, and the panel says whose it is', () => {
    const { host, tabs } = open();
    expect(host.querySelector('[role=tablist]')?.getAttribute('aria-label')).toBe('Views');
    expect(tabs.map((t) => t.getAttribute('aria-selected'))).toEqual(['true', 'false', 'false']);
    expect(tabs[1]?.getAttribute('aria-keyshortcuts')).toBe('T');
    const panel = host.querySelector('[role=tabpanel]')!;
    expect(panel.textContent.trim()).toBe('shows ladder');
    expect(panel.getAttribute('aria-labelledby')).toBe(tabs[0]?.id ?? '');
    expect(tabs[0]?.getAttribute('aria-controls')).toBe(panel.id);
  });

  it('go where they are pressed, and the panel with them', () => {
    const { host, tabs, page, settle } = open();
    tabs[2]?.click();
    settle();
    expect(page.chosen).toEqual(['relay']);
    expect(tabs.map((t) => t.getAttribute('aria-selected'))).toEqual(['false', 'false', 'true']);
    const panel = host.querySelector('[role=tabpanel]')!;
    expect(panel.textContent.trim()).toBe('shows relay');
    expect(tabs[2]?.getAttribute('aria-controls')).toBe(panel.id);
  });

  it('stay where they are when the page does not follow', () => {
    const { tabs, page, settle } = open();
    page.follows = false;
    tabs[1]?.click();
    settle();
    expect(page.chosen).toEqual(['table']);
    expect(tabs.map((t) => t.getAttribute('aria-selected'))).toEqual(['true', 'false', 'false']);
  });

  it('are one stop of Tab, and the arrow keys go along them', () => {
    const { tabs, page } = open();
    tabs[0]?.focus();
    tabs[0]?.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', bubbles: true }));
    expect(document.activeElement).toBe(tabs[1] ?? null);
    tabs[1]?.dispatchEvent(new KeyboardEvent('keydown', { key: 'End', bubbles: true }));
    expect(document.activeElement).toBe(tabs[2] ?? null);
    expect(page.chosen).toEqual([]);
  });
});

@Component({
  imports: [PickField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<ck-pick-field label="Add a setting" [options]="options" (picked)="picked.push($event)" />`,
})
class Picking {
  readonly options: readonly PickOption[] = [
    { value: 'absorbVoltage', words: 'absorb' },
    { value: 'absorbTime', words: 'longest absorb time' },
    ...Array.from({ length: 20 }, (_, i) => ({ value: `other${i}`, words: `other ${i}` })),
  ];
  readonly picked: string[] = [];
}

describe('one of a long list', () => {
  function open() {
    const fixture = TestBed.createComponent(Picking);
    document.body.append(fixture.nativeElement as HTMLElement);
    fixture.detectChanges();
    const host = fixture.nativeElement as HTMLElement;
    const field = host.querySelector('input')!;
    return {
      field,
      page: fixture.componentInstance,
      lines: () => [...host.querySelectorAll<HTMLElement>('[role=option]')].map((o) => o.textContent.trim()),
      come: () => {
        field.focus();
        field.dispatchEvent(new Event('focus'));
        fixture.detectChanges();
      },
      type: (text: string) => {
        field.value = text;
        field.dispatchEvent(new Event('input'));
        fixture.detectChanges();
      },
      key: (key: string) => {
        field.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
        fixture.detectChanges();
      },
    };
  }

  it('opens with its first lines when it is come to', () => {
    const { come, lines } = open();
    expect(lines()).toEqual([]);
    come();
    expect(lines().length).toBe(12);
    expect(lines().slice(0, 2)).toEqual(['absorb', 'longest absorb time']);
  });

  it('finds by every part that is typed, in any case and order', () => {
    const { come, type, lines } = open();
    come();
    type('TIME abs');
    expect(lines()).toEqual(['longest absorb time']);
    type('time mains');
    expect(lines()).toEqual([]);
  });

  it('hands on what Enter takes, and is empty for the next', () => {
    const { come, type, key, field, page, lines } = open();
    come();
    type('absorb');
    key('ArrowDown');
    key('Enter');
    expect(page.picked).toEqual(['absorbTime']);
    expect(field.value).toBe('');
    expect(lines()).toEqual([]);
  });

  it('takes nothing that was only typed, and Escape closes it', () => {
    const { come, type, key, page, lines } = open();
    come();
    type('nothing like it');
    key('Enter');
    type('absorb');
    key('Escape');
    expect([page.picked, lines()]).toEqual([[], []]);
  });
});

@Component({ imports: [Tip], changeDetection: ChangeDetectionStrategy.OnPush, template: `<button type="button" ckTip="Undo: float">u</button>` })
class Marked {}

describe('a word about a mark', () => {
  it('comes with the focus, is read with the mark, and goes with it', () => {
    jasmine.clock().install();
    try {
      const fixture = TestBed.createComponent(Marked);
      document.body.append(fixture.nativeElement as HTMLElement);
      fixture.detectChanges();
      const button = (fixture.nativeElement as HTMLElement).querySelector('button')!;
      const tips = () => [...document.querySelectorAll('body > ngb-tooltip-window')].map((t) => t.textContent.trim());
      button.dispatchEvent(new Event('focusin'));
      jasmine.clock().tick(399);
      expect(tips()).toEqual([]);
      jasmine.clock().tick(2);
      fixture.detectChanges();
      expect(tips()).toEqual(['Undo: float']);
      expect(document.getElementById(button.getAttribute('aria-describedby') ?? '')?.textContent.trim()).toBe('Undo: float');
      button.dispatchEvent(new Event('focusout'));
      jasmine.clock().tick(1);
      expect(tips()).toEqual([]);
      // A finger's tap comes as a pointer, then as the mouse it imitates, then as the focus.
      for (const [pointerType, words] of [
        ['touch', []],
        ['mouse', ['Undo: float']],
      ] as const) {
        button.dispatchEvent(new PointerEvent('pointerenter', { pointerType }));
        button.dispatchEvent(new Event('mouseenter'));
        button.dispatchEvent(new Event('focusin'));
        jasmine.clock().tick(401);
        fixture.detectChanges();
        expect(tips())
          .withContext(pointerType)
          .toEqual([...words]);
        button.dispatchEvent(new Event('mouseleave'));
        button.dispatchEvent(new Event('focusout'));
        jasmine.clock().tick(1);
      }
    } finally {
      jasmine.clock().uninstall();
    }
  });
});
