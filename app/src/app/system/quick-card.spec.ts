import { TestBed } from '@angular/core/testing';
import type { Card } from '@calm-keel/core/card';
import { JobBook } from '../data/job-book';
import { JobStore } from '../data/job-store';
import { Library } from '../data/library';
import type { Database } from '../data/database';
import { sampleJob, setUp, tearDown, until } from '../testing';
import { QuickCard } from './quick-card';

describe('a charger by its plate', () => {
  let database: Database;
  afterEach(() => tearDown(database));

  async function open() {
    database = setUp();
    const store = TestBed.inject(JobStore);
    store.open(await TestBed.inject(JobBook).add(sampleJob(), 'New'));
    await until(() => store.state() === 'ready', 'the job is there');
    const put = spyOn(TestBed.inject(Library), 'putCard').and.resolveTo();
    const fixture = TestBed.createComponent(QuickCard);
    const made: Card[] = [];
    fixture.componentInstance.made.subscribe((card) => made.push(card));
    fixture.detectChanges();
    const host = fixture.nativeElement as HTMLElement;
    const field = (label: string): HTMLInputElement | HTMLSelectElement => {
      const found = [...host.querySelectorAll('label')].find((l) => l.textContent.trim().startsWith(label));
      const control = found && (found.htmlFor === '' ? found.querySelector('input') : host.querySelector<HTMLInputElement>(`#${CSS.escape(found.htmlFor)}`));
      if (!control) throw new Error(`no field “${label}”`);
      return control;
    };
    return {
      made,
      put,
      host,
      press: host.querySelector<HTMLButtonElement>('.press')!,
      labels: (): string[] => [...host.querySelectorAll('label.lbl')].map((l) => l.textContent.trim()),
      needs: (): string => host.querySelector('.acts small')?.textContent.trim() ?? '',
      say: (label: string, value: string) => {
        const control = field(label);
        control.value = value;
        control.dispatchEvent(new Event(control instanceof HTMLSelectElement ? 'change' : 'input'));
        control.dispatchEvent(new Event('change'));
        fixture.detectChanges();
      },
      tick: (label: string) => {
        (field(label) as HTMLInputElement).click();
        fixture.detectChanges();
      },
    };
  }

  it('says what is still needed, one by one, and can be added when nothing is', async () => {
    const { needs, press, say, tick } = await open();
    expect([needs(), press.disabled]).toEqual(['Still needed: model, what it is, output, battery volts.', true]);
    say('Model', 'Q40');
    say('What it is', 'solarMppt');
    say('Output', '40');
    expect([needs(), press.disabled]).toEqual(['Still needed: battery volts.', true]);
    tick('24');
    expect([needs().startsWith('Its ranges'), press.disabled]).toEqual([true, false]);
    tick('24');
    expect(press.disabled).toBeTrue();
  });

  it('asks for its input only where there is one to speak of', async () => {
    const { labels, say } = await open();
    const asked = (kind: string): string | undefined => {
      say('What it is', kind);
      return labels()
        .find((l) => /volts from the array|input volts/.test(l))
        ?.replace(/, V$/, '');
    };
    expect(asked('')).toBeUndefined();
    expect(asked('solarMppt')).toContain('Most volts from the array');
    expect(asked('solarPwm')).toContain('Most volts from the array');
    expect(asked('dcdc')).toContain('Most input volts');
    expect(asked('turbine')).toContain('Most input volts');
    expect(asked('alternator')).toBeUndefined();
  });

  it('makes a card that knows the plate and nothing else, for the job and for this device', async () => {
    const { say, tick, press, made, put } = await open();
    say('Maker', ' Ostmark ');
    say('Model', 'Q40');
    say('What it is', 'dcdc');
    say('Output', '40');
    say('Most input volts', '34');
    tick('24');
    tick('12');
    press.click();
    expect(made.length).toBe(1);
    expect(made[0]).toEqual(jasmine.objectContaining({ maker: 'Ostmark', model: 'Q40', kind: 'dcdc' }));
    expect(made[0]?.ratings).toEqual(jasmine.objectContaining({ outputA: 40, systemVolts: [12, 24] }));
    expect(put).toHaveBeenCalledOnceWith(made[0]!);
  });

  it('says so when this device has no room for it; the job has it all the same', async () => {
    const { say, tick, press, made, put, host } = await open();
    put.and.rejectWith(new Error('full'));
    say('Model', 'Q40');
    say('What it is', 'alternator');
    say('Output', '40');
    tick('12');
    press.click();
    expect(made.length).toBe(1);
    await until(() => host.querySelector('[role=alert]') !== null, 'it is said');
    expect(host.querySelector('[role=alert]')?.textContent).toContain('The job has it.');
  });
});
