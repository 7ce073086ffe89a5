import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Two ends of a serial line that leads from one program to another. */
export interface PtyPair {
  readonly here: string;
  readonly there: string;
  close(): Promise<void>;
}

/** How long the program that joins the two ends may take to start, ms. */
const startMs = 5000;
/** Joins the ends for as long as whoever began it is there: its own input ends with that one, however that one ends. */
const script = 'socat "pty,raw,echo=0,link=$1/here" "pty,raw,echo=0,link=$1/there" & line=$!; read _; kill $line; rm -rf "$1"';

/** Makes a pair of pseudo-terminals with `socat`; null where it is not installed. */
export async function ptyPair(): Promise<PtyPair | null> {
  if (spawnSync('socat', ['-V'], { stdio: 'ignore' }).status !== 0) return null;
  const folder = mkdtempSync(join(tmpdir(), 'keel-line-'));
  const [here, there] = [join(folder, 'here'), join(folder, 'there')];
  const child = spawn('sh', ['-c', script, 'sh', folder], { stdio: ['pipe', 'ignore', 'ignore'] });
  const closed = new Promise<void>((resolve) => {
    child.on('error', () => resolve());
    child.on('close', () => resolve());
  });
  const close = (): Promise<void> => {
    child.stdin.end();
    return closed;
  };
  const until = performance.now() + startMs;
  while (!(existsSync(here) && existsSync(there)) && performance.now() < until) await new Promise((resolve) => setTimeout(resolve, 20));
  if (existsSync(here) && existsSync(there)) return { here, there, close };
  await close();
  return null;
}
