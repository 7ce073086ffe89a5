import { readFileSync } from 'node:fs';
import * as z from 'zod';

/** A device that may be spoken to. Nothing outside this list is ever connected to. */
export interface Entry {
  readonly name: string;
  readonly host: string;
  readonly port: number;
  readonly unit: number;
}

const entrySchema = z.object({
  name: z.string().min(1).max(60),
  host: z.string().min(1).max(200),
  port: z.int().min(1).max(65_535),
  unit: z.int().min(0).max(255).default(1),
});

/** The list of devices: a file of the owner’s, or the simulated ones beside this server. */
export interface DeviceList {
  entries(): Promise<readonly Entry[]>;
  /** Where simulated devices have their keys pressed; null for real ones. */
  readonly simulation: string | null;
}

/** No devices: everything is done by hand. */
export const noDevices: DeviceList = { entries: () => Promise.resolve([]), simulation: null };

/**
 * Devices from a JSON file: `[{"name", "host", "port", "unit"}]`.
 *
 * @throws Error with a sentence where the file cannot be read
 */
export function listFromFile(path: string): DeviceList {
  let document: unknown;
  try {
    document = JSON.parse(readFileSync(path, 'utf8'));
  } catch (error) {
    throw new Error(`The list of devices ${path} cannot be read: ${error instanceof Error ? error.message : 'unknown reason'}.`);
  }
  const read = z.array(entrySchema).max(64).safeParse(document);
  if (!read.success)
    throw new Error(`The list of devices ${path} is not as it should be: ${read.error.issues.map((i) => `${i.path.join('.')} ${i.message}`).join('; ')}.`);
  const entries = read.data;
  return { entries: () => Promise.resolve(entries), simulation: null };
}

const stateSchema = z.object({ sites: z.array(z.object({ devices: z.array(z.object({ name: z.string().max(60), port: z.int().min(0).max(65_535) })) })) });

/** Simulated devices on this machine, asked for each time: they may start after the server. */
export function listFromSimulation(port: number): DeviceList {
  const base = `http://127.0.0.1:${port}`;
  return {
    simulation: base,
    async entries() {
      try {
        const response = await fetch(`${base}/state`, { signal: AbortSignal.timeout(2000) });
        const read = stateSchema.safeParse(await response.json());
        return read.success ? read.data.sites.flatMap((s) => s.devices.map((d) => ({ name: d.name, host: '127.0.0.1', port: d.port, unit: 1 }))) : [];
      } catch {
        return [];
      }
    },
  };
}
