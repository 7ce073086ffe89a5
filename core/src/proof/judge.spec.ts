import { seeded } from '../testing/fixtures';
import { judge, settle } from './index';

describe('the guard-band rule', () => {
  const band = { min: 28, max: 28.4 };

  it('passes only what lies inside with its whole interval, fails only what lies wholly outside', () => {
    expect(judge({ value: 28.2, uncertainty: 0.19 }, band)).toBe('pass');
    expect(judge({ value: 28.2, uncertainty: 0.21 }, band)).toBe('inconclusive');
    expect(judge({ value: 28.5, uncertainty: 0.09 }, band)).toBe('fail');
    expect(judge({ value: 28.5, uncertainty: 0.11 }, band)).toBe('inconclusive');
    expect(judge({ value: 27.8, uncertainty: 0.1 }, band)).toBe('fail');
    expect(judge({ value: 28.2, uncertainty: 5 }, band)).toBe('inconclusive');
  });

  it('never turns a worse meter into a firmer verdict', () => {
    const random = seeded(21);
    for (let i = 0; i < 2000; i++) {
      const value = 27.5 + random() * 1.5;
      const u = random() * 0.4;
      const worse = judge({ value, uncertainty: u * 2 }, band);
      if (worse !== 'inconclusive') expect(judge({ value, uncertainty: u }, band)).toBe(worse);
    }
  });

  it('says what would settle it, and that it would', () => {
    const words = settle({ value: 28.05 }, band, 'V', 2);
    expect(words).toContain('± 0.05');
    expect(judge({ value: 28.05, uncertainty: 0.049 }, band)).toBe('pass');
    expect(settle({ value: 28 }, band, 'V', 2)).toContain('on the limit itself');
  });
});
