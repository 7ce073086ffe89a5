import { makeSerialBus, type Master, type Talker } from '@calm-keel/core/wire';
import { waits, type Bus } from './bus';
import { type RegisterEntry, type TalkingEntry } from './list';
import { openSerial } from './serial';
import { openTalker } from './talkers';
import { makeTcpBus } from './tcp';

/** Everything that is open: one bus for each line or address, one ear for each talker, whoever asks. */
export interface Wires {
  /** The device of an entry, over the bus that it shares with its neighbours. */
  master(entry: RegisterEntry): Master;
  talker(entry: TalkingEntry): Talker;
  close(): void;
}

/** What tells one line from another: an entry whose line was set otherwise in the list gets a new one. */
const lineOf = (entry: RegisterEntry): string =>
  entry.over === 'tcp' ? `tcp ${entry.host} ${entry.port}` : `serial ${entry.path} ${entry.baud} ${entry.dataBits}${entry.parity}${entry.stopBits}`;

/**
 * Opens wires as they are asked for.
 *
 * @param timeoutMs how long an answer of a device is waited for; the usual time of its wire where it is left out
 */
export function makeWires({ timeoutMs, now }: { readonly timeoutMs?: number | undefined; readonly now?: (() => number) | undefined } = {}): Wires {
  const buses = new Map<string, Bus>();
  const talkers = new Map<string, { how: string; talker: Talker }>();
  return {
    master(entry) {
      const line = lineOf(entry);
      let bus = buses.get(line);
      if (!bus) {
        bus = entry.over === 'tcp' ? makeTcpBus(entry.host, entry.port, timeoutMs) : makeSerialBus(openSerial(entry), waits, timeoutMs);
        buses.set(line, bus);
      }
      return bus.unit(entry.unit);
    },
    talker(entry) {
      const how = JSON.stringify(entry);
      const open = talkers.get(entry.name);
      if (open?.how === how) return open.talker;
      open?.talker.close();
      const talker = openTalker(entry, now);
      talkers.set(entry.name, { how, talker });
      return talker;
    },
    close() {
      for (const bus of buses.values()) bus.close();
      for (const { talker } of talkers.values()) talker.close();
      buses.clear();
      talkers.clear();
    },
  };
}
