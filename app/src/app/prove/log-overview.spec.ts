import { draw } from '../testing';
import { LogOverview } from './log-overview';

const day = 86_400;
const whole = { from: 0, to: 10 * day };
const inputs = {
  trace: { time: [0, 5 * day, 10 * day], value: [24, NaN, 28] },
  whole,
  days: Array.from({ length: 10 }, (_, i) => ({ from: i * day, to: (i + 1) * day })),
  width: 1000,
  left: 0,
  right: 0,
};

describe('a long log whole', () => {
  const open = (window = whole) => draw(LogOverview, { ...inputs, window });
  const chosen = (host: HTMLElement): (string | null)[] => ['x', 'width'].map((name) => host.querySelector('.selection')?.getAttribute(name) ?? null);
  /** Pulls from one place to another, px. */
  function pull(host: HTMLElement, what: string, from: number, to: number): void {
    const target = host.querySelector(what);
    const box = host.querySelector('svg')?.getBoundingClientRect() ?? new DOMRect();
    const at = (x: number) => ({ clientX: box.left + x, clientY: box.top + 20, bubbles: true, view: window, button: 0 });
    target?.dispatchEvent(new MouseEvent('mousedown', at(from)));
    window.dispatchEvent(new MouseEvent('mousemove', at(to)));
    window.dispatchEvent(new MouseEvent('mouseup', at(to)));
  }
  const listening = (of = whole) => {
    const opened = open(of);
    const asked: unknown[] = [];
    opened.fixture.componentInstance.changed.subscribe((s) => asked.push(s));
    return { host: opened.host, asked };
  };

  it('marks the stretch in view, each midnight, and nothing where all is in view', () => {
    const { host } = open({ from: 2 * day, to: 4 * day });
    expect(chosen(host)).toEqual(['200', '200']);
    expect(host.querySelectorAll('.night').length).toBe(9);
    expect(open().host.querySelector<SVGElement>('.selection')?.style.display).toBe('none');
  });

  it('asks for nothing by being drawn', () => {
    expect(listening({ from: 2 * day, to: 4 * day }).asked).toEqual([]);
  });

  it('asks for the stretch that is drawn out, and for the one that is pulled along', () => {
    const anew = listening();
    pull(anew.host, '.overlay', 300, 450);
    expect(anew.asked).toEqual([{ from: 3 * day, to: 4.5 * day }]);
    const along = listening({ from: 2 * day, to: 4 * day });
    pull(along.host, '.selection', 250, 350);
    expect(along.asked).toEqual([{ from: 3 * day, to: 5 * day }]);
    const longer = listening({ from: 2 * day, to: 4 * day });
    pull(longer.host, '.handle--e', 400, 600);
    expect(longer.asked).toEqual([{ from: 2 * day, to: 6 * day }]);
  });

  it('asks for the whole where nothing is drawn out, and for no less than five minutes', () => {
    const pressed = listening({ from: 2 * day, to: 4 * day });
    pull(pressed.host, '.overlay', 700, 700);
    expect(pressed.asked).toEqual([null]);
    const short = listening({ from: 0, to: 3600 });
    pull(short.host, '.overlay', 999, 1000);
    expect(short.asked).toEqual([{ from: 10 * day - 864, to: 10 * day }]);
  });
});
