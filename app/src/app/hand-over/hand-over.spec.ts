import { ChangeDetectionStrategy, Component } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { DrawnLog } from '@calm-keel/core/proof';
import type { Paper } from '@calm-keel/core/report';
import { deriveSettings } from '@calm-keel/core/settings';
import { sampleJob, setUp, tearDown } from '../testing';
import { svgText } from '../ui/svg-text';
import { qrPath } from '../ui/qr-code';
import { sketchLog } from './log-sketch';
import { documentOf } from './paper-pdf';
import { PaperView } from './paper-view';

const paper: Paper = {
  title: 'Hand-over: Sample',
  lines: ['Somewhere'],
  foot: 'last word',
  sections: [
    {
      id: 'one',
      title: 'One',
      blocks: [
        { kind: 'text', text: '<b>not bold</b>', tone: 'caution' },
        { kind: 'facts', rows: [{ name: 'Stops', text: '2', tone: 'stop' }] },
        { kind: 'list', items: [], empty: 'Nothing is open.' },
        {
          kind: 'table',
          columns: [
            { head: 'A', share: 1 },
            { head: 'B', share: 3, figures: true },
          ],
          rows: [[{ text: 'x' }, { text: '28.1 V', below: 'absorb' }]],
          empty: '',
        },
        { kind: 'sum', title: 'absorb: 28.1 V', lines: [{ words: 'Set', figure: '28.1 V', kind: 'set' }], sources: ['The sheet'] },
        { kind: 'drawing', drawing: 'ladder', caption: 'A ladder' },
      ],
    },
  ],
};

describe('a paper', () => {
  afterEach(() => {
    TestBed.resetTestingModule();
  });

  it('is shown piece by piece, and markup in it stays the text it is', async () => {
    const db = setUp();
    const job = sampleJob();
    const fixture = TestBed.createComponent(PaperView);
    fixture.componentRef.setInput('paper', paper);
    fixture.componentRef.setInput('job', job);
    fixture.componentRef.setInput('plan', deriveSettings(job));
    await fixture.whenStable();
    const text = (fixture.nativeElement as HTMLElement).textContent;
    for (const part of ['Hand-over: Sample', '<b>not bold</b>', 'Nothing is open.', '28.1 V', 'absorb', 'The sheet', 'A ladder', 'last word'])
      expect(text).toContain(part);
    expect((fixture.nativeElement as HTMLElement).querySelector('article b')).toBeNull();
    // A drawing that cannot be pressed here is out of the way of the keyboard.
    expect((fixture.nativeElement as HTMLElement).querySelector('[data-drawing]')?.hasAttribute('inert')).toBeTrue();
    await tearDown(db);
  });

  it('says the same in the PDF, stops with a mark that does without colour, and a drawing that is missing in words', () => {
    const text = JSON.stringify(documentOf(paper, {}).content);
    for (const part of ['Hand-over: Sample', '<b>not bold</b>', '! 2', 'Nothing is open.', '28.1 V', 'The sheet', 'could not be made here'])
      expect(text).toContain(part);
    const drawn = JSON.stringify(documentOf(paper, { ladder: '<svg/>' }).content);
    expect(drawn).toContain('"svg":"<svg/>"');
  });
});

describe('a drawing as a document', () => {
  @Component({
    changeDetection: ChangeDetectionStrategy.OnPush,
    template: `<svg width="10" height="10" role="group" class="x" data-log="a">
      <path d="M0 0" [attr.stroke]="'var(--ck-ink)'" fill="url(#tx-float)" />
      <text><tspan class="n" dx="4">V</tspan></text>
      <rect class="hit" tabindex="0" width="4" height="4" />
    </svg>`,
  })
  class Drawing {}

  it('names no colour of the page, carries its textures, and has nothing to press', () => {
    const defs = document.createElement('div');
    defs.innerHTML = '<svg><defs><pattern id="tx-float" width="7" height="7"></pattern></defs></svg>';
    document.body.append(defs);
    document.documentElement.style.setProperty('--ck-ink', '#1d2a35');
    const fixture = TestBed.createComponent(Drawing);
    fixture.detectChanges();
    const svg = (fixture.nativeElement as HTMLElement).querySelector('svg');
    const text = svg ? svgText(svg) : '';
    defs.remove();
    expect(text).toContain('#1d2a35');
    expect(text).toContain('<pattern');
    for (const gone of ['var(', 'tabindex', 'class=', '_ng', 'data-', 'dx=', '<rect', '<!--']) expect(text).withContext(gone).not.toContain(gone);
    expect(new DOMParser().parseFromString(text, 'image/svg+xml').querySelector('parsererror')).toBeNull();
  });
});

describe('a log on paper', () => {
  const trace = (value: number[]) => ({ time: value.map((_, i) => i * 600), value });
  const view = (volts: number[], amps: number[]): DrawnLog => ({ volts: trace(volts), chargers: [{ id: 'fore', amps: trace(amps) }] });

  it('has its bands, its ticks and gaps that stay gaps', () => {
    const plan = deriveSettings(sampleJob());
    const sketch = sketchLog(plan, view([26, 27, NaN, 28, 28.1], [0, 10, NaN, 20, 5]), 0);
    expect(sketch.bands.map((b) => b.name)).toEqual(['absorb band', 'float band']);
    expect(sketch.trace.match(/M/g)?.length).toBe(2);
    expect(sketch.times.map((t) => t.words)).toEqual(['00:00', '00:10', '00:20', '00:30', '00:40']);
    expect(sketch.amps.map((t) => t.words)).toEqual(['0', '20']);
    // Higher volts stand higher.
    const ys = [...sketch.trace.matchAll(/[ML][\d.]+,([\d.]+)/g)].map((m) => Number(m[1]));
    expect(ys[0]).toBeGreaterThan(ys[1] ?? 0);
  });

  it('of one sample, or of none that is a number, does not fall over', () => {
    const plan = deriveSettings(sampleJob());
    for (const volts of [[26], [NaN, NaN]] as number[][])
      expect(sketchLog(plan, view(volts, volts), null).times.every((t) => Number.isFinite(t.at))).toBeTrue();
  });
});

describe('a code', () => {
  it('has its three finders, its border, and one square for each dark one', () => {
    const { size, path } = qrPath('CALM KEEL LABEL 1');
    expect(size).toBeGreaterThan(26);
    const dark = new Set([...path.matchAll(/M(\d+) (\d+)h/g)].map((m) => `${m[1]} ${m[2]}`));
    const finder = (x: number, y: number): boolean =>
      [0, 6].every((i) => dark.has(`${x + i} ${y}`) && dark.has(`${x} ${y + i}`)) && !dark.has(`${x + 1} ${y + 1}`) && dark.has(`${x + 3} ${y + 3}`);
    expect([finder(3, 3), finder(size - 10, 3), finder(3, size - 10)]).toEqual([true, true, true]);
    expect([...dark].every((at) => at.split(' ').every((n) => Number(n) >= 3 && Number(n) < size - 3))).toBeTrue();
  });
});
