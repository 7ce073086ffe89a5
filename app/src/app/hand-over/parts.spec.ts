import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { beginVisit, daysOf, type Job } from '@calm-keel/core/job';
import { deriveSettings } from '@calm-keel/core/settings';
import { JobFiles } from '../data/job-files';
import { today } from '../data/job-store';
import { WhoIsThere } from '../data/who-is-there';
import { draw, openStore, plain, soloJob, soloSnapshot } from '../testing';
import { FilesPanel } from './files-panel';
import { VisitDay } from './visit-day';
import { VisitDifferences } from './visit-differences';
import { VisitDue } from './visit-due';
import { VisitsPanel } from './visits-panel';
const dated = (): Job => ({ ...soloJob(), snapshots: [soloSnapshot('2026-03-01T09:00:00Z', 26.9), soloSnapshot('2026-04-02T09:00:00Z', 27.6)] });

describe('visits', () => {
  it('one is begun a day, and what is on record stands by its day, the newest first', async () => {
    const store = await openStore(dated(), [provideRouter([])]);
    TestBed.inject(WhoIsThere).initials.set('KM');
    const { press, host, fixture, all } = draw(VisitsPanel, { job: store.job() });
    expect(all('.days .when b')).toHaveSize(2);
    press('Begin a visit today');
    expect(store.job()!.visits.map((v) => [v.date, v.by, v.closed])).toEqual([[today(), 'KM', null]]);
    fixture.componentRef.setInput('job', store.job());
    fixture.detectChanges();
    expect(all('.days .when b')).toHaveSize(3);
    expect(host.querySelector('.days li .st')!.textContent).toContain('open');
    // One is open today: no second one is begun.
    expect([...host.querySelectorAll('button')].some((b) => b.textContent.includes('Begin a visit'))).toBeFalse();
  });

  it('are noted while open, closed with what is open then, and opened again', async () => {
    const job = beginVisit(soloJob(), { id: 'v1', date: today(), by: 'KM', purpose: '' });
    const store = await openStore(job, [provideRouter([])]);
    const shown = () => draw(VisitDay, { job: store.job(), day: daysOf(store.job()!)[0] });
    const open = shown();
    open.fill('What for', 'Yearly look');
    open.enter('textarea', 'Fan is loud.');
    open.fill('Who, by initials', 'TB');
    expect(store.job()!.visits[0]).toEqual(jasmine.objectContaining({ purpose: 'Yearly look', note: 'Fan is loud.', by: 'TB' }));
    expect(TestBed.inject(WhoIsThere).initials()).toBe('TB');
    // An LFP bank is not equalised; nobody said that its cells are balanced on visits.
    expect(open.host.querySelectorAll('input[type=checkbox]')).toHaveSize(0);
    shown().press('Close this visit');
    const closed = store.job()!.visits[0]!.closed!;
    expect(closed.open.length).toBeGreaterThan(0);
    const after = shown();
    expect(after.text()).toContain(`${closed.open.length} points were open.`);
    expect(after.host.querySelector('textarea')).toBeNull();
    after.press('Open this visit again');
    expect(store.job()!.visits[0]!.closed).toBeNull();
  });

  it('of a lead bank note an equalise, and of one that is balanced by hand that it was', async () => {
    const job = beginVisit(soloJob(), { id: 'v1', date: today(), by: 'KM', purpose: '' });
    const balanced: Job = { ...job, system: { ...job.system, bank: { ...job.system.bank, balanceEveryDays: 90 } } };
    const store = await openStore(balanced, [provideRouter([])]);
    const drawn = draw(VisitDay, { job: store.job(), day: daysOf(store.job()!)[0] });
    expect(drawn.all('.check')).toEqual(['The cells were balanced on this visit, attended']);
    drawn.host.querySelector<HTMLInputElement>('input[type=checkbox]')!.click();
    expect(store.job()!.visits[0]!.balanced).toBeTrue();
    const lead = { ...balanced, sheet: { ...balanced.sheet, chemistry: 'flooded' as const } };
    drawn.fixture.componentRef.setInput('job', lead);
    drawn.fixture.detectChanges();
    expect(drawn.all('.check')).toEqual(['The bank was equalised on this visit, attended']);
  });
});

describe('what differs between two days', () => {
  it('is told in the order of time, whichever day is named first', async () => {
    const store = await openStore(dated());
    const { all, enter, text } = draw(VisitDifferences, { job: store.job(), dates: ['2026-03-01', '2026-04-02'] });
    const becomes = (): string => plain(all('.diff li')[0]!);
    expect(becomes()).toContain('26.9 V becomes 27.6 V');
    enter('select[aria-label^="From"]', '2026-04-02');
    enter('select[aria-label^="To"]', '2026-03-01');
    expect(becomes()).toContain('26.9 V becomes 27.6 V');
    enter('select[aria-label^="To"]', '2026-04-02');
    expect(text('.diff')).toContain('Nothing on record differs');
    expect(draw(VisitDifferences, { job: store.job(), dates: ['2026-03-01'] }).text()).toContain('Two days with something on record');
  });
});

describe('what is due', () => {
  it('asks for evidence again after whole months, and marks what is late', async () => {
    const store = await openStore({ ...dated(), createdAt: '2020-01-01T00:00:00Z' });
    const { fill, host, all } = draw(VisitDue, { job: store.job() });
    fill('Evidence is taken again after', '7');
    expect(store.job()!.recheckMonths).toBe(7);
    const late = [...host.querySelectorAll('.due li')].filter((li) => li.textContent.includes('overdue'));
    expect(late.every((li) => li.querySelector('b')!.classList.contains('late'))).toBeTrue();
    expect(all('.due li').length).toBeGreaterThan(0);
  });
});

describe('files of a job', () => {
  it('are of each device, and what was not read is shown and discarded one by one', async () => {
    const job: Job = {
      ...soloJob(),
      aside: [
        { place: 'system › colour', json: '"red"' },
        { place: 'sheet › odd', json: '1' },
      ] as Job['aside'],
    };
    const store = await openStore(job, [provideRouter([])]);
    const files = TestBed.inject(JobFiles);
    const saved = spyOn(files, 'save').and.resolveTo();
    const alone = spyOn(files, 'saveDocument');
    const shown = () => draw(FilesPanel, { job: store.job(), plan: deriveSettings(store.job()!) });
    const { press, all, host } = shown();
    expect(all('ul:first-of-type li b')[0]).toBe('Solo');
    press('Save as one file');
    press('Save as JSON');
    expect([saved.calls.count(), alone.calls.count()]).toEqual([1, 1]);
    host.querySelector<HTMLButtonElement>('[aria-label="Discard system › colour"]')!.click();
    expect(store.job()!.aside!.map((a) => a.place)).toEqual(['sheet › odd']);
    shown().host.querySelector<HTMLButtonElement>('[aria-label="Discard sheet › odd"]')!.click();
    expect('aside' in store.job()!).toBeFalse();
  });
});
