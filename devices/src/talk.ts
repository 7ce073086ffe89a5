import type { AddressInfo } from 'node:net';
import { createServer } from 'node:net';
import { Aedes } from 'aedes';
import { displayText } from '@calm-keel/core/card';
import { stages } from '@calm-keel/core/charger';
import type { Site } from './site';

/** What stands on a site's monitor, as its display calls and shows it. */
const settingsOf = (site: Site): readonly string[] => {
  const monitor = site.devices.find((d) => d.card.kind === 'monitor');
  const values = monitor?.values() ?? {};
  return (monitor?.card.parameters ?? []).flatMap((p) => {
    const value = values[p.role];
    return value === undefined ? [] : [`${p.label}=${typeof value === 'number' ? displayText(p, value).replace(/\u00a0/g, ' ') : value}`];
  });
};

/** What a monitor that only talks says of a bank: lines of names and values, one sample, with what is set on it behind. */
export function linesOf(site: Site): string {
  const bank = site.plant.bank();
  const lines = [
    `volts=${bank.volts.toFixed(2)}`,
    `amps=${bank.amps.toFixed(2)}`,
    `charge=${(100 * bank.counted).toFixed(1)} %`,
    `battery temp=${bank.celsius.toFixed(1)} C`,
    ...settingsOf(site),
  ];
  return `${lines.join('\r\n')}\r\n\r\n`;
}

/** What a gateway tells a broker of a site: the bank, and each charger as it reports itself. */
export function messageOf(site: Site, seconds: number): string {
  const bank = site.plant.bank();
  const two = (v: number): number => Number(v.toFixed(2));
  const chargers = site.devices.flatMap((d) => {
    const own = site.plant.reading(d.charger.id);
    return own ? [[d.charger.id, { amps: two(own.amps), stage: stages.includes(own.stage) ? own.stage : '' }] as const] : [];
  });
  return JSON.stringify({ time: seconds, bank: { volts: two(bank.volts), amps: two(bank.amps), celsius: two(bank.celsius) }, ...Object.fromEntries(chargers) });
}

/** A broker on the loopback. */
export interface Broker {
  readonly url: string;
  say(topic: string, text: string): void;
  close(): Promise<void>;
}

/** Starts a broker at a port; 0 for any that is free. */
export async function startBroker(port: number): Promise<Broker> {
  const broker = await Aedes.createBroker();
  const server = createServer(broker.handle);
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () => resolve());
  });
  const at = (server.address() as AddressInfo).port;
  return {
    url: `mqtt://127.0.0.1:${at}`,
    say: (topic, text) => {
      broker.publish({ cmd: 'publish', topic, payload: Buffer.from(text), qos: 0, retain: false, dup: false }, () => undefined);
    },
    close: async () => {
      await new Promise<void>((resolve) => broker.close(() => resolve()));
      await new Promise<void>((resolve) => server.close(() => resolve()));
    },
  };
}
