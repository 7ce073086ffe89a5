import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { Library } from '../data/library';
import { Selection } from '../data/selection';
import { draw, openStore, plain, sampleJob } from '../testing';
import { DeratingStairs } from './derating-stairs';
import { FigureInspector } from './figure-inspector';
import { FigureTable } from './figure-table';
import { SheetShelf } from './sheet-shelf';

describe('current when cold, stair by stair', () => {
  async function shown(derating: { toC: number; limit: number; unit: 'C' | 'A' }[] = []) {
    const job = sampleJob();
    const store = await openStore({ ...job, sheet: { ...job.sheet, derating } });
    const drawn = draw(DeratingStairs, { sheet: store.job()!.sheet });
    const rows = () => {
      drawn.fixture.componentRef.setInput('sheet', store.job()!.sheet);
      drawn.fixture.detectChanges();
      return store.job()!.sheet.derating;
    };
    return { ...drawn, rows };
  }

  it('has no stair before both of its figures are typed, and takes no figure that nobody said', async () => {
    const { press, button, fill, rows, host } = await shown();
    press('Add a stair');
    expect(rows()).toEqual([]);
    expect(button('Save the stair').disabled).toBeTrue();
    fill('Up to', '5');
    expect(button('Save the stair').disabled).toBeTrue();
    fill('In', 'A');
    fill('Allowed', '20');
    press('Save the stair');
    expect(rows()).toEqual([{ toC: 5, limit: 20, unit: 'A' }]);
    expect(() => button('Save the stair')).toThrow();
    // The next one counts as the sheet’s others do.
    press('Add a stair');
    expect(host.querySelector<HTMLSelectElement>('[aria-label="New stair"] select')!.value).toBe('A');
  });

  it('puts a stair where its temperature belongs, and none twice', async () => {
    const { press, rows, host, text } = await shown([{ toC: 10, limit: 0.5, unit: 'C' }]);
    const enter = (index: number, value: string): void => {
      const field = host.querySelectorAll<HTMLInputElement>('[aria-label="New stair"] input')[index]!;
      field.value = value;
      field.dispatchEvent(new Event('input'));
    };
    press('Add a stair');
    enter(0, '0');
    enter(1, '0.1');
    rows();
    press('Save the stair');
    expect(rows()).toEqual([
      { toC: 0, limit: 0.1, unit: 'C' },
      { toC: 10, limit: 0.5, unit: 'C' },
    ]);
    press('Add a stair');
    enter(0, '10');
    enter(1, '0.3');
    rows();
    press('Save the stair');
    expect(rows()).toHaveSize(2);
    rows();
    expect(text('[role=alert]')).toContain('Each stair must end warmer');
    // What was typed stands until it is right.
    expect(host.querySelector('[aria-label="New stair"]')).not.toBeNull();
  });

  it('changes and removes a stair where it stands', async () => {
    const { rows, fill, press } = await shown([
      { toC: 0, limit: 0.1, unit: 'C' },
      { toC: 10, limit: 0.5, unit: 'C' },
    ]);
    fill('Allowed', '0.15');
    expect(rows()[0]).toEqual({ toC: 0, limit: 0.15, unit: 'C' });
    press('Remove');
    expect(rows()).toEqual([{ toC: 10, limit: 0.5, unit: 'C' }]);
  });
});

describe('the chosen figure', () => {
  async function shown(key: string) {
    const store = await openStore(sampleJob(), [provideRouter([])]);
    const drawn = draw(FigureInspector, { key });
    return { ...drawn, store, figure: () => store.job()!.sheet.figures[key as 'absorbVoltage'] };
  }

  it('is measured against the normal range of its chemistry, cell by cell', async () => {
    const { text, store, fixture } = await shown('absorbVoltage');
    // 28.1 V over eight cells.
    expect(plain(text())).toContain('3.51 V per cell: inside the normal range');
    store.edit('Per cell', (job) => ({
      ...job,
      sheet: { ...job.sheet, figures: { ...job.sheet.figures, absorbVoltage: { ...job.sheet.figures.absorbVoltage!, basis: 'cell' } } },
    }));
    fixture.detectChanges();
    expect(plain(text())).toContain('28.10 V per cell: outside the normal range');
    expect(text('.chip')).toContain('Wrong basis?');
  });

  it('is taken off the sheet, or named as not permitted, and asks for a number where one is wanted', async () => {
    const { fill, figure, fixture, text } = await shown('equaliseVoltage');
    let wanted = 0;
    fixture.componentInstance.wantsValue.subscribe(() => wanted++);
    expect(text('.chip')).toContain('Missing');
    const state = [...(fixture.nativeElement as HTMLElement).querySelectorAll('label')]
      .find((l) => {
        const field = l.htmlFor
          ? (document.getElementById(l.htmlFor) ?? (fixture.nativeElement as HTMLElement).querySelector(`#${CSS.escape(l.htmlFor)}`))
          : null;
        return field instanceof HTMLSelectElement && [...field.options].some((o) => o.value === 'notPermitted');
      })!
      .textContent.trim();
    fill(state, 'stated');
    expect([wanted, figure()]).toEqual([1, undefined]);
    fill(state, 'notPermitted');
    expect(figure()).toEqual(jasmine.objectContaining({ state: 'notPermitted' }));
    fill(state, 'missing');
    expect(figure()).toBeUndefined();
  });
});

describe('the figures as printed', () => {
  async function shown() {
    const store = await openStore(sampleJob(), [provideRouter([])]);
    const drawn = draw(FigureTable, { sheet: store.job()!.sheet });
    document.body.append(drawn.host);
    const field = (key: string): HTMLInputElement => drawn.host.querySelector<HTMLInputElement>(`#figure-${key}`)!;
    const type = (key: string, text: string): void => {
      field(key).focus();
      drawn.fixture.detectChanges();
      field(key).value = text;
      field(key).dispatchEvent(new Event('input'));
      drawn.fixture.detectChanges();
    };
    const key = (at: string, name: string): void => {
      field(at).dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true, cancelable: true }));
      drawn.fixture.detectChanges();
    };
    return { ...drawn, store, field, type, key };
  }
  let host: HTMLElement | null = null;
  afterEach(() => host?.remove());

  it('are read as they are typed, taken by Enter, and what cannot be read stays with the reason', async () => {
    const { type, key, text, store, field, host: drawn } = await shown();
    host = drawn;
    type('absorbVoltage', '3.5 V/cell');
    expect(plain(text())).toContain('28.00 V on this bank');
    key('absorbVoltage', 'Enter');
    expect(store.job()!.sheet.figures.absorbVoltage).toEqual(jasmine.objectContaining({ target: 3.5, basis: 'cell' }));
    type('floatVoltage', 'about right');
    key('floatVoltage', 'Enter');
    expect(store.job()!.sheet.figures.floatVoltage).toEqual(jasmine.objectContaining({ target: 26.9 }));
    field('floatVoltage').blur();
    expect(field('floatVoltage').value).toBe('about right');
    expect(TestBed.inject(Selection).figure()).toBe('floatVoltage');
    field('floatVoltage').focus();
    key('floatVoltage', 'Escape');
    expect(field('floatVoltage').value).toContain('26.9');
  });
});

describe('the sheets of this device', () => {
  it('are taken as a copy, and the sheet of the job goes there under a name of its own', async () => {
    const store = await openStore(sampleJob());
    const library = TestBed.inject(Library);
    spyOn(library, 'sheets').and.returnValue([{ ...sampleJob().sheet, id: 'other', maker: 'Wend', battery: 'B12' }]);
    const put = spyOn(library, 'putSheet').and.resolveTo();
    const { press, fixture, text } = draw(SheetShelf, { sheet: { ...store.job()!.sheet, id: 'new-sheet', maker: 'Plain', battery: 'B24', revision: '2' } });
    let taken = 0;
    fixture.componentInstance.taken.subscribe(() => taken++);
    press('Keep this job’s sheet');
    await fixture.whenStable();
    fixture.detectChanges();
    expect(put.calls.mostRecent().args[0].id).not.toBe('new-sheet');
    expect(text('[role=status]')).toBe('Saved in the library of this device.');
    put.and.rejectWith(new Error('full'));
    press('Keep this job’s sheet');
    await fixture.whenStable();
    fixture.detectChanges();
    expect(text('[role=status]')).toContain('no room');
    press('Wend B12');
    expect([taken, store.job()!.sheet.battery]).toEqual([1, 'B12']);
  });

  it('a new revision keeps the one it comes from', async () => {
    const store = await openStore(sampleJob());
    const before = store.job()!.sheet;
    draw(SheetShelf, { sheet: before }).press('Begin a new revision');
    expect(store.job()!.sheet.revision).toBe('1, next');
    expect(store.job()!.sheet.id).not.toBe(before.id);
    expect(store.job()!.otherSheets).toEqual([before]);
  });
});
