import { TestBed } from '@angular/core/testing';
import type { Job } from '@calm-keel/core/job';
import type { Database, JobRow } from '../data/database';
import { JobBook } from '../data/job-book';
import { sampleJob, setUp, tearDown, until } from '../testing';
import { SisterPanel } from './sister-panel';

describe('the choices of a sister site', () => {
  let database: Database;
  beforeEach(() => {
    database = setUp();
  });
  afterEach(() => tearDown(database));

  async function open(here: Job, there: Job) {
    const book = TestBed.inject(JobBook);
    const ids = [await book.add(here, 'New'), await book.add(there, 'New')];
    const rows = await Promise.all(ids.map((id) => book.get(id) as Promise<JobRow>));
    const fixture = TestBed.createComponent(SisterPanel);
    fixture.componentRef.setInput('row', rows[0]);
    fixture.componentRef.setInput('rows', rows);
    const said: (readonly string[] | null)[] = [];
    fixture.componentInstance.done.subscribe((words) => said.push(words));
    fixture.detectChanges();
    const host = fixture.nativeElement as HTMLElement;
    const take = host.querySelector<HTMLButtonElement>('.press')!;
    return {
      said,
      host,
      take,
      ids,
      book,
      choose: (id: string) => {
        const field = host.querySelector('select')!;
        field.value = id;
        field.dispatchEvent(new Event('change'));
        fixture.detectChanges();
      },
    };
  }
  const named = (id: string, name: string): Job => ({ ...sampleJob(), id, name });

  it('can be taken from any other job, not from itself, and nothing is taken before one is chosen', async () => {
    const { host, take } = await open(named('barge', 'Barge'), named('hut', 'Hut'));
    expect([...host.querySelectorAll('option')].map((o) => o.textContent.trim())).toEqual(['Choose a job', 'Hut']);
    expect([take.disabled, take.textContent.trim()]).toEqual([true, 'Choose a sister site first']);
  });

  it('that has made the same ones has nothing to take', async () => {
    const { choose, take, ids, host } = await open(named('barge', 'Barge'), named('hut', 'Hut'));
    choose(ids[1]!);
    expect([take.disabled, take.textContent.trim()]).toEqual([true, 'Nothing to take']);
    expect(host.textContent).toContain('None: both have made the same choices.');
  });

  it('are shown before they are taken, signed, and counted on the job alone', async () => {
    const there = { ...named('hut', 'Hut'), schools: { ...sampleJob().schools, lithiumFloat: 'rest' as const } };
    const { choose, take, ids, book, said, host } = await open(named('barge', 'Barge'), there);
    choose(ids[1]!);
    expect([take.disabled, take.textContent.trim()]).toEqual([false, 'Take these choices']);
    expect(host.querySelectorAll('.to').length).toBeGreaterThan(0);
    take.click();
    await until(() => said.length > 0, 'they are taken');
    expect(said).toEqual([['“Barge” has the choices of “Hut” now.']]);
    const stored = async (id: string): Promise<Job> => {
      const row = await book.get(id);
      if (!row) throw new Error('the job is gone');
      return row.doc;
    };
    const after = await stored(ids[0]!);
    expect(after.schools.lithiumFloat).toBe('rest');
    expect(after.choices.at(-1)?.by).toBe('technician');
    expect((await stored(ids[1]!)).choices).toEqual(there.choices);
  });
});
