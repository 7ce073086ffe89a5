import { freeId } from './free-id';

describe('a name for use inside files', () => {
  it('is made of what a person calls a thing, without ending, accents and signs', () => {
    expect(['Solar Fore', 'clean-day.csv', ' 1. Halle (Süd) ', 'a'.repeat(60)].map((name) => freeId(name, [], 'x'))).toEqual([
      'solar-fore',
      'clean-day',
      '1',
      'a'.repeat(40),
    ]);
  });
  it('is another word where nothing is left of it', () => {
    expect([freeId('', [], 'log'), freeId('日本', [], 'log'), freeId('…', [], 'log')]).toEqual(['log', 'log', 'log']);
  });
  it('gets the first number that is free', () => {
    expect([freeId('log', ['log'], 'x'), freeId('log', ['log', 'log-2'], 'x'), freeId('log', ['log', 'log-3'], 'x'), freeId('log', ['log-2'], 'x')]).toEqual([
      'log-2',
      'log-3',
      'log-2',
      'log',
    ]);
  });
});
