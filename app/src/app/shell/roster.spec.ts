import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { jobSchema, type Job } from '@calm-keel/core/job';
import { JobBook } from '../data/job-book';
import { JobStore } from '../data/job-store';
import { sampleCard, sampleCharger, sampleJob, setUp, tearDown, until, voltParameter } from '../testing';
import type { Database } from '../data/database';
import { Roster } from './roster';

describe('the roster', () => {
  let database: Database;

  beforeEach(() => {
    database = setUp(undefined, [provideRouter([])]);
  });
  afterEach(() => tearDown(database));

  async function open(job: Job) {
    await TestBed.inject(JobBook).add(job, 'New job');
    const store = TestBed.inject(JobStore);
    store.open(job.id);
    await until(() => store.state() === 'ready', 'the job is open');
    const fixture = TestBed.createComponent(Roster);
    fixture.componentRef.setInput('job', job.id);
    const chosen: (string | null)[] = [];
    fixture.componentInstance.chosen.subscribe((id) => chosen.push(id));
    fixture.detectChanges();
    const host = fixture.nativeElement as HTMLElement;
    return { host, chosen, lines: () => [...host.querySelectorAll<HTMLElement>('.ri')].map((b) => b.textContent.replace(/\s+/g, ' ').trim()) };
  }

  const withCharger = (float: number): Job => {
    const job = sampleJob();
    const card = sampleCard({
      id: 'plain',
      kind: 'solarMppt',
      ratings: { outputA: 30, systemVolts: [24], arrayVoltsMax: 100, chemistries: ['lfp'] },
      parameters: [voltParameter('floatVoltage')],
    });
    const charger = sampleCharger({ id: 'fore', name: 'Solar fore', present: { floatVoltage: float } });
    return jobSchema.parse({ ...job, cards: [card], system: { ...job.system, chargers: [charger] } });
  };

  it('of a job without devices says so, and of its bank what paper it has', async () => {
    const { host, lines } = await open(sampleJob());
    expect(lines().length).toBe(1);
    expect(lines()[0]).toContain('Sheet rev 1');
    expect(host.textContent).toContain('No charger yet.');
  });

  it('says the worst of a device, and hands on what is pressed', async () => {
    const { host, lines, chosen } = await open(withCharger(28.4));
    expect(lines()[1]).toMatch(/^Solar fore ?Plain P1/);
    expect(lines()[1]).not.toContain('In band');
    for (const line of host.querySelectorAll<HTMLButtonElement>('.ri')) line.click();
    expect(chosen).toEqual([null, 'fore']);
  });
});
