import { readFileSync } from 'node:fs';
import * as z from 'zod';

const nameSchema = z.string().min(1).max(60);
const unitSchema = z.int().min(0).max(255).default(1);
const hostSchema = z.string().min(1).max(200);
const portSchema = z.int().min(1).max(65_535);

/** How a serial port is set: as the device's manual says. */
const serialSchema = z.object({
  /** `/dev/ttyUSB0`, better `/dev/serial/by-id/…`, which stays the same when plugs change; `COM3` on Windows. */
  path: z.string().min(1).max(300),
  baud: z.int().min(300).max(1_000_000).default(9600),
  dataBits: z.union([z.literal(7), z.literal(8)]).default(8),
  parity: z.enum(['none', 'even', 'odd']).default('none'),
  stopBits: z.union([z.literal(1), z.literal(2)]).default(1),
});
export type SerialSettings = z.infer<typeof serialSchema>;

/** A device with registers at a network address (Modbus TCP). Lists from before other wires name no wire: they mean this one. */
const tcpSchema = z.strictObject({
  name: nameSchema,
  over: z.literal('tcp').default('tcp'),
  host: hostSchema,
  port: portSchema.default(502),
  unit: unitSchema,
});
/** A device with registers on a serial line (Modbus RTU). Several with the same path share the line. */
const rtuSchema = z.strictObject({ name: nameSchema, over: z.literal('serial'), ...serialSchema.shape, unit: z.int().min(1).max(247) });
/** A device that only talks: lines of names and values, or JSON lines, on a serial port. */
const talkerSchema = z.strictObject({ name: nameSchema, over: z.literal('talker'), ...serialSchema.shape });
/** Messages of a broker (MQTT). */
const brokerSchema = z.strictObject({
  name: nameSchema,
  over: z.literal('broker'),
  url: z
    .string()
    .regex(/^(mqtt|mqtts|ws|wss):\/\/.+/, 'begins with mqtt:// or mqtts://')
    .max(300),
  /** One topic, or a pattern of the broker's. */
  topic: z.string().min(1).max(300),
  user: z.string().max(200).optional(),
  password: z.string().max(200).optional(),
});
const entrySchema = z.union([rtuSchema, talkerSchema, brokerSchema, tcpSchema]);

/** A device that may be spoken or listened to. Nothing outside this list is ever connected to. */
export type Entry = z.infer<typeof entrySchema>;
/** Those whose registers are read and written. */
export type RegisterEntry = Extract<Entry, { over: 'tcp' | 'serial' }>;
/** Those that are only listened to. */
export type TalkingEntry = Extract<Entry, { over: 'talker' | 'broker' }>;

export const hasRegisters = (entry: Entry): entry is RegisterEntry => entry.over === 'tcp' || entry.over === 'serial';

/** The list of devices: a file of the owner’s, or the simulated ones beside this server. */
export interface DeviceList {
  entries(): Promise<readonly Entry[]>;
  /** Where simulated devices have their keys pressed; null for real ones. */
  readonly simulation: string | null;
}

/** No devices: everything is done by hand. */
export const noDevices: DeviceList = { entries: () => Promise.resolve([]), simulation: null };

const listSchema = z.array(entrySchema).max(64);
const kinds = { tcp: tcpSchema, serial: rtuSchema, talker: talkerSchema, broker: brokerSchema } as const;

/** What is wrong with a list, each with its place: of an entry that names its wire, by what that wire needs. */
function faultsOf(document: unknown): readonly string[] {
  if (!Array.isArray(document)) return ['it is not a list of devices: it begins with [ and ends with ]'];
  if (document.length > 64) return [`it has ${document.length} devices; 64 are the most`];
  return document.flatMap((entry: unknown, i): string[] => {
    const place = `device ${i + 1}`;
    if (typeof entry !== 'object' || entry === null) return [`${place} is not {…}`];
    const over = (entry as { over?: unknown }).over ?? 'tcp';
    if (typeof over !== 'string' || !Object.hasOwn(kinds, over)) return [`${place}: “over” is one of ${Object.keys(kinds).join(', ')}`];
    const read = kinds[over as keyof typeof kinds].safeParse(entry);
    return read.success ? [] : read.error.issues.map((issue) => `${place}: ${[issue.path.join('.'), issue.message].filter(Boolean).join(' ')}`);
  });
}

/**
 * Devices from a JSON file; docs/wires.md has an example of each kind.
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
  const faults = faultsOf(document);
  if (faults.length > 0) throw new Error(`The list of devices ${path} is not as it should be: ${faults.slice(0, 6).join('; ')}.`);
  const entries = listSchema.parse(document);
  const twice = entries.find((e, i) => entries.findIndex((other) => other.name === e.name) !== i);
  if (twice) throw new Error(`The list of devices ${path} has two called “${twice.name}”. Give each a name of its own.`);
  const clash = unlikeLines(entries);
  if (clash !== null) throw new Error(`The list of devices ${path} sets ${clash} in two ways. Devices on one line share its speed, parity and bits.`);
  return { entries: () => Promise.resolve(entries), simulation: null };
}

/** A port that two entries would open differently, or that one listens to while another asks; null where there is none. */
function unlikeLines(entries: readonly Entry[]): string | null {
  const seen = new Map<string, string>();
  for (const e of entries) {
    if (e.over !== 'serial' && e.over !== 'talker') continue;
    const how = JSON.stringify([e.over, e.baud, e.dataBits, e.parity, e.stopBits]);
    const before = seen.get(e.path);
    if (before !== undefined && (before !== how || e.over === 'talker')) return e.path;
    seen.set(e.path, how);
  }
  return null;
}

const stateSchema = z.object({ sites: z.array(z.object({ addresses: listSchema })) });

/** Simulated devices on this machine, asked for each time: they may start after the server. */
export function listFromSimulation(port: number): DeviceList {
  const base = `http://127.0.0.1:${port}`;
  return {
    simulation: base,
    async entries() {
      try {
        const response = await fetch(`${base}/state`, { signal: AbortSignal.timeout(2000) });
        const read = stateSchema.safeParse(await response.json());
        return read.success ? read.data.sites.flatMap((s) => s.addresses) : [];
      } catch {
        return [];
      }
    },
  };
}
