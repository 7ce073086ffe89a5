import type { Server } from 'node:http';
import { controlServer, type Running } from './control';
import type { Device } from './device';
import { sitesOf, type Site } from './site';
import { reach } from './reach';
import { putOnWire, type Front } from './wire';

/** How often time moves on, and how often those that talk say something, ms. */
const tickMs = 250;
const sayMs = 1000;

/** Simulated devices with their keys to press. */
export interface Simulation {
  readonly running: Running;
  readonly control: Server;
  readonly controlPort: number;
  /** No serial lines could be made: why, in words; null where they were. */
  readonly withoutLines: string | null;
  close(): Promise<void>;
}

/**
 * Puts the devices of some jobs on the loopback: the keys to press at `port`, the devices at the ports after it. With port 0 all are free ones.
 *
 * @param texts job files
 * @param speed simulated seconds in a real one
 * @param onSerialLine the job whose devices share a serial line; those of the others each have a network address of their own
 */
export async function simulate(texts: readonly string[], port: number, speed: number, onSerialLine = 'skarrow'): Promise<Simulation> {
  let sites: readonly Site[] = sitesOf(texts);
  const fronts = new Map<string, Front>();
  const names = sites.flatMap((s) => s.devices.map((d) => d.name));
  const twice = names.find((n, i) => names.indexOf(n) !== i);
  if (twice !== undefined) throw new Error(`Two jobs have a device “${twice}”.`);
  const behind = (name: string): Device => {
    const device = sites.flatMap((s) => s.devices).find((d) => d.name === name);
    if (!device) throw new Error(`There is no device “${name}”.`);
    return device;
  };
  let next = port;
  // A front keeps its port when the site behind it is made anew.
  for (const name of names) fronts.set(name, await putOnWire(() => behind(name), port === 0 ? 0 : ++next));
  const reached = await reach(() => sites, fronts, { onSerialLine, brokerPort: port === 0 ? 0 : ++next });
  const running: Running = {
    addresses: reached.addresses,
    get sites() {
      return sites;
    },
    fronts,
    speed,
    reset() {
      sites = sitesOf(texts);
      running.speed = speed;
    },
  };
  let last = performance.now();
  const timer = setInterval(() => {
    const now = performance.now();
    // A machine that slept does not make up for hours at once.
    const seconds = Math.min(2, (now - last) / 1000) * running.speed;
    last = now;
    for (const site of sites) site.plant.advance(seconds);
  }, tickMs);
  const saying = setInterval(() => {
    reached.say();
  }, sayMs);
  const control = controlServer(running);
  await new Promise<void>((resolve, reject) => {
    control.once('error', reject);
    control.listen(port, '127.0.0.1', () => resolve());
  });
  const address = control.address();
  return {
    running,
    control,
    withoutLines: reached.withoutLines,
    controlPort: typeof address === 'object' && address ? address.port : port,
    close: async () => {
      clearInterval(timer);
      clearInterval(saying);
      control.closeAllConnections();
      await new Promise<void>((resolve) => control.close(() => resolve()));
      for (const front of fronts.values()) await front.close();
      await reached.close();
    },
  };
}
