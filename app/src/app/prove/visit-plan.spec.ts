import { computed, signal } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { coverage, jobSchema, mostNote, type Job } from '@calm-keel/core/job';
import { deriveSettings } from '@calm-keel/core/settings';
import { JobStore, today } from '../data/job-store';
import { WhoIsThere } from '../data/who-is-there';
import { sampleCard, sampleCharger, sampleJob, setUp, voltParameter } from '../testing';
import { VisitPlanPanel } from './visit-plan';

const key = 'calm-keel.visit.sample';
const words = (fixture: ComponentFixture<unknown>): string => (fixture.nativeElement as HTMLElement).textContent.replace(/\s+/g, ' ');

/** A job with one solar charger, and a visit that is not closed, with so long a note. */
function solarJob(note = ''): Job {
  const card = sampleCard({
    id: 'plain',
    kind: 'solarMppt',
    ratings: { outputA: 30, systemVolts: [24], arrayVoltsMax: 100, chemistries: ['lfp'] },
    parameters: [voltParameter('absorbVoltage'), voltParameter('floatVoltage')],
  });
  const job = sampleJob();
  return jobSchema.parse({
    ...job,
    cards: [card],
    system: { ...job.system, chargers: [sampleCharger({ id: 'roof', name: 'Roof' })] },
    visits: [{ id: 'v', date: '2026-06-09', by: 'KM', purpose: '', note, photos: [], closed: null }],
  });
}

/** The panel on a job, on a device that remembers this of the day. */
function shown(job: Job, remembered?: string): { fixture: ComponentFixture<VisitPlanPanel>; edited: () => Job; press: (text: string, group?: string) => void } {
  const current = signal(job);
  const settled = computed(() => deriveSettings(current()));
  setUp(undefined, [
    {
      provide: JobStore,
      useValue: {
        job: current,
        settled,
        covered: computed(() => coverage(current(), settled(), [])),
        edit: (_label: string, change: (job: Job) => Job) => {
          current.set(change(current()));
        },
      },
    },
  ]);
  if (remembered !== undefined) localStorage.setItem(key, remembered);
  const fixture = TestBed.createComponent(VisitPlanPanel);
  fixture.detectChanges();
  return {
    fixture,
    edited: current,
    press: (text, group) => {
      const within = group === undefined ? 'button' : `[aria-label="${group}"] button`;
      const buttons = [...(fixture.nativeElement as HTMLElement).querySelectorAll<HTMLButtonElement>(within)];
      buttons.find((b) => b.textContent.trim() === text)!.click();
      fixture.detectChanges();
    },
  };
}

describe('the plan for a visit', () => {
  afterEach(() => {
    TestBed.resetTestingModule();
  });

  it('asks only for what the chargers of this job draw on', () => {
    const { fixture } = shown(solarJob());
    const groups = [...(fixture.nativeElement as HTMLElement).querySelectorAll('[role=group]')].map((g) => g.getAttribute('aria-label'));
    expect(groups).toEqual(['Sun', 'Bank']);
    expect(words(fixture)).toContain('Say what the sun does:');
  });

  it('plans by the answers, and begins a test with its device', () => {
    const { fixture, press } = shown(solarJob());
    TestBed.inject(WhoIsThere).initials.set('KM');
    press('under cloud');
    expect(words(fixture)).not.toContain('For another day');
    press('in between');
    expect(words(fixture)).toContain('Absorb, reached and held, Roof: the bank does not reach absorb without a source at full power');
    press('none');
    expect(words(fixture)).toContain('needs sun');
    const buttons = (fixture.nativeElement as HTMLElement).querySelectorAll('ol button');
    expect(buttons.length).toBeGreaterThan(0);
    let begun: unknown = null;
    fixture.componentInstance.begin.subscribe((test) => (begun = test));
    (buttons[buttons.length - 1] as HTMLButtonElement).click();
    expect(begun).toEqual({ code: 'powerCycle', device: 'roof' });
  });

  it('holds what was said for its day, and no longer', () => {
    const held = (day: string): boolean => {
      const { fixture } = shown(solarJob(), JSON.stringify({ day, said: { sun: 'full', bank: 'full' } }));
      const on = words(fixture).includes('Say what the sun does:');
      TestBed.resetTestingModule();
      return !on;
    };
    expect([held(today()), held('2026-01-01')]).toEqual([true, false]);
    for (const broken of ['{', '[]', JSON.stringify({ day: today(), said: { sun: 'much' } })]) {
      expect(words(shown(solarJob(), broken).fixture)).toContain('Say what the sun does:');
      TestBed.resetTestingModule();
    }
  });

  it('notes what waits in the visit that is open, once, and never past the room of its note', () => {
    const { fixture, edited, press } = shown(solarJob('Rain.'));
    press('none');
    press('full', 'Bank');
    press('Note this in the open visit');
    expect(edited().visits[0]?.note).toMatch(/^Rain\.\nFor another day:\n[\s\S]*Roof: needs sun/);
    expect(words(fixture)).toContain('Noted in the open visit');
    TestBed.resetTestingModule();
    const full = shown(solarJob('x'.repeat(mostNote - 10)));
    full.press('none');
    full.press('full', 'Bank');
    expect(words(full.fixture)).toContain('The note of the open visit is full');
  });
});
