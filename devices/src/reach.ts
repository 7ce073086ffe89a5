import { ptyPair, type PtyPair } from './pty';
import { answerOnLine, lineBaud, openLine } from './serial';
import type { Site } from './site';
import { linesOf, messageOf, startBroker } from './talk';
import type { Front } from './wire';

/** The job whose bank a monitor and a gateway talk about. */
const talkedOf = 'teasel';

/** How simulated devices are reached, beside their network addresses. */
export interface Reached {
  /** Entries of a list of devices, of those of a site and of those that only talk of it. */
  addresses(site: string): readonly unknown[];
  /** Lets those that talk say something. */
  say(): void;
  /** No serial lines could be made: why, in words; null where they were. */
  readonly withoutLines: string | null;
  close(): Promise<void>;
}

/**
 * Makes the serial lines, the talker and the broker.
 *
 * @param sites asked anew each time: what stands behind an address may be replaced
 * @param onSerialLine the job whose devices share a line
 */
export async function reach(
  sites: () => readonly Site[],
  fronts: ReadonlyMap<string, Front>,
  { onSerialLine, brokerPort }: { readonly onSerialLine: string; readonly brokerPort: number },
): Promise<Reached> {
  const siteOf = (id: string): Site | undefined => sites().find((s) => s.id === id);
  const closing: (() => Promise<unknown>)[] = [];
  const speakers: ((site: Site) => void)[] = [];
  const talkers: unknown[] = [];
  let withoutLines: string | null = null;

  /** A line with its near end open; null, and why, where there can be none. */
  async function line(): Promise<{ readonly pair: PtyPair; readonly end: Awaited<ReturnType<typeof openLine>> } | null> {
    const pair = await ptyPair();
    if (!pair) {
      withoutLines = 'There are no simulated serial lines: socat is not installed (Debian: sudo apt-get install socat).';
      return null;
    }
    const end = await openLine(pair.here);
    closing.push(async () => {
      await end.close();
      await pair.close();
    });
    return { pair, end };
  }

  const shared = siteOf(onSerialLine) ? await line() : null;
  if (shared) answerOnLine(shared.end, (number) => siteOf(onSerialLine)?.devices[number - 1]);
  if (siteOf(talkedOf)) {
    const talking = await line();
    if (talking) {
      speakers.push((site) => talking.end.write(Buffer.from(linesOf(site), 'latin1')));
      talkers.push({ name: `${talkedOf}-talker`, over: 'talker', path: talking.pair.there, baud: lineBaud });
    }
    const broker = await startBroker(brokerPort);
    closing.push(() => broker.close());
    speakers.push((site) => broker.say(`${talkedOf}/now`, messageOf(site, Math.round(Date.now() / 1000))));
    talkers.push({ name: `${talkedOf}-broker`, over: 'broker', url: broker.url, topic: `${talkedOf}/#` });
  }

  return {
    withoutLines,
    addresses: (id) => [
      ...(siteOf(id)?.devices ?? []).map((d, i) =>
        id === onSerialLine && shared
          ? { name: d.name, over: 'serial', path: shared.pair.there, baud: lineBaud, unit: i + 1 }
          : { name: d.name, over: 'tcp', host: '127.0.0.1', port: fronts.get(d.name)?.port ?? 0 },
      ),
      ...(id === talkedOf ? talkers : []),
    ],
    say() {
      const site = siteOf(talkedOf);
      if (site) for (const speak of speakers) speak(site);
    },
    close: async () => {
      for (const close of closing) await close();
    },
  };
}
