import type { Server } from 'node:http';
import { controlServer, type Running } from './control';
import type { Device } from './device';
import { sitesOf, type Site } from './site';
import { putOnWire, type Front } from './wire';

/** How often time moves on, ms. */
const tickMs = 250;

/** Simulated devices with their keys to press. */
export interface Simulation {
  readonly running: Running;
  readonly control: Server;
  readonly controlPort: number;
  close(): Promise<void>;
}

/**
 * Puts the devices of some jobs on the loopback: the keys to press at `port`, the devices at the ports after it. With port 0 all are free ones.
 *
 * @param texts job files
 * @param speed simulated seconds in a real one
 */
export async function simulate(texts: readonly string[], port: number, speed: number): Promise<Simulation> {
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
  const running: Running = {
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
  const control = controlServer(running);
  await new Promise<void>((resolve, reject) => {
    control.once('error', reject);
    control.listen(port, '127.0.0.1', () => resolve());
  });
  const address = control.address();
  return {
    running,
    control,
    controlPort: typeof address === 'object' && address ? address.port : port,
    close: async () => {
      clearInterval(timer);
      control.closeAllConnections();
      await new Promise<void>((resolve) => control.close(() => resolve()));
      for (const front of fronts.values()) await front.close();
    },
  };
}
