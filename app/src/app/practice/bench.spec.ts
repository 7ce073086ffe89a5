import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { Role } from '@calm-keel/core/card';
import { movesTo, movesToSet } from '@calm-keel/core/face';
import { spotsOf, prepare, type Exercise, type FaultCode, type PlaceCode } from '@calm-keel/core/practice';
import type { Database } from '../data/database';
import { Library } from '../data/library';
import { PracticeBook } from '../data/practice-book';
import { setUp, tearDown, until } from '../testing';
import { Announcer } from '../ui/announcer';
import { BenchResult } from './bench-result';
import { BenchSay } from './bench-say';
import { BenchSession } from './bench-session';
import { BenchTools } from './bench-tools';

@Component({
  selector: 'ck-host',
  imports: [BenchTools, BenchSay, BenchResult],
  providers: [BenchSession],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<section class="tools"><ck-bench-tools [device]="device()" /></section>
    <section class="say"><ck-bench-say /></section>
    <section class="result"><ck-bench-result (next)="next.set(true)" (again)="again.set(true)" /></section>`,
})
class Host {
  readonly session = inject(BenchSession);
  readonly device = signal('mast');
  readonly next = signal(false);
  readonly again = signal(false);
}

describe('an exercise on the bench', () => {
  let database: Database;
  let fixture: ComponentFixture<Host>;
  let host: HTMLElement;
  let session: BenchSession;

  const shipped = () => TestBed.inject(Library).shipped()!;
  const exercise = (place: PlaceCode, code: FaultCode, seed = 4): Exercise => ({
    kind: 'find',
    seed,
    place,
    faults: [{ code, spot: spotsOf(prepare(place, shipped()), code)[0]! }],
  });
  const settled = async (): Promise<void> => {
    await fixture.whenStable();
    fixture.detectChanges();
  };
  /** Opens an exercise as it is stored, in a host of its own. */
  async function open(id: string): Promise<void> {
    fixture = TestBed.createComponent(Host);
    host = fixture.nativeElement as HTMLElement;
    ({ session } = fixture.componentInstance);
    session.speed.set(0);
    await session.open(id);
    await settled();
  }
  const begin = async (of: Exercise): Promise<string> => {
    const id = (await TestBed.inject(PracticeBook).begin(of))!;
    await open(id);
    return id;
  };
  const words = (part: string): string => host.querySelector(`.${part}`)!.textContent.replace(/\s+/g, ' ').trim();
  const press = async (part: string, name: RegExp): Promise<void> => {
    const button = [...host.querySelectorAll<HTMLButtonElement>(`.${part} button`)].find((b) => name.test(b.textContent.trim()));
    expect(button)
      .withContext(`${part} ${String(name)}: ${words(part)}`)
      .toBeDefined();
    button?.click();
    await settled();
  };
  const choose = async (part: string, label: string, value: string): Promise<void> => {
    const at = [...host.querySelectorAll<HTMLLabelElement>(`.${part} label`)].find((l) => l.textContent === label)!;
    const field = host.querySelector<HTMLSelectElement>(`#${at.htmlFor}`)!;
    field.value = value;
    field.dispatchEvent(new Event('change'));
    await settled();
  };
  const walk = (device: string, role: Role, value?: number | string): void => {
    const bench = session.bench()!;
    const { rules } = bench.devices.find((d) => d.id === device)!;
    const moves = value === undefined ? movesTo(rules, bench.face(device), role) : movesToSet(rules, bench.face(device), role, value);
    expect(moves).not.toBeNull();
    for (const move of moves ?? [])
      session.act(
        move.do === 'key'
          ? { do: 'key', device, stroke: move.stroke }
          : move.do === 'reach'
            ? { do: 'reach', device, level: move.level }
            : { do: 'leave', device },
      );
  };

  beforeEach(async () => {
    database = setUp();
    const library = TestBed.inject(Library);
    await until(() => library.shipped() !== null, 'the library is there');
  });
  afterEach(async () => {
    fixture.destroy();
    // What is written as it goes is on its way before the database closes.
    await new Promise((resolve) => setTimeout(resolve));
    await tearDown(database);
  });

  it('is measured with the meter, shown in large, listed and spoken', async () => {
    await begin(exercise('mast', 'absorbHigh'));
    expect(words('tools')).toContain('––');
    await press('tools', /^At the bank$/);
    const volts = Number(/(\d+\.\d\d)\sV/.exec(host.querySelector('.tools .v')!.textContent)![1]);
    expect(volts).toBeGreaterThan(11);
    expect(volts).toBeLessThan(16);
    expect(session.done()[0]!.words).toContain(`Meter, bank + to bank −: ${volts.toFixed(2)}`);
    expect(TestBed.inject(Announcer).said().text).toBe(session.done()[0]!.words);
    // Probes the other way round.
    await choose('tools', 'Red probe', 'bank-');
    await choose('tools', 'Black probe', 'bank+');
    await press('tools', /^Measure$/);
    expect(host.querySelector('.tools .v')!.textContent).toContain('−');
  });

  it('offers on each device the looks and the works that it has', async () => {
    await begin(exercise('stage', 'relayWrongSide'));
    const looks = async (device: string): Promise<string> => {
      fixture.componentInstance.device.set(device);
      await settled();
      await press('tools', /^Look$/);
      return words('tools');
    };
    expect(await looks('roof')).toContain('Look at its isolator');
    expect(words('tools')).not.toContain('its relay');
    expect(await looks('thermostat')).toContain('Follow the wires of its relay');
    expect(words('tools')).not.toContain('isolator');
    await press('tools', /wires of its relay/);
    expect(session.done()[0]!.words).toBe('Relay of Thermostat: its contact is between the charger and the battery');
    await press('tools', /^Hands$/);
    expect(words('tools')).toContain('Move the relay of Thermostat to the array side');
    expect(words('tools')).toContain('Array isolated first, then the battery.');
    expect(words('tools')).not.toContain('Remake the joints');
    fixture.componentInstance.device.set('roof');
    await settled();
    expect(words('tools')).toContain('Remake the joints of Roof');
    expect(words('tools')).not.toContain('Move the relay');
  });

  it('takes what is said only with something pointed at, and answers each: not shown, not so, so it is', async () => {
    await begin(exercise('mast', 'absorbHigh'));
    const sayIt = (): HTMLButtonElement => [...host.querySelectorAll<HTMLButtonElement>('.say button')].find((b) => b.textContent.startsWith('Say so'))!;
    expect(words('say')).toContain('Measure or read something first');
    await press('tools', /^At the bank$/);
    await choose('say', 'Where is it?', 'mast');
    await press('say', /^Absorb set too high/);
    expect(sayIt().disabled).toBeTrue();
    await press('say', /Meter, bank/);
    expect(sayIt().disabled).toBeFalse();
    sayIt().click();
    await settled();
    expect(words('say')).toContain('what you pointed at does not show it');
    expect(TestBed.inject(Announcer).said().text).toContain('does not show it');
    // What was chosen stays chosen: somebody reads on and says it again.
    walk('mast', 'absorbVoltage');
    await settled();
    const value = [...host.querySelectorAll<HTMLButtonElement>('.say .opt')].find((b) => /Absorb.*1\d\.\d|: ?\S+ 1\d\.\d/.test(b.textContent))!;
    value.click();
    await settled();
    sayIt().click();
    await settled();
    expect(session.said()).toEqual([jasmine.objectContaining({ came: 'so' })]);
    expect(words('say')).toContain('So it is. Now put it right.');
    expect(host.querySelector('.say .end button')!.className).toBe('press');
    await press('say', /^Float set too high/);
    await press('say', /Meter, bank/);
    sayIt().click();
    await settled();
    expect(words('say')).toContain('Not so.');
  });

  it('gives two hints for its one fault, and then no more', async () => {
    await begin(exercise('mast', 'absorbHigh'));
    await press('say', /^A hint$/);
    expect(words('say')).toContain('Look at Charger.');
    await press('say', /^A hint$/);
    expect(session.hints()[1]).toMatch(/^Read .* on Charger\.$/);
    expect(words('say')).toContain('There are no more hints.');
  });

  it('is written down as it is done, and done again when it is opened again', async () => {
    const id = await begin(exercise('mast', 'absorbHigh'));
    await press('tools', /^At the bank$/);
    walk('mast', 'absorbVoltage');
    session.act({ do: 'pass', seconds: 40 });
    session.act({ do: 'pass', seconds: 20 });
    session.claim({ code: 'floatHigh', device: 'mast', shownBy: [0] });
    const [before, seconds] = [session.done().map((d) => `${d.at} ${d.words}`), session.bench()!.seconds()];
    await until(() => session.saved(), 'it is written');
    fixture.destroy();
    const stored = (await database.benches.get(id))!;
    expect(stored.actions.filter((a) => a.do === 'pass'))
      .withContext('time that passed twice is one')
      .toEqual([{ do: 'pass', seconds: 60 }]);
    await open(id);
    expect(session.done().map((d) => `${d.at} ${d.words}`)).toEqual(before);
    expect(session.bench()!.seconds()).toBe(seconds);
    expect(session.claims()).toEqual([{ code: 'floatHigh', device: 'mast', shownBy: [0] }]);
  });

  it('stops where another tab has gone on with it, and says where there is none', async () => {
    const id = await begin(exercise('mast', 'absorbHigh'));
    const row = (await database.benches.get(id))!;
    await database.benches.put({ ...row, rev: row.rev + 5 });
    await press('tools', /^At the bank$/);
    await until(() => session.state() === 'overtaken', 'it is overtaken');
    const lines = session.done().length;
    await press('tools', /^At the bank$/);
    expect(session.done().length).toBe(lines);
    fixture.destroy();
    await open('nothing');
    expect(session.state()).toBe('missing');
  });

  it('is judged by what was done: found, shown and put right; once, and into the book', async () => {
    const { entries } = TestBed.inject(PracticeBook);
    await begin(exercise('mast', 'absorbHigh'));
    walk('mast', 'absorbVoltage');
    session.claim({ code: 'absorbHigh', device: 'mast', shownBy: session.done().map((d) => d.i) });
    const right = session.bench()!.truePlan().setting('mast', 'absorbVoltage')!.value!;
    walk('mast', 'absorbVoltage', right);
    await settled();
    await press('say', /^End the exercise$/);
    await until(() => (entries() ?? []).length === 1, 'it is in the book');
    await settled();
    expect(words('result')).toContain('Found, shown and put right.');
    expect(words('result')).toContain('0 hints, 0 wrong answers');
    expect(words('result')).toMatch(/was found at \d+\.\d.V\. It should be \d+\.\d/);
    expect(words('result')).toContain('You did.');
    expect(words('result')).toMatch(/Read \S+.* on Charger: you did at \d\d:\d\d/);
    await session.judge();
    expect(entries()!.length).toBe(1);
    await press('result', /^Begin the next exercise$/);
    await press('result', /^Do this one again$/);
    expect([fixture.componentInstance.next(), fixture.componentInstance.again()]).toEqual([true, true]);
  });

  it('says of one ended at once that nothing was found, where it was to be seen, and that it is still there', async () => {
    await begin(exercise('cabin', 'shuntReversed'));
    await press('say', /^End the exercise$/);
    expect(words('result')).toContain('Not found.');
    expect(words('result')).toContain('The two thin leads of the shunt are swapped');
    expect(words('result')).toContain('Write down what the monitor shows: you did not.');
    expect(words('result')).toContain('It is still there.');
    // Time and keys may go on; what was judged stays.
    session.act({ do: 'pass', seconds: 60 });
    expect(session.judged()!.seconds).toBe(0);
  });

  it('counts what something else has brought about, and work that nothing called for, each in a sentence', async () => {
    await begin(exercise('pump', 'typeChosen'));
    walk('pump', 'absorbVoltage');
    session.claim({ code: 'absorbHigh', device: 'pump', shownBy: [0] });
    session.act({ do: 'hand', hand: 'clearArray', device: null });
    await settled();
    await press('say', /^End the exercise$/);
    const text = words('result');
    expect(session.judged()!.needless.map((n) => n.hand)).toEqual(['clearArray']);
    expect(text).toMatch(/clear the array/i);
    expect(session.judged()!.followed.length).toBe(1);
    expect(text).toContain('A ready-made battery type');
  });
});
