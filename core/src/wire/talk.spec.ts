import { seeded } from '../testing/fixtures';
import { rounds } from '../testing/rounds';
import { makeTalkReader } from './index';

const said = (...texts: readonly string[]): readonly Readonly<Record<string, string>>[] => {
  const reader = makeTalkReader();
  return [...texts.flatMap((t) => [...reader.push(t)]), ...reader.rest()].map((s) => s.fields);
};

describe('devices that only talk', () => {
  it('lines of names and values make a sample until a name comes again, a line is empty, or it rests; the first is let go', () => {
    const frame = (v: string): string => `V=${v}\r\nI=-3,2 A\r\nbattery temp: 18.4 C\r\nstate\tBulk\r\n`;
    const one = (v: string) => ({ V: v, I: '-3,2 A', 'battery temp': '18.4 C', state: 'Bulk' });
    expect(said(frame('26.1') + frame('26.2') + frame('26.3'))).toEqual([one('26.2'), one('26.3')]);
    expect(said(`${frame('26.1')}\n${frame('26.2')}\n`)).toEqual([one('26.2')]);
    // What was begun before anybody listened is no sample, however whole it looks.
    expect(said(frame('26.1'))).toEqual([]);
    expect(said('6.1\r\nI=3\r\n\r\n', frame('26.2'))).toEqual([one('26.2')]);
  });

  it('signs between name and value: equals, colon, tab, or space before a number', () => {
    expect(said('\n\nA=1\nB: 2\nC\t3\nbus volts 26.4\nnet −3.5\nunit;4\n\n')).toEqual([
      { A: '1', B: '2', C: '3', 'bus volts': '26.4', net: '−3.5', unit: '4' },
    ]);
  });

  it('a JSON object a line is a sample by itself, nested too, whatever was begun', () => {
    expect(said('{"a":1}\n{"bank":{"volts":26.4,"on":true},"list":[1]}\n')).toEqual([{ a: '1' }, { 'bank.volts': '26.4', 'bank.on': 'true' }]);
    expect(said('\nV=1\n{"a":2}\n')).toEqual([{ V: '1' }, { a: '2' }]);
  });

  it('comes to the same however the text is cut into pieces', () => {
    const text = 'x=0\r\nV=26.1\r\nI=1\r\n\r\nV=26.2\r\nI=2\r\n{"a":3}\r\nV=26.3\r\n\r\n';
    const whole = said(text);
    expect(whole.length).toBe(3);
    const random = seeded(11);
    for (let k = 0; k < 200; k++) {
      const pieces: string[] = [];
      for (let at = 0; at < text.length;) {
        const n = 1 + Math.floor(random() * 7);
        pieces.push(text.slice(at, at + n));
        at += n;
      }
      expect(said(...pieces)).toEqual(whole);
    }
  });

  it('letters come in one byte or in two', () => {
    const oneByOne = (bytes: Uint8Array): string => String.fromCharCode(...bytes);
    expect(said(`\n${oneByOne(new TextEncoder().encode('Fühler=18 °C'))}\n\n`)).toEqual([{ Fühler: '18 °C' }]);
    expect(said(`\n${oneByOne(Uint8Array.of(0x54, 0x3d, 0x31, 0x38, 0x20, 0xb0, 0x43))}\n\n`)).toEqual([{ T: '18 °C' }]);
    expect(said('\nT=18 °C\nstate=“x”\n\n')).toEqual([{ T: '18 °C', state: '“x”' }]);
  });

  it('a value that comes out was said so, however the text is damaged', () => {
    const random = seeded(21);
    const pick = (text: string): string => text[Math.floor(random() * text.length)] ?? '';
    let samples = 0;
    for (let k = 0; k < rounds(2000); k++) {
      let text = Array.from({ length: 6 }, (_, i) => `V=26.${i}\r\nI=-3.${i}\r\nT=1${i} C\r\n${i % 2 ? '' : '\r\n'}`).join('');
      for (let n = 0; n < 4; n++) {
        const at = Math.floor(random() * text.length);
        text = text.slice(0, at) + (random() < 0.5 ? '' : pick('\u0000\u0007=: V9\n{}"')) + text.slice(at + Math.floor(random() * 4));
      }
      const lines = text.split(/\r\n|\n|\r/);
      for (const fields of said(text)) {
        samples++;
        for (const [name, value] of Object.entries(fields))
          if (!lines.some((l) => l.includes(name) && l.trimEnd().endsWith(value))) fail(`${JSON.stringify(text)}: ${name} ${value}`);
      }
    }
    expect(samples).toBeGreaterThan(rounds(2000));
  });

  it('damaged lines are counted and left out, never guessed at; half a line waits for its other half', () => {
    const reader = makeTalkReader();
    expect(reader.push('\nV=26.4\nI\u0000=3\n=5\n???\n{"broken\n\n').map((s) => s.fields)).toEqual([{ V: '26.4' }]);
    expect(reader.noise).toBe(4);
    reader.push('V=26.5\nI=3');
    expect(reader.rest()).toEqual([]);
    expect(reader.push('1\n\n').map((s) => s.fields)).toEqual([{ V: '26.5', I: '31' }]);
    reader.push('x'.repeat(2001));
    expect(reader.noise).toBe(5);
    // The very first line may be the end of one: it is no noise.
    const late = makeTalkReader();
    late.push('4\u0001\n');
    expect(late.noise).toBe(0);
  });
});
