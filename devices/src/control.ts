import { createServer, type IncomingMessage, type Server } from 'node:http';
import * as z from 'zod';
import { faultKinds, isFault } from './faults';
import type { Site } from './site';
import type { Front } from './wire';

/** Everything that runs. */
export interface Running {
  readonly sites: readonly Site[];
  /** Where each device listens, by name. */
  readonly fronts: ReadonlyMap<string, Front>;
  /** How each device of a site, and each that only talks of it, is reached: entries of a list of devices. */
  addresses(site: string): readonly unknown[];
  /** Simulated seconds in one real second; 0 stands still. */
  speed: number;
  /** Puts everything back as it was at the start. */
  reset(): void;
}

const actionSchema = z.discriminatedUnion('do', [
  z.object({ do: z.literal('fault'), device: z.string().max(60), fault: z.string().refine(isFault, 'name a fault'), on: z.boolean() }),
  /** The sensor of a charger is taken off and held at a temperature; null puts it back. */
  z.object({ do: z.literal('sensor'), device: z.string().max(60), celsius: z.number().min(-40).max(80).nullable() }),
  z.object({ do: z.literal('cut'), device: z.string().max(60) }),
  z.object({
    do: z.literal('conditions'),
    site: z.string().max(60),
    light: z.number().min(0).max(1).optional(),
    shiftC: z.number().min(-60).max(60).optional(),
    engine: z.boolean().nullable().optional(),
    loadA: z.number().min(0).max(500).optional(),
  }),
  z.object({ do: z.literal('speed'), speed: z.number().min(0).max(600) }),
  /** Lets time pass at once, for those who do not want to wait. */
  z.object({ do: z.literal('pass'), seconds: z.number().min(0).max(86_400) }),
  z.object({ do: z.literal('reset') }),
]);

/** The present state, for a page that shows and presses. */
function state(running: Running) {
  return {
    speed: running.speed,
    faultKinds,
    sites: running.sites.map((site) => ({
      id: site.id,
      name: site.name,
      addresses: running.addresses(site.id),
      minuteOfDay: site.plant.minuteOfDay(),
      bank: site.plant.bank(),
      conditions: { ...site.plant.conditions, shiftC: site.shiftC },
      devices: site.devices.map((d) => ({
        name: d.name,
        title: d.charger.name,
        model: `${d.card.maker} ${d.card.model}`,
        port: running.fronts.get(d.name)?.port ?? 0,
        faults: [...d.faults],
        sensorC: site.held.get(d.name) ?? null,
        hasSensor: d.charger.sensor.fitted === true && d.card.sensor.reads !== 'none',
        unsaved: d.unsaved(),
        stage: site.plant.reading(d.charger.id)?.stage ?? null,
      })),
    })),
  };
}

function act(running: Running, action: z.infer<typeof actionSchema>): string | null {
  const device = (name: string) => running.sites.flatMap((s) => s.devices).find((d) => d.name === name);
  switch (action.do) {
    case 'fault': {
      const d = device(action.device);
      if (!d || !isFault(action.fault)) return `There is no device “${action.device}”.`;
      d.press(action.fault, action.on);
      return null;
    }
    case 'sensor': {
      const site = running.sites.find((s) => s.devices.some((d) => d.name === action.device));
      const d = device(action.device);
      if (!site || !d) return `There is no device “${action.device}”.`;
      site.plant.holdSensor(d.charger.id, action.celsius);
      site.held.set(d.name, action.celsius);
      return null;
    }
    case 'cut': {
      const d = device(action.device);
      if (!d) return `There is no device “${action.device}”.`;
      d.cut();
      return null;
    }
    case 'conditions': {
      const site = running.sites.find((s) => s.id === action.site);
      if (!site) return `There is no site “${action.site}”.`;
      const { conditions } = site.plant;
      if (action.light !== undefined) conditions.light = action.light;
      if (action.loadA !== undefined) conditions.loadA = action.loadA;
      if (action.engine !== undefined) conditions.engine = action.engine;
      if (action.shiftC !== undefined) {
        site.shiftC = action.shiftC;
        site.plant.shiftTo(action.shiftC);
      }
      return null;
    }
    case 'speed':
      running.speed = action.speed;
      return null;
    case 'pass':
      for (const site of running.sites) site.plant.advance(action.seconds);
      return null;
    case 'reset':
      running.reset();
      return null;
  }
}

const most = 10_000;

/** The body of a request, at most ten thousand characters. */
async function bodyOf(request: IncomingMessage): Promise<string> {
  let text = '';
  for await (const chunk of request) {
    text += String(chunk);
    if (text.length > most) throw new Error('too long');
  }
  return text;
}

/** The keys to press, over plain HTTP on the loopback: GET /state, POST /act with one action. */
export function controlServer(running: Running): Server {
  return createServer((request, response) => {
    const answer = (status: number, body: unknown): void => {
      response.writeHead(status, { 'content-type': 'application/json', 'cache-control': 'no-store' }).end(JSON.stringify(body));
    };
    const handle = async (): Promise<void> => {
      if (request.method === 'GET' && request.url === '/state') return answer(200, state(running));
      if (request.method !== 'POST' || request.url !== '/act') return answer(404, { text: 'There is nothing here. Ask GET /state or POST /act.' });
      let document: unknown;
      try {
        document = JSON.parse(await bodyOf(request));
      } catch {
        return answer(400, { text: 'This is not JSON.' });
      }
      const read = actionSchema.safeParse(document);
      if (!read.success) return answer(400, { text: read.error.issues.map((i) => `${i.path.join('.')}: ${i.message}`).join('; ') });
      const why = act(running, read.data);
      if (why) return answer(404, { text: why });
      return answer(200, state(running));
    };
    handle().catch((error: unknown) => answer(500, { text: error instanceof Error ? error.message : 'failed' }));
  });
}
