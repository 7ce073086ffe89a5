/** `npm run watch core`: runs the specs of a folder of the core (or cli, wire, server, devices, tools) again whenever something in it changes. */
import { watch } from 'node:fs';
import { spawn } from 'node:child_process';
import { ensurePackages, jasmineArgs, root } from './common.mjs';
import { chosen } from './test/choose.mjs';

const place = process.argv[2] ?? 'core';
const { choice, wrong } = chosen([place]);
if (wrong.length > 0 || !choice.node) {
  console.error(`npm run watch knows core, a folder such as core/settings, cli, wire, server, devices and tools; “${place}” is none of them.`);
  process.exit(1);
}
await ensurePackages();
/** The folder whose specs come first: that of the last change. @type {string[]} */
let patterns = choice.node;
/** @type {import('node:child_process').ChildProcess | null} */
let running = null;

/** The newest change wins: what is still running for an older one is stopped. */
function again() {
  running?.kill();
  console.log(`\n── ${patterns.join(' ')}`);
  running = spawn(process.execPath, jasmineArgs(patterns), { cwd: root, stdio: 'inherit' });
}

/** @type {NodeJS.Timeout | undefined} */
let soon;
const top = place.split('/')[0] ?? 'core';
watch(`${root}${top}`, { recursive: true }, (_, name) => {
  if (!name?.endsWith('.ts')) return;
  const folder = top === 'core' ? name.split('/')[1] : undefined;
  if (folder && !folder.endsWith('.ts')) patterns = chosen([`core/${folder}`]).choice.node ?? patterns;
  clearTimeout(soon);
  soon = setTimeout(again, 100);
});
again();
