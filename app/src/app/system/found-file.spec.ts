import { TestBed } from '@angular/core/testing';
import { readSettingsText } from '@calm-keel/core/card';
import { jobSchema, type Job } from '@calm-keel/core/job';
import { good, type Result } from '@calm-keel/core/quantity';
import { Database } from '../data/database';
import { JobBook } from '../data/job-book';
import { JobStore } from '../data/job-store';
import { LogWork } from '../data/log-work';
import { sampleCard, sampleJob, setUp, tearDown, until, voltParameter } from '../testing';
import { FoundFile } from './found-file';

const card = sampleCard({
  id: 'p1',
  model: 'P1',
  kind: 'solarMppt',
  ratings: { outputA: 30, arrayVoltsMax: 100, systemVolts: [24], chemistries: ['lfp'] },
  parameters: [voltParameter('absorbVoltage'), voltParameter('floatVoltage')],
});
const job = ((): Job => {
  const base = sampleJob();
  const sensor = { fitted: true, place: 'batteryCase', errorC: 1, offsetC: 0, lagSeconds: 0, warmLeadC: 0 };
  return jobSchema.parse({
    ...base,
    cards: [card],
    system: {
      ...base.system,
      chargers: [{ id: 'roof', name: 'Roof', card: 'p1', sensor, displayReadings: [], present: { absorbVoltage: 28 }, passcodeChanged: false }],
    },
  });
})();

const split = (text: string, separator: string): string[][] => text.split('\n').map((l) => l.split(separator));

describe('a settings file of a charger', () => {
  let db: Database;
  let store: JobStore;
  let says: Result<string>;

  beforeEach(async () => {
    db = setUp(new Database(`file-${Date.now()}-${Math.random()}`), [
      { provide: LogWork, useValue: { api: { settings: () => Promise.resolve(says.ok ? readSettingsText(says.value, split) : says) } } },
    ]);
    const id = await TestBed.inject(JobBook).add(job, 'New');
    store = TestBed.inject(JobStore);
    store.open(id);
    await until(() => store.state() === 'ready', 'the job is there');
  });
  afterEach(async () => {
    await tearDown(db);
  });

  async function opened(text: Result<string>) {
    says = text;
    const fixture = TestBed.createComponent(FoundFile);
    fixture.componentRef.setInput('device', 'roof');
    fixture.componentRef.setInput('card', card);
    fixture.detectChanges();
    const host = fixture.nativeElement as HTMLElement;
    const data = new DataTransfer();
    data.items.add(new File(['x'], 'roof.csv'));
    const field = host.querySelector('input')!;
    field.files = data.files;
    field.dispatchEvent(new Event('change'));
    await until(() => {
      fixture.detectChanges();
      return host.querySelector('section, [role=alert]') !== null;
    }, 'the file is told');
    const press = (words: string): void => {
      [...host.querySelectorAll('button')].find((b) => b.textContent.includes(words))?.click();
      fixture.detectChanges();
    };
    return { host, press, text: (host.querySelector('section, [role=alert]')?.textContent ?? '').replace(/\s+/g, ' ') };
  }

  it('says what fits and what not, and is taken as found in one step that can be undone', async () => {
    const { text, press } = await opened(good('absorbVoltage = 28.4\nfloatVoltage = 26.95\nlamp = on\n'));
    expect(text).toContain('roof.csv: 1 of its values fit.');
    expect(text).toContain('It does not say which model it is of');
    expect(text).toContain('goes in steps of 0.1');
    expect(text).toContain('No setting of this card is called so.');
    press('Take 1 as found on it');
    expect(store.job()?.system.chargers[0]?.present).toEqual({ absorbVoltage: 28.4 });
    expect(store.job()?.snapshots.map((s) => [s.way, s.verified])).toEqual([['file', 'readOff']]);
    await store.flush();
    await store.undo();
    await until(() => store.job()?.system.chargers[0]?.present.absorbVoltage === 28, 'it is taken back');
    expect(store.job()?.snapshots).toEqual([]);
  });

  it('of a sister becomes targets, with its name as the reason', async () => {
    const { press } = await opened(good('absorbVoltage = 28.4\n'));
    press('Make them its targets');
    expect(store.job()?.overrides.map((o) => [o.charger, o.role, o.value, o.reason])).toEqual([
      ['roof', 'absorbVoltage', 28.4, 'as in the settings file roof.csv'],
    ]);
    expect(store.job()?.system.chargers[0]?.present.absorbVoltage).toBe(28);
  });

  it('of another model, or of no kind that can be read, gives nothing', async () => {
    const other = await opened(good('model = X9\nabsorbVoltage = 28.4\n'));
    expect(other.text).toContain('Nothing in roof.csv fits this card.');
    expect(other.text).toContain('The file is of another model.');
    expect(other.host.textContent).not.toContain('as found on it');
    const broken = await opened({ ok: false, problems: [{ code: 'file-broken', text: 'It cannot be unpacked.' }] });
    expect(broken.text).toContain('It cannot be unpacked. Nothing was taken.');
    const none = await opened(good('hello'));
    expect(none.text).toContain('No names with values were found in this file.');
  });
});
