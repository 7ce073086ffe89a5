import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync } from 'node:fs';
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

/** Makes a pair of pseudo-terminals with `socat`; null where it is not installed. */
export async function ptyPair(): Promise<PtyPair | null> {
  const folder = mkdtempSync(join(tmpdir(), 'keel-line-'));
  const [here, there] = [join(folder, 'here'), join(folder, 'there')];
  const child = spawn('socat', [`pty,raw,echo=0,link=${here}`, `pty,raw,echo=0,link=${there}`], { stdio: 'ignore' });
  let ended = false;
  const closed = new Promise<void>((resolve) => {
    const end = (): void => {
      ended = true;
      rmSync(folder, { recursive: true, force: true });
      resolve();
    };
    child.on('error', end);
    child.on('close', end);
  });
  const until = performance.now() + startMs;
  while (!ended && !(existsSync(here) && existsSync(there)) && performance.now() < until) await new Promise((resolve) => setTimeout(resolve, 20));
  if (ended || !existsSync(there)) {
    child.kill();
    return null;
  }
  return {
    here,
    there,
    close: () => {
      child.kill();
      return closed;
    },
  };
}
