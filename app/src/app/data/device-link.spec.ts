import { TestBed } from '@angular/core/testing';
import { setUp, tearDown } from '../testing';
import type { TalkState, Talker } from '@calm-keel/core/wire';
import type { Database } from './database';
import { DeviceLink, type Outcome, type WireStep } from './device-link';

describe('writing over the wire', () => {
  let db: Database;
  let link: DeviceLink;
  /** What the server answers to a write; a string is a failure of the network. */
  let answers: (object | string)[];
  let sent: string[];
  const json = (body: unknown, status = 200) => new Response(JSON.stringify(body), { status });
  const steps: readonly WireStep[] = [
    { step: 'aft/edit/floatVoltage', role: 'floatVoltage', value: 26.9 },
    { step: 'aft/commit', commit: true },
  ];

  beforeEach(() => {
    localStorage.clear();
    answers = [];
    sent = [];
    spyOn(window, 'fetch').and.callFake((path, init) => {
      const to = path as string;
      sent.push(`${init?.method ?? 'GET'} ${to}`);
      if (to.endsWith('/lease')) return Promise.resolve(json({ token: 't' }));
      if (to.endsWith('/confirm')) return Promise.resolve(json({ confirmation: 'c' }));
      if (to.endsWith('/values')) return Promise.resolve(json({ values: { floatVoltage: 26.9 }, firmware: null }));
      const answer = answers.shift() ?? 'nothing more';
      return typeof answer === 'string' ? Promise.reject(new TypeError(answer)) : Promise.resolve(answer instanceof Response ? answer : json(answer));
    });
    db = setUp();
    link = TestBed.inject(DeviceLink);
  });
  afterEach(async () => {
    await tearDown(db);
  });

  const write = async (): Promise<Outcome[]> => {
    const came: Outcome[] = [];
    await link.write('aft', steps, (_step, outcome) => {
      came.push(outcome);
      return true;
    });
    return came;
  };
  const writes = () => sent.filter((s) => s === 'POST /api/link/write').length;

  it('goes on after a value that reads back and a save that was acknowledged, and stops at anything else', async () => {
    answers = [
      { kind: 'readBack', value: 26.9, says: 'It reads 26.9.' },
      { kind: 'acknowledged', says: 'The save was acknowledged.' },
    ];
    expect((await write()).map((o) => o.kind)).toEqual(['readBack', 'acknowledged']);
    expect([link.doubts().size, Object.keys(localStorage).some((k) => k.startsWith('calm-keel.sent.'))]).toEqual([0, false]);
    for (const kind of ['differs', 'refused', 'wrongDevice'] as const) {
      answers = [{ kind, says: 'so' }];
      expect((await write()).map((o) => o.kind)).toEqual([kind]);
      expect(link.doubts().size).toBe(0);
    }
  });

  it('leaves the device unknown when the answer is lost, makes no sense, or says so; then nothing is sent before it has been read, not by a page loaded anew either', async () => {
    const lost: (object | string)[] = [
      'Failed to fetch',
      json({ kind: 'readBack' }),
      json('?'),
      json({ code: 'failed', text: 'The server failed at this.' }, 500),
      { kind: 'unknown', says: 'x' },
    ];
    for (const answer of lost) {
      answers = [answer];
      expect((await write()).map((o) => o.kind)).toEqual(['unknown']);
      const before = writes();
      expect(link.doubts().get('aft')?.step).toBe('aft/edit/floatVoltage');
      await expectAsync(write()).toBeRejectedWithError(/Read the device before anything is sent to it/);
      expect(
        TestBed.runInInjectionContext(() => new DeviceLink())
          .doubts()
          .get('aft')?.step,
      ).toBe('aft/edit/floatVoltage');
      expect(writes()).toBe(before);
      expect((await link.read('aft')).values).toEqual({ floatVoltage: 26.9 });
      expect(link.doubts().size).toBe(0);
    }
  });

  it('is refused, and not unknown, when the server says itself that nothing was written', async () => {
    answers = [json({ code: 'no-lease', text: 'Another page is writing. Nothing was written.' }, 409)];
    expect(await write()).toEqual([{ kind: 'refused', says: 'Another page is writing. Nothing was written.' }]);
    expect(link.doubts().size).toBe(0);
  });

  it('is in doubt while it is under way, and a damaged note of it still counts', () => {
    localStorage.setItem('calm-keel.sent.fore', '{"step":');
    const next = TestBed.runInInjectionContext(() => new DeviceLink());
    expect([...next.doubts()]).toEqual([['fore', { step: '', at: 0 }]]);
  });

  it('notes what is sent before it is sent', async () => {
    let noted: string | null = null;
    answers = [{ kind: 'refused', says: 'no' }];
    (window.fetch as jasmine.Spy).and.callFake((path: string) => {
      if (path.endsWith('/write')) noted = localStorage.getItem('calm-keel.sent.aft');
      return Promise.resolve(
        json(path.endsWith('/lease') ? { token: 't' } : path.endsWith('/confirm') ? { confirmation: 'c' } : { kind: 'refused', says: 'no' }),
      );
    });
    await write();
    expect(JSON.parse(noted ?? 'null')).toEqual(jasmine.objectContaining({ step: 'aft/edit/floatVoltage' }));
  });
});

describe('listening through a port of this machine', () => {
  let db: Database;
  let link: DeviceLink;
  let closed: string[];
  const talker = (name: string, state: Partial<TalkState> = {}): Talker => ({
    now: () => ({ heard: null, problem: null, let: { noise: 0, doubled: 0, late: 0, stored: 0 }, ...state }),
    close: () => void closed.push(name),
  });

  beforeEach(() => {
    closed = [];
    spyOn(window, 'fetch').and.callFake(() =>
      Promise.resolve(new Response(JSON.stringify({ devices: [{ name: 'fore', kind: 'registers' }, { name: 'shunt' }], simulation: false }))),
    );
    db = setUp();
    link = TestBed.inject(DeviceLink);
  });
  afterEach(async () => {
    await tearDown(db);
  });

  it('a device talks under its name, with what it said and its moment, beside those of the server', async () => {
    link.listen('shunt', talker('shunt', { heard: { at: 7000, fields: { V: '26.4' }, number: 1 } }));
    expect(link.live().get('shunt')).toEqual({
      at: 7000,
      live: {},
      fields: { V: '26.4' },
      letGo: { noise: 0, doubled: 0, late: 0, stored: 0 },
      problem: null,
    });
    expect([link.talks('shunt'), link.listensTo('shunt'), link.there()]).toEqual([true, true, true]);
    // The server has one of that name too: the page hears its own.
    await link.look();
    expect(link.devices()).toEqual([
      { name: 'fore', kind: 'registers' },
      { name: 'shunt', kind: 'talks' },
    ]);
    // Nothing is asked of a server for it.
    const opened = spyOn(window, 'EventSource');
    await link.attach([{ name: 'shunt', card: null }]);
    expect(opened).not.toHaveBeenCalled();
  });

  it('what has said nothing says why, and has no moment', () => {
    link.listen('shunt', talker('shunt', { problem: 'It has said nothing yet.' }));
    expect(link.live().get('shunt')).toEqual(jasmine.objectContaining({ at: 0, problem: 'It has said nothing yet.' }));
    expect(link.live().get('shunt')?.fields).toBeUndefined();
  });

  it('the port is given back when it is stopped, chosen anew or the page goes', () => {
    link.listen('shunt', talker('first'));
    link.listen('shunt', talker('second'));
    expect(closed).toEqual(['first']);
    link.unlisten('shunt');
    expect([closed.join(), link.talks('shunt'), link.listensTo('shunt')]).toEqual(['first,second', false, false]);
    link.listen('lamp', talker('third'));
    TestBed.resetTestingModule();
    expect(closed).toEqual(['first', 'second', 'third']);
  });
});
