import type { Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { Job } from '@calm-keel/core/job';
import { DATABASE } from '../data/job-book';
import type { JobStore } from '../data/job-store';
import { provideRouter } from '@angular/router';
import { openStore, sampleCard, sampleJob, until, voltParameter } from '../testing';
import { DocumentsPanel } from './documents-panel';
import { LetterPanel } from '../ui/letter-panel';
import { PastePanel } from './paste-panel';
import { Revisions } from './revisions-panel';
import { SheetForm } from './sheet-form';

async function open<T>(
  panel: Type<T>,
  job: Job = sampleJob(),
  inputs: Record<string, unknown> = {},
): Promise<{ fixture: ComponentFixture<T>; host: HTMLElement; store: JobStore }> {
  const store = await openStore(job, [provideRouter([])]);
  const fixture = TestBed.createComponent(panel);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  fixture.detectChanges();
  return { fixture, host: fixture.nativeElement as HTMLElement, store };
}
const button = (host: HTMLElement, words: string): HTMLButtonElement => {
  const found = [...host.querySelectorAll<HTMLButtonElement>('button')].find((b) => b.textContent.trim().startsWith(words));
  if (!found) throw new Error(`no button “${words}”`);
  return found;
};
function put(fixture: ComponentFixture<unknown>, field: HTMLInputElement | HTMLTextAreaElement | HTMLSelectElement, text: string, kind = 'input'): void {
  field.value = text;
  field.dispatchEvent(new Event(kind));
  fixture.detectChanges();
}
function labelled(host: HTMLElement, label: string): HTMLInputElement {
  const found = [...host.querySelectorAll('label')].find((l) => l.textContent.trim() === label);
  const field = found && host.querySelector<HTMLInputElement>(`#${CSS.escape(found.htmlFor)}`);
  if (!field) throw new Error(`no field “${label}”`);
  return field;
}
/** The sample with one charger that wants a recharge and a taper figure. */
function wanting(): Job {
  const job = sampleJob();
  const { rechargeVoltage: _gone, ...figures } = job.sheet.figures;
  return {
    ...job,
    sheet: { ...job.sheet, maker: 'Plain', figures },
    cards: [
      sampleCard({
        id: 'p',
        kind: 'dcdc',
        ratings: { outputA: 30, systemVolts: [24], chemistries: ['lfp'] },
        parameters: [voltParameter('absorbVoltage'), voltParameter('rechargeVoltage')],
      }),
    ],
    system: {
      ...job.system,
      chargers: [
        {
          id: 'c',
          name: 'Charger',
          card: 'p',
          sensor: { fitted: false, place: 'air', errorC: 1, offsetC: 0, lagSeconds: 60, warmLeadC: 1 },
          displayReadings: [],
          present: {},
          passcodeChanged: true,
        },
      ],
    },
  };
}

describe('pasting a table', () => {
  it('shows line by line what is understood, fills only that, and undo takes it back in one step', async () => {
    const { fixture, host, store } = await open(PastePanel);
    put(fixture, host.querySelector('textarea')!, 'Absorb\t3.52 V/cell\nWeight\t24 kg\nFloat\t27 kV');
    const rows = [...host.querySelectorAll('table tr')].slice(1).map((r) => r.textContent.replace(/\s+/g, ' '));
    expect(rows.length).toBe(3);
    expect(rows[0]).toContain('3.52 V per cell');
    expect(rows[1]).toContain('not a figure of a sheet');
    expect(rows[2]).toContain('“27 kV” cannot be read as float voltage. Enter it by hand.');
    expect(button(host, 'Fill').textContent.trim()).toBe('Fill 1 figure');
    button(host, 'Fill').click();
    expect(store.job()?.sheet.figures.absorbVoltage).toEqual(jasmine.objectContaining({ target: 3.52, basis: 'cell' }));
    expect(store.job()?.sheet.figures.absorbVoltage?.min).toBeUndefined();
    await until(() => store.undoLabel() === 'Fill 1 figures', 'it is one step');
  });

  it('lets a person choose the figure of a line, or leave it out', async () => {
    const { fixture, host, store } = await open(PastePanel);
    put(fixture, host.querySelector('textarea')!, 'Weight\t26.9 V\nAbsorb\t28.2 V');
    put(fixture, host.querySelector<HTMLSelectElement>('[aria-label="Figure of line 1"]')!, 'floatVoltage', 'change');
    put(fixture, host.querySelector<HTMLSelectElement>('[aria-label="Figure of line 2"]')!, '', 'change');
    button(host, 'Fill').click();
    expect(store.job()?.sheet.figures.floatVoltage?.target).toBe(26.9);
    expect(store.job()?.sheet.figures.absorbVoltage?.target).toBe(28.1);
  });

  it('has nothing to fill of a text that is no table', async () => {
    const { fixture, host } = await open(PastePanel);
    put(fixture, host.querySelector('textarea')!, 'Dear customer,\nthank you for your letter');
    expect(button(host, 'Nothing to fill').disabled).toBeTrue();
  });
});

describe('the letter', () => {
  it('lists what is missing with its unit, and says why there is none without a charger', async () => {
    const { host } = await open(LetterPanel, wanting());
    expect([...host.querySelectorAll('li b')].map((b) => b.textContent)).toEqual(['Recharge voltage', 'BMS trip, one cell', 'Release after trip']);
    expect(host.querySelector('a')?.getAttribute('href')).toMatch(/^mailto:\?subject=Charging%20figures/);
    const none = await open(LetterPanel);
    expect(none.host.textContent).toContain('depends on the chargers');
  });

  it('files an answer with its source and rank, only once both are there and readable', async () => {
    const { fixture, host, store } = await open(LetterPanel, wanting());
    button(host, 'File the answer').click();
    fixture.detectChanges();
    expect(button(host, 'Say which letter').disabled).toBeTrue();
    put(fixture, labelled(host, 'The answer: letter or mail, and its date'), 'Mail of 2026-03-02');
    expect(button(host, 'Enter a figure first').disabled).toBeTrue();
    put(fixture, labelled(host, 'Recharge voltage'), '26.4 kg');
    expect(host.querySelector('.wrong')?.textContent).toContain('not understood');
    put(fixture, labelled(host, 'Recharge voltage'), '3.30 V/cell');
    button(host, 'File it').click();
    expect(store.job()?.sheet.figures.rechargeVoltage).toEqual({
      state: 'stated',
      max: 3.3,
      unit: 'V',
      basis: 'cell',
      rank: 'makerReply',
      from: 'Mail of 2026-03-02',
    });
    fixture.detectChanges();
    expect(host.querySelectorAll('li').length).toBe(2);
  });
});

describe('documents', () => {
  const attach = async (fixture: ComponentFixture<DocumentsPanel>, host: HTMLElement, name: string, bytes: BlobPart): Promise<void> => {
    const picker = host.querySelector<HTMLInputElement>('input[type=file]')!;
    const data = new DataTransfer();
    data.items.add(new File([bytes], name));
    picker.files = data.files;
    picker.dispatchEvent(new Event('change'));
    await new Promise((resolve) => setTimeout(resolve, 60));
    fixture.detectChanges();
  };

  it('are kept by their bytes, named in the job, and taken out so that undo can bring them back', async () => {
    const { fixture, host, store } = await open(DocumentsPanel);
    await attach(fixture, host, 'Sheet D.pdf', '%PDF-1.7 page');
    await until(() => (store.job()?.attachments.length ?? 0) === 1, 'it is attached');
    const entry = store.job()!.attachments[0]!;
    expect([entry.name, entry.type, entry.sheet]).toEqual(['Sheet D.pdf', 'application/pdf', 'new-sheet']);
    expect((await TestBed.inject(DATABASE).files.toArray()).map((f) => f.bytes.length)).toEqual([13]);
    fixture.detectChanges();
    host.querySelector<HTMLButtonElement>('[aria-label="Take out Sheet D.pdf"]')?.click();
    expect(store.job()?.attachments).toEqual([]);
    // A second one of the same name does not take the first one's place.
    await attach(fixture, host, 'Sheet D.pdf', '%PDF-1.7 another page');
    await until(() => (store.job()?.attachments.length ?? 0) === 1, 'the second is attached');
    expect(store.job()?.attachments[0]?.id).not.toBe(entry.id);
    expect(await TestBed.inject(DATABASE).files.count()).toBe(2);
  });

  it('of a wrong kind or empty are refused, and nothing is kept', async () => {
    const { fixture, host, store } = await open(DocumentsPanel);
    await attach(fixture, host, 'page.svg', '<svg onload="alert(1)"/>');
    expect(host.querySelector('[role=alert]')?.textContent).toContain('no PDF, PNG, JPEG or WebP');
    await attach(fixture, host, 'empty.pdf', '');
    expect(host.querySelector('[role=alert]')?.textContent).toContain('is empty');
    expect(store.job()?.attachments).toEqual([]);
    expect(await TestBed.inject(DATABASE).files.count()).toBe(0);
  });
});

describe('revisions', () => {
  const twoSheets = (): Job => {
    const job = sampleJob();
    const older = {
      ...job.sheet,
      id: 'older',
      revision: '0',
      date: '2020-01',
      figures: { ...job.sheet.figures, floatVoltage: { ...job.sheet.figures.floatVoltage!, target: 27 } },
    };
    return { ...job, otherSheets: [older] };
  };

  it('stand side by side with their differences; pinning swaps them, taking out forgets one', async () => {
    const { fixture, host, store } = await open(Revisions, twoSheets(), { open: true });
    const row = [...host.querySelectorAll('table tr')].at(-1)?.textContent.replace(/\s+/g, ' ') ?? '';
    expect(row).toContain('Float voltage');
    expect(row).toContain('0.10 V more');
    button(host, 'Use rev 0, 2020-01').click();
    fixture.detectChanges();
    expect(store.job()?.sheet.id).toBe('older');
    expect(store.job()?.otherSheets.map((s) => s.id)).toEqual(['new-sheet']);
    button(host, 'Take rev 1').click();
    fixture.detectChanges();
    expect(store.job()?.otherSheets).toEqual([]);
    expect(host.textContent).toContain('This job has only one sheet');
  });

  it('in the library that are newer are offered, and brought in only when the person says so', async () => {
    const { fixture, host, store } = await open(Revisions, twoSheets(), { open: false });
    const newer = { ...store.job()!.sheet, id: 'newer', revision: '2', date: '2031-01' };
    await TestBed.inject(DATABASE).sheets.put(newer);
    await until(() => {
      fixture.detectChanges();
      return host.textContent.includes('The library has rev 2');
    }, 'it is offered');
    expect(store.job()?.otherSheets.length).toBe(1);
    button(host, 'Bring it into this job').click();
    expect(store.job()?.otherSheets.map((s) => s.id)).toEqual(['older', 'newer']);
    expect(store.findings().some((f) => f.code === 'newerRevision')).toBeTrue();
  });
});

describe('battery and document', () => {
  it('say what follows for the bank, and refuse a date that is none without losing it', async () => {
    const { fixture, host, store } = await open(SheetForm);
    put(fixture, labelled(host, 'Dated, as 2026-02'), 'last spring');
    expect(host.querySelector('.wrong')?.textContent).toContain('Write dates as');
    expect(store.job()?.sheet.date).toBe('2026-06');
    put(fixture, labelled(host, 'Cells in series in it'), '7');
    expect(host.textContent).toContain('7 cells');
    expect(store.findings().find((f) => f.code === 'cellCountMismatch')?.facts['fits']).toBe(8);
    put(fixture, labelled(host, 'Fetched on'), '2026-06-09');
    expect(store.job()?.sheet.fetched).toBe('2026-06-09');
    put(fixture, labelled(host, 'Fetched on'), '');
    expect(store.job()?.sheet.fetched).toBeUndefined();
  });
});
