import { optionsIn } from './options.js';

const kinds = { seed: 'string', mapping: 'string', live: 'boolean' } as const;

describe('what stands behind a command', () => {
  it('is paths and options, in any order, a value apart or joined', () => {
    expect(optionsIn(['a.json', '--seed', '-3', '--live', 'b.csv', '--mapping=m.json'], kinds)).toEqual({
      paths: ['a.json', 'b.csv'],
      values: { seed: '-3', live: true, mapping: 'm.json' },
    });
    expect(optionsIn([], kinds)).toEqual({ paths: [], values: {} });
    expect(optionsIn(['--', '--live'], kinds)).toEqual({ paths: ['--live'], values: {} });
  });

  it('gets a sentence where an option is not known or lacks its value', () => {
    expect(optionsIn(['--fast'], kinds)).toBe('There is no option “--fast”. keel --help tells them all.');
    expect(optionsIn(['-x'], kinds)).toContain('There is no option “-x”.');
    expect(optionsIn(['--toString'], kinds)).toContain('There is no option “--toString”.');
    for (const args of [['--seed'], ['--seed', '--live'], ['--seed=']]) expect(optionsIn(args, kinds)).toBe('“--seed” needs a value behind it.');
  });
});
