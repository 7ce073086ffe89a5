import { readCapacityInUse } from './index';

const read = (text: string, ratedAh: number | null = 464): number | string => {
  const result = readCapacityInUse(text, ratedAh);
  return result.ok ? Number(result.value.toFixed(4)) : (result.problems[0]?.code ?? '');
};

describe('capacity in use as somebody writes it', () => {
  it('is ampere-hours of the rated, percent, or the ratio', () => {
    expect([read('400 Ah'), read('400ah'), read('400'), read('86,2 %'), read('0.862'), read('1')]).toEqual([0.8621, 0.8621, 0.8621, 0.862, 0.862, 1]);
    expect([read('120 %'), read('10 %'), read('46.4 Ah')]).toEqual([1.2, 0.1, 0.1]);
  });

  it('is asked again where percent and ampere-hours are both possible, and differ', () => {
    expect([read('85', 200), read('85', 100), read('85 %', 200), read('85 Ah', 200)]).toEqual(['capacity-ambiguous', 0.85, 0.85, 0.425]);
  });

  it('is refused outside what a bank can count with, and where it cannot be read', () => {
    expect([read('600 Ah'), read('9 %'), read('121 %'), read('5'), read('lots'), read('-3'), read('')]).toEqual([
      'capacity-range',
      'capacity-range',
      'capacity-range',
      'capacity-range',
      'capacity-unread',
      'capacity-unread',
      'capacity-unread',
    ]);
  });

  it('in ampere-hours needs the rated capacity', () => {
    expect([read('400 Ah', null), read('87 %', null), read('0.87', null), read('400', null)]).toEqual(['capacity-unknown', 0.87, 0.87, 'capacity-range']);
  });
});
