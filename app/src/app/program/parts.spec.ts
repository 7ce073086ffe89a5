import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { stages } from '@calm-keel/core/charger';
import type { Job } from '@calm-keel/core/job';
import { deriveSettings, type Plan } from '@calm-keel/core/settings';
import { JobStore } from '../data/job-store';
import { RunWork } from '../data/run-work';
import { draw, openStore, soloJob, soloSnapshot } from '../testing';
import { FatesTable } from './fates-table';
import { OwnLine } from './own-line';
import { PaperEntry } from './paper-entry';
import { PaperSheet } from './paper-sheet';
import { RecordPanel } from './record-panel';
import { ResetPanel } from './reset-panel';
import { RunAside } from './run-aside';
import { RunRows } from './run-rows';
import { SheetRuler } from './sheet-ruler';
import { StepValue } from './step-value';
import { StoppingPanel } from './stopping-panel';
import { WireLive } from './wire-live';

/** Job, its run sheet, and parts of the page on them. */
class Stand {
  readonly store = TestBed.inject(JobStore);
  readonly work = TestBed.inject(RunWork);

  static async open(job: Job = soloJob(), begun = true): Promise<Stand> {
    await openStore(job, [provideRouter([]), RunRows]);
    const stand = new Stand();
    if (begun) stand.work.begin('KM', stand.job.system.provingInstrument);
    return stand;
  }
  get job(): Job {
    return this.store.job()!;
  }
  get plan(): Plan {
    return this.store.settled()!;
  }
  step(kind: string) {
    return this.work.sheet()!.steps.find((s) => s.kind === kind)!;
  }
  /** Answers a step as it must be. */
  answer(id: string): void {
    const step = this.work.sheet()!.steps.find((s) => s.id === id)!;
    const values = Object.fromEntries((step.looks ?? []).flatMap((l) => (l.want === null ? [] : [[l.role, l.want]])));
    this.work.answer(step, {
      state: 'done',
      ...(step.value ? { reading: step.value.to } : {}),
      ...(step.looks ? { values } : {}),
      ...(step.kind === 'compare' ? { meterV: 26.4, displayV: 26.4, instrument: this.job.system.provingInstrument } : {}),
    });
  }
}

/** Two alike: the second’s float differs. */
function twins(): Job {
  const job = soloJob();
  const [solo] = job.system.chargers;
  return { ...job, system: { ...job.system, chargers: [solo!, { ...solo!, id: 'duo', name: 'Duo', present: { absorbVoltage: 28.1, floatVoltage: 27 } }] } };
}

describe('how every setting ends', () => {
  it('is said of all devices with their names, or of one without', async () => {
    const stand = await Stand.open(twins());
    const fates = stand.work.sheet()!.fates;
    const every = draw(FatesTable, { device: null });
    expect(every.host.querySelectorAll('tbody tr')).toHaveSize(fates.length);
    expect(new Set(every.all('tbody td:first-child'))).toEqual(new Set(['Solo', 'Duo']));
    const one = draw(FatesTable, { device: 'duo' });
    expect(one.host.querySelectorAll('tbody tr')).toHaveSize(fates.filter((f) => f.device === 'duo').length);
    expect(one.all('tbody td:first-child')).not.toContain('Duo');
    expect(one.all('tbody b').every((w) => ['Set', 'Right', 'Inherited', 'Left', 'Not used', 'Open'].includes(w))).toBeTrue();
  });
});

describe('the record of a device', () => {
  it('sets beside each other what stands now, the target, the last visit and the sister, and marks only what differs', async () => {
    const job = twins();
    const stand = await Stand.open({ ...job, snapshots: [soloSnapshot('2026-03-01T09:00:00Z', 26.9, { by: '' }), soloSnapshot('2026-04-02T09:00:00Z', 27.6)] });
    const { all, host } = draw(RecordPanel, { job: stand.job, plan: stand.plan, device: stand.job.system.chargers[0] });
    const lines = [...host.querySelectorAll('tbody tr')].map((tr) =>
      [...tr.querySelectorAll('td')].map((td) => `${td.textContent.replace(/\s+/g, ' ').trim()}${td.classList.contains('off') ? ' *' : ''}`),
    );
    const target = deriveSettings(stand.job).setting('solo', 'floatVoltage')!.value as number;
    expect(target).not.toBe(27.6);
    // Now 27.6 V: not the target, as the newer visit left it, and not what the sister has.
    expect(lines.find((l) => l[0] === 'floatVoltage')).toEqual(['floatVoltage', '27.6 V', `${target.toFixed(1)} V *`, '27.6 V', '27.0 V *']);
    expect(lines.find((l) => l[0] === 'absorbVoltage')!.slice(3)).toEqual(['28.1 V', '28.1 V']);
    // Newest first; who did it is not known of the older.
    expect(all('li')[0]).toContain('by KM');
    expect(all('li')[1]).toContain('by nobody named');
    expect(all('li')).toHaveSize(2);
  });

  it('says which setting is otherwise than it was left, and nothing while all are as left', async () => {
    const left = async (float: number) => {
      const stand = await Stand.open({ ...soloJob(), snapshots: [soloSnapshot('2026-04-02T09:00:00Z', float)] }, false);
      return draw(RecordPanel, { job: stand.job, plan: stand.plan, device: stand.job.system.chargers[0] });
    };
    expect((await left(27.6)).host.querySelector('[role=alert]')).toBeNull();
    const { text } = await left(26.9);
    expect(text('[role=alert]')).toContain('One setting is otherwise than it was left.');
    expect(text('[role=alert]').replace(/\s/g, ' ')).toContain('left at 26.9 V on');
    expect(text('[role=alert]').replace(/\s/g, ' ')).toContain('now 27.6 V');
  });

  it('shows no value that nobody read', async () => {
    const job = soloJob();
    const stand = await Stand.open({ ...job, system: { ...job.system, chargers: job.system.chargers.map((c) => ({ ...c, present: {} })) } }, false);
    const { all, text } = draw(RecordPanel, { job: stand.job, plan: stand.plan, device: stand.job.system.chargers[0] });
    expect(all('tbody td:nth-child(2)')).toEqual(['not read', 'not read']);
    expect(text()).toContain('nothing verified yet');
    expect(text()).toContain('Nothing is recorded yet.');
  });
});

describe('ways back for a device', () => {
  it('never guess what a card does not say, and tell what a reset spares', async () => {
    const stand = await Stand.open();
    const device = stand.job.system.chargers[0];
    const plain = draw(ResetPanel, { plan: stand.plan, device });
    expect(plain.all('.quiet').slice(0, 2)).toEqual(Array(2).fill('Its card does not say how. The maker’s manual does.'));

    const says = (procedures: object): string[] => {
      const job = { ...stand.job, cards: stand.job.cards.map((c) => ({ ...c, procedures })) };
      return draw(ResetPanel, { plan: deriveSettings(job), device })
        .all('.quiet')
        .slice(0, 2);
    };
    expect(says({ factoryReset: { steps: ['Hold Set.'] }, forgottenPasscode: { steps: ['Call.'] } })).toEqual([
      'Whether every setting goes back is not known.',
      'Whether its settings stay is not known: read every value afterwards.',
    ]);
    expect(says({ factoryReset: { steps: [], spares: [] }, forgottenPasscode: { steps: [], resets: true } })).toEqual([
      'Every setting goes back.',
      'Its settings are gone then too.',
    ]);
    expect(says({ factoryReset: { steps: [], spares: ['floatVoltage', 'taperCurrent'] }, forgottenPasscode: { steps: [], resets: false } })).toEqual([
      'Not reset: float.',
      'Its settings stay.',
    ]);
  });

  it('after the note that it was reset nothing on it counts as read', async () => {
    const stand = await Stand.open();
    const { press } = draw(ResetPanel, { plan: stand.plan, device: stand.job.system.chargers[0] });
    press('It was reset');
    expect(stand.job.system.chargers[0]!.present).toEqual({});
  });
});

describe('beside a step', () => {
  it('says why its value, what other readings mean, what comes next and what went otherwise', async () => {
    const stand = await Stand.open();
    const edit = stand.step('edit');
    stand.work.show(edit.id);
    for (const n of [1, 2, 3, 4, 5]) stand.work.trouble(edit, `Fault ${n}`);
    const { text, all } = draw(RunAside);
    expect(text('h2')).toBe(`Why ${edit.value!.readBack}`.replace(/\s+/g, ' '));
    // One step up, and what it was found at; never the right value itself.
    const other = all('.else b');
    expect(other.length).toBeGreaterThan(0);
    expect(other).not.toContain(edit.value!.readBack.replace(/\s+/g, ' '));
    expect(all('.next').length).toBe(Math.min(3, TestBed.inject(RunRows).next().length));
    expect(all('.trouble').map((t) => t.slice(-7))).toEqual(['Fault 5', 'Fault 4', 'Fault 3', 'Fault 2']);
  });
});

describe('all steps on one line', () => {
  it('are drawn as wide as there is room, filled as they are answered, with the end of a hazard marked', async () => {
    const stand = await Stand.open();
    const ruler = (width: number, skipped = new Set<string>()) =>
      draw(SheetRuler, {
        sheet: stand.work.sheet(),
        standing: stand.work.standing(),
        skipped,
        deviceNames: new Map([['solo', 'Solo']]),
        width,
      });
    const marks = (drawn: ReturnType<typeof ruler>) => [...drawn.host.querySelectorAll('rect')];
    const steps = stand.work.sheet()!.steps;
    const first = steps[0]!;
    expect(marks(ruler(600))).toHaveSize(steps.length);
    expect(ruler(600).host.querySelector('svg')!.getAttribute('aria-label')).toBe(`Step 1 of ${steps.length}: 0 done, ${steps.length} open.`);
    const fills = (drawn: ReturnType<typeof ruler>) => marks(drawn).map((m) => m.getAttribute('fill'));
    expect(fills(ruler(600))[0]).toBe('var(--ck-copper)');
    expect(fills(ruler(600)).filter((f) => f === 'var(--ck-attention-wash)')).toHaveSize(new Set(stand.work.sheet()!.hazards.map((h) => h.to)).size);
    stand.answer(first.id);
    expect(fills(ruler(600))[0]).toBe('var(--ck-ink)');
    expect(fills(ruler(600, new Set([first.id])))[0]).toBe('var(--ck-rule)');
    // The last mark ends within the line; a name without room is left out.
    const last = marks(ruler(600)).at(-1)!;
    expect(Number(last.getAttribute('x')) + Number(last.getAttribute('width'))).toBeLessThanOrEqual(600);
    expect(ruler(600).all('text')).toContain('Solo');
    expect(ruler(40).all('text')).toEqual([]);
  });
});

describe('the value to enter', () => {
  const value = { role: 'floatVoltage', label: 'Float', from: null, to: 26.9, unit: 'V', digits: 1, readBack: '26.9 V', temporary: false };

  it('stands in whole and part, with the keys that raise, lower and save it', async () => {
    const stand = await Stand.open();
    const shown = (keys: object | null, more: object = {}) =>
      draw(StepValue, { plan: stand.plan, step: stand.step('edit'), value: { ...value, ...more }, keys });
    const drawn = shown({ raise: 'Up', lower: 'Down', keep: 'hold 3 s: Set' });
    expect(drawn.all('kbd')).toEqual(['Up', 'Down', 'hold 3 s']);
    expect(drawn.text('[data-testid=to-set]').replace(/\s/g, '')).toBe('26.9V');
    // One knob for both is named once; without an own key to save, none is shown.
    expect(shown({ raise: 'Knob: turn', lower: 'Knob: turn back' }).all('kbd')).toEqual(['Knob']);
    expect(shown(null).text('.enter')).toContain('the keys its manual names');
    expect(shown(null, { temporary: true }).text()).toContain('On the way only.');
    expect(shown(null).text()).not.toContain('On the way only.');
    expect(shown(null, { to: 'Lithium' }).text('.enter')).toContain('Choose');
    expect(shown(null, { to: 'Lithium' }).text('[data-testid=to-set]')).toBe('Lithium');
    expect(shown(null, { to: 27, digits: 0 }).text('[data-testid=to-set]').replace(/\s/g, '')).toBe('27V');
  });
});

describe('ending the day early', () => {
  it('says how much there is to put back, and what cannot be', async () => {
    const stand = await Stand.open();
    const back = (): string => draw(StoppingPanel).all('button')[0]!;
    expect(back()).toContain('Nothing to enter');
    const edit = stand.step('edit');
    for (const step of stand.work.sheet()!.steps.slice(0, stand.work.sheet()!.steps.indexOf(edit) + 1)) stand.answer(step.id);
    expect(back()).toContain('One edit, then everything that is off goes on again.');
    expect(back()).not.toContain('never noted');
  });

  it('does not let the sheet end while a source is off', async () => {
    const stand = await Stand.open();
    const end = (): HTMLButtonElement => [...draw(StoppingPanel).host.querySelectorAll('button')].find((b) => b.textContent.includes('End the run sheet'))!;
    expect(end().disabled).toBeFalse();
    const open = stand.work.sheet()!.steps.find((s) => s.kind === 'open');
    expect(open).toBeDefined();
    stand.answer(open!.id);
    expect(end().disabled).toBeTrue();
    expect(end().textContent).toContain('first switch on again what is off');
    // The way on leads to the step that closes.
    draw(StoppingPanel).press('Leave the values');
    expect(stand.work.step()!.kind).toBe('close');
  });
});

describe('a line of one’s own', () => {
  it('is added before the step in view, without blanks around it, and can be removed', async () => {
    const stand = await Stand.open();
    const count = stand.work.sheet()!.steps.length;
    const first = stand.work.step()!;
    const { host, press, fixture } = draw(OwnLine, { step: first });
    press('Add a line before this step');
    const field = host.querySelector('input')!;
    const type = (words: string): void => {
      field.value = words;
      field.dispatchEvent(new Event('input'));
      fixture.detectChanges();
    };
    type('   ');
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    expect(stand.work.sheet()!.steps).toHaveSize(count);
    type('  Photograph the label ');
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    const [own] = stand.work.sheet()!.steps;
    expect([own!.title, own!.says.join(' ')].join(' ')).toContain('Photograph the label');
    expect(stand.work.sheet()!.steps).toHaveSize(count + 1);
    draw(OwnLine, { step: own }).press('Remove this line');
    expect(stand.work.sheet()!.steps).toHaveSize(count);
  });
});

describe('answers from paper', () => {
  it('are taken over line by line at the time on the paper; what does not fit stays open and says why', async () => {
    const stand = await Stand.open();
    const { host, fixture, text, press } = draw(PaperEntry, { plan: stand.plan });
    const edit = stand.step('edit');
    const line = (title: string) => [...host.querySelectorAll('li')].find((li) => li.textContent.includes(title))!;
    const fill = (field: HTMLInputElement, words: string, event = 'input'): void => {
      field.value = words;
      field.dispatchEvent(new Event(event));
      fixture.detectChanges();
    };
    expect(text('.end')).toContain('Nothing is filled in yet.');
    const reads = () => line(edit.title).querySelector<HTMLInputElement>(`input[aria-label="${edit.title}, reads"]`)!;
    fill(reads(), '2x');
    expect(line(edit.title).querySelector('[role=alert]')!.textContent).not.toBe('');
    fill(reads(), '31.0');
    expect(line(edit.title).querySelector('[role=alert]')!.textContent).toContain('It stays open');
    expect(host.querySelector<HTMLButtonElement>('.press')!.disabled).toBeTrue();
    fill(host.querySelector<HTMLInputElement>('.day input')!, '2026-06-08', 'change');
    fill(reads(), String(edit.value!.to));
    fill(line(edit.title).querySelector<HTMLInputElement>('.time')!, '09:40', 'change');
    expect(text('.press')).toBe('Keep 1 answer');
    press('Keep 1 answer');
    const answer = stand.work.kept().get(edit.id)!;
    expect(answer).toEqual(jasmine.objectContaining({ state: 'done', reading: edit.value!.to, by: 'KM', way: 'paper' }));
    expect(new Date(answer.at).getTime()).toBe(new Date(2026, 5, 8, 9, 40).getTime());
    expect(line(edit.title)).toBeUndefined();
  });
});

describe('the run sheet on paper', () => {
  it('has every step once, in order, by device, with what must be read', async () => {
    const stand = await Stand.open();
    const sheet = stand.work.sheet()!;
    const { all, text } = draw(PaperSheet, { job: stand.job, plan: stand.plan, sheet });
    expect(all('tbody > tr > td:first-child')).toEqual(sheet.steps.map((_, i) => String(i + 1)));
    expect([sheet.steps[0]!.device, all('h2')[0]]).toEqual([null, 'Before you begin']);
    expect(all('h2')).toContain('Solo');
    expect(all('h2').at(-1)).toBe('Switch on again');
    expect(all('.set').filter((w) => w !== '')).toEqual(sheet.steps.flatMap((s) => (s.value ? [s.value.readBack.replace(/\s+/g, ' ')] : [])));
    const ends = (...of: string[]): number => sheet.fates.filter((f) => of.includes(f.ends)).length;
    expect(text()).toContain(
      `${ends('set', 'stands', 'open')} set or right already, ${ends('inherited')} inherited, ${ends('left')} left, ${ends('notUsed')} not used`,
    );
  });
});

describe('what a device says now', () => {
  it('is one line for each thing it says; what it has no reading of is said, what it never says is left out', async () => {
    await Stand.open();
    const lines = (live: object, old = false) => {
      const drawn = draw(WireLive, { state: { live, at: 0 }, old });
      return { lines: drawn.all('dt').map((name, i) => `${name}: ${drawn.all('dd')[i]}`), old: drawn.host.querySelector('dl')!.classList.contains('old') };
    };
    expect(lines({ volts: 26.437, amps: null, clockMinutes: 605, alarm: 3, stage: stages.indexOf('absorb') }).lines).toEqual([
      'Stage: absorb',
      'Battery, as it measures: 26.44 V',
      'Its output: no reading',
      'Its clock: 10:05',
      'Alarm: code 3',
    ]);
    expect(lines({ volts: 26.4, alarm: 0, celsius: null }, true)).toEqual({
      lines: ['Battery, as it measures: 26.40 V', 'Battery sensor: no reading'],
      old: true,
    });
    expect(lines({ volts: 26.4 }).old).toBeFalse();
  });
});
