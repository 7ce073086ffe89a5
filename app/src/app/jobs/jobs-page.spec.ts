import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { Database } from '../data/database';
import { JobBook } from '../data/job-book';
import { JobFiles } from '../data/job-files';
import { sampleJob, setUp, tearDown, until } from '../testing';
import { JobsPage } from './jobs-page';

describe('the list of jobs', () => {
  let db: Database;
  function open(openDemo: () => Promise<unknown> = () => Promise.resolve(null)) {
    db = setUp(new Database(`jobs-${Date.now()}-${Math.random()}`), [provideRouter([])]);
    spyOn(TestBed.inject(JobFiles), 'openDemo').and.callFake(openDemo as never);
    const fixture = TestBed.createComponent(JobsPage);
    const text = (): string => {
      fixture.detectChanges();
      return (fixture.nativeElement as HTMLElement).textContent.replace(/\s+/g, ' ');
    };
    const press = (name: string): void => {
      const button = [...(fixture.nativeElement as HTMLElement).querySelectorAll('button')].find((b) => b.textContent.trim() === name);
      if (!button) throw new Error(`no “${name}”`);
      button.click();
    };
    return { text, press, shows: (what: string) => until(() => text().includes(what), `the page shows ${what}`) };
  }
  afterEach(async () => {
    await tearDown(db);
  });

  it('says that there is no job, and not while one is being opened', async () => {
    let end = (): void => undefined;
    const page = open(() => new Promise<null>((resolve) => (end = () => resolve(null))));
    await page.shows('No job on this device yet.');
    page.press('Open the demo');
    await page.shows('Opening the demo.');
    expect(page.text()).not.toContain('No job on this device yet.');
    end();
    await page.shows('No job on this device yet.');
    expect(page.text()).not.toContain('Opening the demo.');
  });

  it('shows a job, and says when a filter shows none', async () => {
    const page = open();
    await TestBed.inject(JobBook).add({ ...sampleJob(), name: 'Hut on the moor' }, 'New');
    await page.shows('Hut on the moor');
    expect(page.text()).toContain('All 1');
    page.press('With stops 0');
    await page.shows('No job here.');
    page.press('Show all jobs');
    await page.shows('Hut on the moor');
  });
});
