import { spawn, type ChildProcess } from 'node:child_process';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { isAbsolute, join } from 'node:path';
import { repo } from './repo';

/** Whether a port of the loopback can be had now. */
const isFree = (port: number): Promise<boolean> =>
  new Promise((resolve) => {
    const probe = createServer();
    probe.on('error', () => {
      resolve(false);
    });
    probe.listen(port, '127.0.0.1', () =>
      probe.close(() => {
        resolve(true);
      }),
    );
  });

/** The first of so many neighbouring ports that are all free, sought from a place of each worker’s own. */
export async function freePorts(count: number): Promise<number> {
  const worker = Number(process.env['TEST_PARALLEL_INDEX'] ?? 0);
  for (let from = 4400 + worker * 400; from < 4800 + worker * 400; from += count) {
    const free = await Promise.all(Array.from({ length: count }, (_, i) => isFree(from + i)));
    if (free.every(Boolean)) return from;
  }
  throw new Error(`There are no ${count} free ports beside each other.`);
}

/** A program of ours that runs until it is stopped. */
export interface Running {
  readonly base: string;
  readonly output: () => string;
  readonly stop: () => Promise<void>;
}

/**
 * Starts one of the built programs and waits until it answers at this path; says what it printed when it ends instead.
 *
 * @param end what ends it: one that has started others passes this on to them, and nothing could pass a kill on
 */
export async function started(
  program: string,
  port: number,
  health: string,
  env: Readonly<Record<string, string>>,
  end: NodeJS.Signals = 'SIGKILL',
): Promise<Running> {
  const child: ChildProcess = spawn(process.execPath, [isAbsolute(program) ? program : repo(program)], { env: { ...process.env, ...env } });
  let output = '';
  let ended = false;
  for (const stream of [child.stdout, child.stderr]) stream?.on('data', (data: Buffer) => (output += data.toString()));
  const closed = new Promise<void>((resolve) => {
    child.on('close', () => {
      ended = true;
      resolve();
    });
  });
  const base = `http://127.0.0.1:${port}`;
  while (!ended && !(await fetch(base + health).catch(() => null))?.ok) await new Promise((resolve) => setTimeout(resolve, 50));
  if (ended) throw new Error(`${program} ended instead of answering: ${output}`);
  return {
    base,
    output: () => output,
    stop: () => {
      // A page that still listens would keep a polite server waiting; nothing of it is needed any more.
      child.kill(end);
      return closed;
    },
  };
}

/** A server of one’s own: it can be stopped without taking anybody else’s away, and started again where it was. */
export async function ownServer(env: Readonly<Record<string, string>>, at?: number): Promise<Running> {
  const port = at ?? (await freePorts(2));
  return started('server/dist/main.js', port, '/health', { DEVICES_PORT: '', ...env, PORT: String(port) });
}

/**
 * Simulated devices and a server that speaks to them, for one worker: what one journey presses does not stand in another’s way.
 *
 * @param line the job whose devices share a serial line
 */
export async function ownGround(line = ''): Promise<Running> {
  const port = await freePorts(20);
  const devicesPort = String(port + 2);
  const devices = await started('devices/dist/main.js', port + 2, '/state', { DEVICES_PORT: devicesPort, ...(line === '' ? {} : { DEVICES_LINE: line }) });
  const server = await started('server/dist/main.js', port, '/health', { DEVICES_PORT: devicesPort, PORT: String(port) });
  return { ...server, stop: () => Promise.all([server.stop(), devices.stop()]).then(() => undefined) };
}

/** A copy of the built application, to be changed. */
export function copyOfApplication(): { readonly folder: string; readonly remove: () => void } {
  const folder = mkdtempSync(join(tmpdir(), 'keel-app-'));
  cpSync(repo('app/dist/browser'), folder, { recursive: true });
  return {
    folder,
    remove: () => {
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
