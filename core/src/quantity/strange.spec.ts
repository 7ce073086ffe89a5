import { strangeIn, strangeWords, withAside } from './index';

describe('names in a file that are not known', () => {
  const read = { a: 1, list: [{ x: 1 }, { x: 2 }], inner: { deep: {} } };

  it('are found wherever they stand, with what they say', () => {
    const given = { a: 1, b: 'two', list: [{ x: 1 }, { x: 2, y: [3] }], inner: { deep: { mots: 27 }, gone: null } };
    expect(strangeIn(given, read)).toEqual([
      { place: 'b', json: '"two"' },
      { place: 'list › 2 › y', json: '[3]' },
      { place: 'inner › deep › mots', json: '27' },
      { place: 'inner › gone', json: 'null' },
    ]);
    expect(strangeIn(read, read)).toEqual([]);
    // What a schema fills in is not strange.
    expect(strangeIn({ a: 1 }, read)).toEqual([]);
    expect(strangeWords({ place: 'b', json: '"two"' })).toBe(
      '“b” is not a name this program knows, so it was not read. Look for a slip in writing. It is held aside as it is: "two".',
    );
    expect(strangeWords({ place: 'b', json: 'x'.repeat(81) })).toContain(`${'x'.repeat(77)}….`);
  });

  it('are held beside what was held before, each place once; more than can be held is refused', () => {
    const many = (n: number) => Object.fromEntries(Array.from({ length: n }, (_, i) => [`k${i}`, i]));
    const sound: { a: number; aside?: { place: string; json: string }[] } = { a: 1 };
    expect(withAside({ a: 1 }, sound)).toEqual(sound);
    expect(
      withAside({ a: 1, b: 3 }, {
        a: 1,
        aside: [
          { place: 'b', json: '2' },
          { place: 'c', json: '1' },
        ],
      } as { aside?: { place: string; json: string }[] }),
    ).toEqual({
      a: 1,
      aside: [
        { place: 'c', json: '1' },
        { place: 'b', json: '3' },
      ],
    } as never);
    expect(withAside(many(200), {})).not.toBeNull();
    expect(withAside(many(201), {})).toBeNull();
    expect(withAside({ a: 'x'.repeat(19_998) }, {})).not.toBeNull();
    expect(withAside({ a: 'x'.repeat(19_999) }, {})).toBeNull();
  });
});
