import { TestBed } from '@angular/core/testing';
import { guessMapping, mappingProblems, type Explanation } from '@calm-keel/core/proof';
import { allowedWords } from '@calm-keel/core/requirements';
import { setUp } from '../testing';
import { ExplainPanel } from './explain-panel';
import type { Waiting } from '../data/log-import';
import { ImportPanel, type SettledFiles } from './import-panel';
import { SmallPlot } from './small-plot';
import { measuredWords } from '../ui/verdicts';

const split = (text: string, separator: string): string[][] => text.split('\n').map((l) => l.split(separator));
const host = (fixture: { nativeElement: unknown }): HTMLElement => fixture.nativeElement as HTMLElement;

function waiting(text: string): Waiting {
  const guess = guessMapping(text, split, { chargers: [], nominalVolts: 25.6 });
  if (!guess.ok) throw new Error(guess.problems[0]?.text);
  return { tables: [{ name: 'day.csv', content: new Blob([text]), guess: guess.value }], guess: guess.value, remembered: false };
}

describe('the mapping view', () => {
  const text = 'when;Bus (mV);flow\n03.05.2026 08:00:00;26510;3,5\n04.05.2026 08:01:00;26520;3,6\n05.05.2026 08:02:00;26530;3,6\n';
  function shown(): { element: HTMLElement; read: () => SettledFiles['settled']; change: (label: string, value: string) => void; settle: () => void } {
    setUp();
    const fixture = TestBed.createComponent(ImportPanel);
    fixture.componentRef.setInput('files', [waiting(text)]);
    let out: SettledFiles['settled'] = [];
    fixture.componentInstance.read.subscribe(({ settled }) => (out = settled));
    fixture.detectChanges();
    const element = host(fixture);
    return {
      element,
      read: () => out,
      settle: () => {
        fixture.detectChanges();
      },
      change: (label, value) => {
        const select = element.querySelector<HTMLSelectElement>(`select[aria-label="${label}"]`)!;
        select.value = value;
        select.dispatchEvent(new Event('change'));
        fixture.detectChanges();
      },
    };
  }

  it('shows each column with its first values and what it is taken for, and how the first time is read', () => {
    const { element } = shown();
    expect([...element.querySelectorAll('tbody .h')].map((e) => e.textContent)).toEqual(['when', 'Bus (mV)', 'flow']);
    expect(element.querySelector<HTMLSelectElement>('select[aria-label="Meaning of Bus (mV)"]')?.value).toBe('bankVolts');
    expect(element.textContent).toContain('“03.05.2026 08:00:00” is read as 3 May 2026, 08:00, zone unknown.');
  });

  it('asks what the chargers of a file are where the job has none, and leaves out the columns of one that is not wanted', () => {
    setUp();
    const fixture = TestBed.createComponent(ImportPanel);
    fixture.componentRef.setInput('files', [waiting('time,bank_V,fore_A,aft_A\n2026-06-01T10:00:00Z,26.4,3,4\n2026-06-01T10:00:10Z,26.4,3,4\n')]);
    let out: SettledFiles | null = null;
    fixture.componentInstance.read.subscribe((files) => (out = files));
    fixture.detectChanges();
    const element = host(fixture);
    const group = (name: string): HTMLElement => element.querySelector<HTMLElement>(`[role="group"][aria-label="${name}"]`)!;
    const go = (): HTMLButtonElement => element.querySelector<HTMLButtonElement>('.press')!;
    const say = (name: string, kind: string, amps?: string): void => {
      const select = group(name).querySelector('select')!;
      select.value = kind;
      select.dispatchEvent(new Event('change'));
      fixture.detectChanges();
      const field = group(name).querySelector<HTMLInputElement>('input[inputmode="decimal"]');
      if (!field || amps === undefined) return;
      field.value = amps;
      field.dispatchEvent(new Event('input'));
      fixture.detectChanges();
    };
    expect([go().disabled, element.textContent?.includes('Still needed: what Fore, Aft are, and their rated output.')]).toEqual([true, true]);
    say('Fore', 'solarMppt');
    say('Aft', 'out');
    expect([go().disabled, element.textContent?.includes('Still needed: what Fore is, and its rated output.')]).toEqual([true, true]);
    expect(group('Aft').querySelector('input[inputmode="decimal"]')).toBeNull();
    say('Fore', 'solarMppt', '45');
    expect(go().disabled).toBeFalse();
    go().click();
    const read = out as SettledFiles | null;
    expect(read?.newcomers).toEqual([{ id: 'fore', name: 'Fore', kind: 'solarMppt', outputA: 45 }]);
    expect(read?.settled[0]?.mapping.columns.map((c) => [c.meaning, c.charger])).toEqual([
      ['time', undefined],
      ['bankVolts', undefined],
      ['amps', 'fore'],
      ['ignore', undefined],
    ]);
  });

  it('lets a column mean something else, says what is then missing, and reads only what can be read', () => {
    const { element, change, read } = shown();
    change('Meaning of Bus (mV)', 'ignore');
    expect(element.querySelector('[role="alert"]')?.textContent).toContain('No column is a battery voltage');
    expect(element.querySelector<HTMLButtonElement>('.press')?.disabled).toBeTrue();
    change('Meaning of Bus (mV)', 'bankVolts');
    change('Unit of Bus (mV)', 'mV');
    change('Meaning of flow', 'bankAmps');
    element.querySelector<HTMLInputElement>('.sign input')?.click();
    element.querySelector<HTMLButtonElement>('.press')?.click();
    const mapping = read()[0]?.mapping;
    expect(mapping && mappingProblems(mapping)).toEqual([]);
    expect(mapping?.columns[1]).toEqual({ header: 'Bus (mV)', meaning: 'bankVolts', unit: 'mV' });
    expect(mapping?.columns[2]).toEqual(jasmine.objectContaining({ meaning: 'bankAmps', negated: true }));
  });
});

describe('what is told of a moment', () => {
  const told: Explanation = {
    kind: 'change',
    code: 'bulk-absorb',
    charger: 'aft',
    at: 7200,
    from: 6600,
    to: 9000,
    title: 'Absorb began',
    before: 'bulk',
    after: 'absorb',
    cause: 'The voltage rose to 28.10 V.',
    counted: [
      { from: 7200, to: 7500 },
      { from: 8000, to: 8600 },
    ],
  };
  it('shows the time large, the change, the cause, and a strip of what counted', () => {
    setUp();
    const fixture = TestBed.createComponent(ExplainPanel);
    for (const [key, value] of Object.entries({ told, name: 'Solar aft', offset: 0, first: true, last: false })) fixture.componentRef.setInput(key, value);
    fixture.detectChanges();
    const element = host(fixture);
    expect(element.querySelector('.time')?.textContent).toBe('02:00');
    expect(element.querySelector('.change')?.textContent.replace(/\s+/g, ' ')).toContain('→');
    expect(element.querySelectorAll('.strip rect').length).toBe(3);
    const [, before, next] = element.querySelectorAll<HTMLButtonElement>('.acts .ghost');
    expect([before?.disabled, next?.disabled]).toEqual([true, false]);
  });
});

describe('a small plot', () => {
  it('draws nothing of one reading, and both lanes of several', () => {
    setUp();
    const fixture = TestBed.createComponent(SmallPlot);
    const point = (at: number, volts: number, celsius: number) => ({ at, volts, celsius });
    fixture.componentRef.setInput('points', [point(0, 28, 20)]);
    fixture.detectChanges();
    expect(host(fixture).querySelector('svg')).toBeNull();
    fixture.componentRef.setInput('points', [point(0, 28, 20), point(60, 28.1, 15), point(120, 28.2, NaN)]);
    fixture.detectChanges();
    expect(host(fixture).querySelectorAll('circle').length).toBe(5);
    expect(host(fixture).querySelector('svg')?.getAttribute('aria-label')).toContain('28.00 to 28.20');
  });
});

describe('verdicts in words', () => {
  const requirement = {
    code: 'absorbCompleted',
    question: 'specified',
    name: '',
    why: '',
    seenBy: ['log'],
    band: { min: 2400 },
    unit: 's',
    digits: 0,
    dwellSeconds: 0,
    zeroA: 0,
  } as const;
  it('show seconds as minutes, and temperatures in the person’s scale', () => {
    const row = {
      requirement,
      verdict: 'pass',
      witness: 'The bank stood there.',
      measured: 2460,
      uncertainty: 30,
      unit: 's',
      digits: 0,
      budget: [],
      band: { min: 2400 },
      evidence: null,
      why: '',
    } as const;
    expect(measuredWords(row, 'C')).toEqual({ value: '41', plus: '± 1', unit: 'min' });
    const warm = {
      ...row,
      requirement: { ...requirement, code: 'cutoffAsProgrammed', unit: '°C' },
      unit: '°C',
      digits: 1,
      measured: 0,
      uncertainty: 1,
      band: { min: -1, max: 3 },
    } as const;
    expect(measuredWords(warm, 'F')).toEqual({ value: '32.0', plus: '± 1.8', unit: '°F' });
    expect(allowedWords(warm, (c) => `${c} °C`)).toBe('-1 °C to 3 °C');
    expect(allowedWords({ ...warm, requirement: { ...requirement, code: 'noChargeBelowMinimum' }, band: { min: 0 } }, (c) => `${c} °C`)).toBe(
      'none below 0 °C',
    );
  });
});
