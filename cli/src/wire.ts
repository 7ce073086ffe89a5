import { cardSchema, type Card } from '@calm-keel/core/card';
import { stages } from '@calm-keel/core/charger';
import { parseJson } from '@calm-keel/core/job';
import { cardOf, devicesOf } from '@calm-keel/core/settings';
import { readLive, readSettings } from '@calm-keel/core/wire';
import { hasRegisters, listFromFile, listFromSimulation, makeWires, type DeviceList, type Entry, type RegisterEntry } from '@calm-keel/wire';
import { readBytes } from './files.js';
import { optionsIn } from './options.js';
import { complain, exit, json, readJobFile, type Out } from './out.js';

const options = { devices: 'string', simulated: 'boolean', job: 'string', card: 'string', seconds: 'string' } as const;

/** How long `watch` goes on where nobody says, s, and how often it asks, ms. */
const usualSeconds = 60;
const everyMs = 1000;

/** `keel wire`: what is on a wire, read and never written. */
export async function wire(args: readonly string[], out: Out): Promise<number> {
  const asked = optionsIn(args, options);
  if (typeof asked === 'string') {
    out.say(asked);
    return exit.badInput;
  }
  const [what, ...names] = asked.paths;
  const { devices, simulated, job, card, seconds } = asked.values;
  const list = listOf(devices, simulated === true);
  if (typeof list === 'string') {
    out.say(list);
    return exit.badInput;
  }
  const entries = await list.entries();
  if (what === 'list') {
    json({ devices: entries.map((e) => ({ name: e.name, over: e.over, kind: hasRegisters(e) ? 'registers' : 'talks' })) }, out);
    return exit.proved;
  }
  if ((what !== 'read' && what !== 'watch') || names.length === 0 || (what === 'read' && names.length > 1)) {
    out.say('keel wire list, keel wire read NAME, or keel wire watch NAME…; keel --help tells how.');
    return exit.badInput;
  }
  const missing = names.find((n) => !entries.some((e) => e.name === n));
  if (missing !== undefined) {
    out.say(`“${missing}” is not on the list. It has ${entries.map((e) => e.name).join(', ') || 'no devices'}.`);
    return exit.badInput;
  }
  const chosen = entries.filter((e) => names.includes(e.name));
  const cards = cardsFor(chosen.filter(hasRegisters), job, card, out);
  if (!cards) return exit.badInput;
  const wires = makeWires();
  try {
    const [only] = chosen;
    if (what === 'watch') return await watch(chosen, cards, wires, Number(seconds ?? usualSeconds), out);
    if (!only || !hasRegisters(only)) {
      out.say(`“${names[0] ?? ''}” only talks: nothing can be asked of it. Listen with keel wire watch ${names[0] ?? ''}.`);
      return exit.badInput;
    }
    const found = cards.get(only.name);
    if (!found) return exit.badInput;
    const read = await readSettings(wires.master(only), found);
    if (!read.ok) {
      out.say(`${only.name}: ${read.says}`);
      return exit.open;
    }
    json({ device: only.name, card: `${found.maker} ${found.model}`, firmware: read.firmware, values: read.values }, out);
    return exit.proved;
  } finally {
    wires.close();
  }
}

function listOf(path: string | undefined, simulated: boolean): DeviceList | string {
  const file = path ?? process.env['DEVICES'];
  if (simulated) return listFromSimulation(Number(process.env['DEVICES_PORT'] ?? 4180));
  if (file === undefined) return 'Name a list of devices: --devices DEVICES.json, or --simulated for those of npm run demo. docs/wires.md has examples.';
  try {
    return listFromFile(file);
  } catch (error) {
    return (error as Error).message;
  }
}

/** The card of each device: of the job that names it on the wire, or one file for the one device. */
function cardsFor(entries: readonly RegisterEntry[], jobPath: string | undefined, cardPath: string | undefined, out: Out): ReadonlyMap<string, Card> | null {
  const cards = new Map<string, Card>();
  if (entries.length === 0) return cards;
  if (cardPath !== undefined) {
    const bytes = readBytes(cardPath);
    const parsed = bytes.ok ? parseJson(new TextDecoder().decode(bytes.value), 'card') : bytes;
    if (!parsed.ok) {
      complain(parsed.problems, out, cardPath);
      return null;
    }
    const card = cardSchema.safeParse(parsed.value);
    if (!card.success) {
      out.say(`${cardPath} is no card. keel check ${cardPath} says what is wrong.`);
      return null;
    }
    for (const e of entries) cards.set(e.name, card.data);
  } else if (jobPath !== undefined) {
    const job = readJobFile(jobPath, out);
    if (!job) return null;
    for (const d of devicesOf(job)) {
      const card = cardOf(job, d);
      if (d.link !== undefined && card) cards.set(d.link, card);
    }
  }
  const without = entries.find((e) => !cards.get(e.name)?.telemetry);
  if (!without) return cards;
  out.say(
    cards.has(without.name)
      ? `The card of “${without.name}” has no registers.`
      : `What “${without.name}” is, nobody has said. Name its card with --card CARD.json, or a job that has it on the wire with --job JOB.`,
  );
  return null;
}

/** Prints a line of JSON for every sample until the time is over. */
async function watch(
  entries: readonly Entry[],
  cards: ReadonlyMap<string, Card>,
  wires: ReturnType<typeof makeWires>,
  seconds: number,
  out: Out,
): Promise<number> {
  if (!(seconds > 0 && seconds <= 86_400)) {
    out.say('--seconds is a number from 1 to 86400.');
    return exit.badInput;
  }
  const until = Date.now() + seconds * 1000;
  const taken = new Map<string, number>();
  const said = new Map<string, string>();
  let samples = 0;
  const trouble = (name: string, why: string): void => {
    if (said.get(name) !== why) out.say(`${name}: ${why}`);
    said.set(name, why);
  };
  for (;;) {
    for (const entry of entries) {
      if (hasRegisters(entry)) {
        const card = cards.get(entry.name);
        if (!card) continue;
        const read = await readLive(wires.master(entry), card);
        if (!read.ok) {
          trouble(entry.name, read.says);
          continue;
        }
        const { stage, ...values } = read.live;
        out.print(
          JSON.stringify({
            at: new Date().toISOString(),
            device: entry.name,
            ...values,
            ...(typeof stage === 'number' ? { stage: stages[stage] ?? null } : {}),
          }),
        );
      } else {
        const { heard, problem } = wires.talker(entry).now();
        if (problem !== null) trouble(entry.name, problem);
        if (!heard || heard.number === taken.get(entry.name)) continue;
        taken.set(entry.name, heard.number);
        out.print(JSON.stringify({ at: new Date(heard.at).toISOString(), device: entry.name, ...heard.fields }));
      }
      samples++;
      said.delete(entry.name);
    }
    if (Date.now() + everyMs > until) return samples > 0 ? exit.proved : exit.open;
    await new Promise((resolve) => setTimeout(resolve, everyMs));
  }
}
