import { moved, shortest, spread, type Stretch } from './log-window';

const whole: Stretch = { from: 1000, to: 1000 + 8 * 3600 };
const hours = (from: number, to: number): Stretch => ({ from: 1000 + from * 3600, to: 1000 + to * 3600 });

describe('the stretch of a log in view', () => {
  it('halves and doubles about its middle, and moves by half of itself', () => {
    expect(moved(whole, whole, 'closer')).toEqual(hours(2, 6));
    expect(moved(whole, hours(2, 4), 'wider')).toEqual(hours(1, 5));
    expect(moved(whole, hours(2, 4), 'earlier')).toEqual(hours(1, 3));
    expect(moved(whole, hours(2, 4), 'later')).toEqual(hours(3, 5));
  });

  it('stays inside the log, and is the whole where it would be longer', () => {
    expect(moved(whole, hours(0, 2), 'earlier')).toEqual(hours(0, 2));
    expect(moved(whole, hours(7, 8), 'later')).toEqual(hours(7, 8));
    expect(moved(whole, hours(0, 2), 'wider')).toEqual(hours(0, 4));
    expect(moved(whole, hours(2, 6), 'wider')).toBeNull();
    expect(moved(whole, whole, 'later')).toBeNull();
  });

  it('is never shorter than five minutes, and one that is stays as it is', () => {
    const brief = { from: 2000, to: 2000 + 400 };
    const close = moved(whole, brief, 'closer');
    expect(close && close.to - close.from).toBe(shortest);
    expect(moved(whole, { from: 2000, to: 2100 }, 'closer')).toEqual({ from: 2000, to: 2100 });
  });
});

describe('samples for a table', () => {
  const time = Float64Array.from({ length: 100 }, (_, i) => i * 10);

  it('are all of a short stretch, its ends with them', () => {
    expect(spread(time, { from: 15, to: 50 }, 12)).toEqual([2, 3, 4, 5]);
  });
  it('are spread over a long one, first and last with them, none twice', () => {
    const places = spread(time, { from: 0, to: 990 }, 12);
    expect([places.length, places[0], places.at(-1), new Set(places).size]).toEqual([12, 0, 99, 12]);
  });
  it('are none outside the log', () => {
    expect([spread(time, { from: 2000, to: 3000 }, 12), spread(time, { from: 11, to: 19 }, 12)]).toEqual([[], []]);
  });
});
