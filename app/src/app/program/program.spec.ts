import { ChangeDetectionStrategy, Component } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { Job } from '@calm-keel/core/job';
import { DeviceLink, type Outcome, type WireStep } from '../data/device-link';
import type { JobStore } from '../data/job-store';
import { RunWork } from '../data/run-work';
import { openStore, soloJob, until } from '../testing';
import { ProgramPage } from './program-page';

@Component({ selector: 'ck-empty', changeDetection: ChangeDetectionStrategy.OnPush, template: '' })
class Empty {}

async function open(
  job: Job = soloJob(),
): Promise<{ fixture: ComponentFixture<ProgramPage>; host: HTMLElement; store: JobStore; work: RunWork; link: DeviceLink }> {
  const store = await openStore(job, [provideRouter([{ path: '**', component: Empty }])]);
  const link = TestBed.inject(DeviceLink);
  spyOn(link, 'look').and.resolveTo();
  const fixture = TestBed.createComponent(ProgramPage);
  fixture.detectChanges();
  const work = TestBed.inject(RunWork);
  return { fixture, host: fixture.nativeElement as HTMLElement, store, work, link };
}
const text = (host: HTMLElement, selector: string): string => (host.querySelector(selector)?.textContent ?? '').replace(/\s+/g, ' ').trim();
const button = (host: HTMLElement, words: string): HTMLButtonElement => {
  const found = [...host.querySelectorAll('button')].find((b) => b.textContent.replace(/\s+/g, ' ').trim().startsWith(words));
  if (!found) throw new Error(`no button “${words}”`);
  return found;
};
function type(fixture: ComponentFixture<unknown>, input: HTMLInputElement, words: string): void {
  input.value = words;
  input.dispatchEvent(new Event('input'));
  fixture.detectChanges();
}
/** Begins the sheet with every stop answered for, and goes to a step. */
async function begun(at: string) {
  const opened = await open();
  opened.work.begin('KM', opened.store.job()!.system.provingInstrument);
  opened.work.show(at);
  await opened.store.flush();
  opened.fixture.detectChanges();
  return opened;
}

describe('Program', () => {
  it('begins with initials, and not before', async () => {
    const { fixture, host, store, work } = await open();
    for (const f of store.stopsThatStay()) store.accept(f, 'known', 'technician');
    await store.flush();
    fixture.detectChanges();
    const initials = host.querySelector<HTMLInputElement>('ck-begin-panel input')!;
    type(fixture, initials, ' ');
    expect(button(host, 'Begin the run sheet').disabled).toBeTrue();
    expect(text(host, 'ck-begin-panel p')).toContain('initials');
    type(fixture, initials, 'KM');
    button(host, 'Begin the run sheet').click();
    fixture.detectChanges();
    expect(work.running()).toBeTrue();
    expect(text(host, 'ck-run-step h2')).toBe('The bank can weld a spanner');
  });

  it('does not begin while a stop stands that keying-in will not mend', async () => {
    const job = soloJob();
    const { host, store } = await open({ ...job, system: { ...job.system, bank: { ...job.system.bank, hasBms: false } } });
    expect(store.stopsThatStay().length).toBeGreaterThan(0);
    expect(button(host, 'Begin the run sheet').disabled).toBeTrue();
    expect(text(host, '.gate')).toContain('Do not start');
  });

  it('shows a value large with what it should read, and keeps what it reads', async () => {
    const { fixture, host, store } = await begun('solo/edit/floatVoltage');
    expect(text(host, '[data-testid=to-set]').replace(/ /g, '')).toBe('26.9V');
    expect(text(host, '.back')).toContain('26.9');
    expect(text(host, '.was')).toContain('27.6');
    expect(text(host, '.was')).toContain('above the band');
    host.querySelector<HTMLButtonElement>('[data-testid=answer]')!.click();
    await store.flush();
    fixture.detectChanges();
    expect(store.job()!.system.chargers[0]!.present.floatVoltage).toBe(26.9);
    expect(text(host, 'ck-run-step h2')).toBe('Save');
  });

  it('lists a whole device: its values are read back in order where they are, and what is no plain value is shown whole', async () => {
    const { fixture, host, store, work } = await begun('solo/edit/floatVoltage');
    button(host, 'Whole device').click();
    fixture.detectChanges();
    const rows = (): readonly string[] => [...host.querySelectorAll('ck-device-steps li')].map((li) => (li.textContent ?? '').replace(/\s+/g, ' ').trim());
    expect(text(host, 'ck-device-steps .sech')).toContain('Every step of Solo');
    expect(rows().length).toBe(work.sheet()!.steps.filter((step) => step.device === 'solo' && step.kind !== 'open' && step.kind !== 'close').length);
    // Only the value that is due can be answered, and never by more than was read.
    expect(host.querySelectorAll('ck-device-steps [data-answer]').length).toBe(1);
    expect(text(host, 'ck-device-steps li.now')).toContain('Float');
    button(host, 'Reads 26.9').click();
    await store.flush();
    fixture.detectChanges();
    expect(store.job()!.system.chargers[0]!.present.floatVoltage).toBe(26.9);
    // Saving is no plain value.
    expect(text(host, 'ck-device-steps li.now ck-run-step h2')).toBe('Save');
    expect(host.querySelectorAll('ck-device-steps [data-answer]').length).toBe(0);
    const float = work.sheet()!.steps.findIndex((step) => step.id === 'solo/edit/floatVoltage') + 1;
    button(host, `Undo step ${float}`).click();
    await store.flush();
    fixture.detectChanges();
    expect(store.job()!.system.chargers[0]!.present.floatVoltage).toBe(27.6);
    button(host, 'Reads something else').click();
    fixture.detectChanges();
    expect(host.querySelector('ck-device-steps ck-odd-reading')).not.toBeNull();
    // A title opens its step by itself.
    host.querySelector<HTMLButtonElement>('ck-device-steps .title')!.click();
    fixture.detectChanges();
    expect(host.querySelector('ck-device-steps')).toBeNull();
    expect(host.querySelector('ck-run-step')).not.toBeNull();
  });

  it('judges another reading as it is typed, and leads on', async () => {
    const { fixture, host, store, work } = await begun('solo/edit/floatVoltage');
    button(host, 'Reads something else').click();
    fixture.detectChanges();
    const field = host.querySelector<HTMLInputElement>('ck-odd-reading input')!;
    type(fixture, field, 'much');
    expect(text(host, 'ck-odd-reading .wrong')).not.toBe('');
    type(fixture, field, '27,6');
    expect(text(host, 'ck-odd-reading .verdict')).toContain('the edit was not saved');
    expect(button(host, 'Keep it with this reason').disabled).toBeTrue();
    button(host, 'Set it again').click();
    await store.flush();
    fixture.detectChanges();
    expect(work.record()!.trouble.length).toBe(1);
    expect(text(host, 'ck-run-step h2')).toBe('Float');
    expect(store.job()!.system.chargers[0]!.present.floatVoltage).toBe(27.6);
    button(host, 'Reads something else').click();
    fixture.detectChanges();
    type(fixture, host.querySelector<HTMLInputElement>('ck-odd-reading input')!, '26.8');
    button(host, 'Record 26.8').click();
    await store.flush();
    expect(store.job()!.system.chargers[0]!.present.floatVoltage).toBe(26.8);
  });

  it('counts the seconds in which an edit must be kept', async () => {
    jasmine.clock().install();
    jasmine.clock().mockDate(new Date());
    try {
      const { fixture, host } = await begunWithRealClock();
      button(host, 'Count 20 s').click();
      fixture.detectChanges();
      jasmine.clock().tick(5000);
      fixture.detectChanges();
      expect(text(host, 'ck-keep-timer')).toContain('15 s');
      jasmine.clock().tick(20_000);
      fixture.detectChanges();
      expect(text(host, 'ck-keep-timer')).toContain('are over');
    } finally {
      jasmine.clock().uninstall();
    }
    async function begunWithRealClock() {
      jasmine.clock().uninstall();
      const opened = await begun('solo/edit/floatVoltage');
      jasmine.clock().install();
      jasmine.clock().mockDate(new Date());
      return opened;
    }
  });

  it('a value that a power cut took away stands open again, and says so', async () => {
    const { fixture, host, store, work } = await begun('solo/edit/floatVoltage');
    const answer = (): void => host.querySelector<HTMLButtonElement>('[data-testid=answer]')!.click();
    for (let i = 0; i < 2; i++) {
      answer();
      await store.flush();
      fixture.detectChanges();
    }
    expect(text(host, 'ck-run-step h2')).toBe('Cut its power and read again');
    type(fixture, host.querySelector<HTMLInputElement>('[aria-label="floatVoltage, as shown"]')!, '27.6');
    expect(text(host, '[data-testid=answer]')).toBe('Record 1 that reads otherwise');
    answer();
    await store.flush();
    fixture.detectChanges();
    expect(text(host, 'ck-run-step h2')).toBe('Float');
    expect(text(host, '.caution')).toContain('After the power cut');
    expect(work.record()!.trouble.length).toBe(1);
  });
});

describe('the wire', () => {
  /** A link whose writes come out as told. */
  async function wired(outcomes: readonly Outcome['kind'][]) {
    const opened = await begun('solo/edit/floatVoltage');
    const { fixture, link, work, store } = opened;
    link.devices.set([{ name: 'solo', kind: 'registers' }]);
    spyOn(link, 'attach').and.resolveTo();
    const sent: string[] = [];
    spyOn(link, 'write').and.callFake((_device: string, steps: readonly WireStep[], told) => {
      for (const [i, step] of steps.entries()) {
        sent.push(step.step);
        const kind = outcomes[i] ?? 'readBack';
        if (!told(step, { kind, value: 27.2, says: `It is ${kind}.` }) || (kind !== 'readBack' && kind !== 'acknowledged')) break;
      }
      return Promise.resolve();
    });
    for (const s of work.sheet()!.steps) if (s.kind === 'caution' || s.kind === 'open') work.answer(s, { state: 'done' });
    work.show('solo/edit/floatVoltage');
    await store.flush();
    fixture.detectChanges();
    return { ...opened, sent };
  }

  it('asks once, writes in order, and answers what was read back', async () => {
    const { fixture, host, sent, work, store } = await wired(['readBack', 'acknowledged']);
    button(host, 'Write all 2 of Solo').click();
    fixture.detectChanges();
    expect(text(host, '.confirm')).toContain('Write 2 steps to Solo');
    button(host, 'Write them').click();
    await until(() => work.step()?.kind === 'persist', 'both are written');
    await store.flush();
    expect(sent).toEqual(['solo/edit/floatVoltage', 'solo/commit']);
    expect(work.kept().get('solo/edit/floatVoltage')).toEqual(jasmine.objectContaining({ way: 'wire', reading: 26.9 }));
    // A save that nobody has seen is not called read back.
    expect(work.kept().get('solo/commit')).toEqual(jasmine.objectContaining({ way: 'wire', reading: 'acknowledged, not seen' }));
    fixture.detectChanges();
    expect(text(host, 'ck-wire-panel')).toContain('It is acknowledged.');
  });

  /** A device of which nobody knows whether the last write was taken, and what it reads, once and again. */
  async function inDoubt(step: string, ...reads: readonly number[]) {
    const opened = await wired([]);
    const { fixture, host, link } = opened;
    link.doubts.set(new Map([['solo', { step, at: 0 }]]));
    const read = spyOn(link, 'read').and.callFake(() => Promise.resolve({ values: { floatVoltage: reads[read.calls.count() - 1] ?? 0 }, firmware: null }));
    fixture.detectChanges();
    expect(text(host, 'ck-wire-panel [role=alert]')).toContain('State unknown.');
    expect(button(host, 'Write all 2 of Solo').disabled).toBeTrue();
    expect(text(host, 'ck-wire-panel .acts')).toContain('First read the device');
    button(host, 'Read the device').click();
    return opened;
  }

  it('after a lost answer says that the state is unknown, and what reading the device twice makes of it', async () => {
    const { work } = await inDoubt('solo/edit/floatVoltage', 26.9, 26.9);
    await until(() => work.kept().has('solo/edit/floatVoltage'), 'it is answered');
    expect(work.kept().get('solo/edit/floatVoltage')).toEqual(jasmine.objectContaining({ way: 'wire', reading: 26.9 }));
    expect(work.record()?.trouble.length).toBe(0);
  });

  for (const [reads, words] of [
    [[27.6, 27.6], 'reads 27.6 instead of 26.9'],
    [[26.9, 27.6], 'reads now this and now that instead of 26.9'],
  ] as const)
    it(`records nothing of a lost write that ${words}`, async () => {
      const { fixture, host, work } = await inDoubt('solo/edit/floatVoltage', ...reads);
      await until(() => (work.record()?.trouble.length ?? 0) > 0, 'it is told');
      fixture.detectChanges();
      expect(text(host, 'ck-wire-panel').replace(/\u00a0/g, ' ')).toContain(words);
      expect(work.kept().has('solo/edit/floatVoltage')).toBeFalse();
    });

  it('says of a save whose answer was lost that no register tells', async () => {
    const { fixture, host, work } = await inDoubt('solo/commit', 26.9, 26.9);
    await until(() => {
      fixture.detectChanges();
      return text(host, 'ck-wire-panel').includes('no register tells');
    }, 'it is told');
    expect(work.kept().has('solo/commit')).toBeFalse();
  });

  for (const kind of ['differs', 'refused', 'wrongDevice', 'unknown'] as const)
    it(`stops at a write that comes out as “${kind}”, and calls nothing done`, async () => {
      const { fixture, host, sent, work, store } = await wired([kind]);
      button(host, 'Write all 2 of Solo').click();
      fixture.detectChanges();
      button(host, 'Write them').click();
      await until(() => (work.record()?.trouble.length ?? 0) > 0, 'it is told');
      await store.flush();
      fixture.detectChanges();
      expect(sent).toEqual(['solo/edit/floatVoltage']);
      expect(work.kept().has('solo/edit/floatVoltage')).toBeFalse();
      expect(text(host, 'ck-wire-panel [role=alert]')).toContain('Writing has stopped here');
      expect(store.job()!.system.chargers[0]!.present.floatVoltage).toBe(27.6);
    });

  it('writes nothing before cautions and isolators are answered', async () => {
    const { fixture, host, link } = await begun('solo/edit/floatVoltage');
    link.devices.set([{ name: 'solo', kind: 'registers' }]);
    spyOn(link, 'attach').and.resolveTo();
    fixture.detectChanges();
    expect(button(host, 'Write 26.9').disabled).toBeTrue();
    expect(text(host, 'ck-wire-panel .acts')).toContain('First answer the step');
  });

  it('tells the age of what came last, and keeps it when nothing new comes', async () => {
    const { fixture, host, link } = await begun('solo/edit/floatVoltage');
    link.devices.set([{ name: 'solo', kind: 'registers' }]);
    spyOn(link, 'attach').and.resolveTo();
    const at = Date.now();
    link.live.set(new Map([['solo', { at, live: { volts: 26.4, stage: 2 }, problem: null }]]));
    link.now.set(at + 9000);
    fixture.detectChanges();
    expect(text(host, 'ck-wire-panel')).toContain('9 s old');
    expect(text(host, 'ck-wire-panel dl')).toContain('26.40');
    expect(host.querySelector('ck-wire-panel dl.old')).not.toBeNull();
  });
});
