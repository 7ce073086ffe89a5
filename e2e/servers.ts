import { spawn, type ChildProcess } from 'node:child_process';
import { cpSync, mkdtempSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { repo } from './keel';

/** A port that is free now, with the one above it. */
async function freePort(): Promise<number> {
  const port = await new Promise<number>((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const address = probe.address();
      probe.close(() => {
        resolve(typeof address === 'object' && address ? address.port : 0);
      });
    });
  });
  return port;
}

/** A server of one's own: it can be stopped without taking anybody else's away. */
export async function ownServer(env: Readonly<Record<string, string>>): Promise<{ base: string; output: () => string; stop: () => Promise<void> }> {
  const port = await freePort();
  const child: ChildProcess = spawn(process.execPath, [repo('server/dist/main.js')], { env: { ...process.env, DEVICES_PORT: '', ...env, PORT: String(port) } });
  let output = '';
  for (const stream of [child.stdout, child.stderr]) stream?.on('data', (data: Buffer) => (output += data.toString()));
  const base = `http://127.0.0.1:${port}`;
  for (let i = 0; i < 100; i++) {
    const answer = await fetch(`${base}/health`).catch(() => null);
    if (answer?.ok) break;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  return {
    base,
    output: () => output,
    stop: () =>
      new Promise((resolve) => {
        // A page that still listens keeps a polite server waiting.
        const patience = setTimeout(() => child.kill('SIGKILL'), 3000);
        child.on('close', () => {
          clearTimeout(patience);
          resolve();
        });
        child.kill('SIGTERM');
      }),
  };
}

/** A copy of the built application, to be changed. */
export function copyOfApplication(): string {
  const folder = mkdtempSync(join(tmpdir(), 'keel-app-'));
  cpSync(repo('app/dist/browser'), folder, { recursive: true });
  return folder;
}
