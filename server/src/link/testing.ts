import { mkdtempSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Outcome } from '@calm-keel/core/wire';
import { listFromSimulation } from '@calm-keel/wire';
import { createServer } from '../server.js';
import type { LinkOptions } from './routes.js';

/** What a request was answered with. */
export interface Answered {
  readonly status: number;
  readonly body: Record<string, unknown>;
}

/** A server that speaks to simulated devices, and a page of it. For specs. */
export interface LinkClient {
  readonly base: string;
  send(method: string, path: string, body?: unknown): Promise<Answered>;
  /** Presses a key of the simulation. */
  act(action: unknown): Promise<Answered>;
  fault(device: string, name: string, on?: boolean): Promise<Answered>;
  values(device: string): Promise<Record<string, number | string>>;
  /** Takes the lease and confirms steps; each can then be written. */
  confirmed(device: string, steps: readonly unknown[], client?: string): Promise<{ token: string; write(step: string): Promise<Answered> }>;
  write(device: string, role: string, value: number | string): Promise<Outcome>;
  close(): Promise<void>;
}

/**
 * Starts such a server.
 *
 * @param simulation where its keys are pressed
 * @param site what the names of its devices begin with
 */
export async function linkTo(simulation: { readonly controlPort: number }, site: string, options: LinkOptions): Promise<LinkClient> {
  const server: Server = createServer(mkdtempSync(join(tmpdir(), 'keel-')), listFromSimulation(simulation.controlPort), options).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const client: LinkClient = {
    base,
    async send(method, path, body) {
      const response = await fetch(base + path, {
        method,
        ...(body === undefined ? {} : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
      });
      return { status: response.status, body: (await response.json()) as Record<string, unknown> };
    },
    act: (action) => client.send('POST', '/api/simulation/act', action),
    fault: (device, name, on = true) => client.act({ do: 'fault', device: `${site}-${device}`, fault: name, on }),
    values: async (device) => (await client.send('GET', `/api/link/devices/${site}-${device}/values`)).body['values'] as Record<string, number | string>,
    async confirmed(device, steps, page = 'page-one-1') {
      const { token } = (await client.send('POST', '/api/link/lease', { client: page })).body as { token: string };
      const { confirmation } = (await client.send('POST', '/api/link/confirm', { token, device: `${site}-${device}`, steps })).body as { confirmation: string };
      return { token, write: (step) => client.send('POST', '/api/link/write', { token, confirmation, step }) };
    },
    async write(device, role, value) {
      const { write } = await client.confirmed(device, [{ step: 's', role, value }]);
      return (await write('s')).body as unknown as Outcome;
    },
    close: async () => {
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
    },
  };
  return client;
}
