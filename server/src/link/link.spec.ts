import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Card } from '@calm-keel/core/card';
import { readJob, type Job } from '@calm-keel/core/job';
import { simulate, type Simulation } from '../../../devices/src/run.js';
import { linkTo, type Answered, type LinkClient } from './testing.js';
import { listFromFile } from '@calm-keel/wire';

const jobText = readFileSync(new URL('../../../demo/teasel.job.json', import.meta.url), 'utf8');
const job = ((): Job => {
  const read = readJob(jobText);
  if (!read.ok) throw new Error('the demo job');
  return read.value;
})();
const cardOf = (device: string): Card => {
  const place = [...job.system.chargers, ...job.system.companions].find((d) => d.id === device);
  const card = job.cards.find((c) => c.id === place?.card);
  if (!card) throw new Error(device);
  return card;
};

describe('the link to devices', () => {
  let simulation: Simulation;
  let page: LinkClient;
  let clock = 1_000_000;

  beforeAll(async () => {
    simulation = await simulate([jobText], 0, 0);
    page = await linkTo(simulation, 'teasel', { now: () => clock, timeoutMs: 150 });
    for (const d of ['fore', 'aft', 'dcdc', 'alternator', 'monitor']) await send('PUT', `/api/link/devices/teasel-${d}/card`, cardOf(d));
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
  const confirmed = (device: string, steps: readonly unknown[], client?: string) => page.confirmed(device, steps, client);
  const write = (device: string, role: string, value: number | string) => page.write(device, role, value);

  it('tells its devices, and reads what stands on one', async () => {
    const { body } = await send('GET', '/api/link');
    expect((body['devices'] as { name: string; kind: string }[]).filter((d) => d.kind === 'registers').map((d) => d.name)).toEqual([
      'teasel-fore',
      'teasel-aft',
      'teasel-dcdc',
      'teasel-alternator',
      'teasel-monitor',
    ]);
    expect(body['simulation']).toBeTrue();
    await send('POST', '/api/link/lease', { client: 'page-one-1' });
    expect(JSON.stringify((await send('GET', '/api/link')).body)).not.toContain('page-one-1');
    const aft = await values('aft');
    expect(aft['floatVoltage']).toBe(27.6);
    expect(aft['batteryType']).toBe('vented');
    expect(aft['compensationSlope']).toBe(0);
    expect((await send('GET', '/api/link/devices/teasel-aft/values')).body['firmware']).toBe('3.1');
  });

  it('speaks to nobody who is not on the list, and to nobody whose card it has not', async () => {
    expect((await send('GET', '/api/link/devices/elsewhere/values')).status).toBe(404);
    expect((await send('PUT', '/api/link/devices/elsewhere/card', cardOf('aft'))).status).toBe(404);
    const { telemetry: _t, ...bare } = cardOf('aft');
    expect((await send('PUT', '/api/link/devices/teasel-aft/card', bare)).body['code']).toBe('no-registers');
  });

  it('writes a confirmed step once, and reads it back', async () => {
    const { write: go } = await confirmed('aft', [{ step: 'aft/edit/floatVoltage', role: 'floatVoltage', value: 26.9 }]);
    expect((await go('aft/edit/floatVoltage')).body).toEqual(jasmine.objectContaining({ kind: 'readBack', value: 26.9 }));
    expect((await values('aft'))['floatVoltage']).toBe(26.9);
    // The request comes again because its answer was lost: it gets what came of the first, and nothing is sent.
    expect((await write('aft', 'floatVoltage', 26.5)).kind).toBe('readBack');
    const again = await go('aft/edit/floatVoltage');
    expect([again.status, again.body['kind'], again.body['value']]).toEqual([200, 'readBack', 26.9]);
    expect((await values('aft'))['floatVoltage']).toBe(26.5);
    expect((await go('something/else')).status).toBe(409);
  });

  it('writes by the card that was confirmed, whatever another page tells meanwhile', async () => {
    const { write: go } = await confirmed('aft', [{ step: 's', role: 'floatVoltage', value: 26.9 }]);
    const card = cardOf('aft');
    const telemetry = card.telemetry!;
    // Another page tells that float stands where absorb does.
    const swapped = telemetry.values.map((v) => {
      const other = v.role === 'floatVoltage' ? 'absorbVoltage' : v.role === 'absorbVoltage' ? 'floatVoltage' : v.role;
      return { ...v, register: telemetry.values.find((x) => x.role === other)!.register };
    });
    await send('PUT', '/api/link/devices/teasel-aft/card', { ...card, telemetry: { ...telemetry, values: swapped } });
    expect((await go('s')).body['kind']).toBe('readBack');
    await send('PUT', '/api/link/devices/teasel-aft/card', card);
    const after = await values('aft');
    expect([after['floatVoltage'], after['absorbVoltage']]).toEqual([26.9, 28.1]);
  });

  it('writes nothing without a lease, nor for a page that has lost it', async () => {
    const stranger = await send('POST', '/api/link/write', { token: 'made-up', confirmation: 'x', step: 'y' });
    expect([stranger.status, stranger.body['code']]).toEqual([409, 'no-lease']);
    const first = await confirmed('aft', [{ step: 's', role: 'floatVoltage', value: 26.9 }], 'page-one-1');
    const second = await send('POST', '/api/link/lease', { client: 'page-two-2' });
    expect([second.status, second.body['code']]).toEqual([409, 'held']);
    clock += 21_000;
    expect((await send('POST', '/api/link/lease', { client: 'page-two-2' })).status).toBe(200);
    expect((await first.write('s')).body['code']).toBe('no-lease');
    expect((await values('aft'))['floatVoltage']).toBe(27.6);
  });

  it('lets a lease go to the next page when it is given up', async () => {
    const { token } = (await send('POST', '/api/link/lease', { client: 'page-one-1' })).body as { token: string };
    expect((await send('DELETE', '/api/link/lease', { token: 'other' })).body['ok']).toBeFalse();
    expect((await send('DELETE', '/api/link/lease', { token })).body['ok']).toBeTrue();
    expect((await send('POST', '/api/link/lease', { client: 'page-two-2' })).status).toBe(200);
  });

  it('tells a value that the device changed on its way in', async () => {
    await fault('aft', 'clips');
    expect(await write('aft', 'floatVoltage', 26.9)).toEqual(jasmine.objectContaining({ kind: 'differs', value: 26.6 }));
    await fault('aft', 'clips', false);
    await fault('aft', 'rounds');
    expect(await write('aft', 'floatVoltage', 26.9)).toEqual(jasmine.objectContaining({ kind: 'differs', value: 27 }));
  });

  it('tells a refusal with its code, out of range, against a rule, or by a device that has failed', async () => {
    expect(await write('aft', 'floatVoltage', 60)).toEqual(jasmine.objectContaining({ kind: 'refused' }));
    // Equalise may not stand below absorb.
    const rule = await write('aft', 'equaliseVoltage', 27);
    expect(rule.kind).toBe('refused');
    expect(rule.says).toContain('code 3');
    await fault('aft', 'exception');
    expect((await write('aft', 'floatVoltage', 26.9)).says).toContain('code 4');
  });

  it('leaves a truthful state when the connection drops in the middle of a write', async () => {
    await fault('aft', 'dropAfter');
    const taken = await write('aft', 'floatVoltage', 26.9);
    expect(taken.kind).toBe('readBack');
    expect(taken.says).toContain('not answered');
    await fault('aft', 'dropBefore');
    expect(await write('aft', 'floatVoltage', 26.7)).toEqual(jasmine.objectContaining({ kind: 'differs', value: 26.9 }));
    expect((await values('aft'))['floatVoltage']).toBe(26.9);
  });

  it('says that nobody knows when nothing can be read any more', async () => {
    await fault('aft', 'timeout');
    expect((await write('aft', 'floatVoltage', 26.9)).kind).toBe('unknown');
    const read = await send('GET', '/api/link/devices/teasel-aft/values');
    expect([read.status, read.body['code']]).toEqual([502, 'not-read']);
    // Nothing is sent to it before it has been read, by whichever page; the others are written as ever.
    const ask = async (device: string, client: string) => {
      const { token } = (await send('POST', '/api/link/lease', { client })).body as { token: string };
      return send('POST', '/api/link/confirm', { token, device: `teasel-${device}`, steps: [{ step: 's', role: 'floatVoltage', value: 26.9 }] });
    };
    await fault('aft', 'timeout', false);
    const refused = await ask('aft', 'page-one-1');
    expect([refused.status, refused.body['code']]).toEqual([409, 'unknown-state']);
    expect(refused.body['text']).toContain('Read “teasel-aft” before anything is sent to it again');
    expect((await ask('fore', 'page-one-1')).status).toBe(200);
    expect((await values('aft'))['floatVoltage']).toBe(27.6);
    expect((await ask('aft', 'page-one-1')).status).toBe(200);
  });

  it('keeps the lease while a write is slow, however long it takes, and lets it lapse after', async () => {
    const { write: go } = await confirmed('aft', [{ step: 's', role: 'floatVoltage', value: 26.9 }], 'page-one-1');
    await fault('aft', 'timeout');
    const slow = go('s');
    await new Promise((resolve) => setTimeout(resolve, 50));
    clock += 300_000;
    expect((await send('POST', '/api/link/lease', { client: 'page-two-2' })).status).toBe(409);
    expect((await slow).body['kind']).toBe('unknown');
    clock += 19_000;
    expect((await send('POST', '/api/link/lease', { client: 'page-two-2' })).status).toBe(409);
    clock += 2_000;
    expect((await send('POST', '/api/link/lease', { client: 'page-two-2' })).status).toBe(200);
    await fault('aft', 'timeout', false);
    await values('aft');
  });

  it('never takes a garbled answer for a value read back', async () => {
    for (let i = 0; i < 4; i++) {
      await fault('aft', 'garbled');
      const outcome = await write('aft', 'floatVoltage', 26.8);
      if (outcome.kind === 'readBack') expect((await values('aft'))['floatVoltage']).toBe(26.8);
      else expect(['unknown', 'differs', 'refused', 'wrongDevice']).toContain(outcome.kind);
    }
  });

  it('writes nothing to another device at the address', async () => {
    await fault('aft', 'wrongDevice');
    expect((await write('aft', 'floatVoltage', 26.9)).kind).toBe('wrongDevice');
    await fault('aft', 'wrongDevice', false);
    expect((await values('aft'))['floatVoltage']).toBe(27.6);
  });

  it('keeps volatile and stored apart: a save that was only acknowledged is found by the power cut', async () => {
    const program = async (): Promise<void> => {
      const { write: go } = await confirmed('aft', [
        { step: 'a', role: 'floatVoltage', value: 26.9 },
        { step: 'c', commit: true },
      ]);
      expect((await go('a')).body['kind']).toBe('readBack');
      // Nobody has seen that it saved.
      expect((await go('c')).body).toEqual({ kind: 'acknowledged', says: 'The save was acknowledged. A power cut will show whether it was done.' });
    };
    await fault('aft', 'commitIgnored');
    await program();
    expect((await values('aft'))['floatVoltage']).toBe(26.9);
    await act({ do: 'cut', device: 'teasel-aft' });
    expect((await values('aft'))['floatVoltage']).toBe(27.6);
    await fault('aft', 'commitIgnored', false);
    await program();
    await act({ do: 'cut', device: 'teasel-aft' });
    expect((await values('aft'))['floatVoltage']).toBe(26.9);
  });

  it('loses what was never saved, and all of it where the device loses its settings', async () => {
    await write('alternator', 'highVoltageAlarm', 28.8);
    await act({ do: 'cut', device: 'teasel-alternator' });
    expect((await values('alternator'))['highVoltageAlarm']).toBe(29.4);
    // A monitor keeps what is written.
    await write('monitor', 'fullDetectVoltage', 27.7);
    await act({ do: 'cut', device: 'teasel-monitor' });
    expect((await values('monitor'))['fullDetectVoltage']).toBe(27.7);
    await fault('monitor', 'losesAtCut');
    await act({ do: 'cut', device: 'teasel-monitor' });
    expect((await values('monitor'))['fullDetectVoltage']).toBe(14);
  });

  it('streams live values that move with what is pressed', async () => {
    const read = async (): Promise<Record<string, number>> => {
      const response = await fetch(`${page.base}/api/link/live?devices=teasel-aft`);
      const reader = response.body!.getReader();
      let text = '';
      while (!text.includes('\n\n')) text += new TextDecoder().decode((await reader.read()).value);
      await reader.cancel();
      return (JSON.parse(text.slice(text.indexOf('{'), text.indexOf('\n\n'))) as { live: Record<string, number> }).live;
    };
    await act({ do: 'pass', seconds: 120 });
    const before = await read();
    expect(before['volts']).toBeGreaterThan(24);
    expect(before['amps']).toBeGreaterThan(1);
    await act({ do: 'conditions', site: 'teasel', light: 0 });
    await act({ do: 'pass', seconds: 120 });
    expect((await read())['amps']).toBe(0);
    await fault('aft', 'clockWrong');
    await fault('aft', 'displayError');
    await act({ do: 'pass', seconds: 1 });
    const after = await read();
    expect(after['clockMinutes']).toBeGreaterThan(before['clockMinutes']! + 400);
    await fault('aft', 'sensorMissing');
    await act({ do: 'pass', seconds: 2 });
    expect((await read())['celsius']).toBeNull();
  });

  it('an equalise pressed by somebody does what is stored: harmful as found, harmless as set', async () => {
    const highest = async (): Promise<number> => {
      // By noon the bank is nearly full.
      await act({ do: 'pass', seconds: 3 * 3600 });
      await fault('aft', 'equalise');
      let most = 0;
      for (let i = 0; i < 90; i++) {
        await act({ do: 'pass', seconds: 20 });
        most = Math.max(most, simulation.running.sites[0]!.plant.bank().volts);
      }
      return most;
    };
    // The factory's 30.4 V drive it past the sheet's most; the BMS would have to save it.
    const before = await highest();
    await act({ do: 'reset' });
    for (const [role, value] of [
      ['absorbVoltage', 28.1],
      ['equaliseVoltage', 28.1],
      ['equaliseTime', 10],
      ['floatVoltage', 26.9],
      ['chargeCurrentLimit', 31],
    ] as const)
      expect((await write('aft', role, value)).kind)
        .withContext(role)
        .toBe('readBack');
    const after = await highest();
    expect(before).toBeGreaterThan(28.4);
    expect(after).toBeLessThan(28.4);
    expect((await values('aft'))['equaliseEnabled']).toBe('on request');
  });

  it('reads a range of registers, slowly and only reading, and says where it ends', async () => {
    const telemetry = cardOf('aft').telemetry!;
    const range = (body: unknown, device = 'teasel-aft') => send('POST', `/api/link/devices/${device}/range`, body);
    const registers = telemetry.values.map((v) => v.register);
    const [least, most] = [Math.min(...registers), Math.max(...registers)];
    const { body } = await range({ from: least, count: most - least + 40, table: 'holding' });
    const words = new Map(body['words'] as [number, number][]);
    expect(body['problem']).toBeNull();
    expect(registers.every((r) => words.has(r))).toBeTrue();
    expect(words.has(most + 39)).toBeFalse();
    const float = telemetry.values.find((v) => v.role === 'floatVoltage')!;
    expect((words.get(float.register) ?? 0) * float.scale).toBeCloseTo(27.6, 6);
    expect((await values('aft'))['floatVoltage']).toBe(27.6);
    for (const bad of [
      { from: -1, count: 1, table: 'holding' },
      { from: 0, count: 251, table: 'holding' },
      { from: 65_535, count: 2, table: 'holding' },
      { from: 0, count: 1, table: 'coils' },
    ])
      expect((await range(bad)).status)
        .withContext(JSON.stringify(bad))
        .toBe(400);
    expect((await range({ from: 0, count: 1, table: 'holding' }, 'elsewhere')).status).toBe(404);
    await fault('aft', 'timeout');
    expect((await range({ from: least, count: 4, table: 'holding' })).body['problem']).toContain('No answer that can be used');
    await fault('aft', 'timeout', false);
    // Nobody looks around while somebody writes.
    await send('POST', '/api/link/lease', { client: 'page-one-1' });
    expect((await range({ from: least, count: 4, table: 'holding' })).body['code']).toBe('held');
  });

  it('refuses requests that are not as they should be, or come from another page', async () => {
    for (const body of [{}, { client: 7 }, [], { client: 'x' }]) expect((await send('POST', '/api/link/lease', body)).status).toBe(400);
    const { token } = (await send('POST', '/api/link/lease', { client: 'page-one-1' })).body as { token: string };
    for (const steps of [[], [{ step: 'a', role: 'nonsense', value: 1 }], [{ step: 'a', role: 'floatVoltage', value: 1e9 }]])
      expect((await send('POST', '/api/link/confirm', { token, device: 'teasel-aft', steps })).status).toBe(400);
    const foreign = await fetch(`${page.base}/api/link/lease`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', origin: 'http://elsewhere.example' },
      body: '{"client":"page-one-1"}',
    });
    expect(foreign.status).toBe(403);
    const renamed = await new Promise<number>((resolve) =>
      request(`${page.base}/api/link`, { headers: { host: 'elsewhere.example' } }, (r) => {
        r.resume();
        resolve(r.statusCode ?? 0);
      }).end(),
    );
    expect(renamed).toBe(403);
    const raw = (path: string, body: string) => fetch(page.base + path, { method: 'POST', headers: { 'content-type': 'application/json' }, body });
    for (const [path, body, status] of [
      ['/api/link/lease', '{"client":', 400],
      ['/api/link/lease', JSON.stringify({ client: 'x'.repeat(400_000) }), 413],
      ['/api/link/nonsense', '{}', 404],
      ['/api/simulation/nonsense', '{}', 404],
    ] as const) {
      const answer = await raw(path, body);
      expect(answer.status).withContext(path).toBe(status);
      expect(await answer.text()).not.toContain('node_modules');
    }
    expect((await act({ do: 'explode' })).status).toBe(400);
    expect((await act({ do: 'cut', device: 'elsewhere' })).status).toBe(404);
  });

  it('reads a list of real devices from a file, or says what is wrong with it', () => {
    expect(() => listFromFile('/nowhere/devices.json')).toThrowError(/cannot be read/);
    const file = join(mkdtempSync(join(tmpdir(), 'keel-')), 'devices.json');
    for (const [text, why] of [
      ['{"name":', /cannot be read/],
      ['{"name": "fore"}', /not as it should be/],
      ['[{"name": "fore", "host": "127.0.0.1", "port": 70000}]', /device 1: port/],
    ] as const) {
      writeFileSync(file, text);
      expect(() => listFromFile(file))
        .withContext(text)
        .toThrowError(why);
    }
    writeFileSync(file, '[{"name": "fore", "host": "127.0.0.1", "port": 502}]');
    expect(listFromFile(file).simulation).toBeNull();
  });
});
