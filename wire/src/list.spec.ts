import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { listFromFile } from './index';

function file(content: unknown): string {
  const path = join(mkdtempSync(join(tmpdir(), 'keel-')), 'devices.json');
  writeFileSync(path, typeof content === 'string' ? content : JSON.stringify(content));
  return path;
}
const said = (content: unknown): string => {
  try {
    listFromFile(file(content));
    return 'taken';
  } catch (error) {
    return (error as Error).message;
  }
};

describe('the list of devices', () => {
  it('of before other wires means the network, and what is not said is what is usual', async () => {
    const [fore, aft] = await listFromFile(
      file([
        { name: 'fore', host: '127.0.0.1', port: 1502, unit: 3 },
        { name: 'aft', over: 'serial', path: '/dev/ttyUSB0', unit: 7 },
      ]),
    ).entries();
    expect(fore).toEqual({ name: 'fore', over: 'tcp', host: '127.0.0.1', port: 1502, unit: 3 });
    expect(aft).toEqual({ name: 'aft', over: 'serial', path: '/dev/ttyUSB0', baud: 9600, dataBits: 8, parity: 'none', stopBits: 1, unit: 7 });
  });

  it('says what is wrong with which device, and takes the nearest right one', () => {
    const serial = { name: 'aft', over: 'serial', path: '/dev/ttyUSB0', unit: 1 };
    for (const [entry, why] of [
      [{ ...serial, unit: 248 }, /device 1: unit/],
      [{ ...serial, unit: 0 }, /device 1: unit/],
      [{ ...serial, parity: 'mark' }, /device 1: parity/],
      [{ ...serial, baud: 299 }, /device 1: baud/],
      [{ name: 'x', over: 'radio' }, /“over” is one of tcp, serial, talker, broker/],
      [{ name: 'x', host: 'h', port: 70_000 }, /device 1: port/],
      [{ name: 'x', host: 'h', hots: 'h' }, /hots/],
      [{ name: 'x', over: 'broker', url: 'http://h', topic: 't' }, /device 1: url begins with mqtt/],
      [{ name: 'x', over: 'broker', url: 'mqtt://h' }, /device 1: topic/],
      [{ name: '', host: 'h' }, /device 1: name/],
      ['fore', /device 1 is not/],
    ] as const)
      expect(said([entry]))
        .withContext(JSON.stringify(entry))
        .toMatch(why);
    expect(said({ name: 'x' })).toMatch(/not a list/);
    expect(said(Array.from({ length: 65 }, (_, i) => ({ name: `d${i}`, host: 'h' })))).toMatch(/65 devices; 64 are the most/);
    for (const entry of [
      { ...serial, unit: 247 },
      { ...serial, baud: 300, parity: 'even', stopBits: 2, dataBits: 7 },
      { name: 'x', host: 'h' },
      { name: 'x', over: 'broker', url: 'mqtts://h:8883', topic: 'a/#', user: 'u', password: 'p' },
    ])
      expect(said([entry])).toBe('taken');
  });

  it('has each name once, and each line set one way', () => {
    const a = { name: 'a', over: 'serial', path: '/dev/ttyUSB0', unit: 1 };
    expect(said([a, { ...a, name: 'b', unit: 2 }])).toBe('taken');
    expect(said([a, { ...a, unit: 2 }])).toMatch(/two called “a”/);
    expect(said([a, { ...a, name: 'b', unit: 2, baud: 19_200 }])).toMatch(/sets \/dev\/ttyUSB0 in two ways/);
    expect(said([a, { name: 'b', over: 'talker', path: '/dev/ttyUSB0' }])).toMatch(/in two ways/);
    expect(
      said([
        { name: 'b', over: 'talker', path: '/dev/ttyUSB1' },
        { name: 'c', over: 'talker', path: '/dev/ttyUSB1' },
      ]),
    ).toMatch(/in two ways/);
  });

  it('the examples of the guide are lists', () => {
    const guide = readFileSync(new URL('../../docs/wires.md', import.meta.url), 'utf8');
    const examples = [...guide.matchAll(/```json devices\n([\s\S]*?)```/g)].map((m) => m[1] ?? '');
    expect(examples.length).toBeGreaterThan(0);
    const overs = examples.flatMap((text) => (JSON.parse(text) as { over?: string }[]).map((e) => e.over ?? 'tcp'));
    for (const text of examples) expect(said(text)).toBe('taken');
    expect(new Set(overs)).toEqual(new Set(['tcp', 'serial', 'talker', 'broker']));
  });
});
