import express, { Router, type Request, type Response } from 'express';
import { rateLimit } from 'express-rate-limit';
import * as z from 'zod';
import { cardSchema, roleSchema, type Card } from '@calm-keel/core/card';
import { leaseMs, makeLeases } from './lease';
import { commitSettings, failureWords, readLive, readRange, readSettings, writeSetting, type Master, type Outcome } from '@calm-keel/core/wire';
import { hasRegisters, makeWires, type DeviceList, type Entry } from '@calm-keel/wire';

/** How often live values are asked for while somebody looks, ms. */
const liveMs = 1000;
/** What a talker said this long ago is still of this moment; after the longer time it is called silent, ms. */
const freshMs = 3000;
const silentMs = 30_000;
const perMinute = { all: 3000, writes: 600 };

/** What specs hold still. */
export interface LinkOptions {
  /** ms since 1970. */
  readonly now?: () => number;
  /** How long a device’s answer is waited for, ms. */
  readonly timeoutMs?: number;
}

const nameSchema = z.string().min(1).max(60);
const takeSchema = z.object({ client: z.string().min(8).max(80) });
const releaseSchema = z.object({ token: z.string().max(80) });
const valueSchema = z.union([z.number().min(-1e5).max(1e5), z.string().max(40)]);
const confirmSchema = z.object({
  token: z.string().max(80),
  device: nameSchema,
  steps: z
    .array(
      z.union([
        z.object({ step: z.string().min(1).max(120), role: roleSchema, value: valueSchema }),
        z.object({ step: z.string().min(1).max(120), commit: z.literal(true) }),
      ]),
    )
    .min(1)
    .max(120),
});
/** A range to look through: no more in one request than some tens of questions. */
const rangeSchema = z
  .strictObject({ from: z.int().min(0).max(65_535), count: z.int().min(1).max(250), table: z.enum(['holding', 'input']) })
  .refine((r) => r.from + r.count <= 65_536, 'ends behind the last register');
const writeSchema = z.object({ token: z.string().max(80), confirmation: z.string().max(80), step: z.string().min(1).max(120) });

const wrong = (response: Response, status: number, code: string, text: string): void => void response.status(status).json({ code, text });

/** Reads a body by its schema; answers with a sentence where it does not fit. */
function bodyAs<T>(schema: z.ZodType<T>, request: Request, response: Response): T | null {
  const read = schema.safeParse(request.body);
  if (read.success) return read.data;
  wrong(
    response,
    400,
    'bad-request',
    `This request is not as it should be: ${read.error.issues
      .slice(0, 3)
      .map((i) => `${i.path.join('.') || 'body'} ${i.message}`)
      .join('; ')}.`,
  );
  return null;
}

/**
 * The link to devices, for the page that this server serves. Nothing outside the list is spoken to; nothing is written without the lease and
 * a step that was confirmed; every write is read back, and none is repeated.
 *
 */
export function linkRoutes(list: DeviceList, { now = Date.now, timeoutMs }: LinkOptions = {}): Router {
  const router = Router();
  const leases = makeLeases<Outcome>(now);
  /** Devices of which nobody knows whether the last write was taken; nothing is sent to them before they are read. */
  const unknown = new Set<string>();
  const wires = makeWires({ timeoutMs, now });
  const cards = new Map<string, Card>();

  const entryOf = async (name: string): Promise<Entry | null> => (await list.entries()).find((e) => e.name === name) ?? null;

  /** The device with registers that a request names, or a sentence. */
  async function masterOf(name: string, response: Response): Promise<Master | null> {
    const entry = await entryOf(name);
    if (entry && hasRegisters(entry)) return wires.master(entry);
    if (entry) wrong(response, 409, 'only-talks', `“${name}” only talks: what it says is read as it comes, and nothing can be asked of it or written to it.`);
    else wrong(response, 404, 'not-listed', `“${name}” is not on the server’s list of devices, so it is not spoken to.`);
    return null;
  }

  /** The same with the card that was told for it. */
  async function deviceOf(name: string, response: Response): Promise<{ master: Master; card: Card } | null> {
    const master = await masterOf(name, response);
    const card = cards.get(name);
    if (master && !card) wrong(response, 404, 'no-card', `Nobody has said yet what “${name}” is.`);
    return master && card ? { master, card } : null;
  }

  router.use((request, response, next) => {
    // A page of another origin has no business here. That the browser itself may come in is asked before.
    const { host, origin } = request.headers;
    if (origin !== undefined && origin !== `${request.protocol}://${host ?? ''}`)
      return wrong(response, 403, 'other-origin', 'Only the page of this server may use the link.');
    response.set('Cache-Control', 'no-store');
    next();
  });
  router.use(
    rateLimit({
      windowMs: 60_000,
      limit: perMinute.all,
      standardHeaders: true,
      legacyHeaders: false,
      message: { code: 'too-fast', text: 'Too many requests. Wait a minute.' },
    }),
  );
  router.use(express.json({ limit: '300kb', type: 'application/json' }));

  router.get('/', async (_request, response) => {
    const entries = await list.entries();
    const held = leases.holder();
    response.json({
      devices: entries.map((e) => ({ name: e.name, kind: hasRegisters(e) ? 'registers' : 'talks' })),
      simulation: list.simulation !== null,
      // Who holds it is nobody else's affair: with that name the lease could be taken over.
      lease: held ? { since: held.since } : null,
    });
  });

  router.put('/devices/:name/card', async (request, response) => {
    const { name } = request.params;
    const card = bodyAs(cardSchema, request, response);
    if (!card) return;
    if (!(await masterOf(name, response))) return;
    if (!card.telemetry) return wrong(response, 400, 'no-registers', `The card ${card.maker} ${card.model} tells of no registers.`);
    cards.set(name, card);
    response.json({ ok: true });
  });

  router.get('/devices/:name/values', async (request, response) => {
    const device = await deviceOf(request.params.name, response);
    if (!device) return;
    const read = await readSettings(device.master, device.card);
    if (read.ok) {
      unknown.delete(request.params.name);
      response.json({ values: read.values, firmware: read.firmware, at: now() });
    } else wrong(response, 502, 'not-read', read.says);
  });

  let looking = false;
  // Reading what nobody has a card for yet: only reading, slowly, one at a time, and not while somebody writes.
  router.post('/devices/:name/range', async (request, response) => {
    const range = bodyAs(rangeSchema, request, response);
    if (!range) return;
    const { name } = request.params;
    const master = await masterOf(name, response);
    if (!master) return;
    if (leases.holder()) return wrong(response, 409, 'held', 'A page is writing to the devices. Finish there first.');
    if (looking) return wrong(response, 409, 'busy', 'Registers are being looked through already. Wait for that.');
    looking = true;
    try {
      const { words, failure } = await readRange(
        master,
        range,
        (ms) => new Promise((resolve) => setTimeout(resolve, ms)),
        () => response.destroyed,
      );
      response.json({ words: [...words], problem: failure ? failureWords(failure) : null });
    } finally {
      looking = false;
    }
  });

  router.post('/lease', (request, response) => {
    const body = bodyAs(takeSchema, request, response);
    if (!body) return;
    const lease = leases.take(body.client);
    if (lease) response.json({ token: lease.token, lastsMs: leaseMs });
    else wrong(response, 409, 'held', 'Another page is writing to the devices. Finish there, or close it and wait twenty seconds.');
  });
  router.delete('/lease', (request, response) => {
    const body = bodyAs(releaseSchema, request, response);
    if (body) response.json({ ok: leases.release(body.token) });
  });

  const fewWrites = rateLimit({
    windowMs: 60_000,
    limit: perMinute.writes,
    standardHeaders: true,
    legacyHeaders: false,
    message: { code: 'too-fast', text: 'Too many writes. Wait a minute.' },
  });
  router.post('/confirm', fewWrites, async (request, response) => {
    const body = bodyAs(confirmSchema, request, response);
    if (!body) return;
    if (!leases.holds(body.token))
      return wrong(response, 409, 'no-lease', 'Another page is writing, or this one has waited too long. Ask for the devices again.');
    const device = await deviceOf(body.device, response);
    if (!device) return;
    if (unknown.has(body.device))
      return wrong(
        response,
        409,
        'unknown-state',
        `Nobody knows whether the last write to “${body.device}” was taken. Read “${body.device}” before anything is sent to it again.`,
      );
    response.json({
      confirmation: leases.confirm(
        body.token,
        body.steps.map((s) => ({ ...s, device: body.device, card: device.card })),
      ),
    });
  });
  router.post('/write', fewWrites, async (request, response) => {
    const body = bodyAs(writeSchema, request, response);
    if (!body) return;
    if (!leases.holds(body.token)) return wrong(response, 409, 'no-lease', 'Another page is writing, or this one has waited too long. Nothing was written.');
    const outcome = leases.once(body.token, body.confirmation, body.step, async (confirmed): Promise<Outcome> => {
      const { device, card } = confirmed;
      const entry = await entryOf(device);
      if (!entry || !hasRegisters(entry)) return { kind: 'refused', says: `“${device}” is no longer on the server’s list. Nothing was written.` };
      const master = wires.master(entry);
      // Until the outcome is known it is not: a server that fails here must not be trusted to have done nothing.
      unknown.add(device);
      const came = 'commit' in confirmed ? await commitSettings(master, card) : await writeSetting(master, card, confirmed.role, confirmed.value);
      if (came.kind !== 'unknown') unknown.delete(device);
      return came;
    });
    if (!outcome) return wrong(response, 409, 'not-confirmed', 'This step was not confirmed. Nothing was written.');
    response.json(await outcome);
  });

  router.get('/live', async (request, response) => {
    const { devices } = request.query;
    const names = (typeof devices === 'string' ? devices : '')
      .split(',')
      .filter((n) => n !== '')
      .slice(0, 24);
    response.set({ 'Content-Type': 'text/event-stream', Connection: 'keep-alive', 'X-Accel-Buffering': 'no' });
    response.flushHeaders();
    let open = true;
    response.on('close', () => {
      open = false;
    });
    const tell = (event: unknown): void => {
      response.write(`data: ${JSON.stringify(event)}\n\n`);
      (response as { flush?: () => void }).flush?.();
    };
    const taken = new Map<string, number>();
    while (open) {
      for (const name of names) {
        const entry = await entryOf(name);
        if (entry && !hasRegisters(entry)) {
          const { heard, problem, let: letGo } = wires.talker(entry).now();
          // A sample is told once; what came before this page looked is older than its moment.
          if (heard && heard.number !== taken.get(name) && now() - heard.at < freshMs)
            tell({ device: name, at: heard.at, fields: heard.fields, ...(problem === null ? {} : { odd: problem }), letGo });
          else if (heard === null || problem !== null || now() - heard.at >= silentMs)
            tell({ device: name, at: now(), problem: problem ?? `It has said nothing for ${Math.round((now() - (heard?.at ?? 0)) / 1000)} s.` });
          if (heard) taken.set(name, heard.number);
          continue;
        }
        const master = entry ? wires.master(entry) : null;
        const card = cards.get(name);
        const read =
          master && card
            ? await readLive(master, card)
            : { ok: false as const, says: master ? 'Nobody has said yet what it is.' : 'It is not on the server’s list.' };
        if (!open) return;
        tell(read.ok ? { device: name, at: now(), live: read.live } : { device: name, at: now(), problem: read.says });
      }
      await new Promise((resolve) => setTimeout(resolve, liveMs));
    }
  });
  return ended(router);
}

/** What nobody answers is no page of the application. */
function ended(router: Router): Router {
  router.use((_request, response) => wrong(response, 404, 'no-such-request', 'There is no such request.'));
  return router;
}

/** Passes the keys of simulated devices on; there are none beside real ones. */
export function simulationRoutes(list: DeviceList): Router {
  const router = Router();
  router.use(express.json({ limit: '10kb', type: 'application/json' }));
  const pass = async (response: Response, path: string, init?: RequestInit): Promise<void> => {
    if (list.simulation === null) return wrong(response, 404, 'no-simulation', 'No simulated devices run beside this server.');
    try {
      const answer = await fetch(`${list.simulation}${path}`, { ...init, signal: AbortSignal.timeout(20_000) });
      response
        .status(answer.status)
        .set('Cache-Control', 'no-store')
        .json(await answer.json());
    } catch {
      wrong(response, 502, 'simulation-gone', 'The simulated devices do not answer. Start them again with npm run demo.');
    }
  };
  router.get('/state', (_request, response) => pass(response, '/state'));
  router.post('/act', (request, response) =>
    pass(response, '/act', { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(request.body ?? {}) }),
  );
  return ended(router);
}
