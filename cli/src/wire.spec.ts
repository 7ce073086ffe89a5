import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { simulate, type Simulation } from '../../devices/src/run.js';
import { keel } from './keel.js';

const at = (path: string): string => new URL(`../../${path}`, import.meta.url).pathname;
const job = at('demo/teasel.job.json');

describe('keel wire', () => {
  let simulation: Simulation;
  let devices: string;
  let lines: readonly { name: string; over: string }[];

  beforeAll(async () => {
    simulation = await simulate([readFileSync(job, 'utf8')], 0, 0);
    simulation.running.sites[0]?.plant.advance(60);
    const state = (await (await fetch(`http://127.0.0.1:${simulation.controlPort}/state`)).json()) as {
      sites: { addresses: { name: string; over: string }[] }[];
    };
    lines = state.sites.flatMap((s) => s.addresses);
    devices = join(mkdtempSync(join(tmpdir(), 'keel-')), 'devices.json');
    writeFileSync(devices, JSON.stringify(lines));
  });
  afterAll(async () => {
    await simulation.close();
  });
  async function run(...args: string[]) {
    const printed: string[] = [];
    const said: string[] = [];
    const code = await keel(['wire', ...args], { print: (t) => printed.push(t), say: (t) => said.push(t), today: '2026-06-09' });
    return { code, printed, said: said.join('\n') };
  }

  it('lists what is on the list, and how it is reached', async () => {
    const { code, printed } = await run('list', '--devices', devices);
    expect(code).toBe(0);
    const listed = (JSON.parse(printed.join('')) as { devices: { name: string; over: string; kind: string }[] }).devices;
    expect(listed.map((d) => [d.name, d.over])).toEqual(lines.map((d) => [d.name, d.over]));
    expect(listed.find((d) => d.name === 'teasel-aft')?.kind).toBe('registers');
    expect(listed.find((d) => d.name === 'teasel-broker')?.kind).toBe('talks');
  });

  it('reads what stands on a device by the card of a job, or a card of its own, and writes nothing', async () => {
    const { code, printed } = await run('read', 'teasel-aft', '--devices', devices, '--job', job);
    expect(code).toBe(0);
    const read = JSON.parse(printed.join('')) as { card: string; firmware: string; values: Record<string, unknown> };
    expect([read.card, read.firmware, read.values['floatVoltage'], read.values['batteryType']]).toEqual(['Varrow S45', '3.1', 27.6, 'vented']);
    const byCard = await run('read', 'teasel-aft', '--devices', devices, '--card', at('library/cards/varrow-s45.json'));
    expect(JSON.parse(byCard.printed.join(''))).toEqual(read);
    // Another card’s device is not read.
    const other = await run('read', 'teasel-aft', '--devices', devices, '--card', at('library/cards/tessick-d30.json'));
    expect([other.code, other.printed.length]).toEqual([3, 0]);
    expect(other.said).toMatch(/teasel-aft: .*(Another device answers here|no such register)/);
    expect(simulation.running.sites[0]?.devices.some((d) => d.unsaved())).toBeFalse();
  });

  it('says what is missing in a sentence', async () => {
    for (const [args, code, why] of [
      [['read', 'teasel-aft', '--devices', devices], 2, 'nobody has said'],
      [['read', 'nobody', '--devices', devices], 2, '“nobody” is not on the list'],
      [['read', 'teasel-broker', '--devices', devices], 2, 'only talks'],
      [['list'], 2, 'Name a list of devices'],
      [['list', '--devices', '/nowhere.json'], 2, 'cannot be read'],
      [['write', 'teasel-aft', '--devices', devices], 2, 'keel wire read NAME'],
      [['read', '--devices', devices], 2, 'keel wire read NAME'],
      [['watch', 'teasel-broker', '--devices', devices, '--seconds', '0'], 2, '--seconds'],
      [['read', 'teasel-aft', '--devices', devices, '--card', job], 2, 'is no card'],
      [['list', '--speed', '3'], 2, '--speed'],
    ] as const) {
      const came = await run(...args);
      expect([came.code, came.said.includes(why)])
        .withContext(`${args.join(' ')}: ${came.said}`)
        .toEqual([code, true]);
    }
  });

  it('watches those that tell and those that talk, a line of JSON a sample', async () => {
    const { code, printed } = await run('watch', 'teasel-aft', 'teasel-broker', '--devices', devices, '--job', job, '--seconds', '4');
    expect(code).toBe(0);
    const samples = printed.map((line) => JSON.parse(line) as Record<string, unknown>);
    const aft = samples.find((s) => s['device'] === 'teasel-aft');
    expect([typeof aft?.['volts'], typeof aft?.['stage']]).toEqual(['number', 'string']);
    const gateway = samples.filter((s) => s['device'] === 'teasel-broker');
    expect(Number(gateway[0]?.['bank.volts'])).toBeCloseTo(Number(aft?.['volts']), 0);
    // None twice.
    expect(new Set(gateway.map((s) => s['at'])).size).toBe(gateway.length);
  });
});
