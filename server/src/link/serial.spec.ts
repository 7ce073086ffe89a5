import { readFileSync } from 'node:fs';
import { readJob, type Job } from '@calm-keel/core/job';
import { simulate, type Simulation } from '../../../devices/src/run.js';
import { linkTo, type Answered, type LinkClient } from './testing.js';

const text = (name: string): string => readFileSync(new URL(`../../../demo/${name}.job.json`, import.meta.url), 'utf8');
const job = ((): Job => {
  const read = readJob(text('skarrow'));
  if (!read.ok) throw new Error('the demo job');
  return read.value;
})();

describe('the link over a serial line, to talkers and to a broker', () => {
  let simulation: Simulation;
  let page: LinkClient;
  let clock = 1_000_000;
  let lines = false;

  beforeAll(async () => {
    simulation = await simulate([text('skarrow'), text('teasel')], 0, 0);
    lines = simulation.withoutLines === null;
    page = await linkTo(simulation, 'skarrow', { now: () => clock, timeoutMs: 400 });
    for (const d of [...job.system.chargers, ...job.system.companions]) {
      const card = job.cards.find((c) => c.id === d.card);
      await send('PUT', `/api/link/devices/skarrow-${d.id}/card`, card);
    }
  });
  afterAll(async () => {
    await page.close();
    await simulation.close();
  });
  beforeEach(async () => {
    clock += 60_000;
    await act({ do: 'reset' });
  });

  const send = (method: string, path: string, body?: unknown): Promise<Answered> => page.send(method, path, body);
  const act = (action: unknown): Promise<Answered> => page.act(action);
  const fault = (device: string, fault: string, on = true): Promise<Answered> => page.fault(device, fault, on);
  const values = (device: string) => page.values(device);
  const write = (device: string, role: string, value: number | string) => page.write(device, role, value);

  /** The first event about a device that fits. */
  async function heard(device: string, fits: (event: Record<string, unknown>) => boolean): Promise<Record<string, unknown>> {
    const response = await fetch(`${page.base}/api/link/live?devices=${device}`);
    const reader = response.body!.getReader();
    let all = '';
    for (;;) {
      const { value } = await reader.read();
      all += new TextDecoder().decode(value);
      const found = all
        .split('\n\n')
        .flatMap((block) => (/^data: \{.*\}$/.test(block) ? [JSON.parse(block.slice(6)) as Record<string, unknown>] : []))
        .find(fits);
      if (!found) continue;
      await reader.cancel();
      return found;
    }
  }
  const needsLines = (): void => {
    if (!lines) pending(simulation.withoutLines ?? '');
  };

  it('devices share the line by their numbers, and each says what it is', async () => {
    needsLines();
    const { body } = await send('GET', '/api/link');
    expect((body['devices'] as { name: string; kind: string }[]).filter((d) => d.kind === 'talks').map((d) => d.name)).toEqual([
      'teasel-talker',
      'teasel-broker',
    ]);
    const [leader, follower, turbine] = await Promise.all(['leader', 'follower', 'turbine'].map(values));
    expect(leader?.['absorbVoltage']).toBeGreaterThan(10);
    expect(turbine).not.toEqual(leader);
    expect(follower?.['absorbVoltage']).toBeDefined();
  });

  it('a confirmed step is written once and read back, as over the network', async () => {
    needsLines();
    const before = Number((await values('follower'))['absorbVoltage']);
    const outcome = await write('leader', 'absorbVoltage', 28.4);
    expect(outcome).toEqual(jasmine.objectContaining({ kind: 'readBack', value: 28.4 }));
    expect((await values('leader'))['absorbVoltage']).toBe(28.4);
    expect((await values('follower'))['absorbVoltage']).toBe(before);
    await fault('leader', 'clips');
    expect(await write('leader', 'absorbVoltage', 28.2)).toEqual(jasmine.objectContaining({ kind: 'differs', value: 27.9 }));
  });

  it('an answer that is lost, garbled or late leaves a truthful state', async () => {
    needsLines();
    await fault('leader', 'dropAfter');
    const taken = await write('leader', 'absorbVoltage', 28.4);
    expect([taken.kind, taken.says.includes('not answered')]).toEqual(['readBack', true]);
    await fault('leader', 'dropBefore');
    expect(await write('leader', 'absorbVoltage', 28.2)).toEqual(jasmine.objectContaining({ kind: 'differs', value: 28.4 }));
    await fault('leader', 'garbled');
    expect(['readBack', 'unknown']).toContain((await write('leader', 'absorbVoltage', 28)).kind);
    expect((await values('leader'))['absorbVoltage']).toBe(28);
    await fault('leader', 'late');
    const follower = await values('follower');
    await write('leader', 'absorbVoltage', 27.8);
    expect(await values('follower')).toEqual(follower);
    await fault('leader', 'timeout');
    expect((await write('leader', 'absorbVoltage', 28.4)).kind).toBe('unknown');
    await fault('leader', 'timeout', false);
    // What stood before an unknown write is only known by reading.
    expect((await values('leader'))['absorbVoltage']).toBe(27.8);
  });

  it('what a talker and a broker say comes with its moment, once a sample, and nothing can be asked of them', async () => {
    needsLines();
    clock = Date.now();
    const talk = await heard('teasel-talker', (e) => 'fields' in e);
    expect(Object.keys(talk['fields'] as object).slice(0, 4)).toEqual(['volts', 'amps', 'charge', 'battery temp']);
    // What is set on the launch’s monitor it says too, as its display shows it.
    expect((talk['fields'] as Record<string, string>)['Full V']).toBe('28.2 V');
    expect(talk['at']).toBe(clock);
    const told = await heard('teasel-broker', (e) => 'fields' in e);
    const fields = told['fields'] as Record<string, string>;
    expect(Number(fields['bank.volts'])).toBeCloseTo(Number((talk['fields'] as Record<string, string>)['volts']), 1);
    expect(Object.keys(fields)).toContain('fore.amps');
    for (const [method, path, body] of [
      ['GET', '/api/link/devices/teasel-talker/values', undefined],
      ['PUT', '/api/link/devices/teasel-broker/card', job.cards[0]],
    ] as const) {
      const refused = await send(method, path, body);
      expect([refused.status, refused.body['code']]).withContext(path).toEqual([409, 'only-talks']);
    }
    // Half a minute later without a word it is called silent; what it said is not told as of now.
    clock += 31_000;
    expect((await heard('teasel-talker', (e) => 'problem' in e || 'fields' in e))['problem']).toMatch(/nothing for \d+ s/);
  });
});
