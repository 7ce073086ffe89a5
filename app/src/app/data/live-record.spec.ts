import { TestBed } from '@angular/core/testing';
import { cardSchema } from '@calm-keel/core/card';
import { jobSchema, type Job } from '@calm-keel/core/job';
import { sampleCard, sampleJob, setUp, tearDown, until, voltParameter } from '../testing';
import { Database } from './database';
import { DeviceLink, type LiveState } from './device-link';
import { FieldMaps } from './field-maps';
import { JobBook } from './job-book';
import { JobStore } from './job-store';
import { LiveRecord } from './live-record';

const registers = { protocol: 'modbus', identity: { register: 0, value: 1 }, live: [], values: [] };
const job = ((): Job => {
  const base = sampleJob();
  const charger = (id: string, link: string) => ({
    id,
    name: `Solar ${id}`,
    card: 'p1',
    link,
    sensor: { fitted: true, place: 'batteryCase', errorC: 1, offsetC: 0, lagSeconds: 0, warmLeadC: 0 },
    displayReadings: [],
    present: {},
    passcodeChanged: false,
  });
  return jobSchema.parse({
    ...base,
    cards: [
      cardSchema.parse({
        ...sampleCard({
          id: 'p1',
          kind: 'solarMppt',
          ratings: { outputA: 30, arrayVoltsMax: 100, systemVolts: [24], chemistries: ['lfp'] },
          parameters: [voltParameter('absorbVoltage')],
        }),
        telemetry: registers,
      }),
      sampleCard({ id: 'm1', kind: 'monitor', ratings: { outputA: 0, systemVolts: [24], chemistries: ['lfp'] }, parameters: [] }),
    ],
    system: {
      ...base.system,
      chargers: [charger('fore', 'w-fore'), charger('aft', 'w-aft')],
      companions: [{ id: 'monitor', name: 'Monitor', card: 'm1', link: 'gate', present: {}, switches: [] }],
    },
  });
})();

describe('a live log', () => {
  let db: Database;
  let store: JobStore;
  let link: DeviceLink;
  let record: LiveRecord;
  const state = (more: Partial<LiveState>): LiveState => ({ at: Date.now(), live: {}, problem: null, ...more });

  beforeEach(async () => {
    db = setUp(new Database(`live-${Date.now()}-${Math.random()}`));
    const id = await TestBed.inject(JobBook).add(job, 'New');
    store = TestBed.inject(JobStore);
    store.open(id);
    await until(() => store.state() === 'ready', 'the job is there');
    link = TestBed.inject(DeviceLink);
    spyOn(link, 'look').and.resolveTo();
    spyOn(link, 'attach').and.resolveTo();
    link.devices.set([
      { name: 'w-fore', kind: 'registers' },
      { name: 'gate', kind: 'talks' },
    ]);
    record = TestBed.inject(LiveRecord);
    jasmine.clock().install();
  });
  afterEach(async () => {
    jasmine.clock().uninstall();
    await tearDown(db);
  });

  /** Records so many seconds, telling this each second; gives the log that was kept. */
  async function recorded(seconds: readonly Readonly<Record<string, LiveState>>[]) {
    await record.begin('Live', 'fore');
    for (const told of seconds) {
      link.live.set(new Map(Object.entries(told).map(([name, s]) => [name, { ...s, at: s.at === 0 ? 0 : Date.now() }])));
      TestBed.tick();
      jasmine.clock().tick(1000);
    }
    jasmine.clock().uninstall();
    await record.end();
    await store.flush();
    const entry = store.job()?.logs[0];
    const row = entry && (await TestBed.inject(JobBook).getLog(job.id, entry.id));
    jasmine.clock().install();
    return { entry, log: row?.log, notes: row?.report.notes ?? [] };
  }

  it('is of what registers tell and of what a talking device says, each by its own meaning', async () => {
    const fields = { 'bank.volts': '26.5', 'bank.amps': '-3.2', 'aft.amps': '5' };
    const told = {
      'w-fore': state({ live: { volts: 26.6, amps: 4, stage: 2 } }),
      gate: state({ fields, letGo: { noise: 1, doubled: 2, late: 0, stored: 0 } }),
    };
    const { entry, log, notes } = await recorded([told, told, told]);
    expect([entry?.rows, entry?.recorded]).toEqual([3, true]);
    const two = (data: Float32Array | undefined): number => Number((data?.[0] ?? NaN).toFixed(2));
    expect([two(log?.bankVolts), two(log?.bankAmps), two(log?.chargers['fore']?.amps), two(log?.chargers['aft']?.amps)]).toEqual([26.5, -3.2, 4, 5]);
    expect(log?.bankVoltsBy).toBeUndefined();
    expect(notes.join(' ')).toContain('Recorded from the devices’ own registers. Recorded from what “gate” said. 3 lines or messages were damaged');
  });

  it('takes nothing that is older than its moment, or of a device in trouble', async () => {
    const good = state({ live: { volts: 26.6, amps: 4 } });
    const { log } = await recorded([
      { 'w-fore': good, gate: state({ fields: { 'bank.volts': '26.5' } }) },
      { 'w-fore': good, gate: state({ fields: { 'bank.volts': '26.5' }, problem: 'It has said nothing for 40 s.' }) },
      { 'w-fore': good, gate: state({ fields: { 'bank.volts': '26.5' }, at: 0 }) },
    ]);
    expect([...(log?.bankVolts ?? [])].map((v) => (v === v ? 'told' : 'not'))).toEqual(['told', 'not', 'not']);
    expect([...(log?.chargers['fore']?.amps ?? [])]).toEqual([4, 4, 4]);
  });

  it('reads the fields of a talker as somebody said, and remembers it by the device’s name', async () => {
    link.live.set(new Map([['gate', state({ fields: { V: '26500', x: '1' } })]]));
    const maps = TestBed.inject(FieldMaps);
    TestBed.tick();
    const guess = maps.of('gate');
    expect(guess?.columns.map((c) => c.header)).toEqual(['V', 'x']);
    expect(maps.settled('gate')).toBeFalse();
    await maps.set('gate', {
      ...guess!,
      columns: [
        { header: 'V', meaning: 'bankVolts', unit: 'mV' },
        { header: 'x', meaning: 'ignore' },
      ],
    });
    expect(maps.settled('gate')).toBeTrue();
    // A field that was not there then is not read before somebody says what it means.
    link.live.set(new Map([['gate', state({ fields: { V: '26500', 'bank.amps': '3' } })]]));
    TestBed.tick();
    expect(maps.of('gate')?.columns.map((c) => `${c.header} ${c.meaning}`)).toEqual(['V bankVolts', 'x ignore', 'bank.amps ignore']);
    expect((await TestBed.inject(JobBook).getMapping('talks\u001fgate'))?.columns.length).toBe(2);
  });
});
