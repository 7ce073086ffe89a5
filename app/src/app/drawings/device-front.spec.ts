import { Component, signal, ChangeDetectionStrategy } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { faceRules, makeMove, newFace, type FaceMove, type FaceState } from '@calm-keel/core/face';
import { sampleCard, setUp, tearDown } from '../testing';
import type { Database } from '../data/database';
import { DeviceFront, type FrontStep } from './device-front';

const card = sampleCard({
  id: 'front',
  kind: 'solarMppt',
  ratings: { outputA: 30, systemVolts: [24], arrayVoltsMax: 150, chemistries: ['lfp'] },
  parameters: [
    {
      role: 'absorbVoltage',
      label: 'Top',
      menu: ['Levels'],
      unit: 'V',
      min: 24,
      max: 32,
      step: 0.1,
      factory: 28,
      keys: ['Enter', '[Levels]', 'Enter', '[Top]', 'Enter'],
    },
    {
      role: 'floatVoltage',
      label: 'Hold',
      menu: ['Levels'],
      unit: 'V',
      min: 24,
      max: 32,
      step: 0.1,
      factory: 27,
      access: 'expert',
      keys: ['Enter', '[Levels]', 'Enter', 'Down', '[Hold]', 'Enter'],
    },
  ],
  keys: [
    { key: 'Up', does: 'Raises.' },
    { key: 'Down', does: 'Lowers.' },
    { key: 'Enter', does: 'Opens.' },
  ],
  entry: { raise: 'Up', lower: 'Down', keep: 'Enter: hold 3 s' },
  commit: { kind: 'longPress', timeoutSeconds: 60, how: '', proof: '' },
});
const values = { absorbVoltage: 28, floatVoltage: 27 };

@Component({
  selector: 'ck-host',
  imports: [DeviceFront],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<ck-device-front
    [rules]="rules()"
    [state]="state()"
    name="East"
    model="P1"
    [home]="['26.5 V', 'bulk']"
    (stroke)="move({ do: 'key', stroke: $event })"
    (reach)="move({ do: 'reach', level: $event })"
    (leave)="move({ do: 'leave' })"
  />`,
})
class Host {
  readonly rules = signal(faceRules({ card, factory: values, systemVolts: 24 }));
  readonly state = signal<FaceState>(newFace({ inUse: values, stored: values }));
  move(move: FaceMove): void {
    this.state.update((s) => makeMove(this.rules(), s, move));
  }
}

@Component({
  selector: 'ck-page-host',
  imports: [DeviceFront],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<ck-device-front [rules]="rules()" [state]="state()" name="East" model="P1" [home]="[]" (without)="step($event)" />`,
})
class PageHost {
  readonly rules = signal(faceRules({ card: { ...card, setBy: 'app' }, factory: values, systemVolts: 24 }));
  readonly state = signal<FaceState>(newFace({ inUse: values, stored: values }));
  step(change: FrontStep): void {
    this.state.update((s) => change(this.rules(), s));
  }
}

describe('the front of a device without keys', () => {
  let database: Database;
  let fixture: ComponentFixture<PageHost>;
  let host: HTMLElement;
  const enter = (text: string): void => {
    const field = host.querySelector<HTMLInputElement>('#front-absorbVoltage')!;
    field.value = text;
    field.dispatchEvent(new Event('change'));
    fixture.detectChanges();
  };
  beforeEach(() => {
    database = setUp();
    fixture = TestBed.createComponent(PageHost);
    fixture.detectChanges();
    host = fixture.nativeElement as HTMLElement;
  });
  afterEach(async () => {
    fixture.destroy();
    await tearDown(database);
  });
  const memory = () => fixture.componentInstance.state().memory;

  it('is a page of its settings: what is entered is used, and saved by its button; what is no number or out of range is not taken', () => {
    enter('28,26');
    expect([memory().inUse.absorbVoltage, memory().stored.absorbVoltage]).toEqual([28.3, 28]);
    expect(host.textContent).toContain('not saved');
    for (const wrong of ['', 'x', '99']) enter(wrong);
    expect(memory().inUse.absorbVoltage).toBe(28.3);
    [...host.querySelectorAll('button')].find((b) => b.textContent.trim() === 'Save')!.click();
    fixture.detectChanges();
    expect(memory().stored.absorbVoltage).toBe(28.3);
    expect(host.textContent).not.toContain('not saved');
    expect(host.querySelector('#front-floatVoltage')!.textContent).withContext('locked at this level').toBe('—');
  });

  it('is a switch with its positions, or a list of what is fixed', () => {
    fixture.componentInstance.rules.set(
      faceRules({ card: { ...card, setBy: 'switch', presets: [{ name: 'A', sets: { absorbVoltage: 27.4 } }] }, factory: values, systemVolts: 24 }),
    );
    fixture.detectChanges();
    [...host.querySelectorAll('button')].find((b) => b.textContent.trim() === 'A')!.click();
    fixture.detectChanges();
    expect([memory().stored.absorbVoltage, host.querySelector('#front-absorbVoltage')!.textContent]).toEqual([27.4, '27.4\u00a0V']);
    fixture.componentInstance.rules.set(faceRules({ card: { ...card, setBy: 'nothing' }, factory: values, systemVolts: 24 }));
    fixture.detectChanges();
    expect(host.querySelectorAll('input, select').length).toBe(0);
    expect(host.textContent).toContain('nothing on it can be set');
  });
});

describe('the front of a device', () => {
  let database: Database;
  let fixture: ComponentFixture<Host>;
  let host: HTMLElement;

  beforeEach(() => {
    database = setUp();
    jasmine.clock().install().mockDate(new Date());
    fixture = TestBed.createComponent(Host);
    fixture.detectChanges();
    host = fixture.nativeElement as HTMLElement;
  });
  afterEach(async () => {
    fixture.destroy();
    jasmine.clock().uninstall();
    await tearDown(database);
  });

  const key = (name: string): HTMLButtonElement => [...host.querySelectorAll<HTMLButtonElement>('button')].find((b) => b.textContent.trim() === name)!;
  const send = (name: string, ...types: readonly string[]): void => {
    for (const type of types) key(name).dispatchEvent(new PointerEvent(type, { bubbles: true }));
    fixture.detectChanges();
  };
  const tap = (...names: readonly string[]): void => {
    for (const name of names) send(name, 'pointerdown', 'pointerup');
  };
  const wait = (ms: number): void => {
    jasmine.clock().tick(ms);
    fixture.detectChanges();
  };
  const display = (): string =>
    [...host.querySelectorAll('.lcd > span')]
      .map((e) => e.textContent.replace(/\s+/g, ' ').trim())
      .join(' ')
      .trim();
  const inUse = (): unknown => fixture.componentInstance.state().memory.inUse.absorbVoltage;
  const stored = (): unknown => fixture.componentInstance.state().memory.stored.absorbVoltage;

  it('shows its home, then names passed and the value', () => {
    expect(display()).toBe('26.5 V bulk');
    tap('Enter');
    expect(display()).toBe('Levels');
    tap('Enter');
    expect(display()).toBe('Levels › Top 28.0 V');
    tap('Enter');
    expect(display()).toBe('Levels › Top 28.0 V open for editing');
  });

  it('is pressed when the finger goes up, and not when it slides off', () => {
    send('Enter', 'pointerdown');
    expect(display()).toBe('26.5 V bulk');
    send('Enter', 'pointerleave', 'pointerup');
    expect(display()).toBe('26.5 V bulk');
    tap('Enter');
    expect(display()).toBe('Levels');
  });

  it('saves when the key has been held long enough, once, and not before', () => {
    tap('Enter', 'Enter', 'Enter', 'Up');
    send('Enter', 'pointerdown');
    wait(2900);
    expect(stored()).toBe(28);
    wait(200);
    expect([stored(), inUse()]).toEqual([28.1, 28.1]);
    send('Enter', 'pointerup');
    expect(display()).withContext('letting go presses nothing').toBe('Levels › Top 28.1 V');
  });

  it('lets a value run while its key is held: by one at first, by ten after three seconds', () => {
    tap('Enter', 'Enter', 'Enter');
    send('Up', 'pointerdown');
    expect(display()).toContain('28.1');
    wait(400);
    expect(display()).toContain('28.1');
    wait(500);
    const after = Number(/(\d+\.\d)/.exec(display())![1]);
    expect(after).toBeGreaterThan(28.2);
    expect(after).toBeLessThan(29);
    wait(2700);
    expect(display()).withContext('at its end').toContain('32.0');
    send('Up', 'pointerup');
    wait(1000);
    expect(display()).toContain('32.0');
  });

  it('is worked by keys, and by what presses without finger or key', () => {
    for (const type of ['keydown', 'keyup']) key('Enter').dispatchEvent(new KeyboardEvent(type, { key: 'Enter', bubbles: true, cancelable: true }));
    fixture.detectChanges();
    expect(display()).toBe('Levels');
    key('Enter').click();
    fixture.detectChanges();
    expect(display()).toBe('Levels › Top 28.0 V');
    key('Enter').dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowDown', bubbles: true, cancelable: true }));
    fixture.detectChanges();
    expect(display()).toContain('Hold');
  });

  it('offers the level that hides a setting with the card’s own words, and says how long is left', () => {
    tap('Enter', 'Enter', 'Down', 'Enter');
    expect(display()).toBe('Levels › Hold —');
    key('Open the expert level').click();
    fixture.detectChanges();
    tap('Enter');
    expect(display()).toContain('27.0');
    expect(host.textContent).toContain('discards this edit: 60 s left');
    expect(host.textContent).not.toContain('Open the expert level');
    key('Leave it alone').click();
    fixture.detectChanges();
    expect(display()).toBe('26.5 V bulk');
  });

  describe('with one contact', () => {
    const plain = card.parameters.map((p) => ({ ...p, keys: [], access: 'basic' as const }));
    const { keep, ...entry } = { ...card.entry!, raise: 'Pin', lower: 'Pin' };
    const contact = { ...card, keys: [], parameters: plain, setBy: 'contact' as const, entry, commit: { ...card.commit, kind: 'auto' as const } };
    const put = (change: Partial<typeof card>): void => {
      fixture.componentInstance.rules.set(faceRules({ card: { ...contact, ...change }, factory: values, systemVolts: 24 }));
      fixture.detectChanges();
    };

    it('runs through the list while it is held, a touch opens, held again the value runs, a touch keeps', () => {
      expect(keep).toBe('Enter: hold 3 s');
      put({});
      expect(host.textContent).toContain('Held, it runs through the list');
      send('Pin', 'pointerdown');
      wait(440);
      expect(display()).toBe('26.5 V bulk');
      wait(20);
      expect(display()).toBe('Top 28.0 V');
      wait(1000);
      expect(display()).toBe('Hold 27.0 V');
      send('Pin', 'pointerup');
      wait(3000);
      expect(display()).withContext('let go, it stays').toBe('Hold 27.0 V');
      tap('Pin');
      expect(display()).toContain('open for editing');
      send('Pin', 'pointerdown');
      wait(460 + 300 + 300);
      send('Pin', 'pointerup');
      expect(display()).toContain('27.3 V');
      tap('Pin');
      expect(fixture.componentInstance.state().memory.stored.floatVoltage).toBe(27.3);
    });

    it('is moved on one by one by its button and by a keyboard', () => {
      put({});
      key('hold 1 s').click();
      fixture.detectChanges();
      expect(display()).toBe('Top 28.0 V');
      for (const type of ['keydown', 'keyup']) key('Pin').dispatchEvent(new KeyboardEvent(type, { key: 'Enter', bubbles: true, cancelable: true }));
      fixture.detectChanges();
      expect(display()).toContain('open for editing');
      key('Pin').dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowUp', bubbles: true, cancelable: true }));
      fixture.detectChanges();
      expect(display()).toContain('28.1 V');
    });

    it('says that a touch moves on where a hold keeps, and whose time the hold is', () => {
      put({ entry: { ...entry, keep: 'Pin' }, commit: { ...card.commit, kind: 'longPress' } });
      expect(host.textContent).toContain('Touched, it moves on in the list');
      expect(host.textContent).toContain('does not say how long it is held to save: 3 s here');
      tap('Pin');
      expect(display()).toBe('Top 28.0 V');
      send('Pin', 'pointerdown');
      wait(3000);
      send('Pin', 'pointerup');
      expect(display()).toContain('open for editing');
    });

    it('shows the number of a numbered setting beside its value, its own where its label has one', () => {
      put({ setBy: 'numbers', parameters: [plain[0]!, { ...plain[1]!, label: 'F12 hold' }], entry: { raise: '+', lower: '−', keep: 'Set' } });
      tap('+');
      expect(display()).toBe('1 Top 28.0 V');
      tap('+');
      expect(display()).toBe('F12 hold 27.0 V');
      expect(host.textContent).not.toContain('lent by the bench');
      tap('−', '−');
      expect(display()).toBe('26.5 V bulk');
      // A card without a value there: none is made up.
      fixture.componentInstance.state.set(newFace({ inUse: { floatVoltage: 27 }, stored: { floatVoltage: 27 } }));
      fixture.detectChanges();
      tap('+');
      expect(display()).toBe('1 Top not known');
      expect(host.textContent).toContain('Its card does not say what it holds here. Opened, it begins at its lower end.');
      tap('Set');
      expect(display()).toContain('24.0 V');
      fixture.componentInstance.state.set(newFace({ inUse: values, stored: values }));
      fixture.detectChanges();
      const { entry: _, ...unnamed } = contact;
      fixture.componentInstance.rules.set(faceRules({ card: { ...unnamed, setBy: 'numbers' }, factory: values, systemVolts: 24 }));
      fixture.detectChanges();
      expect(host.textContent).toContain('The card names no keys: these are lent by the bench.');
    });
  });
});
