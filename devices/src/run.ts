import type { Server } from 'node:http';
import { controlServer, type Running } from './control';
import type { Device } from './device';
import { sitesOf, type Site } from './site';
import { ptyPair, type PtyPair } from './pty';
import { answerOnLine, lineBaud, openLine } from './serial';
import { linesOf, messageOf, startBroker } from './talk';
import { putOnWire, type Front } from './wire';

/** How often time moves on, and how often those that talk say something, ms. */
const tickMs = 250;
const sayMs = 1000;
/** The job whose bank a monitor and a gateway talk about. */
const talkedOf = 'teasel';

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
  const closing: (() => Promise<unknown>)[] = [];
  const addresses = new Map<string, unknown[]>();
  const addressesOf = (site: string): unknown[] => {
    const known = addresses.get(site) ?? [];
    addresses.set(site, known);
    return known;
  };
  const speakers: (() => void)[] = [];
  const siteOf = (id: string): Site | undefined => sites.find((s) => s.id === id);
  let withoutLines: string | null = null;

  /** A line with somebody at this end of it; null, and why, where there can be none. */
  async function line(): Promise<PtyPair | null> {
    const pair = await ptyPair();
    if (pair) closing.push(() => pair.close());
    else withoutLines = 'There are no simulated serial lines: socat is not installed (Debian: sudo apt-get install socat).';
    return pair;
  }

  const shared = siteOf(onSerialLine) ? await line() : null;
  if (shared) {
    const end = await openLine(shared.here);
    closing.unshift(() => end.close());
    answerOnLine(end, (number) => siteOf(onSerialLine)?.devices[number - 1]);
  }
  for (const site of sites)
    for (const [i, d] of site.devices.entries())
      addressesOf(site.id).push(
        site.id === onSerialLine && shared
          ? { name: d.name, over: 'serial', path: shared.there, baud: lineBaud, unit: i + 1 }
          : { name: d.name, over: 'tcp', host: '127.0.0.1', port: fronts.get(d.name)?.port ?? 0 },
      );
  const talked = siteOf(talkedOf);
  if (talked) {
    const talking = await line();
    if (talking) {
      const end = await openLine(talking.here);
      closing.unshift(() => end.close());
      speakers.push(() => {
        const site = siteOf(talkedOf);
        if (site) end.write(Buffer.from(linesOf(site), 'latin1'));
      });
      addressesOf(talkedOf).push({ name: `${talkedOf}-talker`, over: 'talker', path: talking.there, baud: lineBaud });
    }
    const broker = await startBroker(port === 0 ? 0 : ++next);
    closing.unshift(() => broker.close());
    speakers.push(() => {
      const site = siteOf(talkedOf);
      if (site) broker.say(`${talkedOf}/now`, messageOf(site, Math.round(Date.now() / 1000)));
    });
    addressesOf(talkedOf).push({ name: `${talkedOf}-broker`, over: 'broker', url: broker.url, topic: `${talkedOf}/#` });
  }
  const running: Running = {
    addresses: (site) => addresses.get(site) ?? [],
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
    for (const say of speakers) say();
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
    withoutLines,
    controlPort: typeof address === 'object' && address ? address.port : port,
    close: async () => {
      clearInterval(timer);
      clearInterval(saying);
      control.closeAllConnections();
      await new Promise<void>((resolve) => control.close(() => resolve()));
      for (const front of fronts.values()) await front.close();
      for (const close of closing) await close();
    },
  };
}
