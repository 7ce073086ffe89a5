import { cardSchema, type Card } from '../card';
import { findFindings } from '../findings';
import { runSheet } from '../runsheet';
import { deriveSettings } from '../settings';
import { wholeTeasel } from '../testing/fixtures';
import { answerStep, beginProgramming, sheetOf, undoAnswer } from './programming';
import { jobSchema, type Job } from './job';
import { withLine, withoutLine } from './ownLines';
import { noteReset } from './reset';

const at = '2026-06-09T10:00:00.000Z';
const doing = { at, by: 'KM', way: 'display' as const };
const aft = 'aft';
const withCard = (job: Job, change: (card: Card) => Card): Job => ({
  ...job,
  cards: job.cards.map((c) => (c.id === 'varrow-s45' ? cardSchema.parse(change(c)) : c)),
});
const spares = (job: Job, roles: readonly string[]): Job =>
  withCard(job, (c) => ({ ...c, procedures: { factoryReset: { steps: ['Hold Menu 10 s'], spares: roles as never } } }));
const charger = (job: Job, id = aft) => job.system.chargers.find((c) => c.id === id)!;
/** Keyed up to its third edit, everything read as wanted. */
const halfKeyed = (job: Job): Job => {
  let next = beginProgramming(job, doing, 'meter');
  for (const step of sheetOf(next)
    .steps.filter((s) => s.device === aft && s.kind === 'edit')
    .slice(0, 3))
    next = answerStep(next, step.id, doing, { state: 'done', reading: step.value!.to });
  return next;
};

describe('a device that was reset', () => {
  const before = halfKeyed(wholeTeasel());
  const job = noteReset(before, aft, at);

  it('has nothing on it that counts as read, and is asked for again', () => {
    expect(before.programming!.answers.length).toBe(3);
    expect(Object.keys(charger(before).present).length).toBeGreaterThan(3);
    expect(charger(job).present).toEqual({});
    expect([charger(job).resetSinceProof, charger(job).passcodeChanged]).toEqual([true, false]);
    expect(job.programming!.answers).toEqual([]);
    const steps = sheetOf(job).steps.filter((s) => s.device === aft);
    expect(steps.find((s) => s.kind === 'readOff')?.looks?.length).toBeGreaterThan(10);
    expect(steps.filter((s) => s.kind === 'edit').every((s) => s.value?.readOff === false)).toBeTrue();
    expect(job.programming!.trouble.at(-1)?.text).toBe('It was reset. Everything on it is in doubt until it is read.');
    expect(findFindings(deriveSettings(job), '2026-06-09').some((f) => f.code === 'firmwareChanged' && f.charger === aft)).toBeTrue();
    expect(jobSchema.safeParse(job).success).toBeTrue();
  });

  it('leaves the other devices as they are, and its own firmware, sensor and wiring', () => {
    expect(charger(job, 'fore')).toEqual(charger(before, 'fore'));
    const { present: _p, resetSinceProof: _r, passcodeChanged: _c, displayReadings: _d, ...rest } = charger(job);
    expect(charger(before)).toEqual(jasmine.objectContaining(rest));
    const fore = answerStep(before, sheetOf(before).steps.find((s) => s.device === 'fore' && s.kind === 'wake')!.id, doing, { state: 'done' });
    expect(noteReset(fore, aft, at).programming!.answers.map((a) => a.step)).toEqual(['fore/wake']);
  });

  it('keeps what its card says a reset spares', () => {
    const role = Object.keys(charger(before).present)[0]!;
    const spared = noteReset(spares(before, [role]), aft, at);
    expect(Object.keys(charger(spared).present)).toEqual([role]);
    expect(Object.keys(spared.programming!.found[aft]!)).toEqual([role]);
    expect(spared.programming!.trouble.at(-1)?.text).toMatch(/^It was reset\. Not reset: [^.]+\. Everything else on it is in doubt/);
  });

  it('is compared with the meter again only where its display can be adjusted', () => {
    expect(charger(before).displayReadings.length).toBeGreaterThan(0);
    expect(charger(job).displayReadings).toEqual(charger(before).displayReadings);
    const adjustable = withCard(before, (c) => ({ ...c, display: { ...c.display, calibratable: true } }));
    expect(charger(noteReset(adjustable, aft, at)).displayReadings).toEqual([]);
    const compared = (from: Job): boolean => {
      const step = sheetOf(from).steps.find((s) => s.id === `${aft}/compare`)!;
      const done = answerStep(from, step.id, doing, { state: 'done', meterV: 26.6, displayV: 26.6 });
      return noteReset(done, aft, at).programming!.answers.some((a) => a.step === step.id);
    };
    expect([compared(before), compared(adjustable)]).toEqual([true, false]);
  });

  it('can still be put back as it was found before', () => {
    const back: Job = { ...job, programming: { ...job.programming!, aim: 'putBack' } };
    const values = runSheet(deriveSettings(back), back.programming).steps.find((s) => s.device === aft && s.kind === 'persist')?.looks;
    const found = before.programming!.found[aft]!;
    expect(Object.fromEntries((values ?? []).map((l) => [l.role, l.want]))).toEqual(jasmine.objectContaining(found));
    // A second reset does not take what was found for what the first one left.
    expect(noteReset(job, aft, at).programming!.beforeReset).toEqual({ [aft]: found });
  });

  it('counts as proved again once every value was read, and not when that is taken back', () => {
    const persist = sheetOf(job).steps.find((s) => s.id === `${aft}/persist`)!;
    const values = Object.fromEntries(persist.looks!.map((l) => [l.role, l.want!]));
    const read = answerStep(job, persist.id, doing, { state: 'done', values });
    expect(charger(read).resetSinceProof).toBeFalse();
    expect(charger(undoAnswer(read)).resetSinceProof).toBeTrue();
  });

  it('that nobody knows changes nothing; without a run sheet only its notes are in doubt', () => {
    expect(noteReset(before, 'nobody', at)).toBe(before);
    const idle = noteReset(wholeTeasel(), aft, at);
    expect([idle.programming, charger(idle).present]).toEqual([null, {}]);
    const monitor = noteReset(wholeTeasel(), 'monitor', at).system.companions.find((c) => c.id === 'monitor');
    expect(monitor?.resetSinceProof).toBeTrue();
  });
});

describe('lines of one’s own on the run sheet', () => {
  const lined = (job: Job, lines: NonNullable<Card['lines']>): Job => withCard(job, (c) => ({ ...c, lines }));
  const steps = (job: Job) => sheetOf(job).steps;

  it('stand before what their card names, on each device of it, each once', () => {
    const job = lined(beginProgramming(wholeTeasel(), doing, 'meter'), [
      { before: 'floatVoltage', says: 'Loosen the strap' },
      { before: 'commit', says: 'Look at the lamp' },
      { before: 'end', says: 'Close the lid' },
      { before: 'brakeVoltage', says: 'Never' },
    ]);
    for (const device of ['fore', aft]) {
      const own = steps(job).filter((s) => s.device === device);
      const titles = own.map((s) => (s.value ? s.value.role : s.title));
      // Float stands on the one as it should: there is nothing to loosen the strap for.
      const float = own.findIndex((s) => s.value?.role === 'floatVoltage');
      expect(float >= 0).toBe(device === aft);
      expect(titles.flatMap((t, i) => (t === 'Loosen the strap' ? [i] : []))).toEqual(device === aft ? [float - 1] : []);
      expect(own.findIndex((s) => s.title === 'Look at the lamp') + 1).toBe(own.findIndex((s) => s.kind === 'commit'));
      expect(titles).not.toContain('Never');
    }
    const last = steps(job)
      .filter((s) => s.device === aft && s.kind !== 'close')
      .at(-1);
    expect([last?.title, last?.kind, last?.notes]).toEqual(['Close the lid', 'line', ['From its card.']]);
    expect(new Set(steps(job).map((s) => s.id)).size).toBe(steps(job).length);
  });

  it('of the job stand before the step they name, are answered like any other, and move no hazard', () => {
    const plain = beginProgramming(wholeTeasel(), doing, 'meter');
    const before = steps(plain).find((s) => s.device === aft && s.kind === 'edit')!;
    const job: Job = {
      ...plain,
      system: {
        ...plain.system,
        lines: [
          { id: 'a', before: before.id, says: 'Loosen the strap' },
          { id: 'b', before: 'gone', says: 'Nowhere' },
        ],
      },
    };
    const list = steps(job);
    expect(list.length).toBe(steps(plain).length + 1);
    const line = list.findIndex((s) => s.id === 'line/a');
    expect([list[line]?.device, list[line + 1]?.id]).toEqual([aft, before.id]);
    const done = answerStep({ ...job, programming: { ...job.programming!, at: 'line/a' } }, 'line/a', doing, { state: 'done' });
    expect(done.programming?.at).toBe(before.id);
    // What stays open while something is keyed spans the line too.
    for (const [i, hazard] of sheetOf(job).hazards.entries()) {
      const was = sheetOf(plain).hazards[i]!;
      expect([list[hazard.from]?.id, list[hazard.to]?.id]).toEqual([steps(plain)[was.from]?.id, steps(plain)[was.to]?.id]);
    }
    expect(jobSchema.safeParse(job).success).toBeTrue();
  });

  it('of the job are added before a step and taken out again, the answer with them; no id is given twice', () => {
    const plain = beginProgramming(wholeTeasel(), doing, 'meter');
    const step = steps(plain).find((s) => s.device === aft && s.kind === 'edit')!;
    const two = withLine(withLine(plain, step, 'a'), step, 'b');
    expect(two.system.lines?.map((l) => [l.id, l.before, l.says])).toEqual([
      ['line-1', step.id, 'a'],
      ['line-2', step.id, 'b'],
    ]);
    expect(two.programming?.at).toBe('line/line-2');
    const done = answerStep(two, 'line/line-1', doing, { state: 'done' });
    const one = withoutLine(done, { id: 'line/line-1' });
    expect([one.system.lines?.map((l) => l.id), one.programming?.answers, one.programming?.at]).toEqual([['line-2'], [], step.id]);
    expect(withLine(one, step, 'c').system.lines?.map((l) => l.id)).toEqual(['line-2', 'line-3']);
    expect('lines' in withoutLine(one, { id: 'line/line-2' }).system).toBeFalse();
    expect(withoutLine(one, step)).toBe(one);
  });
});
